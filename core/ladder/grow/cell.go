package grow

import (
	"slices"

	"arplin/core/ladder"
	"arplin/core/pattern"
)

// cellWay is the smallest cell, what repeats or half a bar, in the order of time; then that again;
// then what differs.
func cellWay(p pattern.Pattern) []rung {
	bar, n := p.Bars[0], p.Grid()
	half := halfOf(p)
	u := unitOf(bar, 2)
	switch {
	case twoMotions(p, half): // one, the other, joined
		other := upTo(p, half)
		copy(other.Bars[0], bar[half:])
		list := stepwise(p, 0, half, ladder.Onwards)
		list = append(list, rung{pattern: other, adds: stage(ladder.OtherWay)}, rung{pattern: p, adds: stage(ladder.Joined)})
		list[0].adds = stage(ladder.FirstStroke)
		return list
	case isRoll(p):
		return rollWay(p)
	case onlySweeps(p):
		return sweepWay(p)
	case u == n && half < n && nearlyAlike(bar[:half], bar[half:]): // the first half twice, then what differs
		twice := p.Clone()
		twice.Bars[0] = slices.Concat(bar[:half], bar[:half])
		twice = twice.Clone()
		list := append(stepwise(p, 0, half, ladder.Onwards), rung{pattern: twice, adds: stage(ladder.Again)})
		return append(list, rung{pattern: p, adds: differs(twice, p)})
	}
	list := stepwise(p, 0, u, ladder.Onwards)
	if u < n {
		list = append(list, again(p, u)...)
	}
	return list
}

// twoMotions reports a bar whose halves are a run each, in two directions.
func twoMotions(p pattern.Pattern, half int) bool {
	bar := p.Bars[0]
	return half < len(bar) && half >= 3 && filled(bar) && slices.Equal(motions(bar, half), []int{half, len(bar)}) && !slices.EqualFunc(bar[:half], bar[half:], sameSlot)
}

// nearlyAlike reports two halves that differ in one slot.
func nearlyAlike(a, b pattern.Bar) bool {
	n := 0
	for i := range a {
		if !sameSlot(a[i], b[i]) {
			n++
		}
	}
	return n == 1 && len(a) >= 4
}

// differs is what one figure has otherwise than another.
func differs(below, p pattern.Pattern) []ladder.Thing {
	if plain, ok := oneBass(p); ok && below.Equal(plain) {
		return []ladder.Thing{rule("second-bass-string")}
	}
	if ladder.Contains(below, p) && !ladder.Contains(p, below) {
		return []ladder.Thing{rule(leftOut)}
	}
	return stage(ladder.Notes)
}
