package main

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/pattern/catalogue"
)

const goldenFile = "testdata/answers.txt"

// What the program answers on the catalogue and the demo's songs, as a digest a line: a change of its
// rooms that means to change no answer changes none of these. ARPLIN_WRITE_GOLDEN=1 writes them again
// where an answer is meant to change; the difference then says which.
func TestAnswersAreTheSame(t *testing.T) {
	var got []string
	say := func(name, out string) {
		sum := sha256.Sum256([]byte(out))
		got = append(got, name+" "+hex.EncodeToString(sum[:8]))
	}
	calc := func(name string, args ...string) {
		out, errOut, err := run(args...)
		require.NoError(t, err, "%s: %s", name, errOut)
		say(name, out)
	}
	const chords = "C | Am | F G7 | D/F#"
	for i, e := range catalogue.All {
		for _, instrument := range []string{"guitar", "ukulele"} {
			on := []string{"--pattern", e.Pattern.String(), "--chords", chords, "--instrument", instrument, "--tempo", "84"}
			for _, verb := range []string{"demand", "vary", "ladder", "drill"} {
				calc(fmt.Sprintf("%s %s %s", verb, instrument, e.ID), append([]string{"calc", verb}, on...)...)
			}
			for _, chord := range []string{"C", "G7", "F"} {
				calc(fmt.Sprintf("bind %s %s on %s", instrument, e.ID, chord), "calc", "bind", "--pattern", e.Pattern.String(), "--chord", chord, "--instrument", instrument)
			}
			if i%6 == 0 { // a second of sound takes longer than all of the rest
				calc(fmt.Sprintf("sound %s %s", instrument, e.ID), append([]string{"sound", "--bars", "2"}, on...)...)
			}
		}
	}
	songs, err := filepath.Glob("../../demo/songs/*.cho")
	require.NoError(t, err)
	require.NotEmpty(t, songs)
	for _, path := range songs {
		text, err := os.ReadFile(path)
		require.NoError(t, err)
		name := strings.TrimSuffix(filepath.Base(path), ".cho")
		for _, to := range []string{"chordpro", "musicxml", "midi", "text"} {
			for _, instrument := range []string{"guitar", "ukulele"} {
				var out, errOut bytes.Buffer
				cmd := root()
				cmd.SetIn(bytes.NewReader(text))
				cmd.SetOut(&out)
				cmd.SetErr(&errOut)
				cmd.SetArgs([]string{"convert", "-", "--to", to, "--instrument", instrument, "--pattern", "4/4: p . p'+m . p i p' . | p+m . p' i p m p' ."})
				if err := cmd.Execute(); err != nil { // a figure in four is none of a song in three
					say(fmt.Sprintf("convert %s to %s on %s", name, to, instrument), errOut.String())
					continue
				}
				say(fmt.Sprintf("convert %s to %s on %s", name, to, instrument), out.String())
			}
		}
	}
	text := strings.Join(got, "\n") + "\n"
	if os.Getenv("ARPLIN_WRITE_GOLDEN") != "" {
		require.NoError(t, os.WriteFile(goldenFile, []byte(text), 0o600))
	}
	want, err := os.ReadFile(goldenFile)
	require.NoError(t, err)
	had := map[string]bool{}
	for line := range strings.Lines(string(want)) {
		had[line] = true
	}
	var changed []string
	for line := range strings.Lines(text) {
		if !had[line] {
			changed = append(changed, strings.TrimSpace(line))
		}
	}
	assert.Empty(t, changed, "answers that are others now")
	assert.Equal(t, strings.Count(string(want), "\n"), len(got))
}
