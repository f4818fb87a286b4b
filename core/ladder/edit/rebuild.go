package edit

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"arplin/core/difficulty"
	"arplin/core/ladder"
	"arplin/core/ladder/grow"
	"arplin/core/ladder/order"
	"arplin/core/say"
	"arplin/core/variation"
)

// apply keeps the pinned steps and the target and finds the rest anew around
// them: below a pinned figure what leads up to that figure, above the last one
// what leads on to the target. A step that was there before keeps its id.
func (c Rebuild) apply(e *editor) (say.Line, error) {
	var pins []ladder.Step
	for _, s := range e.l.Steps[:e.last()] {
		if s.Pinned {
			pins = append(pins, s)
		}
	}
	slices.SortStableFunc(pins, func(a, b ladder.Step) int { return cmp.Compare(a.Level, b.Level) })
	whole := grow.Build(c.Order, e.Whole, e.weights, 0)
	target := whole[len(whole)-1]
	low := 0.0
	var all []ladder.Step
	add := func(found []ladder.Step, below float64) {
		for _, s := range found {
			if s.Level > low && s.Level < below && !slices.ContainsFunc(pins, s.Same) {
				all = append(all, named(s, all))
			}
		}
	}
	for _, pin := range pins {
		found := whole
		if pin.Over == ladder.OneChord && pin.Play == difficulty.OnStrings && c.Order != order.RhythmFirst && len(e.Whole.Rest) == 0 && !pin.Home { // there the figure is learned before the chord
			found = e.upTo(pin, c.Order)
		}
		add(found, pin.Level)
		all = append(all, pin)
		low = max(low, pin.Level)
	}
	add(whole[:len(whole)-1], math.Inf(1))
	e.l.Order, e.l.Steps = c.Order, ladder.KeepIDs(e.l.Steps, append(all, named(target, all)))
	return say.Of(rebuilt), nil
}

func (c Choose) apply(e *editor) (say.Line, error) {
	was := e.Whole.Order
	for _, symbol := range []string{c.First, c.Second} {
		if symbol != "" && !slices.Contains(was, symbol) {
			return say.Line{}, fmt.Errorf("%s is not a chord of this song any more", symbol)
		}
	}
	if c.First != "" && c.First == c.Second {
		return say.Line{}, fmt.Errorf("the first two chords are two")
	}
	e.l.Begin = c.Beginning
	e.Setting = ladder.SettingOf(ladder.Begin(e.Whole, c.Beginning))
	if _, err := (Rebuild{e.l.Order}).apply(e); err != nil {
		return say.Line{}, err
	}
	if c.First == "" && c.Second == "" || len(e.Whole.Order) < 2 {
		return say.Of(found), nil
	}
	return say.Of(begun, e.Whole.Order[0], e.Whole.Order[1]), nil
}

// upTo is what leads up to a figure on one chord.
func (e *editor) upTo(pin ladder.Step, order order.Order) []ladder.Step {
	found := grow.Climb(order, e.Task(pin), e.weights)
	for i := range found {
		found[i].Over = pin.Over
	}
	return found
}

// named says what a step adds to a pinned step that has come to stand below it,
// where a rule leads from one to the other.
func named(s ladder.Step, below []ladder.Step) ladder.Step {
	if n := len(below); n > 0 && below[n-1].Pinned && below[n-1].Over == s.Over {
		for _, r := range variation.Rules {
			if slices.ContainsFunc(r.Simpler(s.Pattern), below[n-1].Pattern.Equal) {
				s.Adds = []ladder.Thing{{Rule: r.ID}}
			}
		}
	}
	return s
}
