package ladder_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"arplin/core/bpm"
	"arplin/core/ladder"
)

// Slow, medium and goal come from the song's goal once: 14 dotted quarters are no
// tempo for a goal of 40.
func TestASlowStepIsNotSlowedAgain(t *testing.T) {
	for _, c := range []struct {
		pace int
		want bpm.Tempos
	}{
		{0, bpm.Tempos{Slow: 24, Medium: 32, Goal: 40}},
		{bpm.MediumPercent, bpm.Tempos{Slow: 24, Medium: 32, Goal: 32}},
		{bpm.SlowPercent, bpm.Tempos{Slow: 24, Medium: 24, Goal: 24}},
	} {
		assert.Equal(t, c.want, ladder.Step{Pace: c.pace}.Tempos(40))
	}
}
