package sim

import (
	"arplin/core/plan"
	"arplin/core/practice"
)

// Paced is a simulated student's pace on the first steps, and the days that the next took.
type Paced struct {
	Pace practice.Pace
	Next int
}

// Paces are those of a simulated class taught by the log, for the last step that each has
// finished: what a forecast is checked against.
func Paces(law Law, seed uint64, sg plan.Song, students int) (list []Paced) {
	for n := range students {
		p := &pupil{learner: newLearner(law, seed, uint64(n), sg), until: mostDays}
		p.begin(0)
		var took []practice.Took
		for day := range mostDays {
			before := p.step
			began := p.since
			if day%7 == 0 {
				eachByTheLog.steps([]*pupil{p}, day)
			}
			if p.step != before {
				took = append(took, practice.Took{Days: day - began, Usual: sg.Steps[before].Usual})
			}
			p.stand = practice.Stand(p.tries, sg.Steps[p.step].Goal, day, false)
			p.today(day, practice.UsualDay, true)
		}
		if k := len(took) - 1; k > 0 {
			list = append(list, Paced{practice.PaceOf(took[:k]), took[k].Days})
		}
	}
	return list
}
