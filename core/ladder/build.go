package ladder

import (
	"arplin/core/difficulty"
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
func Build(order Order, t difficulty.Task, w difficulty.Weights, from float64) []Step {
	b := builder{stages: stagesOf(t), weights: w}
	switch order {
	case RhythmFirst:
		b.beforeTheStrings()
	case TwoChordsFirst:
		b.secondChordEarly(order)
	default:
		b.figure(order, OneChord, difficulty.OnStrings)
	}
	b.chords()
	for len(b.steps) > 1 && b.steps[1].Level <= from {
		b.steps = b.steps[1:]
	}
	steps, _ := Numbered(b.steps, 1)
	return steps
}

// builder puts a ladder together, stage by stage.
type builder struct {
	stages
	weights difficulty.Weights
	steps   []Step
}

func (b *builder) top() float64 {
	if len(b.steps) == 0 {
		return 0
	}
	return b.steps[len(b.steps)-1].Level
}

func (b *builder) level(s Step) float64 { return difficulty.LevelOf(b.task(s), b.weights) }

// add puts a step on top when it is harder than the one below.
func (b *builder) add(s Step) {
	if s.Level = b.level(s); s.Level > b.top() {
		b.steps = append(b.steps, s)
	}
}

// figure adds the steps of the figure over a stage of chords; first names the
// first of them that is added.
func (b *builder) figure(order Order, over Over, play difficulty.Play) (first int) {
	first = len(b.steps)
	t := b.task(Step{Pattern: b.whole.Pattern, Parts: b.parts(), Over: over, Play: play})
	figures := [][]Step{climb(order, t, b.weights)}
	for _, part := range t.Rest {
		figures = append(figures, climb(order, part, b.weights))
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
func (b *builder) secondChordEarly(order Order) {
	if b.two == nil {
		b.figure(order, OneChord, difficulty.OnStrings)
		return
	}
	whole := *b
	whole.figure(order, OneChord, difficulty.OnStrings)
	b.steps = whole.steps[:1]
	if at := b.figure(order, TwoChords, difficulty.OnStrings); at < len(b.steps) {
		b.steps[at].Adds = []Thing{{Stage: SecondChord}}
	}
}

// beforeTheStrings is the count, the rhythm, the figure on muted strings, and
// then the first chord.
func (b *builder) beforeTheStrings() {
	p := b.whole.Pattern
	b.add(Step{Pattern: p, Parts: b.parts(), Over: OneChord, Play: difficulty.Said, Adds: []Thing{{Stage: CountSaid}}})
	b.add(Step{Pattern: p, Parts: b.parts(), Over: OneChord, Play: difficulty.Tapped, Adds: []Thing{{Stage: Tapped}}})
	if at := b.figure(RhythmFirst, OneChord, difficulty.Muted); at < len(b.steps) {
		b.steps[at].Adds = []Thing{{Stage: MutedStrings}}
	}
	b.add(Step{Pattern: p, Parts: b.parts(), Over: OneChord, Adds: []Thing{{Stage: FirstChord}}})
}

// chords adds the stages after the figure is whole.
func (b *builder) chords() {
	p := b.whole.Pattern
	goal := Step{Pattern: p, Parts: b.parts(), Over: AllChords, Adds: []Thing{{Stage: WholeSong}}}
	level := difficulty.LevelOf(b.whole, b.weights)
	below := func(s Step) {
		if here := b.level(s); here > b.top()+leastRise && here < level-leastRise {
			b.add(s)
		}
	}
	if b.two != nil {
		below(Step{Pattern: p, Parts: b.parts(), Over: TwoChords, Adds: []Thing{{Stage: SecondChord}}})
		below(Step{Pattern: p, Parts: b.parts(), Over: TwoChordsABar, Adds: []Thing{{Stage: Oftener}}})
	}
	if b.one == nil {
		return
	}
	b.furtherChords(p)
	// The song at its slow and medium tempo, where the way to the goal is far.
	for _, percent := range []int{song.SlowPercent, song.MediumPercent} {
		s := goal
		s.Pace = percent
		if !goal.adds(WholeSong) {
			s.Adds = []Thing{{Stage: MediumTempo}}
		}
		if here := b.level(s); here > b.top()+worthAStep && level > here+worthAStep {
			b.add(s)
			goal.Adds = []Thing{{Stage: GoalTempo}}
		}
	}
	b.finish(goal)
}

// furtherChords brings the chords after the first two: two at a time, one where two
// would be much; the last come with the whole song.
func (b *builder) furtherChords(p pattern.Pattern) {
	all := len(b.whole.Order)
	stage := func(over Over, pace int) Step {
		return Step{Pattern: p, Parts: b.parts(), Over: over, Pace: pace, Adds: []Thing{{Stage: MoreChords}}}
	}
	most := b.level(stage(AllChords, 0)) - leastRise
	for have := 2; have+1 < all; {
		s := stage(SomeChords(have+2), 0)
		if have+2 >= all {
			if b.level(stage(AllChords, song.SlowPercent)) <= b.top()+mostRise {
				return
			}
			s = stage(SomeChords(have+1), 0)
		} else if b.level(s) > b.top()+mostRise {
			s = stage(SomeChords(have+1), 0)
		}
		have = s.Over.chords()
		if level := b.level(s); level > b.top()+leastRise && level < most {
			b.add(s)
		}
	}
}

// finish puts the target on top, whatever lies below: a figure can be harder on
// the one chord that is easiest to hold than on the song as a whole.
func (b *builder) finish(target Step) {
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
