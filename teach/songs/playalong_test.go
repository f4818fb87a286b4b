package songs

import (
	"archive/zip"
	"bytes"
	"encoding/binary"
	"io"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/bind"
	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
	"arplin/teach/people"
)

// loudest is the highest sample of a WAV file, of full scale.
func loudest(t *testing.T, wav []byte) float64 {
	t.Helper()
	samples := make([]int16, (len(wav)-44)/2)
	require.NoError(t, binary.Read(bytes.NewReader(wav[44:]), binary.LittleEndian, samples))
	return max(float64(slices.Max(samples)), -float64(slices.Min(samples))) / 32767
}

// No pattern of the catalogue goes over full scale, fast and with the click; a mix that did
// would be at 0.95, since it is made softer then.
func TestNothingClipsOverTheCatalogue(t *testing.T) {
	if testing.Short() {
		t.Skip("in make test")
	}
	most := 0.0
	for i, e := range catalogue.All {
		ask := ScoreAsk{Instrument: []string{"guitar", "ukulele"}[i%2]}
		s, err := figureScore(e.Name, e.Pattern, 80, people.Class{}, ask)
		require.NoError(t, err)
		wav, err := s.WAV(t.Context(), PlayAlong{Tempo: 160, Click: true})
		require.NoError(t, err)
		top := loudest(t, wav)
		assert.Less(t, top, 0.9, e.ID)
		most = max(most, top)
	}
	assert.Greater(t, most, 0.5, "nor is it needlessly soft")
}

// What is made to take home is there slow, medium and at the goal, each with the figure and
// to play over; what would be too long is said in a file, and no tempo is twice.
func TestAlongs(t *testing.T) {
	p, ok := catalogue.ByID("thumb-once")
	require.True(t, ok)
	s, err := figureScore("Slow / fast?", p.Pattern, 200, people.Class{}, ScoreAsk{Chords: true})
	require.NoError(t, err)
	list := s.Alongs()
	require.Len(t, list, 6)
	assert.Equal(t, "Slow - fast- at 120.flac", list[0].Name, "a name that every disk takes")
	assert.Equal(t, "Slow - fast- at 120, to play over.flac", list[1].Name)
	assert.Len(t, AlongsAt("one", s, 90, 90, 90), 2)

	figure, over := list[0], list[1]
	assert.Contains(t, figure.Without, bind.ByChords)
	assert.NotContains(t, over.Without, bind.ByChords)
	a, err := figure.Score.WAV(t.Context(), figure.PlayAlong)
	require.NoError(t, err)
	b, err := over.Score.WAV(t.Context(), over.PlayAlong)
	require.NoError(t, err)
	assert.NotEqual(t, a, b)
	assert.Len(t, b, len(a), "they can be laid over one another")

	long := s
	long.Ticks *= 1000
	var buffer bytes.Buffer
	z := zip.NewWriter(&buffer)
	require.NoError(t, ZipAlongs(t.Context(), z, []Along{{"short.flac", s, PlayAlong{Tempo: 200}}, {"long.flac", long, PlayAlong{Tempo: 20}}}, func() error { return nil }))
	require.NoError(t, z.Close())
	r, err := zip.NewReader(bytes.NewReader(buffer.Bytes()), int64(buffer.Len()))
	require.NoError(t, err)
	require.Len(t, r.File, 2)
	assert.Equal(t, "short.flac", r.File[0].Name)
	left, err := r.File[1].Open()
	require.NoError(t, err)
	says, err := io.ReadAll(left)
	require.NoError(t, err)
	assert.Contains(t, string(says), "long.flac is not here")
	assert.Contains(t, string(says), "up to six")
}

// A slow six-eight is clicked in eighths, a quick one in its own beat; other meters are
// clicked in beats at any tempo. Source: common practice.
func TestASlowSixEightIsClickedInEighths(t *testing.T) {
	six, err := figureScore("six", pattern.MustParse("6/8: D . D U D U"), 60, people.Class{}, ScoreAsk{})
	require.NoError(t, err)
	firsts := func(list []click) (n int) {
		for _, c := range list {
			if c.first {
				n++
			}
		}
		return n
	}
	slow, quick := six.clicks(40), six.clicks(60)
	assert.Len(t, slow, 4*6)
	assert.Len(t, quick, 4*2)
	assert.Equal(t, 4, firsts(slow))
	assert.Equal(t, 4, firsts(quick))
	four, err := figureScore("four", pattern.MustParse("4/4: D D D D"), 60, people.Class{}, ScoreAsk{})
	require.NoError(t, err)
	assert.Len(t, four.clicks(40), 4*4)
}

// Straight eighths can be heard swung, and swung ones straight: every second of a pair comes
// at two thirds of it, or half. Triplets and six-eights have no other feel. Source: common
// practice (swing 2:1).
func TestFeel(t *testing.T) {
	at := func(notation string, feel Feel) (Feel, []int) {
		s, err := figureScore("feel", pattern.MustParse(notation), 80, people.Class{}, ScoreAsk{Feel: feel})
		require.NoError(t, err)
		var ticks []int
		for _, n := range s.Notes {
			if n.Tick < s.Bars[0].Beats*s.Beat && !slices.Contains(ticks, n.Tick) {
				ticks = append(ticks, n.Tick)
			}
		}
		return s.Feel, ticks
	}
	beat := pattern.MustParse("4/4: D D D D").Meter.BeatTicks()
	feel, ticks := at("4/4: D U D U . . . .", "")
	assert.Equal(t, Straight, feel)
	assert.Equal(t, []int{0, beat / 2, beat, beat * 3 / 2}, ticks)
	feel, ticks = at("4/4: D U D U . . . .", Swung)
	assert.Equal(t, Swung, feel)
	assert.Equal(t, []int{0, beat * 2 / 3, beat, beat * 5 / 3}, ticks)
	feel, ticks = at("4/4 swing: D U D U . . . .", Straight)
	assert.Equal(t, Straight, feel)
	assert.Equal(t, []int{0, beat / 2, beat, beat * 3 / 2}, ticks)
	feel, _ = at("6/8: D . D U D U", Swung)
	assert.Empty(t, feel)
}
