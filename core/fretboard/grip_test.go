package fretboard_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/fretboard"
	"arplin/core/theory"
)

// G with the ring and little finger, so that C is near; F whole with a barre. Source:
// common practice.
func TestGripsAreReadAndPrinted(t *testing.T) {
	guitar, err := fretboard.ByID("guitar")
	require.NoError(t, err)
	for _, c := range []struct {
		text, printed, chord string
		fingers              string
		barre                fretboard.Barre
	}{
		{"320003", "320003", "G", "210003", fretboard.Barre{}},
		{"320003/320004", "320003/320004", "G", "320004", fretboard.Barre{}},
		{"x32010/x3-.1x", "", "C", "", fretboard.Barre{}},
		{"x32010/x32x1x", "x32010/032010", "C", "032010", fretboard.Barre{}},
		{"x 3 2 0 1 0/0 3 2 0 1 0", "x32010/032010", "C", "032010", fretboard.Barre{}},
		{"133211/134211", "133211/134211", "F", "134211", fretboard.Barre{Fret: 1, From: 6, To: 1, Finger: 1}},
		{"x-10-12-12-12-10/013331", "x-10-12-12-12-10/013331", "G", "013331", fretboard.Barre{Fret: 10, From: 5, To: 1, Finger: 1}},
	} {
		g, err := fretboard.ParseGrip(c.text)
		if c.printed == "" {
			assert.Error(t, err, c.text)
			continue
		}
		require.NoError(t, err, c.text)
		assert.Equal(t, c.printed, g.String())
		v := g.Read(guitar, theory.MustChord(c.chord))
		assert.Equal(t, c.fingers, v.Fingering.String(), c.text)
		assert.Equal(t, c.barre, v.Fingering.Barre, c.text)
	}
	easy, hard := "320003/210003", "320003/210004"
	hold := func(text string) float64 {
		g, err := fretboard.ParseGrip(text)
		require.NoError(t, err)
		return g.Read(guitar, theory.MustChord("G")).Hold
	}
	assert.Greater(t, hold(hard), hold(easy), "the little finger costs more")
}

func TestFingersThatNoHandHasAreRefused(t *testing.T) {
	for text, says := range map[string]string{
		"x32010/x3201":  "x32010 has 6 strings, so it takes 6 signs",
		"x32010/x32o10": "string 3: 'o' is not a finger",
		"x32010/x32000": "string 2 is pressed at fret 1 and has no finger",
		"x32010/132010": "string 6 is not pressed",
		"x32010/x22010": "the middle finger cannot be on fret 3 and on fret 2",
	} {
		_, err := fretboard.ParseGrip(text)
		assert.ErrorContains(t, err, says, text)
	}
}
