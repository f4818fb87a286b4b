package grow

import (
	"math"
	"slices"

	"arplin/core/difficulty"
	"arplin/core/ladder"
	"arplin/core/ladder/order"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/variation"
)

// Rises of the level from step to step; from memory.
const (
	leastRise = 0.1 // less is no step of its own
	mostRise  = 0.8 // more is taken in two where the strokes allow it
)

// climb is the way to a figure as steps that rise: what adds too little is joined with
// what comes next, what adds much is split. The task is the figure where it is learned.
func Climb(o order.Order, t difficulty.Task, w difficulty.Weights) []ladder.Step {
	level := func(p pattern.Pattern) float64 {
		t.Pattern = p
		return difficulty.LevelOf(t, w)
	}
	slow := func(p pattern.Pattern) float64 {
		s := t
		s.Pattern, s.Tempo = p, song.PartOf(t.Tempo, song.SlowPercent)
		return difficulty.LevelOf(s, w)
	}
	target := t.Pattern
	way := grower{o, level}.grow(target)
	if n := len(way); n == 0 || !way[n-1].pattern.Equal(target) {
		way = append(way, rung{pattern: target, adds: ladder.Thing{Stage: ladder.WholeFigure}})
	}
	var steps []ladder.Step
	var waiting []ladder.Thing
	for i, r := range way {
		s := ladder.Step{Pattern: canonical(r.pattern), Level: level(r.pattern), Home: r.home}
		if i == len(way)-1 {
			for n := len(steps); n > 0 && steps[n-1].Level > s.Level-leastRise; n = len(steps) {
				waiting, steps = append(steps[n-1].Adds, waiting...), steps[:n-1]
			}
		} else if n := len(steps); n > 0 && s.Level < steps[n-1].Level+leastRise {
			waiting = append(waiting, r.adds)
			continue
		}
		s.Adds = joined(append(waiting, r.adds), s, steps)
		waiting = nil
		steps = append(steps, s)
	}
	return split(steps, level, slow)
}

// canonical is a figure as it is read from its notation.
func canonical(p pattern.Pattern) pattern.Pattern {
	if q, err := pattern.Decode(p.String()); err == nil {
		return q
	}
	return p
}

// joined says what a step adds where several things came together: the one rule that
// leads there, or the strokes that are new.
func joined(things []ladder.Thing, s ladder.Step, below []ladder.Step) []ladder.Thing {
	if len(below) == 0 {
		if len(s.Pattern.Bars) == 1 && things[0].Stage == ladder.FirstStroke && len(things) == 1 {
			return things
		}
		return []ladder.Thing{{Stage: ladder.WholeFigure}}
	}
	if len(things) == 1 {
		return things
	}
	under := below[len(below)-1].Pattern
	if ladder.Contains(s.Pattern, under) { // what is new is named by its strokes, and by what is done to them
		var out []ladder.Thing
		for _, th := range things {
			if th.Rule != "" && !slices.Contains(out, th) {
				out = append(out, th)
			}
		}
		if len(ladder.NewStrokes(s.Pattern, under)) == 0 && len(out) > 0 {
			return out
		}
		return append(out, ladder.Thing{Stage: ladder.Notes})
	}
	for _, r := range variation.Rules {
		if r.Ladder && slices.ContainsFunc(r.Simpler(s.Pattern), under.Equal) {
			return []ladder.Thing{rule(r.ID)}
		}
	}
	var out []ladder.Thing
	for _, th := range things {
		if !slices.Contains(out, th) {
			out = append(out, th)
		}
	}
	return out
}

// split puts steps between where one adds much: the first of its new strokes, in the
// order in which they are played; or, where they are one thing, the slow tempo first.
func split(steps []ladder.Step, level, slow func(pattern.Pattern) float64) []ladder.Step {
	for i := 1; i < len(steps); i++ {
		low, high := steps[i-1], steps[i]
		if high.Level-low.Level <= mostRise || low.Pace > 0 {
			continue
		}
		s, ok := halfway(low, high, level)
		if !ok || !ladder.Contains(high.Pattern, low.Pattern) {
			at := high
			at.Level, at.Pace = slow(high.Pattern), song.SlowPercent
			if at.Level > low.Level+leastRise && at.Level < high.Level-leastRise {
				steps[i].Adds = []ladder.Thing{{Stage: ladder.Faster}}
				steps = slices.Insert(steps, i, at)
				i++
			}
			continue
		}
		steps[i].Adds = []ladder.Thing{{Stage: ladder.Notes}}
		steps = slices.Insert(steps, i, s)
		i-- // the lower part may be long still
	}
	return steps
}

// halfway is the figure between two whose level lies nearest to the middle.
func halfway(low, high ladder.Step, level func(pattern.Pattern) float64) (found ladder.Step, ok bool) {
	var fresh []pattern.Place
	high.Pattern.Each(func(pl pattern.Place, _ pattern.Stroke) {
		if _, had := low.Pattern.At(pl); !had {
			fresh = append(fresh, pl)
		}
	})
	off := math.Inf(1)
	for k := 1; k < len(fresh); k++ {
		if fresh[k].Bar == fresh[k-1].Bar && fresh[k].Slot == fresh[k-1].Slot {
			continue // what sounds together is learned together
		}
		later := fresh[k:]
		p, whole := variation.Keep(high.Pattern, func(bar, slot int, st pattern.Stroke) bool {
			return !slices.Contains(later, pattern.Place{Bar: bar, Slot: slot, Sign: st.Sign})
		})
		if !whole || !variation.KeepsBass(high.Pattern, p) {
			continue
		}
		s := ladder.Step{Pattern: canonical(p), Level: level(p), Home: high.Home, Adds: []ladder.Thing{{Stage: ladder.Notes}}}
		d := math.Abs(s.Level - (low.Level+high.Level)/2)
		if s.Level > low.Level+leastRise && s.Level < high.Level-leastRise && d < off {
			found, off, ok = s, d, true
		}
	}
	return found, ok
}
