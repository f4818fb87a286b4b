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

// Heard is a tempo that was heard some days ago, clean or not, on a step.
type Heard struct {
	Days  int
	Tempo int
	Clean bool
	Step  int // its number then; 0 for one that is gone
}

// Weeks is the field on which tempos of some weeks are drawn.
type Weeks struct {
	Goal  int
	Weeks int
	Day   func(ago int) string // the date of a day, as it is written: "5 Oct"
}

// Draw draws tempos over the weeks, today at the right: a dot for a clean one, a cross for one that
// was not, a band for the time on each step, so that one sees where it got harder.
func (f Weeks) Draw(heard []Heard) SVG {
	if len(heard) == 0 {
		return ""
	}
	const w, h, left, right, top, foot = 640.0, 190.0, 34.0, 64.0, 8.0, 22.0
	low, high := f.Goal, f.Goal
	for _, t := range heard {
		low, high = min(low, t.Tempo), max(high, t.Tempo)
	}
	low, high = low/10*10, (high+14)/10*10 // room for the names of the steps
	days := 7 * f.Weeks
	if first := heard[0].Days; first < days-7 { // no empty weeks before the first
		days = max(21, (first+13)/7*7)
	}
	x := func(ago int) float64 { return w - right - (w-left-right)*float64(min(ago, days))/float64(days) }
	y := func(tempo int) float64 { return h - foot - (h-foot-top)*float64(tempo-low)/float64(high-low) }
	var c canvas
	f.bands(&c, heard, x, top, h-foot)
	for tempo := low; tempo <= high; tempo += 10 {
		c.line("weekline", left, y(tempo), w-right, y(tempo))
		c.text("weekno", left-6, y(tempo)+4, fmt.Sprint(tempo))
	}
	every := 7 * ((days/7 + 5) / 6)
	for ago := days; ago >= 0; ago -= every {
		c.text("weekday", x(ago), h-4, f.Day(ago))
	}
	c.line("goal", left, y(f.Goal), w-right, y(f.Goal))
	c.text("goalword", w-right+6, y(f.Goal)+4, fmt.Sprintf("goal %d", f.Goal))
	var line []float64
	for i, t := range heard {
		if i > 0 && t.Step != heard[i-1].Step { // another step is another line
			c.polyline("history", line...)
			line = nil
		}
		line = append(line, x(t.Days), y(t.Tempo))
	}
	c.polyline("history", line...)
	for _, t := range heard {
		const r = 4.0
		if t.Clean {
			c.circle("tempo last", x(t.Days), y(t.Tempo), r)
			continue
		}
		c.line("notclean", x(t.Days)-r, y(t.Tempo)-r, x(t.Days)+r, y(t.Tempo)+r)
		c.line("notclean", x(t.Days)-r, y(t.Tempo)+r, x(t.Days)+r, y(t.Tempo)-r)
	}
	last := heard[len(heard)-1]
	if y(last.Tempo)-y(f.Goal) > 12 || y(f.Goal)-y(last.Tempo) > 12 {
		c.text("lasttempo", x(last.Days)+8, y(last.Tempo)+5, fmt.Sprint(last.Tempo))
	}
	return c.svg("weeks", f.label(heard), w, h)
}

// bands shade every other step and name each at its top.
func (f Weeks) bands(c *canvas, heard []Heard, x func(int) float64, top, bottom float64) {
	from, shaded := x(heard[0].Days)-6, false
	for i, t := range heard {
		if i+1 < len(heard) && heard[i+1].Step == t.Step {
			continue
		}
		to := x(t.Days) + 6
		if i+1 < len(heard) {
			to = (x(t.Days) + x(heard[i+1].Days)) / 2
		}
		if shaded {
			c.rect("band", from, top, to-from, bottom-top, 0)
		}
		if t.Step > 0 && to-from > 20 {
			name := fmt.Sprintf("step %d", t.Step)
			if to-from < 44 {
				name = fmt.Sprint(t.Step)
			}
			c.text("stepword", from+6, top+12, name)
		}
		from, shaded = to, !shaded
	}
}

// label says the chart in words.
func (f Weeks) label(heard []Heard) string {
	last := heard[len(heard)-1]
	many := "tempos"
	if len(heard) == 1 {
		many = "tempo"
	}
	return fmt.Sprintf("%d %s, from %d on %s to %d on %s, goal %d", len(heard), many, heard[0].Tempo, f.Day(heard[0].Days), last.Tempo, f.Day(last.Days), f.Goal)
}
