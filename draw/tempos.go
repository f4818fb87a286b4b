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

// Heard is a tempo that was heard some days ago, clean or not, on the step where the
// student stands now or on another.
type Heard struct {
	Days        int
	Tempo       int
	Clean, Here bool
}

// TempoWeeks draws tempos over a number of weeks, today at the right: a filled dot for a
// clean one, a cross for one that was not, larger on the step of now, whose goal is the
// line across.
func TempoWeeks(heard []Heard, goal, weeks int) SVG {
	if len(heard) == 0 {
		return ""
	}
	const w, h, pad, foot = 460.0, 110.0, 8.0, 16.0
	low, high := goal, goal
	for _, t := range heard {
		low, high = min(low, t.Tempo), max(high, t.Tempo)
	}
	low, high = low-6, high+4
	week := (w - 2*pad) / float64(weeks)
	x := func(days int) float64 { return w - pad - week*float64(days)/7 }
	y := func(tempo int) float64 { return h - foot - (h-foot-pad)*float64(tempo-low)/float64(high-low) }
	var c canvas
	for i := range weeks + 1 {
		c.line("weekline", x(7*i), pad, x(7*i), h-foot)
	}
	c.line("goal", 0, y(goal), w, y(goal))
	c.text("weekno", x(0), h-3, "today")
	c.text("weekno", x(7*(weeks/2)), h-3, fmt.Sprintf("%d weeks ago", weeks/2))
	var clean []float64
	for _, t := range heard {
		if t.Clean {
			clean = append(clean, x(t.Days), y(t.Tempo))
		}
	}
	c.polyline("history", clean...)
	for _, t := range heard {
		class, r := "tempo", 3.0
		if t.Here {
			class, r = "tempo last", 4.5
		}
		if t.Clean {
			c.circle(class, x(t.Days), y(t.Tempo), r)
			continue
		}
		c.line("notclean", x(t.Days)-r, y(t.Tempo)-r, x(t.Days)+r, y(t.Tempo)+r)
		c.line("notclean", x(t.Days)-r, y(t.Tempo)+r, x(t.Days)+r, y(t.Tempo)-r)
	}
	last := heard[len(heard)-1]
	many := "tempos"
	if len(heard) == 1 {
		many = "tempo"
	}
	return c.svg("weeks", fmt.Sprintf("%d %s over %d weeks, the last %d, goal %d", len(heard), many, weeks, last.Tempo, goal), w, h)
}
