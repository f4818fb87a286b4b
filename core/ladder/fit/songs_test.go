package fit_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/ladder/fit"
	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
	"arplin/core/song"
)

// proposed are what is offered for a song to a class of which nothing is known.
func proposed(t *testing.T, meter, chords string, tempo int, swing bool) []fit.Fit {
	t.Helper()
	return proposedTo(t, "guitar", meter, chords, tempo, swing)
}

// proposedTo are what is offered to a class that has had some figures.
func proposedTo(t *testing.T, instrument, meter, chords string, tempo int, swing bool, had ...string) []fit.Fit {
	t.Helper()
	m, err := pattern.ParseMeter(meter)
	require.NoError(t, err)
	bars, err := song.ParseChords(chords, m)
	require.NoError(t, err)
	sg := song.Song{Title: "Any", Meter: m, Tempo: tempo, Swing: swing, Sections: []song.Section{{Name: "Verse", Bars: bars}}}.Numbered()
	ins, err := fretboard.ByID(instrument)
	require.NoError(t, err)
	one := pattern.Pattern{Meter: m, Bars: []pattern.Bar{make(pattern.Bar, m.TappedBeats())}}
	one.Bars[0][0].Strokes = []pattern.Stroke{{Sign: pattern.Thumb}}
	l := fit.Learners{Task: difficulty.NewTask(one, sg, ins, bind.DefaultSchool, tempo), Weights: difficulty.Fitted}
	for _, id := range had {
		e, ok := catalogue.ByID(id)
		require.True(t, ok, id)
		l.Had = append(l.Had, e.Pattern)
	}
	return fit.Fits(sg, l)
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
	assert.Subset(t, first, []string{"bass-down", "downs-on-the-beat"})
	assert.NotContains(t, first, "ups-between")
	slow := proposed(t, "4/4", "C | Am | F | G7", 46, false)
	for _, f := range slow[:5] {
		assert.NotEqual(t, "eighth-downs", f.ID, "all-down eighths are no slow song's")
	}
	for i := 1; i < 6; i++ {
		assert.GreaterOrEqual(t, fast[i].Score, fast[0].Score-2.5, fast[i].Notation)
	}
}

// Eight usual songs, each with what a teacher would try on it: the first three are of these. Source:
// common practice.
func TestTheFirstThreeOfEightSongs(t *testing.T) {
	for _, c := range []struct {
		name, instrument, meter, chords string
		tempo                           int
		swing                           bool
		had, tries                      string
	}{
		{"slow four in C", "guitar", "4/4", "C | Am | F | G7", 66, false, "",
			"downs-on-the-beat roll-in-quarters roll-up four-up three-of-eight block-on-two-four bass-and-pair down-down-up-down-up down-up-eighths thumb-two-strings"},
		{"folk waltz", "guitar", "3/4", "G | G | D7 | D7 | C | G | D7 | G", 110, false, "",
			"bass-in-three-plain three-downs three-pluck three-to-a-bar three-strum-last-up"},
		{"twelve-bar shuffle", "guitar", "4/4", "A7 | A7 | A7 | A7 | D7 | D7 | A7 | A7 | E7 | D7 | A7 | E7", 100, true, "",
			"swung-strum swung-low-strings swung-common-strum downs-on-the-beat"},
		{"fast two-beat", "guitar", "4/4", "G | G | D | D | C | C | G | D", 150, false, "",
			"bass-down downs-on-the-beat down-on-one-three thumb-beats thumb-two-strings downs-last-up"},
		{"six-eight ballad", "guitar", "6/8", "G | Em | C | D", 54, false, "",
			"six-up six-to-a-bar six-eight-strum six-downs-on-two six-bass-and-pair six-bass-strum"},
		{"offbeat song", "guitar", "4/4", "Am | Am | Dm | Am", 90, false, "down-on-one downs-on-the-beat down-up-eighths down-down-up-down-up",
			"ups-between common-strum down-up-missed-on-three chucks-alone held-and-pushed chuck-strum stopped-downs back-beat-accents pushed-strum"},
		{"minor fingerstyle", "guitar", "4/4", "Am | E7 | Am | Dm", 72, false, "thumb-once thumb-beats thumb-two-strings roll-in-quarters",
			"roll-up roll-down thumb-low-fifth four-up four-up-room three-of-eight four-strokes pairs-on-the-back-beat pinch-halves thumb-pinch-two thumb-one-between alternating-and-index bass-and-pair"},
		{"ukulele strum", "ukulele", "4/4", "C | Am | F | G7", 100, false, "",
			"downs-on-the-beat downs-last-up down-up-eighths down-down-up-down-up common-strum eighth-downs"},
	} {
		t.Run(c.name, func(t *testing.T) {
			for i, f := range proposedTo(t, c.instrument, c.meter, c.chords, c.tempo, c.swing, strings.Fields(c.had)...)[:3] {
				assert.Contains(t, strings.Fields(c.tries), f.ID, "number %d: %s, %.2f: %v", i+1, f.Notation, f.Score, f.Reasons)
			}
		})
	}
}
