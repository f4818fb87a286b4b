package edit

import (
	"fmt"

	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/core/say"
)

// move has two neighbouring steps change places: what the upper one adds comes first.
// The lower figure is made anew; the upper one has both things, as before.
func (e *editor) move(id ladder.StepID, by int) (say.Line, error) {
	at, err := e.at(id)
	if err != nil {
		return say.Line{}, err
	}
	other := at + by
	if other < 0 || other >= e.last() || at == e.last() {
		return say.Line{}, fmt.Errorf("step %d cannot go further; the last step is the target", at+1)
	}
	k := min(at, other)
	low, high := e.l.Steps[k], e.l.Steps[k+1]
	refused := fmt.Errorf("steps %d and %d cannot change places: each builds on the one below", k+1, k+2)
	if k == 0 {
		return say.Line{}, refused
	}
	under := e.l.Steps[k-1]
	stage := func(s ladder.Step) bool {
		return s.Over == low.Over && s.Play == low.Play && s.Pace == low.Pace && s.Pattern.Swing == low.Pattern.Swing
	}
	if !stage(under) || !stage(high) || !ladder.Contains(high.Pattern, low.Pattern) || !ladder.Contains(low.Pattern, under.Pattern) || len(high.Parts) > 0 {
		return say.Line{}, refused
	}
	p, ok := otherFirst(under.Pattern, low.Pattern, high.Pattern)
	if !ok {
		return say.Line{}, refused
	}
	first := low
	first.Pattern, first.Adds = p, high.Adds
	first.Level = e.level(first)
	if first.Level <= under.Level || first.Level >= high.Level {
		return say.Line{}, fmt.Errorf("steps %d and %d cannot change places: with the other first it would not rise", k+1, k+2)
	}
	e.l.Steps[k], e.l.Steps[k+1].Adds = first, low.Adds
	return say.Of(swapped, k+1, k+2), nil
}

// otherFirst is the figure of a step with what the step above adds in place of what it
// adds itself.
func otherFirst(under, low, high pattern.Pattern) (pattern.Pattern, bool) {
	q := high.Clone()
	for b, bar := range q.Bars {
		for i := range bar {
			var kept []pattern.Stroke
			for _, st := range bar[i].Strokes {
				pl := pattern.Place{Bar: b, Slot: i, Sign: st.Sign}
				was, inLow := low.At(pl)
				before, inUnder := under.At(pl)
				switch {
				case !inLow: // the upper step's own stroke
					kept = append(kept, st)
				case inUnder && st == was: // it did not change this one
					kept = append(kept, before)
				case inUnder:
					kept = append(kept, st)
				}
			}
			bar[i].Strokes = kept
			bar[i].Stop = high.Bars[b][i].Stop && (!low.Bars[b][i].Stop || under.Bars[b][i].Stop)
		}
	}
	again, err := pattern.Decode(q.String())
	return again, err == nil && !again.Equal(under) && !again.Equal(high) && again.Count() > 0
}
