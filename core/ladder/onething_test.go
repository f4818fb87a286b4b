package ladder_test

import (
	"fmt"
	"slices"

	"arplin/core/difficulty"
	"arplin/core/ladder"
	"arplin/core/pattern"
)

// oneThing judges whether a step adds exactly one thing to the step below, by what is played alone: the
// strokes of one finger or kind of strum at one place or at the same place of each beat or half; one
// motion over the strings; one feature; or chords; or tempo. Source: common practice.
func oneThing(below, s ladder.Step) error {
	var new []string
	if s.Over != below.Over || s.Play != below.Play {
		new = append(new, "chords")
	}
	if goal, was := s.Goal(100), below.Goal(100); goal > was {
		new = append(new, "tempo")
	} else if goal < was && len(new) == 0 {
		return fmt.Errorf("it is only slower")
	}
	figures := append([]difficulty.Figure{{Pattern: s.Pattern}}, s.Parts...)
	for k, under := range append([]difficulty.Figure{{Pattern: below.Pattern}}, below.Parts...) {
		if sounds(figures[k].Pattern) != sounds(under.Pattern) {
			what, ok := oneFeature(under.Pattern, figures[k].Pattern)
			if !ok {
				return fmt.Errorf("%s to %s adds more than one thing", under.Pattern, figures[k].Pattern)
			}
			new = append(new, what)
		}
	}
	if len(new) != 1 {
		return fmt.Errorf("%s over %s to %s over %s adds %q", below.Pattern, below.Over, s.Pattern, s.Over, new)
	}
	return nil
}

// sounds is a figure as it sounds: on the beats swung is straight.
func sounds(p pattern.Pattern) string {
	off := false
	p.Each(func(pl pattern.Place, _ pattern.Stroke) { off = off || !p.OnBeat(pl.Slot) })
	if !off {
		p.Swing = false
	}
	return p.String()
}

func oneFeature(a, b pattern.Pattern) (string, bool) {
	as, bs := a, b
	as.Swing, bs.Swing = false, false
	if a.Swing != b.Swing && as.Equal(bs) {
		return "swing", true
	}
	if len(a.Bars) != len(b.Bars) {
		return "bars", barsJoined(a, b)
	}
	a, b = onOneGrid(as, bs)
	var added, gone, other []pattern.Place // other is what is new or struck otherwise
	changes := map[string]bool{}
	b.Each(func(pl pattern.Place, st pattern.Stroke) {
		if was, ok := a.At(pl); !ok {
			added, other = append(added, pl), append(other, pl)
		} else if was != st {
			other = append(other, pl)
			changes[changeOf(was, st)] = true
		}
	})
	a.Each(func(pl pattern.Place, _ pattern.Stroke) {
		if _, ok := b.At(pl); !ok {
			gone = append(gone, pl)
		}
	})
	switch {
	case len(gone) > 0 && (twiceAsFast(a, b) || otherwise(b, other, gone)):
		return "rate, or the second half", true
	case len(changes) > 0:
		return fmt.Sprint(changes), len(changes) == 1 && len(added)+len(gone) == 0
	case len(added) == 0:
		return "left out", len(gone) > 0
	case len(gone) == 0:
		return "strokes", stopsOnly(added) || together(b, added) || motion(b, added) || repeated(a, b) || twiceAsFast(a, b)
	}
	return "a feature", pinch(b, added, gone) || regrouped(a, b) || otherWay(a, b)
}

func stopsOnly(places []pattern.Place) bool {
	return !slices.ContainsFunc(places, func(pl pattern.Place) bool { return pl.Sign != pattern.StopSign })
}

// onOneGrid is two figures on the coarsest grid that holds both.
func onOneGrid(a, b pattern.Pattern) (pattern.Pattern, pattern.Pattern) {
	grid := max(difficulty.Coarsest(a).Grid(), difficulty.Coarsest(b).Grid())
	if p, lost, err := a.Regrid(grid); err == nil && lost == 0 {
		if q, lost, err := b.Regrid(grid); err == nil && lost == 0 {
			return p, q
		}
	}
	return a, b
}

func changeOf(was, now pattern.Stroke) string {
	if was.Target != now.Target {
		was.Target = now.Target
		if was == now {
			return fmt.Sprint("target ", now.Target.Kind == pattern.LowFifth, now.Target.Kind == pattern.Alternate)
		}
		return "two changes of a stroke"
	}
	diff := was.Marks ^ now.Marks
	for i, group := range []pattern.Marks{pattern.Accent | pattern.Soft, pattern.PalmMuted, pattern.Chuck} {
		if diff&^group == 0 {
			return fmt.Sprint("marks ", i)
		}
	}
	return "several marks"
}

// together reports strokes of one finger, or of fingers that always pluck together, at one place or at
// the same place of each beat or half.
func together(p pattern.Pattern, places []pattern.Place) bool {
	hands := map[pattern.Place][]pattern.Sign{} // what is new in a slot
	for _, pl := range places {
		at := pattern.Place{Bar: pl.Bar, Slot: pl.Slot}
		hands[at] = append(hands[at], pl.Sign)
	}
	same := func(length int) bool {
		first := places[0].Slot % length
		return !slices.ContainsFunc(places, func(pl pattern.Place) bool { return pl.Slot%length != first })
	}
	for _, signs := range hands {
		if !slices.Equal(signs, hands[pattern.Place{Bar: places[0].Bar, Slot: places[0].Slot}]) {
			return false
		}
	}
	return same(p.SlotsPerBeat()) || p.Grid()%2 == 0 && p.Meter.TappedBeats()%2 == 0 && same(p.Grid()/2)
}

