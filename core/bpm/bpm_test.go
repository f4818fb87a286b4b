package bpm_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"arplin/core/bpm"
	"arplin/core/pattern"
)

// Source: common practice, about 60, 80 and 100 per cent of the goal.
func TestTempos(t *testing.T) {
	assert.Equal(t, bpm.Tempos{Slow: 48, Medium: 64, Goal: 80}, bpm.Of(80))
	assert.Equal(t, bpm.Tempos{Slow: 50, Medium: 66, Goal: 83}, bpm.Of(83))
}

// A slow six-eight is counted in eighths. Source: common practice.
func TestASlowSixEightIsCountedInEighths(t *testing.T) {
	six, four := pattern.Meter{Beats: 6, Unit: 8}, pattern.Meter{Beats: 4, Unit: 4}
	assert.Equal(t, 120, bpm.Eighths(six, 40))
	assert.Zero(t, bpm.Eighths(six, 50))
	assert.Zero(t, bpm.Eighths(four, 40))
}
