package main

import (
	"bytes"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/format/bundle"
)

// convert runs the command with a standard input.
func convert(in string, args ...string) (stdout, stderr string, err error) {
	var out, errOut bytes.Buffer
	cmd := root()
	cmd.SetIn(strings.NewReader(in))
	cmd.SetOut(&out)
	cmd.SetErr(&errOut)
	cmd.SetArgs(append([]string{"convert"}, args...))
	err = cmd.Execute()
	return out.String(), errOut.String(), err
}

const lane = "{title: Lane}\n{time: 3/4}\n{tempo: 90}\n[Verse]\n| G | D7 | G |\n"

// A sheet goes into every format and comes back out of those that can be read, by the standard input
// and output or by files.
func TestConvert(t *testing.T) {
	for to, begins := range map[string]string{"musicxml": "<?xml", "midi": "MThd", "text": "Lane\nGuitar", "svg": "<?xml", "wav": "RIFF", "chordpro": "{x_names", "bundle": "PK"} {
		out, errOut, err := convert(lane, "-", "--to", to, "--pattern", "3/4: p i m")
		require.NoError(t, err, errOut)
		assert.True(t, strings.HasPrefix(out, begins), "%s: %.20q", to, out)
		if to == "musicxml" || to == "text" {
			back, _, err := convert(out, "-", "--to", "chordpro")
			require.NoError(t, err)
			assert.Contains(t, back, "| [G] | [D7] | [G] |", to)
			assert.Contains(t, back, "{time: 3/4}")
		}
		if to == "bundle" {
			b, err := bundle.Read([]byte(out))
			require.NoError(t, err)
			assert.Len(t, b.Songs, 1)
		}
	}
	file := filepath.Join(t.TempDir(), "lane.mid")
	out, errOut, err := convert(lane, "-", "--to", "midi", "--pattern", "3/4: p i m", "--out", file)
	require.NoError(t, err, errOut)
	assert.Empty(t, out)
	data, err := os.ReadFile(file)
	require.NoError(t, err)
	assert.Equal(t, "MThd", string(data[:4]))
	out, errOut, err = convert("", file, "--to", "chordpro")
	require.NoError(t, err)
	assert.Contains(t, errOut, "a MIDI file has no chord symbols")
	assert.Contains(t, out, "{title: Lane}")
}

// What lies in docs/examples is what the program writes today, and every file that can be read
// becomes every format again.
func TestExamples(t *testing.T) {
	const dir, sheet = "../../docs/examples/", "../../demo/songs/buttons-in-a-biscuit-tin.cho"
	endings := map[string]string{"chordpro": ".cho", "musicxml": ".musicxml", "midi": ".mid", "text": ".txt", "svg": ".svg", "bundle": ".arplin.zip"}
	for to, ending := range endings {
		kept, err := os.ReadFile(dir + "buttons" + ending)
		require.NoError(t, err)
		out, errOut, err := convert("", sheet, "--to", to, "--station", "alternating")
		require.NoError(t, err, errOut)
		assert.Equal(t, string(kept), out, "%s: make examples", to)
	}
	out, errOut, err := convert("", dir+"buttons-ukulele.txt", "--to", "chordpro", "--instrument", "ukulele")
	require.NoError(t, err, errOut)
	assert.Contains(t, out, "| [G] | [Em] | [A7] | [D7] |", "four lines of strings among as many of chords, count, fingers and words")
	for _, from := range []string{"chordpro", "musicxml", "midi", "text"} {
		for to := range endings {
			out, errOut, err := convert("", dir+"buttons"+endings[from], "--to", to, "--pattern", "4/4: p . p' . p . p' .")
			require.NoError(t, err, "%s to %s: %s", from, to, errOut)
			assert.NotEmpty(t, out)
		}
	}
}

func TestConvertSaysWhatIsWrong(t *testing.T) {
	for _, x := range []struct {
		in   string
		args []string
		want string
	}{
		{lane, []string{"-", "--to", "doc"}, `"doc" is no format of a song`},
		{lane, []string{"-", "--to", "midi", "--pattern", "4/4: p i m a"}, "the pattern is in 4/4, the song in 3/4"},
		{lane, []string{"-", "--to", "svg", "--bar", "9", "--pattern", "3/4: p i m"}, "bar 9: it has 3 bars"},
		{lane, []string{"-", "--to", "svg"}, "nothing is played in bar 1"},
		{"words alone", []string{"-", "--to", "midi"}, "there is no bar in it"},
		{"<score-partwise>\n<part>", []string{"-", "--to", "midi"}, "line 2"},
		{"MThd\x00\x00\x00\x06\x00\x01", []string{"-", "--to", "text"}, "byte 0"},
		{"", []string{"no-such-file", "--to", "midi"}, "cannot be opened"},
		{"", []string{"--to", "midi"}, "name one file"},
		{lane, []string{"-", "--to", "midi", "--instrument", "lute"}, `"lute" is not an instrument`},
	} {
		out, errOut, err := convert(x.in, x.args...)
		assert.ErrorIs(t, err, errBadInput, x.want)
		assert.Empty(t, out)
		assert.Contains(t, errOut, x.want)
	}
}
