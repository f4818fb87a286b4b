package songs

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/fretboard"
	"arplin/core/theory"
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
