package draw

import (
	"strings"

	"arplin/core/hand"
	"arplin/core/vary"
)

const (
	laneSlot   = 20.0
	laneHeight = 30.0
)

// Lane draws a pattern on one line, without strings: the marks of the strip,
// small, for lists. Strokes of one slot share a place, the thumb's below.
func Lane(p hand.Pattern, fresh map[vary.Place]bool, label string) string {
	var c canvas
	x := 2.0
	for b, bar := range p.Bars {
		if b > 0 {
			c.line("barline", x+2, 3, x+2, laneHeight-3)
			x += 5
		}
		for i, slot := range bar {
			if p.OnBeat(i) {
				c.rect("band", x+1, 1, laneSlot-2, laneHeight-2, 2)
			}
			c.laneSlot(x+laneSlot/2, slot, func(st hand.Stroke) bool { return fresh[vary.Place{Bar: b, Slot: i, Sign: st.Sign}] })
			x += laneSlot
		}
	}
	return c.svg("lane", label, x+2, laneHeight)
}

func (c *canvas) laneSlot(x float64, slot hand.Slot, isNew func(hand.Stroke) bool) {
	class := func(base string, st hand.Stroke) string {
		if isNew(st) {
			return base + " new"
		}
		return base
	}
	if slot.Empty() {
		c.circle("rest", x, laneHeight/2, 1.2)
		return
	}
	if slot.Stop {
		c.line("stop", x, 6, x, laneHeight-6)
		return
	}
	step := (laneHeight - 6) / float64(len(slot.Strokes)+1)
	for i, st := range slot.Strokes {
		y := laneHeight - 3 - step*float64(i+1) // the thumb stands first, so lowest
		letter := st.Sign.String()
		if st.Target.Kind == hand.Alternate || st.Target.Kind == hand.LowFifth {
			letter += strings.TrimPrefix(hand.Stroke{Sign: st.Sign, Target: st.Target}.String(), letter)
		}
		c.text(class("laneletter", st), x, y, letter)
	}
}
