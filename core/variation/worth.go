package variation

import (
	"arplin/core/difficulty"
	"arplin/core/pattern"
)

// worthOffering reports a neighbour that a teacher would show: it sounds otherwise, and a hand plays it.
// Source: common practice.
func worthOffering(p, q pattern.Pattern) bool {
	return !soundsAlike(p, q) && (!fingerAgain(q) || fingerAgain(p)) && (!dryAndLoud(q) || dryAndLoud(p))
}

// soundsAlike reports figures that differ in their swing alone, with nothing off the beat to swing.
func soundsAlike(p, q pattern.Pattern) bool {
	if p.Swing == q.Swing || p.OffBeat() {
		return false
	}
	q.Swing = p.Swing
	return p.Equal(q)
}

// fingerAgain reports a finger that plucks twice without a gap, faster than the beat, also over the bar
// line. The thumb does so as a matter of course.
func fingerAgain(p pattern.Pattern) bool {
	p = difficulty.Coarsest(p)
	if p.SlotsPerBeat() < 2 {
		return false
	}
	var before pattern.Slot
	if n := len(p.Bars); n > 0 {
		before = p.Bars[n-1][p.Grid()-1]
	}
	for _, bar := range p.Bars {
		for _, slot := range bar {
			for _, st := range slot.Strokes {
				if _, again := before.Find(st.Sign); again && st.Sign.Finger() && st.Sign != pattern.Thumb {
					return true
				}
			}
			before = slot
		}
	}
	return false
}

// dryAndLoud reports chucks among accents: the hand cannot lean and stop at once.
func dryAndLoud(p pattern.Pattern) bool {
	dry, loud := false, false
	p.Each(func(_ pattern.Place, st pattern.Stroke) {
		dry, loud = dry || st.Marks.Has(pattern.Chuck), loud || st.Marks.Has(pattern.Accent)
	})
	return dry && loud
}
