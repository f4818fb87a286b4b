package vary

import (
	"fmt"
	"slices"

	"arplin/core/demand"
	"arplin/core/song"
)

// Stair is a step with what it asks: the pattern, the chords over which it is
// played, and its level.
type Stair struct {
	Step
	Chords []song.Bar
}

// Order is where schools differ: what is learned first.
type Order string

// The orders.
const (
	ThumbFirst     Order = "thumb first"      // the figure on one chord, the thumb before the fingers; then the chords
	RhythmFirst    Order = "rhythm first"     // said, tapped, on muted strings; then the chords
	TwoChordsFirst Order = "two chords first" // the second chord as soon as there is a stroke
	AccentsEarly   Order = "accents early"    // as thumb first, with its accents from the beats on
)

// Orders lists the orders with what they mean.
var Orders = []struct {
	Order Order
	Says  string
}{
	{ThumbFirst, "one chord, thumb before fingers, then the chords"},
	{RhythmFirst, "say it, tap it, muted strings, then the chords"},
	{TwoChordsFirst, "the second chord as soon as there is a stroke"},
	{AccentsEarly, "accents with the first even strokes"},
}

// ParseOrder reads an order; empty is the first.
func ParseOrder(s string) (Order, error) {
	if s == "" {
		return ThumbFirst, nil
	}
	for _, o := range Orders {
		if string(o.Order) == s {
			return o.Order, nil
		}
	}
	return "", fmt.Errorf("%q is not an order of steps", s)
}

// Staircase takes a target apart by the rules and returns the steps, the easiest
// first: the figure on one chord, then on the two easiest chords that follow
// each other, then on the song, where it is far at its slow and medium tempo
// before the goal. Of all ways down through the rules it takes the one whose
// levels rise most evenly in the order of the school; a step that is not harder
// than the one below is left out. Steps below the level from are left out,
// except the last of them.
func Staircase(order Order, t demand.Task, w demand.Weights, from float64) []Stair {
	b := builder{task: t, weights: w}
	b.one, b.two = chordStages(t)
	switch order {
	case RhythmFirst:
		b.beforeTheStrings()
	case TwoChordsFirst:
		b.secondChordEarly(order)
	default:
		b.figure(order, oneChord, demand.OnStrings)
	}
	b.chords()
	for len(b.stairs) > 1 && b.stairs[1].Level <= from {
		b.stairs = b.stairs[1:]
	}
	return b.stairs
}

// Stages of chords.
const (
	oneChord   = "one chord"
	twoChords  = "two chords"
	twiceAsOft = "two chords, a bar each"
	allChords  = "all chords"
)

// builder puts a staircase together, stage by stage.
type builder struct {
	task     demand.Task
	weights  demand.Weights
	one, two []song.Bar // nil where the song has no more than that
	stairs   []Stair
}

func (b *builder) top() float64 {
	if len(b.stairs) == 0 {
		return 0
	}
	return b.stairs[len(b.stairs)-1].Level
}

// add puts a step on top when it is harder than the one below.
func (b *builder) add(s Step) {
	t := s.Task(b.task)
	if s.Level = demand.Of(t, b.weights).Level; s.Level > b.top() {
		b.stairs = append(b.stairs, Stair{s, t.Bars})
	}
}

// figure adds the steps of the figure over a stage of chords; first names the
// first of them that is added.
func (b *builder) figure(order Order, over string, play demand.Play) (first int) {
	first = len(b.stairs)
	t := Step{Pattern: b.task.Pattern, Over: over, Play: play}.Task(b.task)
	for _, s := range search(order, t, b.weights) {
		s.Over, s.Play = over, play
		b.add(s)
	}
	return first
}

// secondChordEarly puts one stroke on one chord and then the figure on two;
// without two chords to begin with, the figure comes on one.
func (b *builder) secondChordEarly(order Order) {
	if b.two == nil {
		b.figure(order, oneChord, demand.OnStrings)
		return
	}
	whole := *b
	whole.figure(order, oneChord, demand.OnStrings)
	b.stairs = whole.stairs[:1]
	if at := b.figure(order, twoChords, demand.OnStrings); at < len(b.stairs) {
		b.stairs[at].Adds, b.stairs[at].Says = secondChord, secondChordSays
	}
}

const (
	secondChord     = "the second chord"
	secondChordSays = "The two easiest chords that follow each other. In the other bars rest, or play the root on one."
	oftener         = "the change twice as often"
)

// beforeTheStrings is the count, the rhythm, the figure on muted strings, and
// then the first chord.
func (b *builder) beforeTheStrings() {
	p := b.task.Pattern
	b.add(Step{Pattern: p, Over: oneChord, Play: demand.Said, Adds: "the count, said", Says: "Say the count aloud and louder where a stroke falls."})
	b.add(Step{Pattern: p, Over: oneChord, Play: demand.Tapped, Adds: "the rhythm, tapped", Says: "Tap the rhythm on the knees, one hand for the thumb or the downs, one for the rest."})
	if at := b.figure(RhythmFirst, oneChord, demand.Muted); at < len(b.stairs) {
		s := &b.stairs[at]
		s.Adds, s.Says = "muted strings", "The left hand lies on the strings, so that no chord is in the way: "+lowerFirst(s.Says)
	}
	b.add(Step{Pattern: p, Over: oneChord, Adds: "the first chord", Says: "The left hand holds a chord; the right hand does what it knows."})
}