// motion reports strokes one after the other without a gap that go over the strings in one direction.
func motion(p pattern.Pattern, places []pattern.Place) bool {
	turn, last := 0, 0
	for k, pl := range places {
		st, _ := p.At(pl)
		at := ladder.SignAt(st.Sign)
		switch {
		case st.Target.Kind == pattern.Given && st.Target.Strings.Len() == 1:
			at = 10 - st.Target.Strings.List()[0]
		case st.Target.Kind == pattern.Root:
			at = 1
		case st.Sign == pattern.Sweep:
			at = k // a sweep goes on from string to string
		case st.Target.Kind != pattern.ByChord || !st.Sign.Finger():
			return false
		}
		if k > 0 {
			prev := places[k-1]
			now := at - last
			if pl.Bar != prev.Bar || pl.Slot != prev.Slot+1 || now == 0 || turn*now < 0 {
				return false
			}
			turn = now
		}
		last = at
	}
	return true
}

// repeated reports what is known, as often as it comes in the bar.
func repeated(a, b pattern.Pattern) bool {
	for u := 1; u < b.Grid(); u++ {
		alike := b.Grid()%u == 0
		for i := 0; i < b.Grid() && alike; i++ {
			slot := b.Bars[0][i]
			alike = slot.String() == a.Bars[0][i%u].String() || slot.Empty() && empties(b.Bars[0][i:])
		}
		if alike && empties(a.Bars[0][u:]) {
			return true
		}
		// three times, after twice
		alike = b.Grid()%u == 0
		for i := 0; i < b.Grid() && alike; i++ {
			slot := b.Bars[0][i]
			alike = slot.Empty() && empties(b.Bars[0][i:]) || slot.String() == b.Bars[0][i%u].String()
		}
		if n := filledTo(a.Bars[0]); alike && n > 0 {
			whole := (n + u - 1) / u * u // what is known, its rest at the end included
			known := true
			for i := 0; i < min(whole, b.Grid()) && known; i++ {
				known = a.Bars[0][i].String() == b.Bars[0][i].String()
			}
			if known {
				return true
			}
		}
	}
	return false
}

func empties(bar pattern.Bar) bool { return filledTo(bar) == 0 }

func filledTo(bar pattern.Bar) int {
	n := len(bar)
	for n > 0 && bar[n-1].Empty() {
		n--
	}
	return n
}

// pinch reports a finger's strokes that now sound with the thumb before which they came.
func pinch(p pattern.Pattern, added, gone []pattern.Place) bool {
	for i, pl := range added {
		_, thumb := p.Bars[pl.Bar][pl.Slot].Find(pattern.Thumb)
		if len(gone) != len(added) || !thumb || gone[i] != (pattern.Place{Bar: pl.Bar, Slot: pl.Slot + 1, Sign: pl.Sign}) {
			return false
		}
	}
	return true
}

// twiceAsFast reports the same strokes in half the time.
func twiceAsFast(a, b pattern.Pattern) bool {
	n := b.Grid()
	for i := range n {
		was := pattern.Slot{}
		if 2*i < n {
			was = a.Bars[0][2*i]
		}
		again := i >= n/2 && b.Bars[0][i].String() == b.Bars[0][i-n/2].String()
		if !again && b.Bars[0][i].String() != was.String() {
			return false
		}
		if i%2 == 1 && !a.Bars[0][i].Empty() {
			return false
		}
	}
	return true
}

// regrouped reports groups of four that have become three, three and two.
func regrouped(a, b pattern.Pattern) bool {
	for i, slot := range b.Bars[0] {
		if _, thumb := slot.Find(pattern.Thumb); thumb != (i == 0 || i == 3 || i == 5) {
			return false
		}
	}
	return len(b.Bars[0]) == 8 && a.Bars[0][4].String() == a.Bars[0][0].String()
}

// otherwise reports a second half that goes on otherwise than the first, by one motion.
func otherwise(p pattern.Pattern, added, gone []pattern.Place) bool {
	half := p.Grid() / 2
	for _, pl := range slices.Concat(added, gone) {
		if pl.Slot < half {
			return false
		}
	}
	if len(added) == 0 {
		return false
	}
	var through []pattern.Place // the motion may go over a stroke that is as it was
	p.Each(func(pl pattern.Place, _ pattern.Stroke) {
		if pl.Bar == added[0].Bar && pl.Slot >= added[0].Slot && pl.Slot <= added[len(added)-1].Slot {
			through = append(through, pl)
		}
	})
	return together(p, added) || motion(p, added) || motion(p, through)
}

// otherWay reports the other motion of a bar alone, or the two joined.
func otherWay(a, b pattern.Pattern) bool {
	half := b.Grid() / 2
	if !empties(a.Bars[0][half:]) {
		return false
	}
	joined := slices.EqualFunc(b.Bars[0][half:], a.Bars[0][:half], func(x, y pattern.Slot) bool { return x.String() == y.String() })
	return joined || empties(b.Bars[0][half:])
}

// barsJoined reports a bar alone, or bars that hold those that were there.
func barsJoined(a, b pattern.Pattern) bool {
	in := func(bar pattern.Bar, p pattern.Pattern) bool {
		return slices.ContainsFunc(p.Bars, func(o pattern.Bar) bool { return barText(o) == barText(bar) })
	}
	for _, bar := range a.Bars {
		if len(b.Bars) > len(a.Bars) && !in(bar, b) {
			return false
		}
	}
	return true
}

func barText(bar pattern.Bar) (s string) {
	for _, slot := range bar {
		s += slot.String() + " "
	}
	return s
}
