package plan_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"arplin/core/plan"
)

func TestPlacement(t *testing.T) {
	play := []bool{false, true, true, true, true, true, true, true, false, true}
	steps := plan.PlacementSteps(play)
	assert.Equal(t, []int{1, 3, 5, 9}, steps, "from the first to the last that is played with the class")
	for _, c := range []struct {
		heard []plan.Heard
		step  int
		why   string
	}{
		{nil, 0, "nothing was played yet"},
		{[]plan.Heard{"not"}, 0, "step 2 was not clean: from the beginning"},
		{[]plan.Heard{"clean", "clean", "not"}, 4, "step 4 was clean, step 6 was not"},
		{[]plan.Heard{"clean", "not"}, 2, "step 2 was clean, step 4 was not"},
		{[]plan.Heard{"clean", "clean", "clean", "clean"}, 9, "step 10 was clean: on from there"},
		{[]plan.Heard{"clean", "not", "clean"}, 6, "step 6 was clean: on from there"},
		{[]plan.Heard{"", "clean"}, 4, "step 4 was clean: on from there"},
	} {
		step, why := plan.Placement(steps, c.heard, len(play)-1)
		assert.Equal(t, c.step, step, "%v", c.heard)
		assert.Equal(t, c.why, why, "%v", c.heard)
	}
	assert.Empty(t, plan.PlacementSteps(nil))
	assert.Equal(t, []int{0}, plan.PlacementSteps([]bool{true}))
}

// Playing one more figure clean never places lower, and the step is always one of the
// ladder.
func TestPlacementPromises(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		play := rapid.SliceOfN(rapid.Bool(), 1, 20).Draw(rt, "play")
		steps := plan.PlacementSteps(play)
		if !slices.IsSorted(steps) || len(steps) > plan.PlacementFigures {
			rt.Fatalf("%v", steps)
		}
		heard := rapid.SliceOfN(rapid.SampledFrom([]plan.Heard{"", "clean", "not"}), len(steps), len(steps)).Draw(rt, "heard")
		step, why := plan.Placement(steps, heard, len(play)-1)
		if step < 0 || step >= len(play) || why == "" {
			rt.Fatalf("step %d of %d", step, len(play))
		}
		if len(heard) == 0 {
			return
		}
		better := slices.Clone(heard)
		better[rapid.IntRange(0, len(heard)-1).Draw(rt, "which")] = plan.HeardClean
		if more, _ := plan.Placement(steps, better, len(play)-1); more < step {
			rt.Fatalf("%v is step %d, %v is step %d", heard, step, better, more)
		}
	})
}
