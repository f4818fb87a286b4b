package song_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/song/edit"
	"arplin/core/theory"
)

func noted(t *testing.T) song.Song {
	t.Helper()
	meter := pattern.Meter{Beats: 4, Unit: 4}
	bars, err := song.ParseChords("C | Am | F | G7", meter)
	require.NoError(t, err)
	bars[1].Notes = []string{"softly"}
	more, err := song.ParseChords("F | C", meter)
	require.NoError(t, err)
	return song.Song{Title: "Noted", Meter: meter, Tempo: 80, Sections: []song.Section{{Name: "Verse", Bars: bars}, {Name: "Chorus", Bars: more}}}.Numbered()
}

func applied(t *testing.T, s song.Song, e song.Edit) song.Song {
	t.Helper()
	s, d, err := s.Apply(e)
	require.NoError(t, err)
	assert.NotEmpty(t, edit.DoneWords.Say(d))
	return s
}

// A line of the sheet goes with no bar: it moves on to the next one, or to the end.
func TestNotesOutliveTheirBar(t *testing.T) {
	s := noted(t)
	verse := s.Sections[0]
	s = applied(t, s, edit.DeleteBar{Bar: verse.Bars[1].ID})
	assert.Equal(t, []string{"softly"}, s.Sections[0].Bars[1].Notes)
	s = applied(t, s, edit.SetNotes{Bar: verse.Bars[0].ID, Lines: "one\n\n  two  \n"})
	assert.Equal(t, []string{"one", "  two"}, s.Sections[0].Bars[0].Notes)
	joined := applied(t, s, edit.JoinBar{Bar: verse.Bars[0].ID})
	assert.Equal(t, []string{"one", "  two", "softly"}, joined.Sections[0].Bars[0].Notes)
	s = applied(t, s, edit.DeleteSection{Section: verse.ID})
	assert.Equal(t, []string{"one", "  two", "softly"}, s.Sections[0].Bars[0].Notes)
	s = applied(t, s, edit.DeleteBar{Bar: s.Sections[0].Bars[0].ID})
	s = applied(t, applied(t, s, edit.InsertBar{After: s.Sections[0].Bars[0].ID}), edit.DeleteBar{Bar: s.Sections[0].Bars[0].ID})
	assert.Equal(t, []string{"one", "  two", "softly"}, s.Sections[0].Bars[0].Notes)
	s = applied(t, s, edit.SetNotes{Lines: "the end"})
	assert.Equal(t, []string{"the end"}, s.Notes)
	data, err := s.Encode()
	require.NoError(t, err)
	again, err := song.Decode(data)
	require.NoError(t, err)
	assert.Equal(t, s, again.Clone())
}

// A bar may have a meter of its own; its chords keep their shares, and another
// meter of the song leaves it alone.
func TestABarsOwnMeter(t *testing.T) {
	s := noted(t)
	id := s.Sections[0].Bars[2].ID
	three := pattern.Meter{Beats: 3, Unit: 4}
	s = applied(t, s, edit.SetBarMeter{Bar: id, Meter: three})
	bar := s.Sections[0].Bars[2]
	assert.Equal(t, three.BarTicks(), bar.Ticks())
	assert.True(t, bar.Adds(s.MeterOf(bar)))
	s = applied(t, s, edit.SetBar{Bar: id, Chords: "F:2 N.C.:1"})
	assert.True(t, s.Sections[0].Bars[2].Changes[1].Silent())
	s = applied(t, s, edit.SetMeter{Meter: pattern.Meter{Beats: 6, Unit: 8}})
	assert.Equal(t, three, s.Sections[0].Bars[2].Meter)
	assert.Equal(t, "F:2 N.C.:1", song.BarText(s.Sections[0].Bars[2].Changes, three))
	s = applied(t, s, edit.SetMeter{Meter: three})
	assert.Zero(t, s.Sections[0].Bars[2].Meter, "it is the song's now")
}

func TestTitleKeyAndPlaces(t *testing.T) {
	s := noted(t)
	s = applied(t, s, edit.SetTitle{Title: "  Another   name "})
	assert.Equal(t, "Another name", s.Title)
	before := s.Bars()
	key, err := theory.ParseKey("F")
	require.NoError(t, err)
	s = applied(t, s, edit.SayKey{Key: key})
	assert.Equal(t, "F major", s.KeyGuess().Key.String())
	assert.Equal(t, before, s.Bars(), "nothing is transposed")
	s = applied(t, s, edit.SayKey{})
	assert.Equal(t, "C major", s.KeyGuess().Key.String())
	chorus := s.Sections[1].ID
	s = applied(t, s, edit.MoveSection{Section: chorus, By: -1})
	assert.Equal(t, "Chorus", s.Sections[0].Name)
	for _, e := range []song.Edit{edit.MoveSection{Section: chorus, By: -1}, edit.SetTitle{Title: " "}, edit.SetBarMeter{Bar: 999}, edit.SetNotes{Bar: 999}} {
		_, _, err := s.Apply(e)
		assert.Error(t, err, "%+v", e)
	}
}
