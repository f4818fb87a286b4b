package vary

import (
	"arplin/core/demand"
	"arplin/core/hand"
)

// Step is one rung of a ladder: a pattern that adds one named thing to the
// step below. All steps share bars and beats with the target, so a class plays
// them together.
type Step struct {
	Pattern hand.Pattern
	Adds    string // the one new thing; for the first step, what it is
	Says    string
	Over    string      // the chords, one of the stages; empty when nobody has said
	Play    demand.Play // before the strings, or on them
	Pace    int         // the step's goal in per cent of the song's; 0 is all of it
	Level   float64     // of the demand; 0 when it was not measured
	Pinned  bool        // stays when the rest is found anew
}

// Goal is the step's goal tempo where the song's is given.
func (s Step) Goal(song int) int {
	if s.Pace == 0 {
		return song
	}
	return percent(song, s.Pace)
}

// BeforeStrings reports a step that needs no instrument.
func (s Step) BeforeStrings() bool { return s.Play == demand.Said || s.Play == demand.Tapped }

// Same reports the same thing to play: pattern, chords, way and pace.
func (s Step) Same(o Step) bool {
	return s.Pattern.Equal(o.Pattern) && s.Over == o.Over && s.Play == o.Play && s.Pace == o.Pace
}

// Place is a stroke's place in a pattern.
type Place struct {
	Bar, Slot int
	Sign      hand.Sign
}

// New lists the strokes of a step that the step below does not have, or has on
// another string. A step with fewer bars repeats under the longer one. On twice
// the grid the second half of the bar is new; on others nothing can be compared.
func New(step, below hand.Pattern) map[Place]bool {
	places := map[Place]bool{}
	switch {
	case step.Grid() == 2*below.Grid(): // twice as fast: what comes a second time is new
		each(step, func(pl Place, _ hand.Stroke) {
			if pl.Slot >= below.Grid() {
				places[pl] = true
			}
		})
		return places
	case step.Grid() != below.Grid():
		return places // the same places have other names
	}
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
	if step.Grid() != target.Grid() {
		return places
	}
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

const slowPercent, mediumPercent = 60, 80

// TemposFor rounds to whole beats.
func TemposFor(goal int) Tempos {
	return Tempos{Slow: percent(goal, slowPercent), Medium: percent(goal, mediumPercent), Goal: goal}
}

func percent(goal, of int) int { return (goal*of + 50) / 100 }
