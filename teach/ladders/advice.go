package ladders

import (
	"arplin/core/ladder/grow"
	"arplin/core/pattern"
	"arplin/draw"
	"arplin/teach/answer"
	"arplin/teach/patterns"
	"arplin/teach/people"
)

// StepAdvice is why a step stands where it does and how it is practised.
type StepAdvice struct {
	Why, How        string
	Ready, FallBack string
	Measured        patterns.Level
}

// advice explains one step.
func (l Ladder) advice(i int) StepAdvice {
	step := l.Steps[i]
	here := l.way(i).reading()
	below := here
	if i > 0 {
		below = l.way(i - 1).reading()
	}
	goal := step.Goal(l.Song.Tempo)
	return StepAdvice{
		Why: people.Why(l.Steps, i, here, below), How: step.How(), Ready: people.ReadyWhen(step, goal), FallBack: people.FallBack(l.Steps, i, l.Task),
		Measured: patterns.LevelOf(here, step.Pattern, l.Instrument.Name),
	}
}

// Beyond is a harder variation for those who are ready.
type Beyond struct {
	Adds, Says, Level, Notation string
	Lane                        draw.SVG
}

const shownBeyond = 8

// Beyond lists what lies beyond the target.
func (t *Room) Beyond(l Ladder) []Beyond {
	return answer.Keep(t.From, "beyond", l.Loaded, func() (views []Beyond) {
		for _, v := range grow.Beyond(l.Task, l.Class.Weigh()) {
			if len(views) < shownBeyond {
				views = append(views, Beyond{v.Name(), v.Says(), patterns.Tenth(v.Level), v.Pattern.String(), draw.Lane(v.Pattern, pattern.New(v.Pattern, l.Target), v.Pattern.Aloud())})
			}
		}
		return views
	})
}
