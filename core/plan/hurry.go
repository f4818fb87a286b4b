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

// On is somebody on a step, of whom something is to be decided.
type On struct {
	Tries   []practice.Try // on the step, oldest first
	Goal    int            // of the step
	Steps   int            // of the ladder after this one
	Concert int            // the day of it; 0 where there is none
	Today   int
	Tense   bool
	Level   float64 // of the step; 0 where it is not known
	Plays   float64 // the hardest level that the student has behind them, on any song; 0 where that is not known
}

// Decide reads how somebody stands and proposes what to do. With a concert it proposes to go on
// before a step is secure, where the days up to it would else not do for the steps that are left.
// A hand that was tense is not hurried.
func (o On) Decide() (practice.Standing, practice.Decision) {
	s, d := practice.Stand(o.Tries, o.Goal, o.Today, o.Tense), practice.Decide(o.Tries, o.Goal, o.Today, o.Tense)
	if len(o.Tries) == 0 {
		return s, d
	}
	return s, o.Hurried(s, o.Sooner(s, d), o.Today-o.Tries[0].Day) // on it since the first of them
}

// Hurried is a decision about somebody who is on the step for some days, with the concert in view.
func (o On) Hurried(s practice.Standing, d practice.Decision, on int) practice.Decision {
	left := o.Concert - o.Today
	if o.Concert == 0 || o.Steps <= 0 || left <= 0 || len(o.Tries) == 0 || d.Kind != practice.Stay || o.Tense || 100*s.Now < nearly*o.Goal || on < DaysFor(on, left, o.Steps) {
		return d
	}
	return practice.Decision{
		Kind: practice.MoveOn, Because: []int64{o.Tries[len(o.Tries)-1].ID},
		Why: say.Of("nearly", s.Last, left, say.Count(o.Steps, "step", "steps")),
	}
}

// DaysFor is how many days a step has, of those that it took and those that are left, with
// some steps to come after it.
func DaysFor(on, left, steps int) int {
	return max(leastShare, (left+on)*(lastThird-1)/lastThird/(steps+1))
}
