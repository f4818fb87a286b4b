package draw

import (
	"fmt"
	"strings"
)

// Growth draws how much sounds in each pass of a song: one rising and falling line over the
// columns of the passes.
func Growth(densities []float64, most float64) SVG {
	const column, height = 60.0, 56.0
	c := canvas{}
	width := column * float64(max(1, len(densities)))
	c.line("weekline", 0, height-4, width, height-4)
	var points []float64
	for i, d := range densities {
		x, y := column*(float64(i)+0.5), height-6-(height-16)*d/most
		points = append(points, x, y)
	}
	for i := 0; i < len(points); i += 2 {
		c.rect("growbar", points[i]-column/2+2, points[i+1], column-4, height-4-points[i+1], 0)
	}
	if len(densities) > 1 {
		c.polyline("growline", points...)
	}
	svg := c.svg("growth", fmt.Sprintf("how much sounds in each of %d parts of the song", len(densities)), width, height)
	return SVG(strings.Replace(string(svg), "<svg ", `<svg preserveAspectRatio="none" `, 1)) // as wide as the columns below it
}
