package draw

import "fmt"

// TempoHistory draws clean tempos from left (old) to right (new) against the
// goal: a dot each, joined, with the goal as a line across. Without tempos
// there is nothing to draw.
func TempoHistory(tempos []int, goal int) SVG {
	if len(tempos) == 0 {
		return ""
	}
	const w, h, pad = 132.0, 36.0, 7.0
	low, high := goal, goal
	for _, t := range tempos {
		low, high = min(low, t), max(high, t)
	}
	low, high = low-4, high+2
	y := func(t int) float64 { return h - pad - (h-2*pad)*float64(t-low)/float64(high-low) }
	step := 20.0
	if n := len(tempos); n > 1 {
		step = min(step, (w-2*pad)/float64(n-1))
	}
	var c canvas
	c.line("goal", 0, y(goal), w, y(goal))
	var points []float64
	for i, t := range tempos {
		points = append(points, pad+float64(i)*step, y(t))
	}
	c.polyline("history", points...)
	for i := range tempos {
		class := "tempo"
		if i == len(tempos)-1 {
			class = "tempo last"
		}
		c.circle(class, points[2*i], points[2*i+1], 3.5)
	}
	return c.svg("tempos", fmt.Sprintf("clean tempos %v, goal %d", tempos, goal), w, h)
}
