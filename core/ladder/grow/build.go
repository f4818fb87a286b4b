package grow

import (
	"arplin/core/difficulty"
	"arplin/core/ladder"
	"arplin/core/ladder/order"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/variation"
)

// Build takes a target apart by the rules and returns the steps, the easiest
// first: the figure on one chord, then on the two easiest chords that follow
// each other, then on the song, where it is far at its slow and medium tempo
// before the goal. Of all ways down through the rules it takes the one whose
// levels rise most evenly in the order of the school; a step that is not harder
// than the one below is left out. Steps below the level from are left out,
// except the last of them.
func Build(by order.Order, t difficulty.Task, w difficulty.Weights, from float64) []ladder.Step {
	b := builder{Setting: ladder.SettingOf(t), weights: w}
	switch by {
	case order.RhythmFirst:
		b.beforeTheStrings()
	case order.TwoChordsFirst:
		b.secondChordEarly(by)
	default:
		b.figure(by, ladder.OneChord, difficulty.OnStrings)
	}
	b.chords()
	for len(b.steps) > 1 && b.steps[1].Level <= from {
		b.steps = b.steps[1:]
	}
	steps, _ := ladder.Numbered(b.steps, 1)
	return steps
}

// builder puts a ladder together, stage by stage.
type builder struct {
	ladder.Setting
	weights difficulty.Weights
	steps   []ladder.Step
}

func (b *builder) top() float64 {
	if len(b.steps) == 0 {
		return 0
	}
	return b.steps[len(b.steps)-1].Level
}

func (b *builder) level(s ladder.Step) float64 { return difficulty.LevelOf(b.Task(s), b.weights) }

// add puts a step on top when it is harder than the one below.
func (b *builder) add(s ladder.Step) {
	if s.Level = b.level(s); s.Level > b.top() {
		b.steps = append(b.steps, s)
	}
}

// figure adds the steps of the figure over a stage of chords; first names the
// first of them that is added.
func (b *builder) figure(order order.Order, over ladder.Over, play difficulty.Play) (first int) {
	first = len(b.steps)
	t := b.Task(ladder.Step{Pattern: b.Whole.Pattern, Parts: b.Parts(), Over: over, Play: play})
	figures := [][]ladder.Step{Climb(order, t, b.weights)}
	for _, part := range t.Rest {
		figures = append(figures, Climb(order, part, b.weights))
	}
	for _, s := range b.together(figures) {
		s.Over, s.Play = over, play
		if len(figures) > 1 { // else the search has measured it as it stands
			s.Level = b.level(s)
		}
		if s.Level > b.top() {
			b.steps = append(b.steps, s)
		}
	}
	return first
}

// secondChordEarly puts one stroke on one chord and then the figure on two;
// without two chords to begin with, the figure comes on one.
func (b *builder) secondChordEarly(order order.Order) {
	if b.Two == nil {
		b.figure(order, ladder.OneChord, difficulty.OnStrings)
		return
	}
	whole := *b
	whole.figure(order, ladder.OneChord, difficulty.OnStrings)
	b.steps = whole.steps[:1]
	if at := b.figure(order, ladder.TwoChords, difficulty.OnStrings); at < len(b.steps) {
		b.steps[at].Adds = []ladder.Thing{{Stage: ladder.SecondChord}}
	}
}

// beforeTheStrings is the count, the rhythm, the figure on muted strings, and
// then the first chord.
func (b *builder) beforeTheStrings() {
	p := b.Whole.Pattern
	b.add(ladder.Step{Pattern: p, Parts: b.Parts(), Over: ladder.OneChord, Play: difficulty.Said, Adds: []ladder.Thing{{Stage: ladder.CountSaid}}})
	b.add(ladder.Step{Pattern: p, Parts: b.Parts(), Over: ladder.OneChord, Play: difficulty.Tapped, Adds: []ladder.Thing{{Stage: ladder.Tapped}}})
	if at := b.figure(order.RhythmFirst, ladder.OneChord, difficulty.Muted); at < len(b.steps) {
		b.steps[at].Adds = []ladder.Thing{{Stage: ladder.MutedStrings}}
	}
	b.add(ladder.Step{Pattern: p, Parts: b.Parts(), Over: ladder.OneChord, Adds: []ladder.Thing{{Stage: ladder.FirstChord}}})
}

