package ladder_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"arplin/core/ladder"
	"arplin/core/song"
)

// Slow, medium and goal come from the song's goal once: 14 dotted quarters are no
// tempo for a goal of 40.
func TestASlowStepIsNotSlowedAgain(t *testing.T) {
	for _, c := range []struct {
		pace int
		want song.Tempos
	}{
		{0, song.Tempos{Slow: 24, Medium: 32, Goal: 40}},
		{song.MediumPercent, song.Tempos{Slow: 24, Medium: 32, Goal: 32}},
		{song.SlowPercent, song.Tempos{Slow: 24, Medium: 24, Goal: 24}},
	} {
		assert.Equal(t, c.want, ladder.Step{Pace: c.pace}.Tempos(40))
	}
}
