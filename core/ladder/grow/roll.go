package grow

import (
	"cmp"
	"slices"

	"arplin/core/ladder"
	"arplin/core/pattern"
)

// taking keeps the strokes that are wanted; stops stay.
func taking(p pattern.Pattern, want func(slot int, st pattern.Stroke) bool) pattern.Pattern {
	q := p.Clone()
	for i := range q.Bars[0] {
		q.Bars[0][i].Strokes = slices.DeleteFunc(q.Bars[0][i].Strokes, func(st pattern.Stroke) bool { return !want(i, st) })
	}
	return q
}

// upTo is the first slots of a figure.
func upTo(p pattern.Pattern, slots int) pattern.Pattern {
	q := p.Clone()
	for i := slots; i < len(q.Bars[0]); i++ {
		q.Bars[0][i] = pattern.Slot{}
	}
	return q
}

func onlySweeps(p pattern.Pattern) bool {
	only := p.Count() > 0
	p.Each(func(_ pattern.Place, st pattern.Stroke) { only = only && st.Sign == pattern.Sweep })
	return only
}

// sweepWay is a stroke a beat, then every stroke; each goes on through the strings.
func sweepWay(p pattern.Pattern) []rung {
	list := []rung{{pattern: upTo(p, 1), adds: stage(ladder.FirstStroke)}}
	list = append(list, rung{pattern: taking(p, func(i int, _ pattern.Stroke) bool { return p.OnBeat(i) }), adds: stage(ladder.StrokeABeat)})
	if p.SlotsPerBeat() == 2 && filled(p.Bars[0]) { // the same strokes twice as fast
		list = append(list, rung{pattern: upTo(p, p.Grid()/2), adds: stage(ladder.AtRate)})
	} else {
		for k := 1; k < p.SlotsPerBeat(); k++ { // a place of each beat at a time
			list = append(list, rung{pattern: taking(p, func(i int, _ pattern.Stroke) bool { return i%p.SlotsPerBeat() <= k }), adds: stage(ladder.Notes)})
		}
	}
	return distinct(append(list, rung{pattern: p, adds: stage(ladder.Onwards)}))
}

func filled(bar pattern.Bar) bool {
	return !slices.ContainsFunc(bar, pattern.Slot.Empty)
}

// isRoll reports fingers that run from string to string without a gap, the thumb on one
// string: every slot is filled, but for room at the end.
func isRoll(p pattern.Pattern) bool {
	bar := p.Bars[0]
	n := lastOf(bar)
	single := 0 // finger notes by themselves
	for _, slot := range bar[:n] {
		if len(slot.Strokes) == 0 || slot.Stop {
			return false
		}
		if len(slot.Strokes) == 1 && slot.Strokes[0].Sign != pattern.Thumb {
			single++
		}
		for _, st := range slot.Strokes {
			if !st.Sign.Finger() || st.Target.Kind == pattern.Alternate || st.Target.Kind == pattern.LowFifth {
				return false
			}
		}
	}
	return single > 1 && n >= 3 && len(bar)-n <= 2
}

// lastOf is how many slots there are to the last that is filled.
func lastOf(bar pattern.Bar) int {
	n := len(bar)
	for n > 0 && bar[n-1].Empty() {
		n--
	}
	return n
}

// unitOf is the length of the shortest part, of at least so many slots, that makes the bar by being
// repeated; room at the end of the bar is no difference.
func unitOf(bar pattern.Bar, least int) int {
	n := lastOf(bar)
	for u := least; u <= len(bar)/2; u++ {
		if len(bar)%u != 0 || n <= u {
			continue
		}
		alike := true
		for i := u; i < n && alike; i++ {
			alike = sameSlot(bar[i], bar[i%u])
		}
		if alike {
			return u
		}
	}
	return len(bar)
}

// motions are the ends of the motions of a run of slots: strokes over the strings in one direction,
// one a slot without a gap, are one motion. Those of a pick begin anew at a half of so many slots.
func motions(bar pattern.Bar, half int) (ends []int) {
	direction, last := 0, -1 // of the motion that goes on, and the string on which it is
	for i, slot := range bar {
		if slot.Empty() {
			direction, last = 0, -1
			continue
		}
		at, runs := stringOf(slot)
		turn := cmp.Compare(at, last)
		goesOn := last >= 0 && runs && turn != 0 && (direction == 0 || direction == turn)
		if goesOn && picked(slot) {
			goesOn = i%half != 0 && bar[i-1].Strokes[0].Sign == slot.Strokes[0].Sign
		}
		if goesOn {
			ends[len(ends)-1], direction, last = i+1, turn, at
			continue
		}
		ends, direction, last = append(ends, i+1), 0, at
		if !runs {
			last = -1
		}
	}
	return ends
}

