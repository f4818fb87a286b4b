package lesson

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"arplin/core/arrange"
	"arplin/core/ladder"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/people"
)

// A group that nobody is in any more goes with its parts; who is left in another keeps theirs.
func TestAGroupGoesWithItsLast(t *testing.T) {
	step := func(n ladder.StepID) arrange.Part { return arrange.Part{Kind: arrange.OnStep, Step: n} }
	kept := KeptGrow{Groups: [][]ref.Student{{1, 2}, {3}, {4}}, Parts: [][]arrange.Part{{step(1), step(2), step(3)}, {step(4), step(5)}}}
	c := people.Class{Students: []store.Student{{ID: 2}, {ID: 4}}}
	got := kept.of(c)
	assert.Equal(t, [][]ref.Student{{1, 2}, {4}}, got.Groups)
	assert.Equal(t, [][]arrange.Part{{step(1), step(3)}, {step(4)}}, got.Parts)
	assert.Len(t, kept.Groups, 3, "what is stored is as it was")
}
