package grow

import (
	"slices"

	"arplin/core/ladder"
)

// together walks up several figures of one song, one thing at a time: the figure
// whose next step is the easiest goes on.
func (b *builder) together(figures [][]ladder.Step) (steps []ladder.Step) {
	if len(figures) == 1 {
		return figures[0]
	}
	at := make([]int, len(figures))
	step := func(things []ladder.Thing) ladder.Step {
		s := ladder.Step{Pattern: figures[0][at[0]].Pattern, Parts: b.Parts(), Adds: things}
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
