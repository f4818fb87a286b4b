package edit

import (
	"fmt"

	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/core/say"
)

// move has two neighbouring steps change places: what the upper one adds comes first.
// The lower step is made anew from the one below it, with what the upper one adds: strokes, chords or
// tempo; the upper one is as before, with both.
func (e *editor) move(id ladder.StepID, by int) (say.Line, error) {
	at, err := e.at(id)
	if err != nil {
		return say.Line{}, err
	}
	k := min(at, at+by)
	switch {
	case at == e.last():
		return say.Line{}, fmt.Errorf("the last step is the target, so it stays on top")
	case k < 0:
		return say.Line{}, fmt.Errorf("step 1 is the lowest")
	case k == 0:
		return say.Line{}, fmt.Errorf("step 2 is made of step 1 and grows from it; write your own first step instead")
	}
	under, low, high := e.l.Steps[k-1], e.l.Steps[k], e.l.Steps[k+1]
	first := under
	first.ID, first.Adds, first.Pinned, first.Remark, first.Home = low.ID, high.Adds, low.Pinned, low.Remark, high.Home && !low.Home || under.Home
	if low.Over != high.Over {
		first.Over = high.Over
	}
	if low.Pace != high.Pace {
		first.Pace = high.Pace
	}
	if low.Play != high.Play {
		first.Play = high.Play
	}
	ok := true
	if first.Pattern, ok = otherFirst(under.Pattern, low.Pattern, high.Pattern); !ok {
		return say.Line{}, fmt.Errorf("what step %d adds needs what step %d adds; split one of them, or write your own step", k+2, k+1)
	}
	if len(under.Parts) != len(high.Parts) || len(low.Parts) != len(high.Parts) {
		return say.Line{}, fmt.Errorf("steps %d and %d have patterns for other parts of the song; rebuild the ladder first", k+1, k+2)
	}
	first.Parts = nil
	for i, part := range high.Parts {
		if part.Pattern, ok = otherFirst(under.Parts[i].Pattern, low.Parts[i].Pattern, part.Pattern); !ok {
			return say.Line{}, fmt.Errorf("what step %d adds needs what step %d adds; split one of them, or write your own step", k+2, k+1)
		}
		first.Parts = append(first.Parts, part)
	}
	if first.Same(under) || first.Same(high) {
		return say.Line{}, fmt.Errorf("steps %d and %d add the same thing; join them instead", k+1, k+2)
	}
	first.Level = e.level(first)
	e.l.Steps[k], e.l.Steps[k+1].Adds = first, low.Adds
	return say.Of(swapped, k+1, k+2), nil
}

// otherFirst is the figure of a step with what the step above adds in place of what it adds itself.
func otherFirst(under, low, high pattern.Pattern) (pattern.Pattern, bool) {
	switch {
	case low.Equal(high): // the upper step adds chords or tempo
		return under, true
	case low.Equal(under): // the lower one did
		return high, true
	case !ladder.Contains(high, low) || !ladder.Contains(low, under) || low.Swing != high.Swing || under.Swing != low.Swing:
		return high, false
	}
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
