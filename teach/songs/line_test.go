package songs

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/bpm"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/ladder/station"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/teach/people"
)

// tuned is a bar of eighths in C, and one of a half note.
func tuned(t *testing.T) song.Song {
	t.Helper()
	four := pattern.Meter{Beats: 4, Unit: 4}
	bars, err := song.ParseChords("C | G", four)
	require.NoError(t, err)
	notes, err := song.ParseMelody("C4:1/2 E4 G4 E4 C4 E4 G4 E4 | D4:2 G4", four.BeatTicks(), func(int) int { return four.BarTicks() })
	require.NoError(t, err)
	for i := range bars {
		bars[i].Melody = notes[i]
	}
	return song.Song{Title: "Eighths", Meter: four, Tempo: 90, Swing: true, Sections: []song.Section{{Bars: bars}}}.Numbered()
}

// Where a song is swung, its tune is, and what is lit comes with what is struck: the second of a
// pair at two thirds of the beat. Source: common practice.
func TestASwungTuneLightsWhereItIsStruck(t *testing.T) {
	sg := tuned(t)
	guitar, err := fretboard.ByID("guitar")
	require.NoError(t, err)
	s := ScoreOf(sg, guitar, people.Class{}, Tune(station.TuneAlone))
	assert.Equal(t, Swung, s.Feel)
	require.Len(t, s.Figures, 1)
	assert.Equal(t, s.Beat*2/3, s.Figures[0].Slots[1])
	late := 0
	for _, n := range s.Notes {
		assert.Contains(t, s.Figures[0].Slots, n.Tick%s.Figures[0].Bar)
		if n.Tick%s.Beat != 0 {
			late++
		}
	}
	assert.Equal(t, 4, late, "four of the eighths are off the beat")
}

// A part without a figure is silent, however it is asked for, and is written as chords alone.
func TestAPartWithoutAFigureIsSilent(t *testing.T) {
	sg := tuned(t)
	guitar, err := fretboard.ByID("guitar")
	require.NoError(t, err)
	v := NewView(sg, guitar, people.Class{})
	line := v.Heard(sg, AsWritten(sg.Meter), Swung)
	require.Len(t, line.Bars, 2)
	assert.Len(t, line.Bars[0].Held, 1)
	s := v.Score(line, difficulty.OnStrings, sg.Title, bpm.Of(sg.Tempo), ScoreAsk{})
	assert.Empty(t, s.Notes)
	assert.Empty(t, s.Feel)
	assert.Equal(t, -1, s.Bars[0].Figure)
	s = v.Score(line, difficulty.OnStrings, sg.Title, bpm.Of(sg.Tempo), ScoreAsk{Chords: true})
	assert.NotEmpty(t, s.Notes, "the chords softly under it")
}
