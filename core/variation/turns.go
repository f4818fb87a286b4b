package variation

import (
	"arplin/core/pattern"
)

// Rules that give the same places to other fingers or strings. Source: common practice.
var (
	stringFurther = Rule{ID: "a-string-further",
		less: anyPlace(nearer), more: anyPlace(further),
		More: Words{"a string further", "One note moves to a string further away.", ""},
		Less: Words{"a string nearer", "One note moves to a nearer string.", ""},
	}
	outerString = Rule{ID: "the-outer-string",
		less: one(retargeted(pattern.Outer, pattern.Inner)), more: one(retargeted(pattern.Inner, pattern.Outer)),
		More: Words{"the outer string", "The fingers take the outer string of their group.", ""},
		Less: Words{"the inner string", "The fingers take the inner string, next to the thumb.", ""},
	}
	swappedRule = Rule{ID: "inside-and-outside-swapped",
		more: one(swapped),
		More: Words{"inside and outside swapped", "Index and middle change places.", ""},
	}
	turnedRoundRule = Rule{ID: "turned-round",
		more: one(turnedRound),
		More: Words{"turned round", "The fingers run the other way.", ""},
	}
	rotatedRule = Rule{ID: "rotated",
		less: one(rotated(-1)), more: one(rotated(+1)),
		More: Words{"start one finger later", "The fingers start one later in their order, in the same places in the bar.", ""},
		Less: Words{"start one finger earlier", "The fingers start one earlier in their order, in the same places in the bar.", ""},
	}
)

// Rules that give the same places to other fingers; table: rules.go.

func swapped(p pattern.Pattern) (pattern.Pattern, bool) {
	if !p.Uses(pattern.Index) || !p.Uses(pattern.Middle) || p.Uses(pattern.Ring) {
		return p, false
	}
	other := map[pattern.Sign]pattern.Sign{pattern.Index: pattern.Middle, pattern.Middle: pattern.Index}
	return everywhere(p, func(bar pattern.Bar, i int) bool {
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
func turnedRound(p pattern.Pattern) (pattern.Pattern, bool) {
	return moved(p, func(i, n int) int { return n - 1 - i })
}

// rotated moves the fingers of each bar on by one over their places.
func rotated(by int) func(pattern.Pattern) (pattern.Pattern, bool) {
	return func(p pattern.Pattern) (pattern.Pattern, bool) {
		return moved(p, func(i, n int) int { return (i + by + n) % n })
	}
}

// moved gives the i-th of a bar's n finger notes what stood at another. Slots
// with several fingers stay whole only when they stay alone, so such bars are
// left as they are.
func moved(p pattern.Pattern, from func(i, n int) int) (pattern.Pattern, bool) {
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

// retargeted changes every target of one kind to another.
func retargeted(from, to pattern.TargetKind) func(pattern.Pattern) (pattern.Pattern, bool) {
	return func(p pattern.Pattern) (pattern.Pattern, bool) {
		return everywhere(p, func(bar pattern.Bar, i int) bool {
			changed := false
			for k, st := range bar[i].Strokes {
				if st.Target.Kind == from {
					bar[i].Strokes[k].Target = pattern.Target{Kind: to}
					changed = true
				}
			}
			return changed
		})
	}
}

// anyPlace moves one stroke that names its string, counted from the numbered
// stroke before it in the bar.
func anyPlace(step func(from, at int) int) func(pattern.Pattern) []pattern.Pattern {
	return atPlaces(func(_ pattern.Pattern, bar pattern.Bar, i int) bool {
		before, at := 0, 0
		for k := 0; k <= i; k++ {
			before, at = at, 0
			if len(bar[k].Strokes) == 1 && bar[k].Strokes[0].Target.Strings.Len() == 1 {
				at = bar[k].Strokes[0].Target.Strings.List()[0]
			}
			if at == 0 && k < i {
				at = before
			}
		}
		if at == 0 || before == 0 {
			return false
		}
		to := step(before, at)
		if to < 1 || to > farthestString || to == at {
			return false
		}
		bar[i].Strokes[0].Target.Strings = pattern.Strings(to)
		return true
	})
}

// farthestString bounds the way out: no instrument of a class has more.
const farthestString = 6

func nearer(from, at int) int {
	switch {
	case at > from:
		return at - 1
	case at < from:
		return at + 1
	}
	return at
}

func further(from, at int) int {
	if at < from {
		return at - 1
	}
	return at + 1
}
