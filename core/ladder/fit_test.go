package ladder_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/fretboard"
	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/core/song"
)

// Common practice: the tempo decides first, then what the class plays, then how
// much time the changes leave.
func TestFits(t *testing.T) {
	meter := pattern.Meter{Beats: 4, Unit: 4}
	bars, err := song.ParseChords("C | Am | F | G7", meter)
	require.NoError(t, err)
	sg := song.Song{Meter: meter, Tempo: 84, Sections: []song.Section{{Bars: bars}}}
	guitar, _ := fretboard.ByID("guitar")
	ukulele, _ := fretboard.ByID("ukulele")
	class := []song.Players{{Instrument: guitar, Count: 3}, {Instrument: ukulele, Count: 3}}
	fits := ladder.Fits(sg, class)
	require.Len(t, fits, len(pattern.InMeter(meter)))
	place := map[string]int{}
	reasons := map[string]string{}
	for i, f := range fits {
		place[f.ID] = i
		reasons[f.ID] = strings.Join(f.Reasons, "; ")
		if i > 0 {
			assert.LessOrEqual(t, f.Score, fits[i-1].Score)
		}
	}
	assert.Contains(t, reasons["thumb-low-fifth"], "not for ukulele")
	assert.Greater(t, place["thumb-low-fifth"], place["thumb-two-strings"])
	assert.Contains(t, reasons["swung-strum"], "swung, and the song is not")
	sg.Tempo = 150
	fast := ladder.Fits(sg, class)
	assert.Contains(t, strings.Join(fast[len(fast)-1].Reasons, "; "), "faster than it likes")
}
