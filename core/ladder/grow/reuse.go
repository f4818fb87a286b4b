package grow

import (
	"fmt"
	"slices"

	"arplin/core/difficulty"
	"arplin/core/ladder"
)

// Reuse takes the steps of a ladder over to another song: the same figures, in
// the same order, measured on its chords, and the stages of chords and tempo
// that this song asks for. The task is the target there.
func Reuse(steps []ladder.Step, t difficulty.Task, w difficulty.Weights) ([]ladder.Step, error) {
	b := builder{Setting: ladder.SettingOf(t), weights: w}
	for _, s := range steps {
		if _, other := s.NewIn(); other {
			continue // about the figure of a part of the other song
		}
		s.Parts, s.Remark = nil, ""
		if s.Pattern.Meter != t.Pattern.Meter {
			return nil, fmt.Errorf("the ladder is in %s, the song in %s", s.Pattern.Meter, t.Pattern.Meter)
		}
		if s.Over != ladder.OneChord && s.Pattern.Equal(t.Pattern) {
			continue // a stage of the other song
		}
		if b.Two == nil {
			s.Over = ladder.OneChord
		}
		if slices.ContainsFunc(b.steps, s.Same) {
			continue // the same figure on fewer chords
		}
		s.ID, s.Level = 0, b.level(s)
		b.steps = append(b.steps, s)
	}
	b.chords()
	if n := len(b.steps); n == 0 || !b.steps[n-1].Pattern.Equal(t.Pattern) { // on one chord there is no stage that ends in it
		b.finish(ladder.Step{Pattern: t.Pattern, Over: ladder.OneChord, Adds: []ladder.Thing{{Stage: ladder.WholeFigure}}})
	}
	out, _ := ladder.Numbered(b.steps, 1)
	return out, nil
}
