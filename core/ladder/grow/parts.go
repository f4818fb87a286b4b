package grow

import (
	"slices"

	"arplin/core/difficulty"
	"arplin/core/ladder"
	"arplin/core/ladder/order"
	"arplin/core/pattern"
)

// Figures is the way to a figure alone, as steps without levels.
func Figures(c order.Choice, p pattern.Pattern) (steps []ladder.Step) {
	for _, r := range way(c, p) {
		steps = append(steps, ladder.Step{Pattern: r.pattern, Adds: r.adds, Home: r.home})
	}
	return steps
}

// OnOneChord is the way to the figure of a task on its first chord, with levels.
func OnOneChord(c order.Choice, t difficulty.Task, w difficulty.Weights) []ladder.Step {
	b := builder{Setting: ladder.SettingOf(t), weights: w}
	steps := Figures(c, t.Pattern)
	for i := range steps {
		steps[i].Over = ladder.OneChord
		steps[i].Level = b.level(steps[i])
	}
	return steps
}

// figures is the way to the target's figure; of a song with a figure for each part, to all of them,
// one thing in one of them at a time.
func (b *builder) figures() []ladder.Step {
	ways := [][]ladder.Step{Figures(b.choice, b.Whole.Pattern)}
	for _, part := range b.Whole.Rest {
		ways = append(ways, Figures(b.choice, part.Pattern))
	}
	if len(ways) == 1 {
		return ways[0]
	}
	at := make([]int, len(ways))
	step := func(things []ladder.Thing) ladder.Step {
		s := ladder.Step{Pattern: ways[0][at[0]].Pattern, Parts: b.Parts(), Adds: things}
		for k := range s.Parts {
			s.Parts[k].Pattern = ways[k+1][at[k+1]].Pattern
			s.Home = s.Home || ways[k+1][at[k+1]].Home
		}
		s.Home = s.Home || ways[0][at[0]].Home
		return s
	}
	steps := []ladder.Step{step(ways[0][0].Adds)}
	for next := b.next(ways, at); next >= 0; next = b.next(ways, at) {
		at[next]++
		things := slices.Clone(ways[next][at[next]].Adds)
		for i := range things {
			things[i].Part = next
		}
		steps = append(steps, step(things))
	}
	return steps
}

// next is the part whose figure goes on: the first that is not whole, or that whose next step is the
// easiest; -1 where all are whole.
func (b *builder) next(ways [][]ladder.Step, at []int) int {
	next, easiest := -1, 0.0
	for k, way := range ways {
		if at[k]+1 >= len(way) {
			continue
		}
		if b.choice.Parts == order.PartByPart {
			return k
		}
		t := b.Task(ladder.Step{Pattern: b.Whole.Pattern, Parts: b.Parts(), Over: ladder.OneChord})
		if k > 0 {
			t = t.Rest[k-1]
		}
		t.Pattern, t.Rest = way[at[k]+1].Pattern, nil
		if level := difficulty.LevelOf(t, b.weights); next < 0 || level < easiest {
			next, easiest = k, level
		}
	}
	return next
}
