package grow

import (
	"arplin/core/difficulty"
	"arplin/core/ladder/order"
	"arplin/core/pattern"
)

// full is the figure with nothing left out, where a school begins with that: strums on every place
// where the hand passes; a finger's note in both halves of the bar.
func full(o order.Order, p pattern.Pattern) (pattern.Pattern, bool) {
	if o != order.FullFirst {
		return p, false
	}
	q := difficulty.Coarsest(p).Clone()
	if pureStrums(p) {
		for i, slot := range q.Bars[0] {
			for _, st := range slot.Strokes {
				if q.AgainstHand(i, st.Sign) {
					return p, false // the hand goes its own way: nothing tells what it left out
				}
			}
		}
		strummed(q)
	} else if half := halfOf(q); half < q.Grid() {
		for i := range half {
			mirrored(q, i, i+half)
			mirrored(q, i+half, i)
		}
	}
	q, _, err := q.Regrid(p.Grid())
	if err != nil {
		return p, false
	}
	again, err := pattern.Parse(q.String())
	return again, err == nil && !again.Equal(p)
}

// strummed fills the places where the hand passes in the air: the beats, and the ups where there are
// any.
func strummed(q pattern.Pattern) {
	for i, m := range q.Motions() {
		switch slot := &q.Bars[0][i]; {
		case !slot.Empty():
		case m == pattern.MoveAirUp && q.Uses(pattern.Up):
			slot.Strokes = []pattern.Stroke{{Sign: pattern.Up, Target: zoneOf(q, pattern.Up)}}
		case m == pattern.MoveAirDown && (q.OnBeat(i) || q.Uses(pattern.Up)):
			slot.Strokes = []pattern.Stroke{{Sign: pattern.Down, Target: zoneOf(q, pattern.Down)}}
		}
	}
}

// zoneOf is where the strums of a direction go, if all of them go to one place.
func zoneOf(p pattern.Pattern, sign pattern.Sign) (zone pattern.Target) {
	first := true
	p.Each(func(_ pattern.Place, st pattern.Stroke) {
		switch {
		case st.Sign != sign:
		case first:
			zone, first = st.Target, false
		case st.Target != zone:
			zone = pattern.Target{}
		}
	})
	return zone
}

// mirrored puts a finger's note of one half where the other half has nothing; what was moved into a
// pinch just before is no gap.
func mirrored(q pattern.Pattern, from, to int) {
	slot := &q.Bars[0][to]
	if !slot.Empty() || len(q.Bars[0][from].Strokes) != 1 {
		return
	}
	st := q.Bars[0][from].Strokes[0]
	if !st.Sign.Finger() || st.Sign == pattern.Thumb {
		return
	}
	if _, pinched := before(q, to).Find(st.Sign); pinched {
		return
	}
	slot.Strokes = []pattern.Stroke{st}
}
