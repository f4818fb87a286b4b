package vary

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"arplin/core/demand"
	"arplin/core/hand"
)

// The operations on a ladder. At counts steps from 0, the easiest.
const (
	Pin     = "pin"     // toggles; a pinned step stays when the rest is found anew
	Drop    = "drop"    // the step above then adds what this one added, too
	Join    = "join"    // with the step below, which is dropped
	Split   = "split"   // a step between this one and the one below
	Raise   = "raise"   // changes places with the step above
	Lower   = "lower"   // changes places with the step below
	Edit    = "edit"    // another pattern for the step, in Text
	Insert  = "insert"  // a pattern of the teacher's own, in Text, put in by its level
	Refresh = "refresh" // everything but the pinned steps is found anew
)

// Change is one thing that a teacher does to a ladder.
type Change struct {
	Op    string
	At    int
	Text  string
	Order Order // in which the rest is found anew
}

// maxSteps bounds a ladder.
const maxSteps = 40

// Apply carries out a change on a copy of the steps and says in words what was
// done. The task is the target on its song; the last step stays the target.
func Apply(steps []Step, t demand.Task, w demand.Weights, c Change) ([]Step, string, error) {
	steps = slices.Clone(steps)
	if c.Op != Insert && c.Op != Refresh && (c.At < 0 || c.At >= len(steps)) {
		return nil, "", fmt.Errorf("there is no step %d", c.At+1)
	}
	last := len(steps) - 1
	switch c.Op {
	case Pin:
		steps[c.At].Pinned = !steps[c.At].Pinned
		if steps[c.At].Pinned {
			return steps, fmt.Sprintf("Step %d stays where it is", c.At+1), nil
		}
		return steps, fmt.Sprintf("Step %d may be found anew", c.At+1), nil
	case Drop:
		if c.At == last {
			return nil, "", fmt.Errorf("the last step is the target and stays")
		}
		if c.At > 0 {
			steps[c.At+1].Adds = steps[c.At].Adds + ", " + steps[c.At+1].Adds
		}
		says := fmt.Sprintf("Dropped step %d, %s", c.At+1, steps[c.At].Adds)
		return slices.Delete(steps, c.At, c.At+1), says, nil
	case Join:
		if c.At == 0 {
			return nil, "", fmt.Errorf("there is no step below the first")
		}
		return Apply(steps, t, w, Change{Op: Drop, At: c.At - 1})
	case Split:
		between, ok := between(steps, t, w, c.At)
		if !ok || len(steps) >= maxSteps {
			return nil, "", fmt.Errorf("no rule leads to a step between %d and %d", c.At, c.At+1)
		}
		return slices.Insert(steps, c.At, between), fmt.Sprintf("Put %s between", between.Adds), nil
	case Raise, Lower:
		other := c.At + 1
		if c.Op == Lower {
			other = c.At - 1
		}
		if other < 0 || other >= last || c.At == last {
			return nil, "", fmt.Errorf("step %d cannot go further; the last step is the target", c.At+1)
		}
		steps[c.At], steps[other] = steps[other], steps[c.At]
		return steps, fmt.Sprintf("Steps %d and %d changed places", min(c.At, other)+1, max(c.At, other)+1), nil
	case Edit:
		p, err := ownPattern(t, c.Text)
		if err != nil {
			return nil, "", err
		}
		if c.At == last {
			return nil, "", fmt.Errorf("the last step is the target; make another ladder for another target")
		}
		steps[c.At].Pattern = p
		steps[c.At].Level = levelOf(t, w, steps[c.At])
		steps[c.At].Adds, steps[c.At].Says, steps[c.At].Pinned = "by hand", "A step of your own.", true
		return steps, fmt.Sprintf("Changed step %d", c.At+1), nil
	case Insert:
		return insertOwn(steps, t, w, c.Text)
	case Refresh:
		return refresh(steps, t, w, c.Order), "Found the steps anew", nil
	}
	return nil, "", fmt.Errorf("%q is not something that can be done to a ladder", c.Op)
}

// ownPattern reads a pattern that can be played together with the target.
func ownPattern(t demand.Task, text string) (hand.Pattern, error) {
	p, err := hand.Parse(text)
	if err != nil {
		return p, err
	}
	if !Together(p, t.Pattern) {
		return p, fmt.Errorf("it cannot be played together with %s", t.Pattern)
	}
	return p, nil
}

func insertOwn(steps []Step, t demand.Task, w demand.Weights, text string) ([]Step, string, error) {
	p, err := ownPattern(t, text)
	if err != nil {
		return nil, "", err
	}
	if len(steps) >= maxSteps {
		return nil, "", fmt.Errorf("a ladder has at most %d steps", maxSteps)
	}
	own := Step{Pattern: p, Adds: "by hand", Says: "A step of your own.", Over: oneChord, Pinned: true}
	own.Level = levelOf(t, w, own)
	at := 0
	for at < len(steps)-1 && steps[at].Level < own.Level {
		at++
	}
	return slices.Insert(steps, at, own), fmt.Sprintf("Put your step in as number %d", at+1), nil
}

func levelOf(t demand.Task, w demand.Weights, s Step) float64 {
	return demand.Of(s.Task(t), w).Level
}

