package grow

import (
	"fmt"
	"slices"

	"arplin/core/difficulty"
	"arplin/core/ladder"
)

// Reuse takes the steps of a ladder over to another song: the same figures, in the same order, measured
// on its chords, and the stages of chords and tempo that this song asks for, when the ladder's choice
// wants them. The task is the target there.
func Reuse(l ladder.Ladder, t difficulty.Task, w difficulty.Weights) ([]ladder.Step, error) {
	b := builder{Setting: ladder.SettingOf(t), weights: w, choice: l.Whole()}
	var figures []ladder.Step
	for _, s := range l.Steps {
		if _, other := s.NewIn(); other {
			continue // about the figure of a part of the other song
		}
		if s.Pattern.Meter != t.Pattern.Meter {
			return nil, fmt.Errorf("the ladder is in %s, the song in %s", s.Pattern.Meter, t.Pattern.Meter)
		}
		s.ID, s.Parts, s.Remark, s.Over, s.Pace = 0, nil, "", ladder.OneChord, 0
		switch {
		case s.Play != difficulty.OnStrings:
			b.add(s)
		case slices.ContainsFunc(figures, s.Same), s.Pattern.Equal(t.Pattern):
		default:
			figures = append(figures, s)
		}
	}
	b.stages(append(figures, ladder.Step{Pattern: t.Pattern, Adds: stage(ladder.WholeFigure)}))
	out, _ := ladder.Numbered(b.steps, 1)
	return out, nil
}
