package song_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/fretboard"
	"arplin/core/song"
	"arplin/core/song/edit"
	"arplin/core/song/hand"
	"arplin/core/theory"
)

func grip(t *testing.T, text string) fretboard.Grip {
	t.Helper()
	g, err := fretboard.ParseGrip(text)
	require.NoError(t, err)
	return g
}

// One chord has two shapes: the usual one, and another in one bar. Somebody who
// cannot hold the barre plays a small shape in both.
func TestShapesOfOneBarAndOfOneStudent(t *testing.T) {
	guitar, err := fretboard.ByID("guitar")
	require.NoError(t, err)
	f := theory.MustChord("F")
	s := newSong(t, "F | C | F")
	s = apply(t, s, edit.SetShape{Instrument: guitar, Chord: f, Grip: grip(t, "133211/134211")})
	s = apply(t, s, edit.SetShape{Instrument: guitar, Chord: f, Grip: grip(t, "xx3211"), Bar: bar(s, 0, 2)})
	shapesIn := func(s song.Song, at int) string {
		return s.Sections[0].Bars[at].In(guitar, s.ShapesOn(guitar))[f].String()
	}
	assert.Equal(t, "133211", shapesIn(s, 0))
	assert.Equal(t, "xx3211", shapesIn(s, 2))
	assert.Equal(t, "134211", s.ShapesOn(guitar)[f].Fingering.String())

	own, err := hand.ParseOwn("F: 103211/103211; Bm=x24432, ", guitar)
	require.NoError(t, err)
	assert.Equal(t, "Bm x24432, F 103211/103211", hand.OwnText(own))
	student := s.HeldBy(guitar, own)
	assert.Equal(t, "103211", shapesIn(student, 0))
	assert.Equal(t, "103211", shapesIn(student, 2))
	assert.Equal(t, "xx3211", shapesIn(s, 2), "the song itself is as it was")

	s = apply(t, s, edit.SplitBar{Bar: bar(s, 0, 2)})
	assert.Equal(t, "xx3211", shapesIn(s, 3), "both halves are held the same")
	s = apply(t, s, edit.SetShape{Instrument: guitar, Chord: f, Bar: bar(s, 0, 2)})
	assert.Equal(t, "133211", shapesIn(s, 2))
	assert.Equal(t, "xx3211", shapesIn(s, 3))
}

func TestOwnShapesThatCannotBe(t *testing.T) {
	guitar, err := fretboard.ByID("guitar")
	require.NoError(t, err)
	for text, says := range map[string]string{
		"F":        "a shape is a chord and its frets",
		"F 0003":   "4 strings",
		"Hq 01":    "Hq",
		"F x3321y": "not a fret",
	} {
		_, err := hand.ParseOwn(text, guitar)
		assert.ErrorContains(t, err, says, text)
	}
}
