package plan

import (
	"fmt"

	"arplin/core/practice"
)

// With a date, a step that is nearly clean is left for the next one when its share of the
// days is used up. The figures are from memory.
const (
	nearly     = 75 // per cent of the goal
	leastShare = 7  // days
	lastThird  = 3  // the last step is to be reached with a third of the days in hand
)

// hurry proposes to go on before a step is secure, where the days up to a concert would
// else not do for the steps that are left; on is how many days the student has been on
// this one.
func (r reading) hurry(s standing, on, left int) (practice.Decision, bool) {
	steps := len(r.Songs[s.Song].Steps) - 1 - s.Step
	goal := r.step(s).Goal
	if steps <= 0 || left <= 0 || s.Kind != practice.Stay || s.Tense || 100*s.Now < nearly*goal {
		return s.Decision, false
	}
	if on < daysFor(on, left, steps) {
		return s.Decision, false
	}
	return practice.Decision{Kind: practice.MoveOn, Because: lastOf(s), Why: fmt.Sprintf("nearly: clean at %d, and %d days are left for %s", s.Last, left, count(steps, "step"))}, true
}

// daysFor is how many days a step has, of those that it took and those that are left, with
// some steps to come after it.
func daysFor(on, left, steps int) int {
	return max(leastShare, (left+on)*(lastThird-1)/lastThird/(steps+1))
}
