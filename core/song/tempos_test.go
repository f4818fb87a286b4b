package song_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"arplin/core/pattern"
	"arplin/core/song"
)

// Source: common practice, about 60, 80 and 100 per cent of the goal.
func TestTempos(t *testing.T) {
	assert.Equal(t, song.Tempos{Slow: 48, Medium: 64, Goal: 80}, song.TemposFor(80))
	assert.Equal(t, song.Tempos{Slow: 50, Medium: 66, Goal: 83}, song.TemposFor(83))
}

// A slow six-eight is counted in eighths. Source: common practice.
func TestASlowSixEightIsCountedInEighths(t *testing.T) {
	six, four := pattern.Meter{Beats: 6, Unit: 8}, pattern.Meter{Beats: 4, Unit: 4}
	assert.Equal(t, 120, song.EighthsAt(six, 40))
	assert.Zero(t, song.EighthsAt(six, 50))
	assert.Zero(t, song.EighthsAt(four, 40))
	s := song.Song{Meter: six, Tempo: 60}
	assert.Zero(t, s.Eighths())
	assert.Equal(t, 108, s.SlowEighths())
}
