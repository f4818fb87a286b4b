package vary

import (
	"slices"

	"arplin/core/hand"
)

// Rules of how many notes pass in the same time; table: rules.go.

// halfAsDense stretches a figure that comes twice in the bar over the whole of
// it, or one bar over two.
func halfAsDense(p hand.Pattern) (hand.Pattern, bool) {
	if p.HasStrums() || p.Swing || p.Grid()%2 != 0 || p.SlotsPerBeat()%2 != 0 {
		return p, false
	}
	n := p.Grid() / 2
	q := hand.Pattern{Meter: p.Meter}
	for _, bar := range p.Clone().Bars {
		first, second := stretched(bar[:n]), stretched(bar[n:])
		q.Bars = append(q.Bars, first)
		if !slices.EqualFunc(first, second, func(a, b hand.Slot) bool { return a.String() == b.String() }) {
			q.Bars = append(q.Bars, second)
		}
	}
	return q, true
}

// stretched spreads the slots over twice as many.
func stretched(slots hand.Bar) hand.Bar {
	bar := make(hand.Bar, 2*len(slots))
	for i, slot := range slots {
		bar[2*i] = slot
	}
	return bar
}

// squeezed is the opposite; false where something stands between.
func squeezed(bar hand.Bar) (half hand.Bar, ok bool) {
	for i, slot := range bar {
		if i%2 == 0 {
			half = append(half, slot)
		} else if !slot.Empty() {
			return nil, false
		}
	}
	return half, true
}

// twiceInABar plays each bar twice as fast, twice.
func twiceInABar(p hand.Pattern) (hand.Pattern, bool) { return denser(p, 1) }

// twoBarsInOne joins each two bars into one.
func twoBarsInOne(p hand.Pattern) (hand.Pattern, bool) { return denser(p, 2) }

func denser(p hand.Pattern, bars int) (hand.Pattern, bool) {
	if p.HasStrums() || p.Swing || p.Grid()%2 != 0 || len(p.Bars)%bars != 0 {
		return p, false
	}
	q := hand.Pattern{Meter: p.Meter}
	for b := 0; b < len(p.Bars); b += bars {
		first, ok := squeezed(p.Bars[b])
		second, also := squeezed(p.Bars[b+bars-1])
		if !ok || !also {
			return p, false
		}
		q.Bars = append(q.Bars, append(slices.Clone(first), second...))
	}
	return q.Clone(), true
}

// inEighths writes a figure that comes twice in a bar of sixteenths once, in
// eighths; the hand's ways down and up stay.
func inEighths(p hand.Pattern) (hand.Pattern, bool) {
	if p.SlotsPerBeat() != 4 || p.Meter.Compound() || p.Grid()%4 != 0 {
		return p, false
	}
	q := hand.Pattern{Meter: p.Meter, Swing: p.Swing}
	for _, bar := range p.Bars {
		half := bar[:len(bar)/2]
		if !slices.EqualFunc(half, bar[len(bar)/2:], func(a, b hand.Slot) bool { return a.String() == b.String() }) {
			return p, false
		}
		q.Bars = append(q.Bars, half)
	}
	return q.Clone(), true
}

func inSixteenths(p hand.Pattern) (hand.Pattern, bool) {
	if p.SlotsPerBeat() != 2 || p.Meter.Compound() {
		return p, false
	}
	q := hand.Pattern{Meter: p.Meter, Swing: p.Swing}
	for _, bar := range p.Bars {
		q.Bars = append(q.Bars, append(slices.Clone(bar), bar...))
	}
	return q.Clone(), true
}