func picked(slot pattern.Slot) bool { return slot.Strokes[0].Sign.Strum() }

// stringOf is how far out a slot is struck, from the thick side; ok is false for what is no part
// of a run: strums, an alternating thumb, what is struck together.
func stringOf(slot pattern.Slot) (at int, ok bool) {
	if slot.Stop || len(slot.Strokes) != 1 {
		return 0, false
	}
	st := slot.Strokes[0]
	switch {
	case st.Target.Kind == pattern.Given && st.Target.Strings.Len() == 1:
		return 10 - st.Target.Strings.List()[0], true
	case st.Sign == pattern.Down && st.Target.Kind == pattern.Root:
		return 1, true // a pick on the root goes on from there
	case st.Sign == pattern.Thumb:
		return 0, st.Target.Kind == pattern.ByChord
	case st.Sign.Finger() && st.Target.Kind == pattern.ByChord:
		return ladder.SignAt(st.Sign), true
	}
	return 0, false
}

// stepwise adds the slots from one place to another one by one; those within a motion are steps
// between.
func stepwise(p pattern.Pattern, from, to int, adds ladder.Stage) (list []rung) {
	ends := motions(p.Bars[0][:to], halfOf(p))
	for i := from; i < to; i++ {
		if !p.Bars[0][i].Empty() {
			list = append(list, rung{pattern: upTo(p, i+1), adds: stage(adds), inner: !slices.Contains(ends, i+1)})
		}
	}
	return list
}

// halfOf is half a bar in slots, a whole one where it has no middle.
func halfOf(p pattern.Pattern) int {
	if n := p.Grid(); n%2 == 0 && p.Meter.TappedBeats()%2 == 0 {
		return n / 2
	}
	return p.Grid()
}

// rollWay is the roll slowly, a stroke a beat; at its rate, motion by motion; and as often as it
// comes.
func rollWay(p pattern.Pattern) []rung {
	bar, n := p.Bars[0], p.Grid()
	u := unitOf(bar, 3)
	var list []rung
	add := func(q pattern.Pattern, s ladder.Stage, inner bool) {
		list = append(list, rung{pattern: q, adds: stage(s), inner: inner})
	}
	at := 0 // slots that are there at the rate of the roll

	if p.SlotsPerBeat() == 2 && !p.Meter.Compound() && lastOf(bar) > n/2 { // half the rate: the first strokes, one a beat
		slow := p.Clone()
		for i := range slow.Bars[0] {
			slow.Bars[0][i] = pattern.Slot{}
		}
		ends := motions(bar[:n/2], n)
		for i := range n / 2 {
			slow.Bars[0][2*i] = bar[i]
			list = append(list, rung{pattern: slow.Clone(), adds: stage(ladder.Notes), inner: !slices.Contains(ends, i+1)})
		}
		list[len(list)-1].adds = stage(ladder.StrokeABeat)
		at = n / 2
		add(upTo(p, at), ladder.AtRate, false)
	}
	if u == n && n%4 == 0 && n >= 8 { // a bar without repeats: its first half, that twice, and what differs
		if at == 0 {
			list = append(list, stepwise(p, 0, n/2, ladder.Onwards)...)
		}
		twice := p.Clone()
		twice.Bars[0] = slices.Concat(bar[:n/2], bar[:n/2])
		add(twice.Clone(), ladder.Again, false)
		return append(list, replaced(p, n/2)...)
	}
	if at < u {
		list = append(list, stepwise(p, at, u, ladder.Onwards)...)
	}
	return append(list, again(p, max(u, at))...)
}

// replaced puts the second half of a bar, motion by motion, where the first one came again.
func replaced(p pattern.Pattern, half int) (list []rung) {
	for _, end := range motions(p.Bars[0][half:], half) {
		list = append(list, rung{pattern: upTo(p, half+end), adds: stage(ladder.Onwards)})
	}
	return list
}

// again is what is known, of so many slots, as often as it comes in the bar.
func again(p pattern.Pattern, u int) (list []rung) {
	n := lastOf(p.Bars[0])
	for to := 2 * u; to-u < n; to += u {
		list = append(list, rung{pattern: upTo(p, to), adds: stage(ladder.Again), inner: to > 2*u && to < n})
	}
	return list
}
