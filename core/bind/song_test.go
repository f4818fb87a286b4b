package bind_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/song"
)

func boundSong(t testing.TB, edit func(*song.Song)) []bind.TimelineBar {
	t.Helper()
	meter := pattern.Meter{Beats: 4, Unit: 4}
	bars, err := song.ParseChords("C | Am F | G7 | C", meter)
	require.NoError(t, err)
	sg := song.Song{Meter: meter, Tempo: 80, Sections: []song.Section{{Name: "Verse", Bars: bars}}}
	if edit != nil {
		edit(&sg)
	}
	ins, _ := fretboard.ByID("guitar")
	return bind.Song(ins, bind.DefaultSchool, sg, pattern.MustParse("4/4: p . p' i p m p' ."), sg.ShapesOn(ins))
}

func TestSongIsOneTimeline(t *testing.T) {
	line := boundSong(t, func(s *song.Song) { s.Sections[0].Times = 2 })
	require.Len(t, line, 8)
	bar := line[0].Ticks
	for i, b := range line {
		assert.Equal(t, i*bar, b.Start)
	}
	// The chord changes on three: the thumb plays the new root there.
	assert.Equal(t, [][]int{{5}, {4}, {3}, {4}, {1}, {3}}, stringsBySlot(line[1].Events))
	last := line[7].Events
	require.Len(t, last, 1, "the last chord closes with one strum")
	assert.Equal(t, bind.Strum, last[0].Kind)
	assert.Len(t, last[0].Strings, 5)
}

func TestRolesOfBars(t *testing.T) {
	line := boundSong(t, func(s *song.Song) {
		s.Sections[0].Bars[0].Role = song.Pickup
		s.Sections[0].Bars[0].Changes[0].Ticks /= 4
		s.Sections[0].Bars[2].Role = song.Stop
	})
	assert.Equal(t, pattern.TicksPerQuarter, line[0].Ticks)
	assert.Equal(t, pattern.TicksPerQuarter, line[1].Start)
	require.Len(t, line[0].Events, 1, "a pickup of one beat has one stroke")
	assert.Equal(t, 6, line[0].Events[0].Slot, "on four, at the end of its bar")
	assert.Equal(t, 0, line[0].Events[0].Tick, "at once")
	assert.Len(t, line[2].Events, 1, "a stop is struck once")
}

// A bar of another meter is filled by the figure, cut or begun again; where no chord
// is nothing is struck.
func TestMetersAndSilence(t *testing.T) {
	line := boundSong(t, func(s *song.Song) {
		bars := s.Sections[0].Bars
		bars[0].Meter = pattern.Meter{Beats: 3, Unit: 4}
		bars[0].Changes = song.Fill(bars[0].Changes, bars[0].Meter)
		bars[1].Changes[1].Symbol = song.NoChord
		bars[2].Meter = pattern.Meter{Beats: 12, Unit: 8}
		bars[2].Changes = song.Fill(bars[2].Changes, bars[2].Meter)
	})
	quarter := pattern.TicksPerQuarter
	assert.Equal(t, 3*quarter, line[1].Start)
	for _, e := range line[0].Events {
		assert.Less(t, e.Tick, 3*quarter)
	}
	require.NotEmpty(t, line[1].Events)
	for _, e := range line[1].Events {
		assert.Less(t, e.Tick, 2*quarter, "the second half is silent")
	}
	assert.GreaterOrEqual(t, line[2].Events[len(line[2].Events)-1].Tick, 4*quarter, "it begins again")
	assert.Equal(t, 13*quarter, line[3].Start)
}

func TestPartsHaveTheirOwnPattern(t *testing.T) {
	line := boundSong(t, func(s *song.Song) {
		verse := s.Sections[0]
		verse.Pattern = "4/4: D D D D | U U U U"
		s.Sections = append(s.Sections, verse)
	})
	assert.Equal(t, bind.Pluck, line[0].Events[0].Kind)
	assert.Equal(t, "down", line[4].Events[0].Direction)
	assert.Equal(t, "up", line[5].Events[0].Direction, "a pattern of two bars goes on")
}

func BenchmarkSongOf64Bars(b *testing.B) {
	meter := pattern.Meter{Beats: 4, Unit: 4}
	bars, err := song.ParseChords("C | Am | F | G7 | C | Am F | Dm G7 | C", meter)
	require.NoError(b, err)
	sg := song.Song{Meter: meter, Tempo: 80, Sections: []song.Section{{Name: "Verse", Times: 8, Bars: bars}}}
	ins, _ := fretboard.ByID("guitar")
	shapes := bind.Shapes(sg.ShapesOn(ins))
	p := pattern.MustParse("4/4: p . p'+m . p i p' . | p+m . p' i p m p' .")
	b.ReportAllocs()
	for b.Loop() {
		bind.Song(ins, bind.DefaultSchool, sg, p, shapes)
	}
}
