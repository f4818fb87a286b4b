package grow

import (
	"slices"

	"arplin/core/difficulty"
	"arplin/core/ladder"
	"arplin/core/ladder/order"
	"arplin/core/pattern"
)

// rung is a figure on the way to a target, and the one thing that it adds to the one below.
type rung struct {
	pattern pattern.Pattern
	adds    []ladder.Thing
	inner   bool // a step between, for those who go stroke by stroke: a motion or a finger's part goes on
	home    bool // cannot be played together with the target
}

// way is the way to a figure as teachers build it, the easiest first. It depends on the figure,
// the order and the size of a step alone: not on chords, tempo or instrument.
func way(c order.Choice, p pattern.Pattern) []rung {
	c = c.Whole()
	var list []rung
	if c.Order == order.RhythmFirst { // easier rhythms are to fall back on; what comes first is without strings
		list = []rung{{pattern: p, adds: stage(ladder.WholeFigure)}}
	} else {
		list = grow(c.Order, p)
	}
	if n := len(list); n == 0 || !list[n-1].pattern.Equal(p) {
		list = append(list, rung{pattern: p, adds: stage(ladder.WholeFigure)})
	}
	for i := range list {
		list[i].pattern = canonical(list[i].pattern)
	}
	list = distinct(list)
	switch c.Size {
	case order.Usual:
		list = usual(list)
	case order.Big:
		list = big(usual(list))
	}
	list[0].adds = begin(list[0])
	return list
}

// begin is what the first figure of a way adds to nothing.
func begin(r rung) []ladder.Thing {
	switch r.adds[0].Stage {
	case ladder.StrokeABeat:
		return r.adds
	case ladder.FirstStroke, ladder.Notes, ladder.Onwards:
		return stage(ladder.FirstStroke)
	}
	return stage(ladder.WholeFigure)
}

func stage(s ladder.Stage) []ladder.Thing { return []ladder.Thing{{Stage: s}} }

// usual takes the steps between together.
func usual(way []rung) (list []rung) {
	for i, r := range way {
		if r.inner && i < len(way)-1 {
			continue
		}
		list = append(list, r)
	}
	return list
}

// big takes two steps at a time, from the target down.
func big(way []rung) (list []rung) {
	var waiting []ladder.Thing
	for i, r := range way {
		if waiting = append(waiting, r.adds...); (len(way)-1-i)%2 == 1 {
			continue
		}
		if n := len(list); n > 0 {
			r.adds = things(waiting, list[n-1].pattern, r.pattern)
		} else {
			r.adds = stage(ladder.FirstStroke)
		}
		waiting = nil
		list = append(list, r)
	}
	return list
}

// things are what several steps add to a figure, each once. Strokes are named by the strokes that are
// new; where the figure below is not in this one, it is named as a whole.
func things(list []ladder.Thing, below, p pattern.Pattern) (out []ladder.Thing) {
	holds, strokes := ladder.Contains(p, below), false
	for _, th := range list {
		switch {
		case slices.Contains(out, th), holds && th.Rule == leftOut:
		case th.Rule == "" && holds && slices.Contains(ofStrokes, th.Stage):
			strokes = true
		case th.Rule == "" && !holds && slices.Contains(ofStrokes, th.Stage):
			if len(list) > 1 {
				return stage(ladder.WholeFigure)
			}
			out = append(out, th)
		default:
			out = append(out, th)
		}
	}
	if strokes {
		out = append(stage(ladder.Notes), out...)
	}
	return out
}

// ofStrokes are the stages that bring strokes alone.
var ofStrokes = []ladder.Stage{ladder.FirstStroke, ladder.Notes, ladder.Onwards, ladder.Again, ladder.StrokeABeat, ladder.AtRate}

// canonical is a figure as it is read from its notation.
func canonical(p pattern.Pattern) pattern.Pattern {
	if q, err := pattern.Decode(p.String()); err == nil {
		return q
	}
	return p
}

// distinct leaves out a figure that is the one before, or has nothing in it.
func distinct(way []rung) (list []rung) {
	for i, r := range way {
		switch n := len(list); {
		case n > 0 && list[n-1].pattern.Equal(r.pattern):
			list[n-1].inner = list[n-1].inner && r.inner
		case empty(r.pattern) && i < len(way)-1:
		default:
			list = append(list, r)
		}
	}
	return list
}

func empty(p pattern.Pattern) bool {
	return !slices.ContainsFunc(p.Bars, func(bar pattern.Bar) bool {
		return slices.ContainsFunc(bar, func(s pattern.Slot) bool { return !s.Empty() })
	})
}

// grow takes off what is learned last, then the bars after the first; what is left grows by strokes.
// Source: common practice.
func grow(o order.Order, p pattern.Pattern) []rung {
	for _, f := range features {
		if q, ok := f.off(o, p); ok && !empty(q) {
			return f.on(o, p, grow(o, q))
		}
	}
	if len(p.Bars) > 1 {
		return bars(o, p)
	}
	return onTheGrid(p, func(p pattern.Pattern) []rung {
		if o == order.CellByCell {
			return cellWay(p)
		}
		return skeleton(p)
	})
}

// onTheGrid grows a figure on the coarsest grid that holds it.
func onTheGrid(p pattern.Pattern, by func(pattern.Pattern) []rung) []rung {
	list := by(difficulty.Coarsest(p))
	for i := range list {
		list[i].pattern, _, _ = list[i].pattern.Regrid(p.Grid())
	}
	return list
}

// bars is the first bar, each further one alone, and joined to those before.
func bars(o order.Order, p pattern.Pattern) []rung {
	part := func(from, to int) pattern.Pattern {
		q := p
		q.Bars = p.Bars[from:to]
		return q.Clone()
	}
	list := grow(o, part(0, 1))
	for i := 1; i < len(p.Bars); i++ {
		other := part(i, i+1) // unless it is known: as a bar, or as a step on the way to one
		if !empty(other) && !slices.ContainsFunc(list, func(r rung) bool { return r.pattern.Equal(other) }) {
			list = append(list, rung{pattern: other, adds: stage(ladder.OtherBar)})
		}
		list = append(list, rung{pattern: part(0, i+1), adds: stage(ladder.BothBars)})
	}
	return list
}

func sameSlot(a, b pattern.Slot) bool { return a.Stop == b.Stop && slices.Equal(a.Strokes, b.Strokes) }
