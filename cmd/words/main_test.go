package main

import (
	"bytes"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Sentences and labels are found where they stand; what nobody reads is not taken for one.
func TestWordsAreFoundWithTheirPlace(t *testing.T) {
	dir := t.TempDir()
	write := func(name, text string) []word {
		path := filepath.Join(dir, name)
		require.NoError(t, os.WriteFile(path, []byte(text), 0o600))
		found, err := wordsIn(path)
		require.NoError(t, err)
		return found
	}
	assert.Equal(t, []word{{6, "the bar %d is not there"}, {7, "Played"}}, write("a.go", "package a\n\nimport \"net/http\"\n\ntype t struct{ A string `json:\"a b\"` }\nvar x = \"the bar %d is not there\"\nvar y = \"Played\"\nvar q = \"SELECT a FROM b\"\nvar r = regexp.MustCompile(\"one (two) three\")\nvar k = \"key\"\n"))
	assert.Equal(t, []word{{1, "Log a tempo"}, {2, "Tempo of ·"}, {3, "· students are here"}}, write("a.html", "<p>Log a\n tempo</p><input aria-label=\"Tempo of {{.Name}}\">\n{{plural 2}} students are here<style>p { color: red }</style>"))
	assert.Equal(t, []word{{2, "The connection is lost."}}, write("a.js", "// \"not this one\"\nsay(\"The connection is lost.\"); find(\"[data-left] b\");\n"))
	assert.Empty(t, write("a_test.go", "package a\nvar x = \"a test says this\"\n"))
}

// All of the program is read: each of its rooms says something.
func TestEveryRoomIsRead(t *testing.T) {
	var out bytes.Buffer
	n, err := say(&out, "../..")
	require.NoError(t, err)
	assert.Equal(t, n, strings.Count(out.String(), "\n"))
	for _, room := range rooms {
		assert.Contains(t, out.String(), filepath.Join("../..", room)+"/", room)
	}
	assert.Contains(t, out.String(), "web/templates/signin.html")
	assert.Contains(t, out.String(), "web/static/js/")
}

// Old words and odd English stay away: docs/glossary.md, and how a teacher speaks.
func TestNoOldWords(t *testing.T) {
	var out strings.Builder
	_, err := say(&out, "../..")
	require.NoError(t, err)
	old := regexp.MustCompile(`\b([Ss]omebody|[Ee]verybody|anew|in the meantime|of now|[Tt]ake along|[Tt]ake (it|this file) in|as found|problem area|quarters a minute|Hear it|Put it on|Do it|the own|[^t] by you|[Ff]igures?|not heard|goes by itself|falls? apart|the plan anew|beats a minute|one of them goes|To the (song|class|bench|ladder|desk|term|room))\b`)
	// What only a program reads, or a file of another program says, is no sentence of ours.
	own := regexp.MustCompile(`^\.\./\.\./(core/ladder/json\.go|cmd/arplin/|store/(schema|localdb)|core/arch/|format/logcsv/|core/pattern/patterntest|.*_test\.go)`)
	for line := range strings.Lines(out.String()) {
		if !own.MatchString(line) {
			assert.False(t, old.MatchString(line), "%s", strings.TrimSpace(line))
		}
	}
}
