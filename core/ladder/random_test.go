package ladder_test

import (
	"pgregory.net/rapid"

	"arplin/core/pattern"
	"arplin/core/pattern/patterntest"
)

func pick(t *rapid.T) patterntest.Pick {
	return func(n int) int { return rapid.IntRange(0, n-1).Draw(t, "pick") }
}

func randomFigure(t *rapid.T) pattern.Pattern { return patterntest.AsWritten(pick(t)) }
