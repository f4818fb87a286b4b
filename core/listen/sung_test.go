package listen_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/listen"
)

// Two bars of three-four as a play bar has them: the bass, then a pair twice; a quarter has 5,040 ticks.
const sung = `{"beat": 5040, "figures": [{"n": "3/4: p . m+a . m+a ."}, {"n": "3/4: p p p"}],
	"bars": [{"from": 0, "beats": 3, "f": 0, "p": 0, "ch": [{"t": 0, "c": "Am", "h": [[1, 64], [2, 60], [5, 45]]}]},
		{"from": 15120, "beats": 3, "f": 0, "p": 0, "ch": [{"t": 15120, "c": "E7", "h": [[1, 64], [2, 59], [6, 40]]}]},
		{"from": 30240, "beats": 3, "f": 1, "p": 0, "ch": []}, {"from": 45360, "beats": 2, "f": 0, "p": 0, "ch": []}, {"from": 55440, "beats": 3, "f": -1, "ch": []}],
	"notes": [{"t": 0, "s": 5, "m": 45, "k": "flesh", "by": "thumb", "loud": 0.8}, {"t": 5040, "s": 2, "m": 60, "k": "flesh", "by": "fingers", "loud": 0.7},
		{"t": 5040, "s": 1, "m": 64, "k": "flesh", "by": "fingers", "loud": 0.7}, {"t": 14000, "k": "stop"},
		{"t": 15120, "s": 6, "m": 40, "k": "flesh", "by": "thumb", "loud": 0.8}, {"t": 20160, "s": 2, "m": 59, "k": "flesh", "by": "fingers", "loud": 0.7}]}`

func TestWhatAPlayBarPlaysIsAScore(t *testing.T) {
	var s listen.Sung
	require.NoError(t, json.Unmarshal([]byte(sung), &s))
	score, err := s.Score(60, 0, 1, 4)
	require.NoError(t, err)
	assert.True(t, score.Free)
	assert.Equal(t, 3000.0, score.BarMS())
	require.Len(t, score.Strokes, 8)
	var at []float64
	for _, st := range score.Strokes {
		at = append(at, st.At)
	}
	assert.Equal(t, []float64{0, 1000, 3000, 4000, 6000, 7000, 9000, 10000}, at, "the two bars come round")
	pair := score.Strokes[1]
	assert.Len(t, pair.Sounds, 2, "a pair is one stroke of the fingers")
	assert.Equal(t, 2, pair.Slot)
	assert.True(t, pair.OnBeat)
	assert.Equal(t, "Am", pair.Chord)
	assert.Equal(t, "E7", score.Strokes[2].Into)
	assert.Equal(t, "Am", score.Strokes[4].Into, "round again is a change, too")
	assert.Equal(t, 40, score.Strokes[2].Shape[2].MIDI)

	for _, c := range []struct {
		from, to int
		says     string
	}{
		{0, 2, "bar 3 has another pattern or time signature"}, {0, 3, "bar 3 has another"}, {3, 3, "bar 4 is no whole bar of its pattern"},
		{4, 4, "bar 5 has no pattern"}, {2, 2, "nothing is played"}, {1, 0, "no such bars"}, {0, 9, "no such bars"}, {-1, 0, "no such bars"},
	} {
		_, err := s.Score(60, c.from, c.to, 4)
		assert.ErrorContains(t, err, c.says, "%d to %d", c.from, c.to)
	}
	_, err = s.Score(0, 0, 1, 4)
	assert.Error(t, err)
}
