package pattern_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"arplin/core/pattern"
)

func TestWhatIsNewAndWhatIsMissing(t *testing.T) {
	below, step := pattern.MustParse("4/4: p . p . p . p ."), pattern.MustParse("4/4: p . p'+m . p . p' .")
	assert.Equal(t, map[pattern.Place]bool{{0, 2, pattern.Thumb}: true, {0, 2, pattern.Middle}: true, {0, 6, pattern.Thumb}: true}, pattern.New(step, below))
	assert.Equal(t, map[pattern.Place]bool{{0, 5, pattern.Index}: true}, pattern.Missing(step, pattern.MustParse("4/4: p . p'+m . p i p' .")))
}

func TestTwiceAsFastIsNewInTheSecondHalf(t *testing.T) {
	below, step := pattern.MustParse("2/4: D . D U"), pattern.MustParse("2/4: D . D U D . D U")
	assert.Equal(t, map[pattern.Place]bool{{0, 4, pattern.Down}: true, {0, 6, pattern.Down}: true, {0, 7, pattern.Up}: true}, pattern.New(step, below))
	assert.Empty(t, pattern.New(pattern.MustParse("2/4: p . . p . ."), below), "another grid cannot be compared")
	assert.Empty(t, pattern.Missing(below, step))
}
