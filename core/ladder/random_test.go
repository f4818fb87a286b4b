package ladder_test

import (
	"strings"

	"pgregory.net/rapid"

	"arplin/core/pattern"
)

// randomFigure draws a figure as teachers write them: fingers over a thumb,
// strums, a pick, or anything.
func randomFigure(t *rapid.T) pattern.Pattern {
	if rapid.Bool().Draw(t, "from the catalogue") {
		return rapid.SampledFrom(pattern.Catalogue).Draw(t, "entry").Pattern
	}
	m := rapid.SampledFrom(pattern.Meters).Draw(t, "meter")
	grid := rapid.SampledFrom(m.Grids()).Draw(t, "grid")
	strokes := rapid.SampledFrom([][]string{
		{".", ".", "p", "p'", "i", "m", "a", "p+m", "m+a", "p,"},
		{".", ".", "D", "U", "D!", "Dx", "Db", "Ut", "="},
		{".", "p", "p'", "Dt", "Ut", "N", "N+X", "m"},
		{".", "Dr", "D'", "D4", "U3", "D2"},
		{".", "i3", "m2", "p5", "in", "mo", "~", "X", "p*", "i?"},
	}).Draw(t, "strokes")
	var bars []string
	for range rapid.IntRange(1, 3).Draw(t, "bars") {
		slots := []string{strokes[2]}
		for range grid - 1 {
			slots = append(slots, rapid.SampledFrom(strokes).Draw(t, "slot"))
		}
		bars = append(bars, strings.Join(slots, " "))
	}
	return pattern.MustParse(m.String() + ": " + strings.Join(bars, " | "))
}
