package draw

import (
	"fmt"
	"strings"
)

// Growth draws how a song grows, over the columns of its passes: how much sounds in each as
// bars, of which most is the highest, and how hard it is, from 1 to 10, as a line.
func Growth(densities []float64, most float64, levels []float64) SVG {
	const column, height = 60.0, 56.0
	const top = 10.0 // of the levels
	c := canvas{}
	width := column * float64(max(1, len(densities)))
	c.line("weekline", 0, height-4, width, height-4)
	at := func(share float64) float64 { return height - 6 - (height-16)*share }
	for i, d := range densities {
		c.rect("growbar", column*float64(i)+2, at(d/most), column-4, height-4-at(d/most), 0)
	}
	var points []float64
	for i, level := range levels {
		points = append(points, column*(float64(i)+0.5), at(level/top))
	}
	if len(levels) > 1 {
		c.polyline("growline", points...)
	}
	svg := c.svg("growth", fmt.Sprintf("how much sounds in each of %d parts of the song, and how hard it is", len(densities)), width, height)
	return SVG(strings.Replace(string(svg), "<svg ", `<svg preserveAspectRatio="none" `, 1)) // as wide as the columns below it
}
