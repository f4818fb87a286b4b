package ladder

import (
	"arplin/core/difficulty"
)

// parts are the figures of the other parts of the song, whole.
func (st Setting) Parts() (list []difficulty.Figure) {
	for _, t := range st.Whole.Rest {
		list = append(list, difficulty.Figure{Sections: t.Sections, Pattern: t.Pattern})
	}
	return list
}

// figureOf is the figure of a step that a thing is about.
func (s Step) figureOf(part int) Step {
	if part > 0 && part <= len(s.Parts) {
		s.Pattern = s.Parts[part-1].Pattern
	}
	return s
}

// NewIn is the part of the song whose figure a step changes, by its place among the
// step's parts; ok is false where it is the figure of the others, or none is.
func (s Step) NewIn() (part difficulty.Figure, ok bool) {
	for _, th := range s.Adds {
		if th.Part > 0 && th.Part <= len(s.Parts) {
			return s.Parts[th.Part-1], true
		}
	}
	return part, false
}
