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

// Beginning is how a simulated class of beginners came through a ladder whose first steps ask for little.
type Beginning struct {
	OnEasy int // days on the easy steps, of all
	AtGoal int // students at the last step's goal in the end
}

// easyUpTo is the last of the easy steps, from 0.
const easyUpTo = 3

// Beginners teaches beginners whose teacher hears three tries at the goal in each lesson: with the rule
// that moves on from an easy step in one evening, or by the steady one alone, three times on two days.
func Beginners(law Law, seed uint64, students, minutes, weeks int, soon bool) (b Beginning) {
	sg := plan.Song{ID: 1, Tempo: 80, Beats: 64}
	for i := range 8 {
		s := plan.Step{Name: "x", Goal: 80, Usual: 8, Level: 4 + 0.3*float64(i)}
		if i <= easyUpTo {
			s.Usual, s.Level = 3, 1.6+0.2*float64(i)
		}
		sg.Steps = append(sg.Steps, s)
	}
	for n := range students {
		p := &pupil{learner: newLearner(law, seed, uint64(n), sg), until: 7 * weeks}
		p.begin(0)
		for day := range 7 * weeks {
			if day%7 == 0 {
				goal := sg.Steps[p.step].Goal
				for range 3 {
					p.tries = append(p.tries, practice.Try{ID: int64(len(p.tries)), Day: day, Tempo: goal, Clean: p.try(p.step, goal)})
				}
				on := plan.On{Tries: p.tries, Goal: goal, Steps: len(sg.Steps) - 1 - p.step, Concert: p.until, Today: day, Level: sg.Steps[p.step].Level}
				stand, d := practice.Stand(p.tries, goal, day, false), p.decided(day)
				if soon {
					d = on.Sooner(stand, d)
				}
				p.move(plan.Leads(on.Hurried(stand, d, day-p.since).Kind, p.step, len(sg.Steps)-1), day)
			}
			p.stand = practice.Stand(p.tries, sg.Steps[p.step].Goal, day, false)
			p.today(day, minutes, true)
			if p.step <= easyUpTo {
				b.OnEasy++
			}
		}
		if p.arrived() {
			b.AtGoal++
		}
	}
	return b
}
