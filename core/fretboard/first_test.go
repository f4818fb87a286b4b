package fretboard_test

import (
	"encoding/json"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/fretboard"
	"arplin/core/theory"
)

// The first answer for a common chord is what a beginner's chart shows.
// Source: from memory, see the file.
func TestEasiestShapeIsTheBeginnersShape(t *testing.T) {
	data, err := os.ReadFile("testdata/first_shapes.json")
	require.NoError(t, err)
	var lists map[string]json.RawMessage
	require.NoError(t, json.Unmarshal(data, &lists))
	for _, id := range []string{"guitar", "ukulele"} {
		var want map[string]string
		require.NoError(t, json.Unmarshal(lists[id], &want))
		ins, err := fretboard.ByID(id)
		require.NoError(t, err)
		for symbol, shape := range want {
			v, ok := fretboard.Easiest(ins, theory.MustChord(symbol))
			require.True(t, ok, symbol)
			assert.Equal(t, shape, v.String(), "%s on %s, effort %.2f; the chart's has %.2f", symbol, id, v.Effort,
				fretboard.Read(ins, theory.MustChord(symbol), fretboard.MustShape(shape)).Effort)
		}
	}
}

// What a teacher shows first of chords beyond the beginners' chart: power chords are three neighbouring
// strings over their root, and no open string rings beside a barre. Source: common practice.
func TestShapesThatAreTaughtFirst(t *testing.T) {
	for id, want := range map[string]map[string]string{
		"guitar": {
			"F#7": "xx4320", "F#m7": "202220", "C#m": "x46654", "Csus2": "x30033", "Dadd9": "x54230", "Gaug": "321003", "F#dim7": "xx1212", "Bdim": "x2343x",
			"G5": "355xxx", "C5": "x355xx", "B5": "x244xx", "F5": "133xxx", "A5": "x022xx", "E5": "022xxx",
			"Caug": "x32110",
		},
		"guitar-drop-d": {"G": "5x0003", "D5": "000xxx", "E5": "222xxx", "F5": "333xxx", "E": "222100"},
		"guitar-dadgad": {"D": "004200", "D5": "000200", "Em": "222022", "Em7": "222020"},

		"ukulele":  {"F#m7": "2424", "Am7b5": "2333"},
		"baritone": {"D/F#": "4232", "Cmaj7": "2413"},
	} {
		ins, err := fretboard.ByID(id)
		require.NoError(t, err)
		for symbol, shape := range want {
			v, ok := fretboard.Easiest(ins, theory.MustChord(symbol))
			require.True(t, ok, symbol)
			assert.Equal(t, shape, v.String(), "%s on %s", symbol, id)
		}
	}
}
