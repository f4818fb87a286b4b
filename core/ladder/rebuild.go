package ladder

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"arplin/core/difficulty"
	"arplin/core/say"
	"arplin/core/variation"
)

// apply keeps the pinned steps and the target and finds the rest anew around
// them: below a pinned figure what leads up to that figure, above the last one
// what leads on to the target. A step that was there before keeps its id.
func (c Rebuild) apply(e *editor) (say.Line, error) {
	var pins []Step
	for _, s := range e.l.Steps[:e.last()] {
		if s.Pinned {
			pins = append(pins, s)
		}
	}
	slices.SortStableFunc(pins, func(a, b Step) int { return cmp.Compare(a.Level, b.Level) })
	whole := Build(c.Order, e.whole, e.weights, 0)
	target := whole[len(whole)-1]
	low := 0.0
	var all []Step
	add := func(found []Step, below float64) {
		for _, s := range found {
			if s.Level > low && s.Level < below && !slices.ContainsFunc(pins, s.Same) {
				all = append(all, named(s, all))
			}
		}
	}
	for _, pin := range pins {
		found := whole
		if pin.Over == OneChord && pin.Play == difficulty.OnStrings && c.Order != RhythmFirst && len(e.whole.Rest) == 0 && !pin.Home { // there the figure is learned before the chord
			found = e.upTo(pin, c.Order)
		}
		add(found, pin.Level)
		all = append(all, pin)
		low = max(low, pin.Level)
	}
	add(whole[:len(whole)-1], math.Inf(1))
	e.l.Order, e.l.Steps = c.Order, KeepIDs(e.l.Steps, append(all, named(target, all)))
	return say.Of(rebuilt), nil
}

func (c Choose) apply(e *editor) (say.Line, error) {
	was := e.whole.Order
	for _, symbol := range []string{c.First, c.Second} {
		if symbol != "" && !slices.Contains(was, symbol) {
			return say.Line{}, fmt.Errorf("%s is not a chord of this song any more", symbol)
		}
	}
	if c.First != "" && c.First == c.Second {
		return say.Line{}, fmt.Errorf("the first two chords are two")
	}
	e.l.Begin = c.Beginning
	e.stages = stagesOf(Begin(e.whole, c.Beginning))
	if _, err := (Rebuild{e.l.Order}).apply(e); err != nil {
		return say.Line{}, err
	}
	if c.First == "" && c.Second == "" || len(e.whole.Order) < 2 {
		return say.Of(found), nil
	}
	return say.Of(begun, e.whole.Order[0], e.whole.Order[1]), nil
}

// upTo is what leads up to a figure on one chord.
func (e *editor) upTo(pin Step, order Order) []Step {
	found := climb(order, e.task(pin), e.weights)
	for i := range found {
		found[i].Over = pin.Over
	}
	return found
}

// named says what a step adds to a pinned step that has come to stand below it,
// where a rule leads from one to the other.
func named(s Step, below []Step) Step {
	if n := len(below); n > 0 && below[n-1].Pinned && below[n-1].Over == s.Over {
		for _, r := range variation.Rules {
			if slices.ContainsFunc(r.Simpler(s.Pattern), below[n-1].Pattern.Equal) {
				s.Adds = []Thing{{Rule: r.ID}}
			}
		}
	}
	return s
}

// KeepIDs gives steps that were there before the ids that they had; the others
// get fresh ones later.
func KeepIDs(was, now []Step) []Step {
	now = slices.Clone(now)
	taken := map[StepID]bool{}
	for i, s := range now { // two alike keep each its own
		if at := Find(was, s.ID); s.ID != 0 && at >= 0 && was[at].Same(s) && !taken[s.ID] {
			taken[s.ID] = true
			now[i].Remark = was[at].Remark
		} else {
			now[i].ID = 0
		}
	}
	for i := range now {
		if now[i].ID != 0 {
			continue
		}
		for _, old := range was {
			if old.Same(now[i]) && !taken[old.ID] {
				now[i].ID, now[i].Remark = old.ID, old.Remark
				taken[old.ID] = true
				break
			}
		}
	}
	return now
}

// Inherit is KeepIDs for ladders of a time when there were no ids: of the steps
// that are left, those between the same neighbours are the same where there are
// as many, since a step that was written anew stayed in its place.
func Inherit(was, now []Step) []Step {
	now = KeepIDs(was, now)
	left := func(steps []Step, has func(StepID) bool) (free []int) {
		for i, s := range steps {
			if !has(s.ID) {
				free = append(free, i)
			}
		}
		return free
	}
	old := left(was, func(id StepID) bool { return Find(now, id) >= 0 })
	fresh := left(now, func(id StepID) bool { return id != 0 })
	if len(was) == len(now) && slices.Equal(old, fresh) {
		for _, i := range fresh {
			now[i].ID = was[i].ID
		}
	}
	return now
}

// Moved is the step on which somebody stands after steps have changed: the same
// where it is still there, else what is played the same, else the hardest that
// is not above the old one.
func Moved(was, now []Step, id StepID) StepID {
	if Find(now, id) >= 0 {
		return id
	}
	at := Find(was, id)
	if at < 0 || len(now) == 0 {
		return 0
	}
	for _, s := range now {
		if s.Same(was[at]) {
			return s.ID
		}
	}
	place := now[0].ID
	for _, s := range now {
		if s.Level <= was[at].Level {
			place = s.ID
		}
	}
	return place
}
