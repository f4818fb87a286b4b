package fit_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/ladder/fit"
	"arplin/core/pattern"
	"arplin/core/song"
)

// proposed are what is offered for a song to a class of which nothing is known.
func proposed(t *testing.T, meter, chords string, tempo int, swing bool) []fit.Fit {
	t.Helper()
	m, err := pattern.ParseMeter(meter)
	require.NoError(t, err)
	bars, err := song.ParseChords(chords, m)
	require.NoError(t, err)
	sg := song.Song{Title: "Any", Meter: m, Tempo: tempo, Swing: swing, Sections: []song.Section{{Name: "Verse", Bars: bars}}}.Numbered()
	ins, err := fretboard.ByID("guitar")
	require.NoError(t, err)
	one := pattern.Pattern{Meter: m, Bars: []pattern.Bar{make(pattern.Bar, m.TappedBeats())}}
	one.Bars[0][0].Strokes = []pattern.Stroke{{Sign: pattern.Thumb}}
	return fit.Fits(sg, fit.Learners{Task: difficulty.NewTask(one, sg, ins, bind.DefaultSchool, tempo), Weights: difficulty.Fitted})
}

// The feel comes first: for a shuffle nothing straight between the beats is among the first, nothing swung
// for a straight song. Common practice.
func TestTheFeelComesFirst(t *testing.T) {
	for _, swing := range []bool{true, false} {
		for i, f := range proposed(t, "4/4", "A7 | A7 | A7 | A7 | D7 | D7 | A7 | A7 | E7 | D7 | A7 | E7", 100, swing)[:6] {
			off := false
			f.Pattern.Each(func(pl pattern.Place, _ pattern.Stroke) { off = off || !f.Pattern.OnBeat(pl.Slot) })
			assert.True(t, !off || f.Pattern.Swing == swing, "swing %v: number %d is %s", swing, i+1, f.Notation)
		}
	}
}

// At 140 first strums fit, and none of the first is too fast; a figure far behind is not brought forward
// for its family alone. Common practice.
func TestAFastSongHasItsFirstStrums(t *testing.T) {
	fast := proposed(t, "4/4", "G | G | D | D | C | C | G | D", 140, false)
	var first []string
	for _, f := range fast[:6] {
		first = append(first, f.ID)
		assert.LessOrEqual(t, 140, f.Tempo[1], f.Notation)
	}
	assert.Subset(t, first, []string{"bass-down", "down-on-one"})
	assert.NotContains(t, first, "ups-between")
	slow := proposed(t, "4/4", "C | Am | F | G7", 46, false)
	for _, f := range slow[:5] {
		assert.NotEqual(t, "eighth-downs", f.ID, "all-down eighths are no slow song's")
	}
	for i := 1; i < 6; i++ {
		assert.GreaterOrEqual(t, fast[i].Score, fast[0].Score-2.5, fast[i].Notation)
	}
}
