package ladder_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"arplin/core/bind"
	"arplin/core/bpm"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/ladder"
	"arplin/core/ladder/grow"
	"arplin/core/ladder/order"
	"arplin/core/pattern"
	"arplin/core/pattern/patterntest"
	"arplin/core/song"
)

// taskOn is a figure over chords on any instrument at any tempo.
func taskOn(rt *rapid.T, p pattern.Pattern) difficulty.Task {
	bars, err := song.ParseChords(rapid.SampledFrom([]string{"C", "G | D", "C | Am | F | G7", "F#m7b5 | G13 | Bb/D Eb"}).Draw(rt, "chords"), p.Meter)
	require.NoError(rt, err)
	ins := rapid.SampledFrom(fretboard.Instruments).Draw(rt, "instrument")
	tempo := rapid.SampledFrom([]int{bpm.Min, 60, 80, 132, bpm.Max}).Draw(rt, "tempo")
	return difficulty.NewTask(p, song.Song{Meter: p.Meter, Tempo: tempo, Sections: []song.Section{{Bars: bars}}}, ins, bind.DefaultSchool, tempo)
}

// Whatever the notation can write is taken apart in every way, on every instrument: each step
// has its words, and the ladder is read again as it was written.
func TestAnyFigureOfTheNotationIsTakenApart(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		p := patterntest.OfNotation(pick(rt))
		tk := taskOn(rt, p)
		choice := anyChoice(rt)
		checkSteps(rt, tk, grow.Build(choice, tk, difficulty.Fitted, 0), fmt.Sprint(choice))
		for _, row := range order.All {
			checkSteps(rt, tk, grow.Build(order.Choice{Order: row.Value}, tk, difficulty.Fitted, 0), string(row.Value))
		}
		grow.Beyond(tk, difficulty.Fitted)
	})
}

// Figures that once took an evening down: a first slot without a stroke, one without a bass, a
// knock, nothing at all.
func TestFiguresThatBeginWithNothing(t *testing.T) {
	for _, text := range []string{
		"4/4: . Ut Dt Ut . Ut Dt Ut", "4/4: . U . U . U . U", "6/8: . U U . U U", "4/4: . N . U", "4/4: X X Dt U N . U N",
		"4/4: . . . .", "4/4: = = = =", "4/4: . . . U", "4/4: . . . . | . U . U", "4/4: d . u .", "3/4: . . X",
	} {
		p := pattern.MustParse(text)
		for _, row := range order.All {
			for _, chords := range []string{"G", "G | C", "G | C | D | Em"} {
				tk := task(t, p, chords)
				checkSteps(t, tk, grow.Build(order.Choice{Order: row.Value}, tk, difficulty.Fitted, 0), text+", "+string(row.Value))
			}
		}
	}
}

func checkSteps(t interface {
	Fatalf(format string, args ...any)
}, tk difficulty.Task, steps []ladder.Step, where string) {
	if len(steps) == 0 || !steps[len(steps)-1].Pattern.Equal(tk.Pattern) {
		t.Fatalf("%s, %s: the target is not on top of %d steps", tk.Pattern, where, len(steps))
	}
	for i, s := range steps {
		words := ladder.Describe(steps, i, tk)
		if words.Name == "" || words.Says == "" || s.How() == "" {
			t.Fatalf("%s, %s: step %d, %s, has no words: %+v", tk.Pattern, where, i+1, s.Pattern, words)
		}
	}
	l := ladder.Ladder{Steps: steps}
	data, err := l.Encode()
	if err != nil {
		t.Fatalf("%s, %s: %v", tk.Pattern, where, err)
	}
	if _, err := ladder.Decode(data); err != nil {
		t.Fatalf("%s, %s: what is written cannot be read: %v", tk.Pattern, where, err)
	}
}