// chords adds the stages after the figure is whole.
func (b *builder) chords() {
	p := b.task.Pattern
	goal := Step{Pattern: p, Over: allChords, Adds: allChords, Says: "The whole song. The rhythm goes on through every change. " + closing(b.task)}
	level := demand.Of(b.task, b.weights).Level
	below := func(s Step) {
		if demand.Of(s.Task(b.task), b.weights).Level < level-noticeable {
			b.add(s)
		}
	}
	if b.two != nil {
		below(Step{Pattern: p, Over: twoChords, Adds: secondChord, Says: secondChordSays})
		below(Step{Pattern: p, Over: twiceAsOft, Adds: oftener, Says: "The same two chords, a bar each."})
	}
	if b.one == nil {
		return
	}
	// The song at its slow and medium tempo, where the way to the goal is far.
	for _, pace := range []struct {
		percent int
		name    string
	}{{slowPercent, "slow"}, {mediumPercent, "medium"}} {
		s := goal
		s.Pace = pace.percent
		s.Says = "The whole song at the " + pace.name + " tempo. The rhythm goes on through every change."
		if goal.Adds != allChords {
			s.Adds, s.Says = pace.name+" tempo", "The same song, faster; as clean as before."
		}
		stair := demand.Of(s.Task(b.task), b.weights).Level
		if stair > b.top()+worthAStep && level > stair+worthAStep {
			b.add(s)
			goal.Adds, goal.Says = "the goal tempo", "The whole song as it is sung. "+closing(b.task)
		}
	}
	b.finish(goal)
}

// finish puts the target on top, whatever lies below: a figure can be harder on
// the one chord that is easiest to hold than on the song as a whole.
func (b *builder) finish(target Step) {
	level := demand.Of(target.Task(b.task), b.weights).Level
	for b.top() >= level {
		b.stairs = b.stairs[:len(b.stairs)-1]
	}
	b.add(target)
}

const (
	noticeable = 1e-9 // a stage as hard as the whole song is none
	worthAStep = 0.25 // levels; a smaller rise needs no step of its own tempo
)

// closing says how the song ends.
func closing(t demand.Task) string {
	if n := len(t.Bars); n > 0 && t.Bars[n-1].Role == song.End {
		return "It closes with the one stroke of the last bar, which rings."
	}
	return "Close it with one stroke on the last chord and let it ring."
}

// ChordNames names the chords of a step's stage in order, each run once; of a long
// song every chord once.
func (s Step) ChordNames(t demand.Task) []string {
	const many = 8
	var names, different []string
	for _, bar := range s.Task(t).Bars {
		for _, ch := range bar.Changes {
			if n := len(names); n == 0 || names[n-1] != ch.Symbol {
				names = append(names, ch.Symbol)
			}
			if !slices.Contains(different, ch.Symbol) {
				different = append(different, ch.Symbol)
			}
		}
	}
	if len(names) > many {
		names = different
	}
	return names
}

// Stage is the different chords that a step is on, as they are written; nil where
// it is on all of the song's.
func (s Step) Stage(t demand.Task) (symbols []string) {
	if s.Over == allChords || s.Over == "" {
		return nil
	}
	for _, bar := range s.Task(t).Bars {
		for _, ch := range bar.Changes {
			if !slices.Contains(symbols, ch.Symbol) {
				symbols = append(symbols, ch.Symbol)
			}
		}
	}
	return symbols
}

// Task is what the step asks, where t is the target on its song: its pattern on
// the chords of its stage, in its way, at its goal.
func (s Step) Task(t demand.Task) demand.Task {
	one, two := chordStages(t)
	switch {
	case s.Over == oneChord && one != nil:
		t.Bars = one
	case s.Over == oneChord:
		t.Bars = t.Bars[:min(1, len(t.Bars))]
	case s.Over == twoChords && two != nil:
		t.Bars = two
	case s.Over == twiceAsOft && two != nil:
		t.Bars = two[1:3]
	}
	t.Pattern, t.Play, t.Tempo = s.Pattern, s.Play, s.Goal(t.Tempo)
	return t
}

// Beyond lists harder steps for those who are ready: what one rule adds to the
// target and can be played together with it.
func Beyond(t demand.Task, w demand.Weights) []Step {
	var steps []Step
	for _, v := range PerRule(Neighbours(t, w).ByTenths().Harder) {
		if v.Together {
			steps = append(steps, Step{Pattern: v.Pattern, Adds: v.Change, Says: v.Says, Over: allChords, Level: v.Level})
		}
	}
	return steps
}

// Measured is the steps with the levels that they have on the task now: a song
// may have got another key, another shape, or a class other weights.
func Measured(steps []Step, t demand.Task, w demand.Weights) []Step {
	out := slices.Clone(steps)
	for i := range out {
		out[i].Level = levelOf(t, w, out[i])
	}
	return out
}

// Steps is the staircase without its chords, from the very first stroke, as it
// is stored.
func Steps(order Order, t demand.Task, w demand.Weights) []Step {
	var steps []Step
	for _, s := range Staircase(order, t, w, 0) {
		steps = append(steps, s.Step)
	}
	return steps
}
