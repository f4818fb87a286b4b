package bind_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/played"
	"arplin/core/song"
)

// boundSection is four bars of a song with a figure on them.
func boundSection(t testing.TB, figure string, edit func(*song.Section)) []bind.SongBar {
	t.Helper()
	meter := pattern.Meter{Beats: 4, Unit: 4}
	bars, err := song.ParseChords("C | Am F | G7 | C", meter)
	require.NoError(t, err)
	sec := song.Section{Name: "Verse", Bars: bars}
	if edit != nil {
		edit(&sec)
	}
	sg := song.Song{Meter: meter, Tempo: 80, Sections: []song.Section{sec}}
	ins, _ := fretboard.ByID("guitar")
	return bind.Section(ins, bind.DefaultSchool, pattern.MustParse(figure), sec, sg.ShapesOn(ins))
}

const outsideInside = "4/4: p . p' i p m p' ."

func TestRolesOfBars(t *testing.T) {
	line := boundSection(t, outsideInside, func(s *song.Section) {
		s.Bars[0].Role = song.Pickup
		s.Bars[0].Changes[0].Ticks /= 4
		s.Bars[2].Role = song.Stop
		s.Bars[3].Role = song.End
	})
	require.Len(t, line[0].Events, 1, "a pickup of one beat has one stroke")
	assert.Equal(t, 6, line[0].Events[0].Slot, "on four, at the end of its bar")
	assert.Equal(t, 0, line[0].Events[0].Tick, "at once")
	// The chord changes on three: the thumb plays the new root there.
	assert.Equal(t, [][]int{{5}, {4}, {3}, {4}, {1}, {3}}, stringsBySlot(line[1].Events))
	assert.Len(t, line[2].Events, 1, "a stop is struck once")
	require.Len(t, line[3].Events, 1, "the last chord closes with one strum")
	assert.Equal(t, played.Strum, line[3].Events[0].Kind)
	assert.Len(t, line[3].Events[0].Strings, 5)
}

// A figure of two bars goes on as it is sung: over a pickup it has not begun, and a second ending
// takes up where the first did. Source: common practice.
func TestAFigureOfTwoBarsGoesOnAsItIsSung(t *testing.T) {
	bars := func(edit func(*song.Section)) (of []int) {
		for _, b := range boundSection(t, "4/4: D D D D | U U U U", edit) {
			of = append(of, b.PatternBar)
		}
		return of
	}
	assert.Equal(t, []int{0, 1, 0, 1}, bars(nil))
	assert.Equal(t, []int{0, 0, 1, 0}, bars(func(s *song.Section) {
		s.Bars[0].Role = song.Pickup
		s.Bars[0].Changes[0].Ticks /= 4
	}))
	assert.Equal(t, []int{0, 1, 0, 0}, bars(func(s *song.Section) {
		s.Times, s.Bars[2].Ending, s.Bars[3].Ending = 2, 1, 2
	}))
	assert.Equal(t, []int{0, 1, 1, 0}, bars(func(s *song.Section) {
		s.Times, s.Bars[1].Ending, s.Bars[2].Ending = 2, 1, 2
	}), "and what comes after them counts on")
}

// A bar of another meter is filled by the figure, cut or begun again; where no chord
// is nothing is struck.
func TestMetersAndSilence(t *testing.T) {
	line := boundSection(t, outsideInside, func(s *song.Section) {
		bars := s.Bars
		bars[0].Meter = pattern.Meter{Beats: 3, Unit: 4}
		bars[0].Changes = song.Fill(bars[0].Changes, bars[0].Meter)
		bars[1].Changes[1].Symbol = song.NoChord
		bars[2].Meter = pattern.Meter{Beats: 12, Unit: 8}
		bars[2].Changes = song.Fill(bars[2].Changes, bars[2].Meter)
	})
	quarter := pattern.TicksPerQuarter
	for _, e := range line[0].Events {
		assert.Less(t, e.Tick, 3*quarter)
	}
	require.NotEmpty(t, line[1].Events)
	for _, e := range line[1].Events {
		assert.Less(t, e.Tick, 2*quarter, "the second half is silent")
	}
	assert.GreaterOrEqual(t, line[2].Events[len(line[2].Events)-1].Tick, 4*quarter, "it begins again")
}

func BenchmarkSongOf64Bars(b *testing.B) {
	meter := pattern.Meter{Beats: 4, Unit: 4}
	bars, err := song.ParseChords("C | Am | F | G7 | C | Am F | Dm G7 | C", meter)
	require.NoError(b, err)
	sg := song.Song{Meter: meter, Tempo: 80, Sections: []song.Section{{Name: "Verse", Bars: slices.Repeat(bars, 8)}}}
	ins, _ := fretboard.ByID("guitar")
	shapes := bind.Shapes(sg.ShapesOn(ins))
	p := pattern.MustParse("4/4: p . p'+m . p i p' . | p+m . p' i p m p' .")
	b.ReportAllocs()
	for b.Loop() {
		bind.Section(ins, bind.DefaultSchool, p, sg.Sections[0], shapes)
	}
}
