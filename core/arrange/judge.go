package arrange

import (
	"fmt"
	"strings"
)

func (b Band) sum(pass int, cells []Cell) (bass, middle, beat bool) {
	for _, c := range cells {
		x, y, z := b.has(pass, c.Part)
		bass, middle, beat = bass || x, middle || y, beat || z
	}
	return bass, middle, beat
}

// Lacks says what a pass, from 0, lacks: "a bass", "a middle", "a beat".
func (b Band) Lacks(pass int, cells []Cell) (list []string) {
	bass, middle, beat := b.sum(pass, cells)
	for _, x := range []struct {
		there bool
		name  string
	}{{bass, "a bass"}, {middle, "a middle: fingers or strums"}, {beat, "a beat: someone who plays every one"}} {
		if !x.there {
			list = append(list, x.name)
		}
	}
	return list
}

// Effort is how hard a pass is, on the average of the groups.
func (b Band) Effort(cells []Cell) (mean float64) {
	for _, c := range cells {
		mean += b.Level(c.Part) / float64(len(cells))
	}
	return mean
}

// Density is how many strokes a bar all groups have together in a pass, from 0.
func (b Band) Density(pass int, cells []Cell) (sum float64) {
	for _, c := range cells {
		sum += b.strokes(pass, c.Part)
	}
	return sum
}

// boredBy is how far below what a group can do all of its parts lie where it is bored, in
// levels. From memory.
const boredBy = 2.5

// Fit says of a group whether an arrangement fits it, with what to do; empty where it does.
func (b Band) Fit(cells [][]Cell, g int) string {
	can, most := b.can(g), 0.0
	var above []string
	for p := range cells {
		most = max(most, b.Level(cells[p][g].Part))
		if b.Above(cells[p][g].Part, g) {
			above = append(above, fmt.Sprint(p+1))
		}
	}
	name := b.Groups[g].Name
	switch {
	case len(above) > 0:
		return fmt.Sprintf("%s is stretched in part %s: %s", name, strings.Join(above, ", "), b.swap(cells, g, true))
	case most < can-boredBy:
		return fmt.Sprintf("%s could play more than this anywhere: %s", name, b.swap(cells, g, false))
	}
	return ""
}

// swap is the nearest thing to do.
func (b Band) swap(cells [][]Cell, g int, down bool) string {
	best := b.best(b.Groups[g])
	if best < 0 {
		return "give them each chord once"
	}
	for other := range b.Groups {
		if other == g || down == (b.Groups[other].Best <= b.Groups[g].Best) {
			continue
		}
		for p := range cells {
			mine, theirs := b.Level(cells[p][g].Part), b.Level(cells[p][other].Part)
			if down && theirs <= b.can(g) && mine <= b.can(other) || !down && theirs > mine && theirs <= b.can(g) {
				return fmt.Sprintf("swap with %s in part %d", b.Groups[other].Name, p+1)
			}
		}
	}
	return fmt.Sprintf("their own step is %s", b.Rungs[best].Name)
}
