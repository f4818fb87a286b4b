package main

import (
	"bytes"
	"encoding/json"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func ran(args ...string) (stdout []byte, stderr string, err error) {
	var out, errOut bytes.Buffer
	cmd := root()
	cmd.SetOut(&out)
	cmd.SetErr(&errOut)
	cmd.SetArgs(args)
	err = cmd.Execute()
	return out.Bytes(), errOut.String(), err
}

var thumbOver = []string{"--pattern", "4/4: p+m . p' i p m p' .", "--chords", "C | Am | F | G7", "--tempo", "76"}

// What the simulated player does is what the ear says, through tones and through MIDI. Source: the answers' description.
func TestPlayAndListen(t *testing.T) {
	for _, midi := range []bool{false, true} {
		dir := t.TempDir()
		truth, file := filepath.Join(dir, "truth.json"), filepath.Join(dir, "take")
		args := append([]string{"play", "--bars", "8", "--faults", "rush:45ms,stop:F:400ms,wrong-string:5%", "--seed", "3", "--truth", truth}, thumbOver...)
		if midi {
			args = append(args, "--midi")
		}
		take, errOut, err := ran(args...)
		require.NoError(t, err, errOut)
		again, _, err := ran(args...)
		require.NoError(t, err)
		assert.True(t, bytes.Equal(take, again), "the same seed is the same take")
		require.NoError(t, os.WriteFile(file, take, 0o600))
		out, errOut, err := ran(append([]string{"listen", file}, thumbOver...)...)
		require.NoError(t, err, errOut)
		var heard listenAnswer
		require.NoError(t, json.Unmarshal(out, &heard))
		assert.Contains(t, heard.Sentence, "The off-beats come early")
		assert.InDelta(t, 76, heard.Tempo, 0.5)
		assert.Empty(t, heard.CannotTell)
		kinds := map[string]int{}
		for _, f := range heard.Faults {
			kinds[f.Kind]++
			if f.Kind == "stops" {
				assert.InDelta(t, 400, f.MS, 30)
				assert.Equal(t, []int{0, 0, 2, 2}, []int{f.Bar, f.Slot, f.Rounds, f.Of})
			}
			if f.Kind == "early" {
				assert.InDelta(t, -45, f.MS, 12)
			}
		}
		assert.Equal(t, map[string]int{"early": 2, "stops": 1}, kinds)
		var told truthAnswer
		text, err := os.ReadFile(truth)
		require.NoError(t, err)
		require.NoError(t, json.Unmarshal(text, &told))
		assert.Len(t, told.Strokes, 56)
		assert.InDelta(t, 56, len(heard.Strokes), 2)
	}
}

func TestWhatIsNoTake(t *testing.T) {
	text := filepath.Join(t.TempDir(), "list.txt")
	require.NoError(t, os.WriteFile(text, []byte("Pia 72, Wim 66 x"), 0o600))
	for _, c := range []struct {
		says string
		args []string
	}{
		{"this is no recording that can be read", append([]string{"listen", text}, thumbOver...)},
		{"can’t be opened", append([]string{"listen", "no-such-file"}, thumbOver...)},
		{"nothing to play in this pattern", []string{"play", "--pattern", "4/4: . . . .", "--tempo", "76"}},
		{"is none of late-thumb, rush", append([]string{"play", "--faults", "hum"}, thumbOver...)},
		{"bars: 0 is not from 1 to", append([]string{"play", "--bars", "0"}, thumbOver...)},
	} {
		_, errOut, err := ran(c.args...)
		assert.ErrorIs(t, err, errBadInput)
		assert.Contains(t, errOut, c.says)
	}
}
