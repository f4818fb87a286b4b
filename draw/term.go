package draw

import (
	"fmt"
	"slices"
)

// Knot is a week that has something of a thread in it.
type Knot struct {
	Week int    // from 1
	Kind string // "new", "practised" or "back"
}

// TermThread is a skill over the weeks.
type TermThread struct {
	Name  string
	Knots []Knot
}

// Term draws weeks across and threads down: a filled amber knot where something is new, a
// small one where it is practised, a hollow one where it is due back; the concert is an
// upright line, and so is the week of now, where it is one of them (from 1); weeks off are grey.
func Term(threads []TermThread, weeks, now int, concert string, off ...int) SVG {
	if len(threads) == 0 {
		return ""
	}
	const names, row, top, week = 290.0, 34.0, 44.0, 62.0
	w, h := names+week*float64(weeks)+90, top+row*float64(len(threads))+6
	x := func(n int) float64 { return names + week*(float64(n)-0.5) }
	var c canvas
	for n := 1; n <= weeks; n++ {
		c.line("weekline", x(n), top-14, x(n), h)
		class := "termweek"
		if slices.Contains(off, n) {
			c.rect("offweek", x(n)-week/2+3, top-14, week-6, h-top+14, 4)
			c.text("termoff", x(n), h-6, "off")
		}
		if n == now {
			class = "termweek now"
			c.rect("nowweek", x(n)-week/2, top-34, week, h-top+34, 6)
		}
		c.text(class, x(n), top-22, fmt.Sprint(n))
	}
	end := names + week*float64(weeks) + 6
	for i, th := range threads {
		y := top + row*(float64(i)+0.5)
		c.text("threadname", 0, y, th.Name)
		if n := len(th.Knots); n > 1 {
			c.line("thread", x(th.Knots[0].Week), y, x(th.Knots[n-1].Week), y)
		}
		for _, k := range th.Knots {
			switch k.Kind {
			case "new":
				c.circle("knot new", x(k.Week), y, 10)
			case "back":
				c.circle("knot back", x(k.Week), y, 6.5)
			default:
				c.circle("knot", x(k.Week), y, 6)
			}
		}
	}
	c.line("concert", end, top-14, end, h)
	c.text("concertname", end+8, top-8, concert)
	return c.svg("term", fmt.Sprintf("%d weeks: what is new, practised and due back", weeks), w, h)
}

// StepSpan draws the steps on which somebody is likely to be: the way up to now is thin,
// the range is a bar, and what is likeliest is its mark. Steps count from 0.
func StepSpan(now, low, likely, high, steps int) SVG {
	const w, h, step = 220.0, 22.0, 200.0
	x := func(n int) float64 { return 10 + step*float64(n)/float64(max(1, steps-1)) }
	var c canvas
	c.line("weekline", x(0), h/2, x(steps-1), h/2)
	c.line("spanway", x(0), h/2, x(now), h/2)
	c.rect("spanbar", x(low)-4, h/2-5, x(high)-x(low)+8, 10, 5)
	c.circle("spanlikely", x(likely), h/2, 6)
	return c.svg("span", fmt.Sprintf("now step %d; likely step %d, from %d to %d, of %d", now+1, likely+1, low+1, high+1, steps), w, h)
}
