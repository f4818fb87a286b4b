package edit

import (
	"fmt"
	"slices"

	"arplin/core/ladder"
	"arplin/core/ladder/grow"
	"arplin/core/say"
	"arplin/core/variation"
)

// apply keeps the pinned steps and the target and finds the rest anew around them: each pinned step
// stands above what it stood above, or, where that is gone, where it belongs by its strokes. A step
// that was there before keeps its id.
func (c Rebuild) apply(e *editor) (say.Line, error) {
	was := slices.Clone(e.l.Steps)
	now := grow.Build(c.Choice, e.Whole, e.weights, 0)
	for i := range now {
		now[i].ID = 0
	}
	for i, pin := range was[:e.last()] {
		if !pin.Pinned || pin.Same(now[len(now)-1]) {
			continue
		}
		now = slices.DeleteFunc(now, pin.Same)
		e.l.Steps = now
		at := e.placeOf(pin)
		for k := i - 1; k >= 0; k-- {
			if there := slices.IndexFunc(now, was[k].Same); there >= 0 {
				at = min(there+1, len(now)-1)
				break
			}
		}
		now = slices.Insert(now, at, pin)
		now[at+1] = named(now[at+1], pin)
	}
	e.l.Choice, e.l.Steps = c.Choice, ladder.KeepIDs(was, now)
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
	if _, err := (Rebuild{e.l.Choice}).apply(e); err != nil {
		return say.Line{}, err
	}
	if c.First == "" && c.Second == "" || len(e.Whole.Order) < 2 {
		return say.Of(found), nil
	}
	return say.Of(begun, e.Whole.Order[0], e.Whole.Order[1]), nil
}

// named says what a step adds to a pinned step that has come to stand below it: what a rule does, or
// the strokes that are new.
func named(s, below ladder.Step) ladder.Step {
	if below.Over != s.Over || below.Pace != s.Pace || below.Play != s.Play || below.Pattern.Equal(s.Pattern) {
		return s
	}
	for _, r := range variation.Rules {
		if slices.ContainsFunc(r.Simpler(s.Pattern), below.Pattern.Equal) {
			s.Adds = []ladder.Thing{{Rule: r.ID}}
			return s
		}
	}
	s.Adds = []ladder.Thing{{Stage: ladder.Notes}}
	return s
}
