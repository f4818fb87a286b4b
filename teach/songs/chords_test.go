package songs

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
	"arplin/core/song"
	"arplin/core/theory"
	"arplin/teach/people"
)

// A shape without the third of its chord is that chord without it, not another one; one with a foreign
// note is another.
func TestWhatAShapeIsCalled(t *testing.T) {
	guitar, err := fretboard.ByID("guitar")
	require.NoError(t, err)
	for frets, want := range map[string]string{
		"320001": "", // G B D G B F
		"3x3033": "These notes are G F D: G7 without its third.",
		"320002": "These notes are G B D F#, not G7.",
	} {
		shape, err := fretboard.ParseShape(frets)
		require.NoError(t, err)
		got := saysOf(guitar, theory.MustChord("G7"), fretboard.Read(guitar, theory.MustChord("G7"), shape))
		assert.Equal(t, want, got, frets)
	}
}

// An easier shape that mutes the string of a finger does not suit a figure that plucks each string:
// it comes last, and says so. A strum takes it. Source: common practice.
func TestEasierShapesKnowTheFigure(t *testing.T) {
	ukulele, err := fretboard.ByID("ukulele")
	require.NoError(t, err)
	roll, strum := pattern.MustParse("4/4: p i m a m i m i"), pattern.MustParse("4/4: D . D U D . D U")
	bars, err := song.ParseChords("C | Am | F | G", roll.Meter)
	require.NoError(t, err)
	v := NewView(song.Song{Meter: roll.Meter, Tempo: 80, Sections: []song.Section{{Bars: bars}}}, ukulele, people.Class{})
	unfit := func(p pattern.Pattern) (list []string, after int) {
		for _, ch := range v.Song.Chords() {
			for _, s := range v.panel(catalogue.Entry{Name: "x", Pattern: p}, ch.String()).StandIns {
				if strings.Contains(s.Notes, "doesn’t suit this pattern") {
					list = append(list, s.Frets)
				} else if len(list) > 0 {
					after++
				}
			}
		}
		return list, after
	}
	on, _ := unfit(roll)
	assert.NotEmpty(t, on)
	for _, frets := range on {
		assert.Contains(t, frets, "x")
	}
	none, _ := unfit(strum)
	assert.Empty(t, none)
}
