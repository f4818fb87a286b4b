package sim

import (
	"slices"

	"arplin/core/plan"
	"arplin/core/practice"
)

// Outcome is how a simulated class ended.
type Outcome struct {
	AtGoal  int   // students who play the last step at its goal
	OnTheir int   // students who play the step on which they stand at its goal
	Steps   []int // where each stands, from 0
}

// mean is the mean of the steps on which they stand, from 1.
func (o Outcome) mean() (m float64) {
	for _, s := range o.Steps {
		m += float64(s+1) / float64(len(o.Steps))
	}
	return m
}

// Trial is one class, taught in two ways.
type Trial struct{ Plan, Same Outcome }

// Try teaches the same simulated class twice, of a seed: each by the log, as the plan
// does, and all of them the same. Both ways have the same minutes, hear the same number
// of tries and know when somebody is ready; they differ in who plays what.
func Try(law Law, seed uint64, sg plan.Song, begin []int, minutes, weeks int) Trial {
	return Trial{teach(law, seed, sg, begin, minutes, weeks, eachByTheLog), teach(law, seed, sg, begin, minutes, weeks, allTheSame)}
}

// pupil is a learner with the step that was given and what was heard on it.
type pupil struct {
	*learner
	step  int
	since int // the day of the move to the step
	until int // the day of the concert
	tries []practice.Try
	stand practice.Standing
}

// way is how a class is taught: steps once a week, tempos every day.
type way struct {
	steps  func(pupils []*pupil, today int)
	tempos func(pupils []*pupil) // takes the tempos that are each one's own away
	own    bool                  // a clean try leads to the own next tempo on the same day
}

func teach(law Law, seed uint64, sg plan.Song, begin []int, minutes, weeks int, w way) (o Outcome) {
	var pupils []*pupil
	for n, step := range begin {
		p := &pupil{learner: newLearner(law, seed, uint64(n), sg), step: step, until: 7 * weeks}
		for k := range step { // who stands on a step was safe below it
			p.tempo[k] = float64(sg.Steps[k].Goal)
		}
		p.begin(step)
		pupils = append(pupils, p)
	}
	for day := range 7 * weeks {
		if day%7 == 0 {
			w.steps(pupils, day)
		}
		for _, p := range pupils {
			p.stand = practice.Stand(p.tries, sg.Steps[p.step].Goal, day, false)
		}
		w.tempos(pupils)
		for _, p := range pupils {
			p.today(day, minutes, w.own)
		}
	}
	for _, p := range pupils {
		if p.arrived() {
			o.AtGoal++
		}
		if p.tempo[p.step] >= float64(sg.Steps[p.step].Goal) {
			o.OnTheir++
		}
		o.Steps = append(o.Steps, p.step)
	}
	return o
}

// round is how many minutes go before each try.
const round = 5

// today is a day of practice: some minutes, a try, and on.
func (p *pupil) today(day, minutes int, own bool) {
	if !p.wake() {
		return
	}
	for range max(1, p.minutes(minutes)/round) {
		p.practise(p.step, round, p.stand.Next)
		p.tries = append(p.tries, practice.Try{ID: int64(len(p.tries)), Day: day, Tempo: p.stand.Next, Clean: p.try(p.step, p.stand.Next)})
		if own {
			p.stand = practice.Stand(p.tries, p.song.Steps[p.step].Goal, day, false)
		}
	}
	p.tries = p.tries[max(0, len(p.tries)-heardBack):]
}

// heardBack is how many tries a way looks back on.
const heardBack = 20

// move puts a pupil on another step, where nothing was heard yet.
func (p *pupil) move(to, today int) {
	if to != p.step {
		p.step, p.since, p.tries = to, today, nil
		p.begin(to)
	}
}

// decided is what the log of a pupil leads to.
func (p *pupil) decided(today int) practice.Decision {
	return practice.Decide(p.tries, p.song.Steps[p.step].Goal, today, false)
}

// eachByTheLog is the plan: everybody by what was heard of them.
var eachByTheLog = way{
	steps: func(pupils []*pupil, today int) {
		for _, p := range pupils {
			on := plan.On{Tries: p.tries, Goal: p.song.Steps[p.step].Goal, Steps: len(p.song.Steps) - 1 - p.step, Concert: p.until, Today: today}
			on.Level = p.song.Steps[p.step].Level
			d := on.Hurried(p.stand, on.Sooner(p.stand, p.decided(today)), today-p.since)
			p.move(plan.Leads(d.Kind, p.step, len(p.song.Steps)-1), today)
		}
	},
	tempos: func([]*pupil) {},
	own:    true,
}

// allTheSame keeps the class together: it goes on when more than half are ready, or when
// the step's share of the days is used up, so that it comes to the last one; and everybody practises at the tempo of the middle.
var allTheSame = way{
	steps: func(pupils []*pupil, today int) {
		ready, step, last := 0, pupils[0].step, len(pupils[0].song.Steps)-1
		for _, p := range pupils {
			step = min(step, p.step)
			if kind := p.decided(today).Kind; kind == practice.MoveOn || kind == practice.Jump {
				ready++
			}
		}
		if first := pupils[0]; step < last && (2*ready > len(pupils) || today > 0 && today-first.since >= plan.DaysFor(today-first.since, first.until-today, last-step)) {
			step++
		}
		for _, p := range pupils {
			p.move(step, today)
		}
	},
	tempos: func(pupils []*pupil) {
		var tempos []int
		for _, p := range pupils {
			tempos = append(tempos, p.stand.Next)
		}
		slices.Sort(tempos)
		for _, p := range pupils {
			p.stand.Next = tempos[len(tempos)/2]
		}
	},
}

// Comparison sums up trials of one law.
type Comparison struct {
	Law        Law
	Trials     int
	Plan, Same float64 // students at the goal, the mean of a class
	OwnStep    float64 // students who play their step at its goal, by the plan
	OwnSame    float64
	Step       float64 // on which they stand in the end, from 1, the mean
	StepSame   float64
	Lost       []uint64 // seeds on which the same for everybody brought more to the goal
	Even       int
}

// Compare tries a class with seeds from 1 on. It ends between two trials when stop says so, and
// is not whole then.
func Compare(law Law, trials int, sg plan.Song, begin []int, minutes, weeks int, stop func() bool) Comparison {
	c := Comparison{Law: law, Trials: trials}
	for seed := uint64(1); seed <= uint64(trials) && !stop(); seed++ {
		t := Try(law, seed, sg, begin, minutes, weeks)
		c.Plan += float64(t.Plan.AtGoal) / float64(trials)
		c.Same += float64(t.Same.AtGoal) / float64(trials)
		c.OwnStep += float64(t.Plan.OnTheir) / float64(trials)
		c.OwnSame += float64(t.Same.OnTheir) / float64(trials)
		c.Step += t.Plan.mean() / float64(trials)
		c.StepSame += t.Same.mean() / float64(trials)
		switch {
		case t.Plan.AtGoal < t.Same.AtGoal:
			c.Lost = append(c.Lost, seed)
		case t.Plan.AtGoal == t.Same.AtGoal:
			c.Even++
		}
	}
	return c
}

const mostDays = 7 * plan.MaxTerm
