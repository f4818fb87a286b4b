package files

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"arplin/core/say"
)

// What an import brought is stored as a line; a sentence that was stored before is read as it is.
func TestWhatAnImportBroughtIsALine(t *testing.T) {
	taking := Taking{Kinds: []TakingKind{{ID: "brings-songs", New: []string{"Umbrella"}, Changed: []string{"Ferry"}}, {ID: "brings-classes", Same: 3}, {ID: "brings-tries", New: make([]string, 12)}}}
	assert.Equal(t, "songs: 2, log entries: 12", taking.Says())
	stored := taking.brings().String()
	assert.NotContains(t, stored, "log entries", "ids and numbers")
	assert.Equal(t, taking.Says(), BringsWords.Say(say.Parse(stored)))
	assert.Equal(t, "songs: 2, patterns: 1", BringsWords.Say(say.Parse("songs: 2, patterns: 1")), "as it was stored once")
	assert.Empty(t, Taking{}.Says())
}
