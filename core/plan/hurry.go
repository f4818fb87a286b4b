package plan

import (
	"arplin/core/practice"
	"arplin/core/say"
)

// With a date, a step that is nearly clean is left for the next one when its share of the
// days is used up. The figures are from memory.
const (
	nearly     = 75 // per cent of the goal
	leastShare = 7  // days
	lastThird  = 3  // the last step is to be reached with a third of the days in hand
)

// Haste is what a concert asks of somebody on a step.
type Haste struct {
	Steps int // of the ladder after this one
	On    int // days on this step
	Left  int // days up to the concert; 0 where there is none
}

// NewHaste is that of a day of a concert, 0 for none, with the tries on the step, oldest
// first: on it since the first of them.
func NewHaste(concert, today, steps int, tries []practice.Try) Haste {
	if concert == 0 || len(tries) == 0 {
		return Haste{}
	}
	return Haste{Steps: steps, On: today - tries[0].Day, Left: concert - today}
}

// Decide proposes to go on before a step is secure, where the days up to the concert would
// else not do for the steps that are left; what else was decided stays as it is. A hand
// that was tense is not hurried.
func (h Haste) Decide(d practice.Decision, s practice.Standing, tries []practice.Try, goal int, tense bool) practice.Decision {
	if h.Steps <= 0 || h.Left <= 0 || len(tries) == 0 || d.Kind != practice.Stay || tense || 100*s.Now < nearly*goal || h.On < daysFor(h.On, h.Left, h.Steps) {
		return d
	}
	return practice.Decision{
		Kind: practice.MoveOn, Because: []int64{tries[len(tries)-1].ID},
		Why: say.Of("nearly", s.Last, h.Left, say.Count(h.Steps, "step", "steps")),
	}
}

// daysFor is how many days a step has, of those that it took and those that are left, with
// some steps to come after it.
func daysFor(on, left, steps int) int {
	return max(leastShare, (left+on)*(lastThird-1)/lastThird/(steps+1))
}
