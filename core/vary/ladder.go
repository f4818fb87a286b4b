package vary

import (
	"slices"

	"arplin/core/hand"
)

// Step is one rung of a ladder: a pattern that adds one named thing to the
// pattern of the step below. All steps share bars and beats with the target, so
// a class plays them together.
type Step struct {
	Pattern hand.Pattern
	Adds    string // the one new thing; for the first step, what it is
	Says    string
	Over    string  // "one chord", "two chords", "all chords"; empty when nobody has said
	Level   float64 // of the demand; 0 when it was not measured
	Pinned  bool    // stays when the rest is found anew
}

// Ladder takes a target apart by the rules and returns the steps, the easiest
// first; the last step is the target.
func Ladder(target hand.Pattern) []Step {
	steps := []Step{{Pattern: target}}
	for _, rule := range Rules {
		top := &steps[len(steps)-1]
		simpler, ok := rule.simplify(top.Pattern)
		if !ok || simpler.Equal(top.Pattern) {
			continue
		}
		top.Adds, top.Says = rule.Name, rule.Says
		steps = append(steps, Step{Pattern: simpler})
	}
	slices.Reverse(steps)
	steps[0].Adds, steps[0].Says = "the first stroke of the bar", "One stroke at the beginning of each bar, and time to hear it."
	if len(steps) == 1 {
		steps[0].Adds, steps[0].Says = "the whole figure", "The figure is as simple as the rules make it."
	}
	return steps
}

// Place is a stroke's place in a pattern.
type Place struct {
	Bar, Slot int
	Sign      hand.Sign
}

// New lists the strokes of a step that the step below does not have, or has on
// another string. A step with fewer bars repeats under the longer one.
func New(step, below hand.Pattern) map[Place]bool {
	places := map[Place]bool{}
	each(step, func(pl Place, st hand.Stroke) {
		if was, ok := at(below, pl); !ok || was != st {
			places[pl] = true
		}
	})
	return places
}

// Missing lists the strokes of the target that a step leaves out, for the bars
// that the step has.
func Missing(step, target hand.Pattern) map[Place]bool {
	places := map[Place]bool{}
	each(target, func(pl Place, _ hand.Stroke) {
		if _, ok := at(step, pl); !ok && pl.Bar < len(step.Bars) {
			places[pl] = true
		}
	})
	return places
}

func each(p hand.Pattern, visit func(Place, hand.Stroke)) {
	for b, bar := range p.Bars {
		for i, slot := range bar {
			if slot.Stop {
				visit(Place{b, i, hand.StopSign}, hand.Stroke{Sign: hand.StopSign})
			}
			for _, st := range slot.Strokes {
				visit(Place{b, i, st.Sign}, st)
			}
		}
	}
}

func at(p hand.Pattern, pl Place) (hand.Stroke, bool) {
	bar := p.Bars[pl.Bar%len(p.Bars)]
	if pl.Slot >= len(bar) {
		return hand.Stroke{}, false
	}
	if pl.Sign == hand.StopSign {
		return hand.Stroke{Sign: hand.StopSign}, bar[pl.Slot].Stop
	}
	return bar[pl.Slot].Find(pl.Sign)
}

// Tempos are the three tempos of a goal, in beats a minute: about 60, 80 and
// 100 per cent. Source: common practice.
type Tempos struct{ Slow, Medium, Goal int }

// TemposFor rounds to whole beats.
func TemposFor(goal int) Tempos {
	return Tempos{Slow: (goal*60 + 50) / 100, Medium: (goal*80 + 50) / 100, Goal: goal}
}
