package theory_test

import (
	_ "embed"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/theory"
)

//go:embed testdata/detected.tsv
var detected string

// What a chord becomes by a note is named as the library tonal detects it (npm, tonal 6.4; made
// by e2e/reference.mjs): one of its names has the same notes as ours. Where tonal knows a name
// on the root, so do we, but for what no player would call a chord.
func TestNamesAreThoseThatAreDetected(t *testing.T) {
	checked, unnamed := 0, 0
	for line := range strings.Lines(detected) {
		f := strings.Split(strings.TrimRight(line, "\n"), "\t")
		require.Len(t, f, 3)
		c := theory.MustChord(f[0])
		class, err := strconv.Atoi(f[1])
		require.NoError(t, err)
		sounds := map[int]bool{class: true}
		for _, n := range c.Notes() {
			sounds[n.Class()] = true
		}
		name, ok := theory.Named(c, sounds)
		if f[2] == "" {
			continue
		}
		if !ok {
			unnamed++
			continue
		}
		alike := false
		for _, theirs := range strings.Fields(f[2]) {
			other, err := theory.ParseChord(asPlayersWrite.Replace(theirs))
			alike = alike || err == nil && classes(other) == classes(theory.MustChord(name))
		}
		assert.True(t, alike, "%s with %d: %s here, %s by tonal", f[0], class, name, f[2])
		checked++
	}
	assert.Greater(t, checked, 30)
	assert.Less(t, unnamed, checked/2)
}

// asPlayersWrite has the names of players for two of the library's: a major chord's M is left
// out, and a sixth over a seventh is a thirteenth.
var asPlayersWrite = strings.NewReplacer("Madd", "add", "7add6", "13")

func classes(c theory.Chord) (set uint16) {
	for _, n := range c.Notes() {
		set |= 1 << n.Class()
	}
	return set
}
