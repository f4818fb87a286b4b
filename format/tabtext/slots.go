package tabtext

import (
	"fmt"
	"slices"

	"arplin/core/pattern"
)

// Slots puts the hits of a bar into slots of a meter: by the count under it, else by the widest
// regular distance on which all of them lie, else each into the nearest. How says which.
func (b Bar) Slots(m pattern.Meter) (grid int, slots [][]Hit, how string) {
	place := func(grid int, of func(column int) int) [][]Hit {
		slots := make([][]Hit, grid)
		for _, h := range b.Hits {
			at := max(0, min(grid-1, of(h.Column)))
			slots[at] = append(slots[at], h)
		}
		return slots
	}
	byCount := func(all bool) bool {
		shift, found := b.countShift()
		grid = len(b.counts)
		if !slices.Contains(m.Grids(), grid) || all && found < len(b.columns()) {
			return false
		}
		slots, how = place(grid, func(column int) int { return b.underCount(column - shift) }), "by the count under it"
		return true
	}
	if byCount(true) {
		return grid, slots, how
	}
	grids := m.Grids()
	for step := b.Width; step >= 1; step-- {
		for _, n := range grids {
			if first, ok := b.regular(step, n); ok {
				return n, place(n, func(column int) int { return (column - first) / step }), fmt.Sprintf("%d places, %s apart", n, lettersText(step))
			}
		}
	}
	if byCount(false) && len(b.columns()) <= grid {
		return grid, slots, how + ". Not all notes are on it, so each was put in the nearest place"
	}
	n := grids[min(1, len(grids)-1)]
	if len(b.columns()) > n {
		n = grids[len(grids)-1]
	}
	lead := b.lead()
	of := func(column int) int { return int(float64(column-lead)*float64(n)/float64(max(1, b.Width-lead)) + 0.5) }
	return n, place(n, of), fmt.Sprintf("%d places. Its notes are uneven, so each was put in the nearest place", n)
}

func lettersText(n int) string {
	if n == 1 {
		return "one letter"
	}
	return fmt.Sprintf("%d letters", n)
}

// countShift is by how many letters the count stands beside the notes: written by hand it is often
// one off. The shift under which most notes have a count is taken, the smallest of
// equals, and that by which the first note is the earlier.
func (b Bar) countShift() (shift, most int) {
	most = -1
	for _, d := range []int{0, 1, -1, 2, -2} {
		n := 0
		for _, c := range b.columns() {
			if slices.Contains(b.counts, c-d) {
				n++
			}
		}
		if n > most {
			most, shift = n, d
		}
	}
	return shift, most
}

// underCount is the count that stands nearest to a column.
func (b Bar) underCount(column int) int {
	best := 0
	for i, c := range b.counts {
		if abs(c-column) < abs(b.counts[best]-column) {
			best = i
		}
	}
	return best
}

func abs(n int) int { return max(n, -n) }

// columns are those in which something is struck.
func (b Bar) columns() (list []int) {
	for _, h := range b.Hits {
		if n := len(list); n == 0 || list[n-1] != h.Column {
			list = append(list, h.Column)
		}
	}
	return list
}

// lead is how many letters stand before the first place: as tablature is mostly written one or
// two dashes, never as many as a place is wide.
func (b Bar) lead() int {
	if c := b.columns(); len(c) > 0 {
		return min(c[0], 2)
	}
	return 0
}

// regular reports that all hits lie on places so many letters apart, as many as fill the bar.
func (b Bar) regular(step, places int) (first int, ok bool) {
	columns := b.columns()
	if len(columns) == 0 {
		return 0, places*step <= b.Width && b.Width < (places+1)*step
	}
	first = columns[0] % step
	if first > 2 && first >= step-1 {
		return 0, false
	}
	for _, c := range columns {
		if (c-first)%step != 0 || (c-first)/step >= places {
			return 0, false
		}
	}
	room := b.Width - first
	return first, room >= (places-1)*step && room <= places*step+step-1+2
}
