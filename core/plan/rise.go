package plan

import "arplin/core/practice"

// How far somebody has come on the step of now says something of the pace before a step is finished, and
// more than those that are: it is the newest. From memory, checked on simulated students.
const (
	riseFrom   = 6    // days on the step, before which nothing is read from it
	riseDays   = 7.0  // days on it that count as much as a finished step
	riseMost   = 4.0  // finished steps that it counts as, at most
	leastRise  = 0.12 // of the way: who has come less far is not taken to stand still
	mostOfStep = 4.0  // times the usual days: no step is foreseen to take longer
)

// paced is the pace of a student with what the log says of the step of now: the days on it, and how much
// of the way from its slow tempo to its goal is behind.
func (r reading) paced(s standing) practice.Pace {
	step := r.step(s)
	begin := slowStart(step.Goal)
	if len(s.Tries) == 0 || step.Goal <= begin || s.State == practice.Rusty {
		return s.Pace
	}
	since := s.Tries[0].Day
	if s.Since > 0 {
		since = min(since, s.Since)
	}
	on := r.Today - since
	if on < riseFrom {
		return s.Pace
	}
	way := max(leastRise, min(1, float64(s.Now-begin)/float64(step.Goal-begin)))
	days := min(mostOfStep*float64(step.Usual), float64(on)/way)
	return s.Pace.With(practice.Took{Days: int(days), Usual: step.Usual}, min(riseMost, float64(on)/riseDays))
}