// chords adds the stages after the figure is whole.
func (b *builder) chords() {
	p := b.Whole.Pattern
	goal := ladder.Step{Pattern: p, Parts: b.Parts(), Over: ladder.AllChords, Adds: []ladder.Thing{{Stage: ladder.WholeSong}}}
	level := difficulty.LevelOf(b.Whole, b.weights)
	below := func(s ladder.Step) {
		if here := b.level(s); here > b.top()+leastRise && here < level-leastRise {
			b.add(s)
		}
	}
	if b.Two != nil {
		below(ladder.Step{Pattern: p, Parts: b.Parts(), Over: ladder.TwoChords, Adds: []ladder.Thing{{Stage: ladder.SecondChord}}})
		below(ladder.Step{Pattern: p, Parts: b.Parts(), Over: ladder.TwoChordsABar, Adds: []ladder.Thing{{Stage: ladder.Oftener}}})
	}
	if b.One == nil {
		return
	}
	b.furtherChords(p)
	// The song at its slow and medium tempo, where the way to the goal is far.
	for _, percent := range []int{song.SlowPercent, song.MediumPercent} {
		s := goal
		s.Pace = percent
		if !goal.Brings(ladder.WholeSong) {
			s.Adds = []ladder.Thing{{Stage: ladder.MediumTempo}}
		}
		if here := b.level(s); here > b.top()+worthAStep && level > here+worthAStep {
			b.add(s)
			goal.Adds = []ladder.Thing{{Stage: ladder.GoalTempo}}
		}
	}
	b.finish(goal)
}

// furtherChords brings the chords after the first two: two at a time, one where two
// would be much; the last come with the whole song.
func (b *builder) furtherChords(p pattern.Pattern) {
	all := len(b.Whole.Order)
	stage := func(over ladder.Over, pace int) ladder.Step {
		return ladder.Step{Pattern: p, Parts: b.Parts(), Over: over, Pace: pace, Adds: []ladder.Thing{{Stage: ladder.MoreChords}}}
	}
	most := b.level(stage(ladder.AllChords, 0)) - leastRise
	for have := 2; have+1 < all; {
		s := stage(ladder.SomeChords(have+2), 0)
		if have+2 >= all {
			if b.level(stage(ladder.AllChords, song.SlowPercent)) <= b.top()+mostRise {
				return
			}
			s = stage(ladder.SomeChords(have+1), 0)
		} else if b.level(s) > b.top()+mostRise {
			s = stage(ladder.SomeChords(have+1), 0)
		}
		have = s.Over.Chords()
		if level := b.level(s); level > b.top()+leastRise && level < most {
			b.add(s)
		}
	}
}

// finish puts the target on top, whatever lies below: a figure can be harder on
// the one chord that is easiest to hold than on the song as a whole.
func (b *builder) finish(target ladder.Step) {
	level := b.level(target)
	for b.top() >= level {
		b.steps = b.steps[:len(b.steps)-1]
	}
	b.add(target)
}

// worthAStep is in levels; a smaller rise needs no step of its own tempo.
const worthAStep = 0.25

// Beyond lists harder steps for those who are ready: what one rule adds to the
// target and can be played together with it.
func Beyond(t difficulty.Task, w difficulty.Weights) []variation.Variation {
	var list []variation.Variation
	for _, v := range variation.PerRule(variation.Neighbours(t, w).ByTenths().Harder) {
		if v.Together {
			list = append(list, v)
		}
	}
	return list
}
