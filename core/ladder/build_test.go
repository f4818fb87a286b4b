package ladder_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"arplin/core/difficulty"
	"arplin/core/ladder"
	"arplin/core/ladder/grow"
	"arplin/core/ladder/order"
	"arplin/core/pattern"
)

// built lists the figures of a staircase on one chord and what each adds.
func built(t *testing.T, notation string) (patterns, adds []string) {
	tk := task(t, pattern.MustParse(notation), "C")
	steps := grow.Build(order.Choice{Size: order.Small}, tk, difficulty.Fitted, 0)
	for i, s := range steps {
		patterns = append(patterns, s.Pattern.String())
		adds = append(adds, ladder.Describe(steps, i, tk).Name)
	}
	return patterns, adds
}

// Source: common practice, the order in which teachers build an alternating thumb.
func TestAlternatingThumbIsBuiltInOrder(t *testing.T) {
	patterns, adds := built(t, "4/4: p . p'+m . p i p' . | p+m . p' i p m p' .")
	assert.Equal(t, []string{
		"4/4: p . . . . . . .",
		"4/4: p . . . p . . .",
		"4/4: p . p . p . p .",
		"4/4: p . p' . p . p' .",
		"4/4: p . p'+m . p . p' .",
		"4/4: p . p'+m . p i p' .",
		"4/4: p+m . p' i p m p' .",
		"4/4: p . p'+m . p i p' . | p+m . p' i p m p' .",
	}, patterns)
	assert.Equal(t, []string{"bass on 1", "bass on 3", "bass on 2 and 4", "alternating bass", "middle finger on 2", "index on the “and” of 3", "second bar alone", "both bars joined"}, adds)
}

// Source: common practice: downs, down-up, then strokes left out while the hand
// keeps moving.
func TestStrumIsBuiltInOrder(t *testing.T) {
	patterns, _ := built(t, "4/4: D . D U . U D U")
	assert.Equal(t, []string{
		"4/4: D . . . . . . .",
		"4/4: D . . . D . . .",
		"4/4: D . D . D . D .",
		"4/4: D . D U D . D .",
		"4/4: D . D U D U D U",
		"4/4: D . D U . U D U",
	}, patterns)
}