// between finds the pattern, one rule or one stroke below a step, whose level
// lies nearest to the middle of the step and the one below it.
func between(steps []Step, t demand.Task, w demand.Weights, at int) (Step, bool) {
	step := steps[at]
	low := 1.0
	if at > 0 {
		low = steps[at-1].Level
	}
	found, off := Step{}, math.Inf(1)
	take := func(p hand.Pattern, adds, says string) {
		s := step
		s.Pattern, s.Adds, s.Says, s.Pinned = p, adds, says, false
		s.Level = levelOf(t, w, s)
		if d := math.Abs(s.Level - (low+step.Level)/2); s.Level > low && s.Level < step.Level && d < off {
			off, found = d, s
		}
	}
	for _, r := range Rules {
		for _, p := range r.Simpler(step.Pattern) {
			if Together(step.Pattern, p) {
				take(p, "up to "+r.Name, "Everything of the next step but this: "+lowerFirst(r.Says))
			}
		}
	}
	if at > 0 && len(step.Pattern.Bars) == len(steps[at-1].Pattern.Bars) {
		// Part of what the step adds: one of its new strokes is left for later.
		fresh := New(step.Pattern, steps[at-1].Pattern)
		each(step.Pattern, func(pl Place, _ hand.Stroke) {
			if !fresh[pl] {
				return
			}
			p, ok := keep(step.Pattern, func(bar, slot int, st hand.Stroke) bool { return Place{bar, slot, st.Sign} != pl })
			if ok && keepsBass(step.Pattern, p) {
				take(p, "part of "+step.Adds, "One stroke of the next step is left for later.")
			}
		})
	}
	return found, off < math.Inf(1)
}

// refresh keeps the pinned steps and the target and finds the rest anew around
// them: below a pinned figure what leads up to that figure, above the last one
// what leads on to the target.
func refresh(steps []Step, t demand.Task, w demand.Weights, order Order) []Step {
	var pinned []Step
	for _, s := range steps[:len(steps)-1] {
		if s.Pinned {
			pinned = append(pinned, s)
		}
	}
	slices.SortStableFunc(pinned, func(a, b Step) int { return cmp.Compare(a.Level, b.Level) })
	whole := Steps(order, t, w)
	target := whole[len(whole)-1]
	low := 0.0
	var all []Step
	add := func(found []Step, below float64) {
		for _, s := range found {
			if s.Level > low && s.Level < below && !slices.ContainsFunc(pinned, s.Same) {
				all = append(all, named(s, all))
			}
		}
	}
	for _, pin := range pinned {
		found := whole
		if pin.Over == oneChord && pin.Play == demand.OnStrings && order != RhythmFirst { // there the figure is learned before the chord
			found = upTo(pin, order, t, w)
		}
		add(found, pin.Level)
		all = append(all, pin)
		low = max(low, pin.Level)
	}
	add(whole[:len(whole)-1], math.Inf(1))
	return append(all, named(target, all))
}

// upTo is what leads up to a figure on one chord.
func upTo(pin Step, order Order, t demand.Task, w demand.Weights) []Step {
	found := search(order, pin.Task(t), w)
	for i := range found {
		found[i].Over = pin.Over
	}
	return found
}

// named says what a step adds to a pinned step that has come to stand below it,
// where a rule has a name for it.
func named(s Step, below []Step) Step {
	if n := len(below); n > 0 && below[n-1].Pinned && below[n-1].Over == s.Over {
		for _, r := range Rules {
			if slices.ContainsFunc(r.Simpler(s.Pattern), below[n-1].Pattern.Equal) {
				s.Adds, s.Says = r.Name, r.Says
			}
		}
	}
	return s
}

// Rebind takes the steps of a ladder over to another song: the same figures, in
// the same order, measured on its chords, and the stages of chords and tempo
// that this song asks for. The task is the target there.
func Rebind(steps []Step, t demand.Task, w demand.Weights) ([]Step, error) {
	b := builder{task: t, weights: w}
	b.one, b.two = chordStages(t)
	for _, s := range steps {
		if s.Pattern.Meter != t.Pattern.Meter {
			return nil, fmt.Errorf("the ladder is in %s, the song in %s", s.Pattern.Meter, t.Pattern.Meter)
		}
		if s.Over != oneChord && s.Pattern.Equal(t.Pattern) {
			continue // a stage of the other song
		}
		if b.two == nil {
			s.Over = oneChord
		}
		if slices.ContainsFunc(b.stairs, func(o Stair) bool { return o.Same(s) }) {
			continue // the same figure on fewer chords
		}
		s.Level = levelOf(t, w, s)
		b.stairs = append(b.stairs, Stair{Step: s})
	}
	b.chords()
	if n := len(b.stairs); n == 0 || !b.stairs[n-1].Pattern.Equal(t.Pattern) { // on one chord there is no stage that ends in it
		b.finish(Step{Pattern: t.Pattern, Over: oneChord, Adds: "the whole figure", Says: "Everything of the figure, on the one chord of the song."})
	}
	var out []Step
	for _, s := range b.stairs {
		out = append(out, s.Step)
	}
	return out, nil
}

// Moved finds the place of a student in changed steps: the same step where it is
// still there, else the hardest that is not above the old one.
func Moved(was []Step, now []Step, at int) int {
	at = min(max(at, 0), len(was)-1)
	for i, s := range now {
		if s.Same(was[at]) {
			return i
		}
	}
	place := 0
	for i, s := range now {
		if s.Level <= was[at].Level {
			place = i
		}
	}
	return place
}
