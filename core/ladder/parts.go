package ladder

import (
	"slices"

	"arplin/core/difficulty"
)

// parts are the figures of the other parts of the song, whole.
func (st stages) parts() (list []difficulty.Figure) {
	for _, t := range st.whole.Rest {
		list = append(list, difficulty.Figure{Sections: t.Sections, Pattern: t.Pattern})
	}
	return list
}

// together walks up several figures of one song, one thing at a time: the figure
// whose next step is the easiest goes on.
func (b *builder) together(figures [][]Step) (steps []Step) {
	if len(figures) == 1 {
		return figures[0]
	}
	at := make([]int, len(figures))
	step := func(things []Thing) Step {
		s := Step{Pattern: figures[0][at[0]].Pattern, Parts: b.parts(), Adds: things}
		for k := range s.Parts {
			s.Parts[k].Pattern = figures[k+1][at[k+1]].Pattern
		}
		return s
	}
	steps = append(steps, step(figures[0][0].Adds))
	for {
		next := -1
		for k, list := range figures {
			if at[k]+1 < len(list) && (next < 0 || list[at[k]+1].Level < figures[next][at[next]+1].Level) {
				next = k
			}
		}
		if next < 0 {
			return steps
		}
		at[next]++
		things := slices.Clone(figures[next][at[next]].Adds)
		for i := range things {
			things[i].Part = next
		}
		steps = append(steps, step(things))
	}
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
