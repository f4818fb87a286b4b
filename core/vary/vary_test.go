package vary_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"arplin/core/hand"
	"arplin/core/vary"
)

func ladder(notation string) (patterns, adds []string) {
	for _, s := range vary.Ladder(hand.MustParse(notation)) {
		patterns = append(patterns, s.Pattern.String())
		adds = append(adds, s.Adds)
	}
	return patterns, adds
}

// Source: common practice, the order in which teachers build an alternating thumb.
func TestAlternatingThumbIsBuiltInOrder(t *testing.T) {
	patterns, adds := ladder("4/4: p . p'+m . p i p' . | p+m . p' i p m p' .")
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
	patterns, _ := ladder("4/4: D . D U . U D U")
	assert.Equal(t, []string{
		"4/4: D . . . . . . .",
		"4/4: D . . . D . . .",
		"4/4: D . D . D . D .",
		"4/4: D . D U D . D .",
		"4/4: D . D U D U D U",
		"4/4: D . D U . U D U",
	}, patterns)
}

func TestEveryLadderOfTheCatalogue(t *testing.T) {
	for _, e := range hand.Catalogue {
		steps := vary.Ladder(e.Pattern)
		if e.Pattern.Count() >= 5 {
			assert.GreaterOrEqual(t, len(steps), 3, e.ID)
		}
		assert.True(t, steps[len(steps)-1].Pattern.Equal(e.Pattern), "%s ends in its target", e.ID)
		seen := map[string]bool{}
		for i, s := range steps {
			text := s.Pattern.String()
			assert.False(t, seen[text], "%s repeats %s", e.ID, text)
			seen[text] = true
			assert.NotEmpty(t, s.Adds)
			assert.NotEmpty(t, s.Says)
			assert.Equal(t, e.Pattern.Meter, s.Pattern.Meter)
			assert.NotEmpty(t, s.Pattern.Bars[0][0].Strokes, "%s: a stroke on beat one in %s", e.ID, text)
			_, err := hand.Parse(text)
			assert.NoError(t, err)
			if i > 0 {
				assert.NotEqual(t, steps[i-1].Pattern.Count(), 0)
				fresh := vary.New(s.Pattern, steps[i-1].Pattern)
				left := vary.Missing(s.Pattern, steps[i-1].Pattern)
				assert.NotEmpty(t, len(fresh)+len(left), "%s: %s shows nothing new", e.ID, text)
			}
		}
	}
}

func TestWhatIsNewAndWhatIsMissing(t *testing.T) {
	below, step := hand.MustParse("4/4: p . p . p . p ."), hand.MustParse("4/4: p . p'+m . p . p' .")
	assert.Equal(t, map[vary.Place]bool{{0, 2, hand.Thumb}: true, {0, 2, hand.Middle}: true, {0, 6, hand.Thumb}: true}, vary.New(step, below))
	assert.Equal(t, map[vary.Place]bool{{0, 5, hand.Index}: true}, vary.Missing(step, hand.MustParse("4/4: p . p'+m . p i p' .")))
}

// Source: common practice, about 60, 80 and 100 per cent of the goal.
func TestTempos(t *testing.T) {
	assert.Equal(t, vary.Tempos{Slow: 48, Medium: 64, Goal: 80}, vary.TemposFor(80))
	assert.Equal(t, vary.Tempos{Slow: 50, Medium: 66, Goal: 83}, vary.TemposFor(83))
}
