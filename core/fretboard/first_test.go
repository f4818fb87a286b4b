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
