package ladder

import (
	"slices"

	"arplin/core/pattern"
)

// contains reports that every stroke of a figure is in another, at its place; what has
// marks or another bass string there counts.
func Contains(p, below pattern.Pattern) bool {
	if p.Grid() != below.Grid() || len(p.Bars) != len(below.Bars) {
		return false
	}
	all := true
	below.Each(func(pl pattern.Place, _ pattern.Stroke) {
		if _, ok := p.At(pl); !ok {
			all = false
		}
	})
	return all
}

// PartOf is the bars of a target that a step's figure grows into, from which bar on; ok is false where
// it has a stroke that none of them has.
func (s Step) PartOf(target pattern.Pattern) (part pattern.Pattern, from int, ok bool) {
	p := s.Pattern
	for from := 0; from+len(p.Bars) <= len(target.Bars); from++ {
		part := target
		part.Bars = target.Bars[from : from+len(p.Bars)]
		if Contains(part, p) {
			return part, from, true
		}
	}
	return part, 0, false
}

// Fewer reports fewer chords than another.
func (o Over) Fewer(than Over) bool {
	rank := func(o Over) int {
		switch o {
		case OneChord:
			return 1
		case TwoChords, TwoChordsABar:
			return 2
		case AllChords, "":
			return 1000
		}
		return o.Chords()
	}
	return rank(o) < rank(than)
}

// isBass reports a stroke of the thumb, or of the pick in its place.
func IsBass(st pattern.Stroke) bool {
	switch st.Target.Kind {
	case pattern.Root, pattern.Alternate, pattern.LowFifth:
		return true
	}
	return st.Sign == pattern.Thumb
}

// signAt is how far out a finger lies, from the thumb.
func SignAt(s pattern.Sign) int {
	return slices.Index([]pattern.Sign{pattern.Thumb, pattern.Index, pattern.Middle, pattern.Ring, pattern.Little}, s)
}
