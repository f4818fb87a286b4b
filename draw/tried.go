package draw

import "fmt"

// TriedRow is a kind of simulated class: how many play at the goal in the end, taught in two ways.
type TriedRow struct {
	Name       string
	Plan, Same float64
}

// Tried draws what came of a term on simulated classes: two bars a kind, as long as people are at the goal.
func Tried(rows []TriedRow, students int) SVG {
	if len(rows) == 0 || students <= 0 {
		return ""
	}
	const names, row, bar, width = 190.0, 58.0, 18.0, 420.0
	var c canvas
	x := func(n float64) float64 { return names + width*n/float64(students) }
	h := row*float64(len(rows)) + 24
	for n := 0; n <= students; n++ {
		c.line("weekline", x(float64(n)), 0, x(float64(n)), h-22)
		if n%max(1, (students+9)/10) == 0 {
			c.text("termweek", x(float64(n)), h-8, fmt.Sprint(n))
		}
	}
	for i, r := range rows {
		y := row*float64(i) + 6
		c.text("threadname", 0, y+bar, r.Name)
		c.rect("triedplan", names, y, max(1, x(r.Plan)-names), bar, 3)
		c.rect("triedsame", names, y+bar+3, max(1, x(r.Same)-names), bar, 3)
		c.text("triednumber", x(r.Plan)+6, y+bar/2, fmt.Sprintf("%.1f", r.Plan))
		c.text("triednumber", x(r.Same)+6, y+bar*1.5+3, fmt.Sprintf("%.1f", r.Same))
	}
	return c.svg("term tried", fmt.Sprintf("of %d students, how many are at the goal in the end: by the plan, and all the same", students), names+width+50, h)
}
