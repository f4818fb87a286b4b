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

// Said is where a simulated student was said to be at the end, at the middle of a term, and is.
type Said struct {
	plan.Forecast
	End    int
	Talent float64
}

// SaidAtMidTerm teaches simulated students by the log for some weeks and asks for the forecast at half of
// them.
func SaidAtMidTerm(law Law, seed uint64, sg plan.Song, students, minutes, weeks int) (list []Said) {
	for n := range students {
		p := &pupil{learner: newLearner(law, seed, uint64(n), sg), until: 7 * weeks}
		p.begin(0)
		var took []practice.Took
		said := Said{Talent: p.talent}
		for day := range 7 * weeks {
			before, began := p.step, p.since
			if day%7 == 0 {
				eachByTheLog.steps([]*pupil{p}, day)
			}
			if p.step != before {
				took = append(took, practice.Took{Days: day - began, Usual: sg.Steps[before].Usual})
			}
			if day == 7*weeks/2 {
				st := plan.Student{ID: 1, Minutes: minutes, Pace: practice.PaceOf(took), Places: []plan.Place{{Step: p.step, Tries: p.tries, Since: max(1, p.since)}}}
				c := plan.Class{Today: day, Songs: []plan.Song{sg}, Students: []plan.Student{st}}
				said.Forecast = plan.NewTerm(c, plan.TermSong{Song: sg, Threads: make([]string, len(sg.Steps)), Play: make([]bool, len(sg.Steps))}, weeks-weeks/2).Forecasts[0]
			}
			p.stand = practice.Stand(p.tries, sg.Steps[p.step].Goal, day, false)
			p.today(day, minutes, true)
		}
		said.End = p.step
		list = append(list, said)
	}
	return list
}
