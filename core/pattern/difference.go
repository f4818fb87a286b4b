package pattern

// Place is a stroke's place in a pattern, counted from 0.
type Place struct {
	Bar, Slot int
	Sign      Sign
}

// New lists the strokes of a pattern that another does not have, or has on
// another string. One with fewer bars repeats under the longer one. On twice
// the grid the second half of the bar is new; on others nothing can be compared.
func New(p, below Pattern) map[Place]bool {
	places := map[Place]bool{}
	switch {
	case p.Grid() == 2*below.Grid(): // twice as fast: what comes a second time is new
		p.Each(func(pl Place, _ Stroke) {
			if pl.Slot >= below.Grid() {
				places[pl] = true
			}
		})
		return places
	case p.Grid() != below.Grid():
		return places // the same places have other names
	}
	p.Each(func(pl Place, st Stroke) {
		if was, ok := below.At(pl); !ok || was != st {
			places[pl] = true
		}
	})
	return places
}

// Missing lists the strokes of the target that a pattern leaves out, for the
// bars that the pattern has.
func Missing(p, target Pattern) map[Place]bool {
	places := map[Place]bool{}
	if p.Grid() != target.Grid() {
		return places
	}
	target.Each(func(pl Place, _ Stroke) {
		if _, ok := p.At(pl); !ok && pl.Bar < len(p.Bars) {
			places[pl] = true
		}
	})
	return places
}

// Each visits every stroke in order, stops included.
func (p Pattern) Each(visit func(Place, Stroke)) {
	for b, bar := range p.Bars {
		for i, slot := range bar {
			if slot.Stop {
				visit(Place{b, i, StopSign}, Stroke{Sign: StopSign})
			}
			for _, st := range slot.Strokes {
				visit(Place{b, i, st.Sign}, st)
			}
		}
	}
}

// At finds the stroke at a place; the pattern repeats.
func (p Pattern) At(pl Place) (Stroke, bool) {
	bar := p.Bars[pl.Bar%len(p.Bars)]
	if pl.Slot >= len(bar) {
		return Stroke{}, false
	}
	if pl.Sign == StopSign {
		return Stroke{Sign: StopSign}, bar[pl.Slot].Stop
	}
	return bar[pl.Slot].Find(pl.Sign)
}
