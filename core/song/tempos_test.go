package song_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"arplin/core/song"
)

// Source: common practice, about 60, 80 and 100 per cent of the goal.
func TestTempos(t *testing.T) {
	assert.Equal(t, song.Tempos{Slow: 48, Medium: 64, Goal: 80}, song.TemposFor(80))
	assert.Equal(t, song.Tempos{Slow: 50, Medium: 66, Goal: 83}, song.TemposFor(83))
}
