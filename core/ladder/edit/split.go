package edit

import (
	"cmp"
	"math"
	"slices"

	"arplin/core/ladder"
	"arplin/core/ladder/grow"
	"arplin/core/ladder/order"
	"arplin/core/pattern"
	"arplin/core/variation"
)

// between is a figure of the way stroke by stroke that lies between a step and the one below; else the
// step with one of its new strokes left for later, that which halves the rise.
func (e *editor) between(at int) (ladder.Step, bool) {
	step := e.l.Steps[at]
	under := pattern.Pattern{}
	low := 1.0
	if at > 0 {
		low, under = e.l.Steps[at-1].Level, e.l.Steps[at-1].Pattern
	}
	if at > 0 && step.Same(withPace(e.l.Steps[at-1], step.Pace)) { // tempo alone
		s := withPace(step, (whole(e.l.Steps[at-1].Pace)+whole(step.Pace))/2)
		s.ID, s.Pinned, s.Remark, s.Adds = 0, false, "", []ladder.Thing{{Stage: ladder.MediumTempo, Short: true}}
		s.Level = e.level(s)
		return s, s.Pace != step.Pace && s.Pace != e.l.Steps[at-1].Pace
	}
	var on []ladder.Step
	take := func(p pattern.Pattern, things []ladder.Thing) {
		s := step
		s.ID, s.Pattern, s.Home, s.Pinned, s.Remark = 0, p, !variation.Together(p, e.Whole.Pattern), false, ""
		s.Adds = slices.Clone(things)
		for i := range s.Adds {
			s.Adds[i].Short = true
		}
		if !slices.ContainsFunc(e.l.Steps, s.Same) {
			s.Level = e.level(s)
			on = append(on, s)
		}
	}
	choice := e.l.Choice
	choice.Size = order.Small
	inside := func(p, q pattern.Pattern) bool { return ladder.Contains(p, q) && !p.Equal(q) }
	for _, f := range grow.Figures(choice, step.Pattern) {
		if inside(step.Pattern, f.Pattern) && (at == 0 || inside(f.Pattern, under)) {
			take(f.Pattern, f.Adds)
		}
	}
	if len(on) > 0 {
		return on[len(on)/2], true
	}
	if at > 0 && len(step.Pattern.Bars) == len(under.Bars) {
		fresh := pattern.New(step.Pattern, under)
		step.Pattern.Each(func(pl pattern.Place, _ pattern.Stroke) {
			p, ok := variation.Keep(step.Pattern, func(bar, slot int, st pattern.Stroke) bool {
				return pattern.Place{Bar: bar, Slot: slot, Sign: st.Sign} != pl
			})
			if fresh[pl] && ok && variation.KeepsBass(step.Pattern, p) && inside(p, under) {
				take(p, []ladder.Thing{{Stage: ladder.Notes}})
			}
		})
	}
	if len(on) == 0 {
		return ladder.Step{}, false
	}
	off := func(s ladder.Step) float64 { return math.Abs(s.Level - (low+step.Level)/2) }
	return slices.MinFunc(on, func(a, b ladder.Step) int { return cmp.Compare(off(a), off(b)) }), true
}

func withPace(s ladder.Step, pace int) ladder.Step {
	s.Pace = pace
	return s
}

// whole is a pace in per cent, where 0 is all of it.
func whole(pace int) int { return cmp.Or(pace, 100) }

// merged is what a step adds that was joined with one below, each thing once; strokes are named by the
// strokes that are new.
func merged(below, own []ladder.Thing) (all []ladder.Thing) {
	strokes := func(th ladder.Thing) bool {
		return slices.Contains([]ladder.Stage{ladder.Notes, ladder.Onwards, ladder.FirstStroke}, th.Stage)
	}
	for _, th := range slices.Concat(below, own) {
		if strokes(th) && slices.ContainsFunc(all, func(o ladder.Thing) bool { return strokes(o) && o.Part == th.Part }) {
			continue
		}
		if !slices.Contains(all, th) {
			all = append(all, th)
		}
	}
	return all
}
