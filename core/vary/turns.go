package vary

import (
	"arplin/core/hand"
)

// Rules that give the same places to other fingers; table: rules.go.

func swapped(p hand.Pattern) (hand.Pattern, bool) {
	if !p.Uses(hand.Index) || !p.Uses(hand.Middle) || p.Uses(hand.Ring) {
		return p, false
	}
	other := map[hand.Sign]hand.Sign{hand.Index: hand.Middle, hand.Middle: hand.Index}
	return everywhere(p, func(bar hand.Bar, i int) bool {
		changed := false
		for k, st := range bar[i].Strokes {
			if sign, ok := other[st.Sign]; ok {
				bar[i].Strokes[k].Sign = sign
				changed = true
			}
		}
		return changed
	})
}

// turnedRound lets the fingers of each bar run backwards over their places.
func turnedRound(p hand.Pattern) (hand.Pattern, bool) {
	return moved(p, func(i, n int) int { return n - 1 - i })
}

// rotated moves the fingers of each bar on by one over their places.
func rotated(by int) func(hand.Pattern) (hand.Pattern, bool) {
	return func(p hand.Pattern) (hand.Pattern, bool) {
		return moved(p, func(i, n int) int { return (i + by + n) % n })
	}
}

// moved gives the i-th of a bar's n finger notes what stood at another. Slots
// with several fingers stay whole only when they stay alone, so such bars are
// left as they are.
func moved(p hand.Pattern, from func(i, n int) int) (hand.Pattern, bool) {
	q := p.Clone()
	changed := false
	for b, bar := range q.Bars {
		var at [][2]int
		fingers := 0
		for i, slot := range bar {
			single := 0
			for k, st := range slot.Strokes {
				if isFinger(st) {
					at = append(at, [2]int{i, k})
					single++
				}
			}
			fingers = max(fingers, single)
		}
		if fingers > 1 {
			continue
		}
		for i, to := range at {
			source := at[from(i, len(at))]
			st := p.Bars[b][source[0]].Strokes[source[1]]
			changed = changed || bar[to[0]].Strokes[to[1]] != st
			bar[to[0]].Strokes[to[1]] = st
		}
	}
	return q, changed
}
