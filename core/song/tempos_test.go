package song_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"arplin/core/pattern"
	"arplin/core/song"
)

// A slow six-eight is counted in eighths. Source: common practice.
func TestASlowSixEightIsCountedInEighths(t *testing.T) {
	s := song.Song{Meter: pattern.Meter{Beats: 6, Unit: 8}, Tempo: 60}
	assert.Zero(t, s.Eighths())
	assert.Equal(t, 108, s.SlowEighths())
}
