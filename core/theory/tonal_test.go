package theory_test

import (
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/theory"
)

const (
	flatFive   = "a lowered fifth is written, so it stands in the fifth's place; tonal adds a raised eleventh"
	keepsFifth = "an added flat sixth or thirteenth leaves the fifth in the chord; the shape search may drop it"
	asWritten  = "the raised fifth is spelled as it is written, tonal spells a flat sixth"
)

// differsFromTonal lists the qualities that the reference reads otherwise, each
// with the reason for our reading.
var differsFromTonal = map[string]string{
	"^": "^ is read like its twin sign Δ, a major seventh", "^#5": "as ^",
	"maj#4": "no seventh is written", "M7add13": "add adds that note alone, no ninth",
	"M6b5": flatFive, "6b5": flatFive, "7b5b13": flatFive, "7b5#9": flatFive, "7#9b5": flatFive, "9b5b13": flatFive, "7b5b9": flatFive, "7b9b5": flatFive, "7b5b9b13": flatFive,
	"M7b6": keepsFifth, "^7b6": keepsFifth, "7b13": keepsFifth, "9b13": keepsFifth, "mb6b9": keepsFifth,
	"m7#5": asWritten, "m9#5": asWritten,
}

// Source: the library tonal 6.4 from the npm registry (e2e/reference.mjs).
// Every root and quality that both know has the same notes.
func TestNotesAgreeWithTonal(t *testing.T) {
	data, err := os.ReadFile("testdata/tonal.tsv")
	require.NoError(t, err)
	both, known, unknown := 0, 0, map[string]bool{}
	for line := range strings.Lines(string(data)) {
		symbol, want, ok := strings.Cut(strings.TrimSpace(line), "\t")
		require.True(t, ok, line)
		c, err := theory.ParseChord(symbol)
		if err != nil {
			unknown[symbol] = true
			continue
		}
		both++
		if _, ok := differsFromTonal[c.Suffix]; ok {
			known++
			assert.NotEqual(t, want, notesOf(c), "%s is listed as different and is not", symbol)
			continue
		}
		assert.True(t, sameNotes(notesOf(c), want), "%s: tonal %s, ours %s", symbol, want, notesOf(c))
	}
	t.Logf("tonal: %d chords that both know, %d of them read otherwise on purpose, %d that only tonal knows", both, known, len(unknown))
	assert.Greater(t, both-known, 2400)
}

// sameNotes compares without order.
func sameNotes(a, b string) bool {
	have := map[string]bool{}
	for _, n := range strings.Fields(a) {
		have[n] = true
	}
	list := strings.Fields(b)
	for _, n := range list {
		if !have[n] {
			return false
		}
	}
	return len(have) == len(list)
}
