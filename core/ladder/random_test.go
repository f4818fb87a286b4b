package ladder_test

import (
	"pgregory.net/rapid"

	"arplin/core/ladder/order"
	"arplin/core/pattern"
	"arplin/core/pattern/patterntest"
)

func pick(t *rapid.T) patterntest.Pick {
	return func(n int) int { return rapid.IntRange(0, n-1).Draw(t, "pick") }
}

func randomFigure(t *rapid.T) pattern.Pattern { return patterntest.AsWritten(pick(t)) }

func anyChoice(t *rapid.T) order.Choice {
	return order.Choice{
		Order: rapid.SampledFrom(order.All).Draw(t, "order").Value, Size: rapid.SampledFrom(order.Sizes).Draw(t, "size").Value,
		Chords: rapid.SampledFrom(order.ChordsCome).Draw(t, "chords come").Value, Parts: rapid.SampledFrom(order.PartsCome).Draw(t, "parts").Value,
	}
}
