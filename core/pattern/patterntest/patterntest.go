// Package patterntest draws figures for tests. It has no source of chance of its own: whoever
// asks gives one, so that a property test can shrink what failed.
package patterntest

import (
	"strings"

	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
)

// Pick chooses a number from 0 to n-1.
type Pick func(n int) int

func one[T any](pick Pick, of []T) T { return of[pick(len(of))] }

// AsWritten draws a figure as teachers write them: one of the catalogue, fingers over a thumb,
// strums, a pick.
func AsWritten(pick Pick) pattern.Pattern {
	if pick(2) == 0 {
		return one(pick, catalogue.All).Pattern
	}
	m := one(pick, pattern.Meters)
	grid := one(pick, m.Grids())
	strokes := one(pick, [][]string{
		{".", ".", "p", "p'", "i", "m", "a", "p+m", "m+a", "p,"},
		{".", ".", "D", "U", "D!", "Dx", "Db", "Ut", "="},
		{".", "p", "p'", "Dt", "Ut", "N", "N+X", "m"},
		{".", "Dr", "D'", "D4", "U3", "D2"},
		{".", "i3", "m2", "p5", "in", "mo", "~", "X", "p*", "i?"},
	})
	var bars []string
	for range 1 + pick(3) {
		slots := []string{strokes[2]}
		for range grid - 1 {
			slots = append(slots, one(pick, strokes))
		}
		bars = append(bars, strings.Join(slots, " "))
	}
	return pattern.MustParse(m.String() + ": " + strings.Join(bars, " | "))
}

// OfNotation draws any figure that the notation can write: every meter and grid, bars that
// begin with nothing or hold nothing, every sign with every target and mark that it takes.
func OfNotation(pick Pick) pattern.Pattern {
	m := one(pick, pattern.Meters)
	grid := one(pick, m.Grids())
	swing := ""
	if n := m.SlotsPerBeat(grid); !m.Compound() && (n == 2 || n == 4) && pick(4) == 0 {
		swing = " swing"
	}
	signs := one(pick, []string{"pima", "DU", "pDU", "DUN", "pimacDUNX~", "pimacDUNX~du", "U", "N", "X", "~", "D", "i", "pi"})
	empty := 1 + pick(5) // of six slots
	var bars []string
	for range 1 + pick(3) {
		var slots []string
		for range grid {
			if pick(6) < empty {
				slots = append(slots, one(pick, []string{".", ".", ".", "="}))
				continue
			}
			slots = append(slots, slotOf(pick, signs))
		}
		bars = append(bars, strings.Join(slots, " "))
	}
	return pattern.MustParse(m.String() + swing + ": " + strings.Join(bars, " | "))
}

// slotOf draws what sounds together: no sign twice, one strum at most.
func slotOf(pick Pick, signs string) string {
	var strokes []string
	used, strum := map[byte]bool{}, false
	for range one(pick, []int{1, 1, 1, 2, 3}) {
		sign := signs[pick(len(signs))]
		across := strings.IndexByte("DUNdu", sign) >= 0
		if used[sign] || across && strum {
			continue
		}
		used[sign], strum = true, strum || across
		strokes = append(strokes, string(sign)+targetOf(pick, sign)+marksOf(pick, sign))
	}
	return strings.Join(strokes, "+")
}

func targetOf(pick Pick, sign byte) string {
	targets := []string{""}
	switch sign {
	case 'p':
		targets = []string{"", "", "", "'", ",", "6", "5", "4", "3"}
	case 'i', 'm', 'a', 'c':
		targets = []string{"", "", "", "n", "o", "1", "2", "3", "4", "9"}
	case 'D', 'U', 'N':
		targets = []string{"", "", "", "b", "t", "r", "'", ",", "6", "1", "654", "321", "43"}
	case '~':
		targets = []string{"", "t"}
	}
	return one(pick, targets)
}

func marksOf(pick Pick, sign byte) string {
	if sign == 'd' || sign == 'u' {
		return ""
	}
	marks := one(pick, []string{"", "", "", "!", "?", "*", "!*"})
	if strings.IndexByte("DUN", sign) >= 0 && pick(5) == 0 {
		marks += "x"
	}
	return marks
}
