package practice

import (
	"math"
	"slices"

	"arplin/core/bpm"
	"arplin/core/practice/fault"
	"arplin/core/say"
)

// Try is one entry of the log on a step, by its day; the core has no clock.
type Try struct {
	ID    int64
	Day   int // counted from any day on
	Tempo int
	Clean bool
	Fault fault.Fault // what failed
	Bar   int         // where, from 1; 0 where that was not said
	Taken bool        // Listen judged it
}

// State is how a step stands with a student.
type State string

// The states. Source of the criterion (three times clean, on two days): common practice;
// that what was learned on several days lasts longer than what was learned on one is the
// spacing effect (Cepeda et al. 2006).
const (
	New      State = "new"      // never heard
	Learning State = "learning" // heard, not clean at the goal yet
	Clean    State = "clean"    // clean at the goal, not often enough
	Secure   State = "secure"   // three times clean at the goal, on two different days
	Rusty    State = "rusty"    // was clean or secure, and has not been played for long
)

// Criteria, from memory where no source stands beside them.
const (
	cleanTimes    = 3  // common practice
	cleanDays     = 2  // common practice
	rustyAfter    = 21 // days
	failsToEase   = 3  // in a row, on two days or more
	failsToSlow   = 2  // in a row at one tempo
	sameFault     = 3  // times among the last tries
	slipsForgiven = 1  // after the criterion was met: one slip does not undo it
	farAbove      = 1.15
	stepUp        = 0.06 // of the tempo, after a clean try
	stepDown      = 0.1  // of the tempo, after failures
	slowPart      = 0.6  // of the goal: where nothing was heard yet
	confidentTry  = 6.0  // tries after which the estimate is as good as it gets
)

// Forgetting: what is left of a clean tempo after some days without it follows a power
// law, (1 + a·days)^-b. The form is published (Wixted and Ebbesen 1991); a and b are from
// memory, set so that a motor skill loses about a tenth in a month and a quarter in a year.
const forgetA, forgetB = 0.1, 0.08

// Retained is the part of a clean tempo that is left after days without playing it.
func Retained(days int) float64 { return math.Pow(1+forgetA*float64(max(0, days)), -forgetB) }

// Standing is what the log says of a student on a step.
type Standing struct {
	State      State
	Last       int     // the last clean tempo, 0 for none
	Now        int     // what is likely clean today
	Trend      float64 // beats a minute gained a week, over the clean tries; 0 where there are too few
	Confidence float64 // 0 to 1: by how much was heard, and how long ago
	Next       int     // the tempo to try next
	NextWhy    say.Line
}

// Stand reads the tries on one step, in any order, for a goal on a day; tense is a hand
// that was tense the last time, on whatever step, and is not made to go faster.
func Stand(tries []Try, goal, today int, tense bool) Standing {
	tries = inOrder(tries)
	s := Standing{State: New, Next: max(bpm.Min, int(math.Round(slowPart*float64(goal)))), NextWhy: say.Of("next/slow-first")}
	if len(tries) == 0 {
		return s
	}
	last := tries[len(tries)-1]
	gone := today - last.Day
	clean := those(tries, isClean)
	s.State = Learning
	if n := len(clean); n > 0 {
		s.Last = clean[n-1].Tempo
		s.Now = int(math.Round(float64(s.Last) * Retained(today-clean[n-1].Day)))
		s.Trend = trend(clean)
	}
	atGoal := atOrAbove(clean, goal)
	switch {
	case len(atGoal) >= cleanTimes && days(atGoal) >= cleanDays:
		s.State = Secure
	case len(atGoal) > 0:
		s.State = Clean
	}
	if (s.State == Clean || s.State == Secure) && gone >= rustyAfter {
		s.State = Rusty
	}
	s.Confidence = min(1, float64(len(tries))/confidentTry) * Retained(gone)
	s.Next, s.NextWhy = next(tries, s, goal, tense)
	return s
}

func inOrder(tries []Try) []Try {
	order := func(a, b Try) int { return (a.Day-b.Day)*2 + sign(a.ID-b.ID) }
	if slices.IsSortedFunc(tries, order) {
		return tries
	}
	tries = slices.Clone(tries)
	slices.SortStableFunc(tries, order)
	return tries
}

// those are the tries of which something holds.
func those(tries []Try, is func(Try) bool) (list []Try) {
	for _, t := range tries {
		if is(t) {
			if list == nil {
				list = make([]Try, 0, len(tries))
			}
			list = append(list, t)
		}
	}
	return list
}

func isClean(t Try) bool { return t.Clean }

func sign(n int64) int {
	switch {
	case n < 0:
		return -1
	case n > 0:
		return 1
	}
	return 0
}

func atOrAbove(clean []Try, goal int) []Try {
	return those(clean, func(t Try) bool { return t.Tempo >= goal })
}

// days counts different days.
func days(tries []Try) int {
	seen := map[int]bool{}
	for _, t := range tries {
		seen[t.Day] = true
	}
	return len(seen)
}

// trend is the slope of the least squares line through clean tries, a week.
func trend(clean []Try) float64 {
	if len(clean) < 2 || clean[0].Day == clean[len(clean)-1].Day {
		return 0
	}
	n, x, y, xx, xy := float64(len(clean)), 0.0, 0.0, 0.0, 0.0
	for _, t := range clean {
		d, v := float64(t.Day), float64(t.Tempo)
		x, y, xx, xy = x+d, y+v, xx+d*d, xy+d*v
	}
	return 7 * (n*xy - x*y) / (n*xx - x*x)
}

// failing are the last tries without a clean one among them.
func failing(tries []Try) []Try {
	for i := len(tries) - 1; i >= 0; i-- {
		if tries[i].Clean {
			return tries[i+1:]
		}
	}
	return tries
}

