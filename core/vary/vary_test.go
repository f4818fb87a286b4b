package vary_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"arplin/core/demand"
	"arplin/core/hand"
	"arplin/core/vary"
)

// built lists the figures of a staircase on one chord and what each adds.
func built(t *testing.T, notation string) (patterns, adds []string) {
	for _, s := range vary.Staircase(vary.ThumbFirst, task(t, hand.MustParse(notation), "C"), demand.Fitted, 0) {
		patterns = append(patterns, s.Pattern.String())
		adds = append(adds, s.Adds)
	}
	return patterns, adds
}

// Source: common practice, the order in which teachers build an alternating thumb.
func TestAlternatingThumbIsBuiltInOrder(t *testing.T) {
	patterns, adds := built(t, "4/4: p . p'+m . p i p' . | p+m . p' i p m p' .")
	assert.Equal(t, []string{
		"4/4: p . . . . . . .",
		"4/4: p . p . p . p .",
		"4/4: p . p' . p . p' .",
		"4/4: p . p'+m . p . p' .",
		"4/4: p . p'+m . p i p' .",
		"4/4: p . p'+m . p i p' . | p+m . p' i p m p' .",
	}, patterns)
	assert.Equal(t, []string{"the first stroke of the bar", "every beat", "second bass string", "one finger note", "first off-beat", "second bar"}, adds)
}

// Source: common practice: downs, down-up, then strokes left out while the hand
// keeps moving.
func TestStrumIsBuiltInOrder(t *testing.T) {
	patterns, _ := built(t, "4/4: D . D U . U D U")
	assert.Equal(t, []string{
		"4/4: D . . . . . . .",
		"4/4: D . D . D . D .",
		"4/4: D . D U D . D .",
		"4/4: D . D U D U D U",
		"4/4: D . D U . U D U",
	}, patterns)
}

func TestWhatIsNewAndWhatIsMissing(t *testing.T) {
	below, step := hand.MustParse("4/4: p . p . p . p ."), hand.MustParse("4/4: p . p'+m . p . p' .")
	assert.Equal(t, map[vary.Place]bool{{0, 2, hand.Thumb}: true, {0, 2, hand.Middle}: true, {0, 6, hand.Thumb}: true}, vary.New(step, below))
	assert.Equal(t, map[vary.Place]bool{{0, 5, hand.Index}: true}, vary.Missing(step, hand.MustParse("4/4: p . p'+m . p i p' .")))
}

func TestTwiceAsFastIsNewInTheSecondHalf(t *testing.T) {
	below, step := hand.MustParse("2/4: D . D U"), hand.MustParse("2/4: D . D U D . D U")
	assert.Equal(t, map[vary.Place]bool{{0, 4, hand.Down}: true, {0, 6, hand.Down}: true, {0, 7, hand.Up}: true}, vary.New(step, below))
	assert.Empty(t, vary.New(hand.MustParse("2/4: p . . p . ."), below), "another grid cannot be compared")
	assert.Empty(t, vary.Missing(below, step))
}

// Source: common practice, about 60, 80 and 100 per cent of the goal.
func TestTempos(t *testing.T) {
	assert.Equal(t, vary.Tempos{Slow: 48, Medium: 64, Goal: 80}, vary.TemposFor(80))
	assert.Equal(t, vary.Tempos{Slow: 50, Medium: 66, Goal: 83}, vary.TemposFor(83))
}
