package ladder_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"arplin/core/difficulty"
	"arplin/core/ladder"
	"arplin/core/pattern"
)

// What a step of an alternating thumb brings, by the order in which teachers take it
// apart: common practice.
func TestThreads(t *testing.T) {
	step := func(notation string, over ladder.Over) ladder.Step {
		return ladder.Step{Pattern: pattern.MustParse(notation), Over: over}
	}
	said := step("4/4: p . . .", ladder.OneChord)
	said.Play = difficulty.Said
	steps := []ladder.Step{
		said,
		step("4/4: p . . .", ladder.OneChord),
		step("4/4: p p p p", ladder.OneChord),
		step("4/4: p p' p p'", ladder.OneChord),
		step("4/4: p p'+m p p'", ladder.OneChord),
		step("4/4: p p'+m p p'", ladder.AllChords),
		step("4/4: p . p'+m . p i p' .", ladder.AllChords),
	}
	slow := steps[len(steps)-1]
	slow.Pace = 80
	steps = append(steps[:6:6], slow, steps[6])
	assert.Equal(t, []string{"count and rhythm", "first strokes", "first strokes", "the alternating thumb", "pinches", "chord changes", "finger notes between the thumb’s beats", "tempo"}, ladder.Threads(steps))
	assert.Empty(t, ladder.Threads(nil))
}
