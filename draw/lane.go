package draw

import (
	"strings"

	"arplin/core/pattern"
)

const (
	laneSlot   = 20.0
	laneHeight = 30.0
	laneGap    = 5.0
)

// laneLetter is the height of a letter in a lane.
const laneLetter = 12.5

// Lane draws a pattern on one line, without strings: the marks of the strip,
// small, for lists. Strokes of one slot share a place, the thumb's below.
func Lane(p pattern.Pattern, fresh map[pattern.Place]bool, label string) SVG {
	return lane(p, fresh, nil, label)
}

// CountedLane has the count under every slot: what is said and tapped before the
// strings.
func CountedLane(p pattern.Pattern, label string) SVG { return lane(p, nil, p.Counts(), label) }

func lane(p pattern.Pattern, fresh map[pattern.Place]bool, counts []string, label string) SVG {
	most := 0
	for _, bar := range p.Bars {
		for _, slot := range bar {
			most = max(most, len(slot.Strokes))
		}
	}
	c := laneCanvas{height: max(laneHeight, 5+laneLetter*float64(most))}
	x := 2.0
	c.grid(x, laneSlot, p.Grid(), laneGap)
	for b, bar := range p.Bars {
		if b > 0 {
			c.line("barline", x+2, 3, x+2, c.height-3)
			x += laneGap
		}
		for i, slot := range bar {
			if p.OnBeat(i) {
				c.rect("band", x+1, 1, laneSlot-2, c.height-2, 2)
			}
			c.slot(x+laneSlot/2, slot, func(st pattern.Stroke) bool { return fresh[pattern.Place{Bar: b, Slot: i, Sign: st.Sign}] })
			if counts != nil {
				class := "count"
				if p.OnBeat(i) {
					class = "count beat"
				}
				c.text(class, x+laneSlot/2, c.height+9, counts[i])
			}
			x += laneSlot
		}
	}
	height := c.height
	if counts != nil {
		height += laneSlot
	}
	return c.svg("lane", label, x+2, height)
}

// laneCanvas is as high as the most strokes in one slot need.
type laneCanvas struct {
	canvas
	height float64
}

func (c *laneCanvas) slot(x float64, slot pattern.Slot, isNew func(pattern.Stroke) bool) {
	class := func(base string, st pattern.Stroke) string {
		if isNew(st) {
			return base + " new"
		}
		return base
	}
	if slot.Empty() {
		c.circle("rest", x, c.height/2, 1.2)
		return
	}
	if slot.Stop {
		c.line("stop", x, 6, x, c.height-6)
		return
	}
	bottom := c.height/2 + laneLetter*float64(len(slot.Strokes)-1)/2
	for i, st := range slot.Strokes {
		y := bottom - laneLetter*float64(i) // the thumb stands first, so lowest
		letter := st.Sign.String()
		if st.Target.Kind == pattern.Alternate || st.Target.Kind == pattern.LowFifth {
			letter += strings.TrimPrefix(pattern.Stroke{Sign: st.Sign, Target: st.Target}.String(), letter)
		}
		if isNew(st) { // filled, so that it's seen from across the room and in black and white
			c.rect("newbox", x-laneSlot/2+1, y-laneLetter/2-0.5, laneSlot-2, laneLetter+1, 2)
		}
		c.text(class("laneletter", st), x, y, letter)
	}
}