// next is the tempo to try next, with the reason.
func next(tries []Try, s Standing, goal int, tense bool) (tempo int, why say.Line) {
	last, failed := tries[len(tries)-1], failing(tries)
	switch {
	case tense:
		return max(bpm.Min, int(math.Round(float64(min(goal, last.Tempo))*(1-stepDown)))), say.Of("next/tense")
	case len(failed) >= failsToSlow:
		return max(bpm.Min, int(math.Round(float64(last.Tempo)*(1-stepDown)))), say.Of("next/failed-again", len(failed))
	case len(failed) == 1:
		return last.Tempo, say.Of("next/failed-once")
	case s.State == Rusty:
		return min(goal, max(bpm.Min, s.Now)), say.Of("next/rusty")
	case last.Tempo >= goal:
		return goal, say.Of("next/another-day")
	}
	return min(goal, last.Tempo+max(2, int(math.Round(stepUp*float64(last.Tempo))))), say.Of("next/faster", last.Tempo)
}

// Kind is what is decided about a student on a step.
type Kind string

// The decisions.
const (
	MoveOn Kind = "move-on"
	Jump   Kind = "jump" // two steps or more
	Stay   Kind = "stay"
	Ease   Kind = "ease"  // back to the step below
	Drill  Kind = "drill" // of the bar that fails
)

// Decision is what is proposed, with the reason and the entries that led to it.
type Decision struct {
	Kind    Kind
	Why     say.Line
	Because []int64     // ids of tries
	Fault   fault.Fault // that it is about
	Bar     int         // for a drill, from 1
	Home    bool        // the teacher is to hear what was played at home
}

// Decide proposes what to do with a student on a step. Tension stops every proposal to
// go on: the hand comes first.
func Decide(tries []Try, goal, today int, tense bool) Decision {
	tries = inOrder(tries)
	s := Stand(tries, goal, today, tense)
	clean := those(tries, isClean)
	atGoal, failed := atOrAbove(clean, goal), failing(tries)
	above := atOrAbove(clean, int(math.Ceil(farAbove*float64(goal))))
	often, where := mostFailed(failed)
	switch {
	case tense:
		return Decision{Kind: Stay, Why: say.Of("stay/tense"), Fault: fault.Tension}
	case len(tries) == 0:
		return Decision{Kind: Stay, Why: say.Of("stay/new")}
	case len(often) >= sameFault && where > 0:
		return Decision{Kind: Drill, Why: say.Of("drill/bar", often[0].Fault.Said(), len(often), where), Because: ids(often), Fault: often[0].Fault, Bar: where}
	case len(often) >= sameFault:
		return Decision{Kind: Ease, Why: say.Of("ease/fault", often[0].Fault.Said(), len(often)), Because: ids(often), Fault: often[0].Fault}
	case len(failed) >= failsToEase && days(failed) >= 2:
		return Decision{Kind: Ease, Why: say.Of("ease/failed", len(failed), days(failed)), Because: ids(failed)}
	case len(failed) > slipsForgiven || len(failed) > 0 && s.State != Secure:
		last := failed[len(failed)-1]
		return Decision{Kind: Stay, Why: last.failed(), Because: ids(failed), Fault: last.Fault}
	case len(above) >= 2:
		return Decision{Kind: Jump, Why: say.Of("jump", above[len(above)-1].Tempo, goal), Because: ids(above)}
	case s.State == Secure && len(taken(atGoal)) >= cleanTimes:
		return Decision{Kind: MoveOn, Why: say.Of("move-on/taken", len(taken(atGoal)), goal, days(atGoal)), Because: ids(atGoal)}
	case s.State == Secure:
		return Decision{Kind: MoveOn, Why: say.Of("move-on", len(atGoal), goal, days(atGoal)), Because: ids(atGoal)}
	case s.State == Rusty:
		return Decision{Kind: Stay, Why: say.Of("stay/rusty", today-tries[len(tries)-1].Day), Because: ids(tries[len(tries)-1:])}
	case len(atGoal) > 0:
		return Decision{Kind: Stay, Why: say.Of("stay/clean", say.Times(len(atGoal)), cleanTimes, cleanDays), Because: ids(atGoal)}
	}
	return Decision{Kind: Stay, Why: say.Of("stay/learning", s.Last, goal), Because: ids(clean[max(0, len(clean)-1):])}
}

// taken are the tries that Listen judged.
func taken(tries []Try) []Try {
	return those(tries, func(t Try) bool { return t.Taken })
}

// failed says that a try was not clean, and what failed in it, where that is known.
func (t Try) failed() say.Line {
	_, known := t.Fault.Line()
	switch {
	case known && t.Bar > 0:
		return say.Of("stay/fault-at", t.Tempo, t.Fault.Said(), t.Bar)
	case known:
		return say.Of("stay/fault", t.Tempo, t.Fault.Said())
	case t.Bar > 0:
		return say.Of("stay/bar", t.Tempo, t.Bar)
	}
	return say.Of("stay/failed", t.Tempo)
}

// mostFailed are the tries with the fault that is most among failing ones, and the bar
// that was named most with it, 0 where none was.
func mostFailed(failed []Try) (often []Try, bar int) {
	for _, line := range fault.All {
		with := those(failed, func(t Try) bool { return t.Fault == line.Fault })
		if len(with) > len(often) {
			often = with
		}
	}
	count := map[int]int{}
	for _, t := range often {
		if count[t.Bar]++; t.Bar > 0 && (bar == 0 || count[t.Bar] > count[bar]) {
			bar = t.Bar
		}
	}
	return often, bar
}

func ids(tries []Try) (list []int64) {
	for _, t := range tries {
		list = append(list, t.ID)
	}
	return list
}
