package vary_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/demand"
	"arplin/core/hand"
	"arplin/core/vary"
)

func ladderSteps(t *testing.T) (demand.Task, []vary.Step) {
	t.Helper()
	tk := task(t, hand.MustParse("4/4: p . p'+m . p i p' ."), "C | Am | F | G7")
	var steps []vary.Step
	for _, s := range vary.Staircase(vary.ThumbFirst, tk, demand.Fitted, 0) {
		steps = append(steps, s.Step)
	}
	return tk, steps
}

func TestLadderChanges(t *testing.T) {
	tk, steps := ladderSteps(t)
	target := steps[len(steps)-1]
	for _, c := range []struct {
		change vary.Change
		length int
	}{
		{vary.Change{Op: vary.Pin, At: 2}, 0}, {vary.Change{Op: vary.Drop, At: 2}, -1}, {vary.Change{Op: vary.Split, At: 4}, 1},
		{vary.Change{Op: vary.Join, At: 3}, -1}, {vary.Change{Op: vary.Raise, At: 1}, 0}, {vary.Change{Op: vary.Edit, At: 1, Text: "4/4: p . . . p . . ."}, 0},
		{vary.Change{Op: vary.Insert, Text: "4/4: p . . . p . . ."}, 1}, {vary.Change{Op: vary.Refresh}, 0},
	} {
		out, says, err := vary.Apply(steps, tk, demand.Fitted, c.change)
		require.NoError(t, err, c.change.Op)
		assert.NotEmpty(t, says)
		assert.Len(t, out, len(steps)+c.length, c.change.Op)
		assert.Equal(t, target.Pattern.String(), out[len(out)-1].Pattern.String(), "%s keeps the target", c.change.Op)
	}
	out, says, err := vary.Apply(steps, tk, demand.Fitted, vary.Change{Op: vary.Drop, At: 2})
	require.NoError(t, err)
	assert.Equal(t, "Dropped step 3, second bass string", says)
	assert.Equal(t, "second bass string, one finger note", out[2].Adds, "what was dropped is named above")
	out, _, err = vary.Apply(steps, tk, demand.Fitted, vary.Change{Op: vary.Split, At: 4})
	require.NoError(t, err)
	assert.Greater(t, out[4].Level, out[3].Level)
	assert.Less(t, out[4].Level, out[5].Level)
}

func TestPinnedStepsStayWhenTheRestIsFoundAnew(t *testing.T) {
	tk, steps := ladderSteps(t)
	own, _, err := vary.Apply(steps, tk, demand.Fitted, vary.Change{Op: vary.Insert, Text: "4/4: p . p+i . p . p+i ."})
	require.NoError(t, err)
	dropped, _, err := vary.Apply(own, tk, demand.Fitted, vary.Change{Op: vary.Drop, At: 0})
	require.NoError(t, err)
	anew, _, err := vary.Apply(dropped, tk, demand.Fitted, vary.Change{Op: vary.Refresh})
	require.NoError(t, err)
	at := slices.IndexFunc(anew, func(s vary.Step) bool { return s.Pinned })
	require.Positive(t, at)
	assert.Equal(t, "4/4: p . p+i . p . p+i .", anew[at].Pattern.String())
	for i, s := range anew {
		if i > 0 {
			assert.Greater(t, s.Level, anew[i-1].Level)
		}
	}
	assert.Equal(t, "4/4: p . p+i . p . p .", anew[at-1].Pattern.String(), "what leads up to the pinned figure, not to the target")
	assert.True(t, anew[len(anew)-1].Same(steps[len(steps)-1]))

	// A step that is harder than the target stays, and the target stays the last.
	hard, _, err := vary.Apply(steps, tk, demand.Fitted, vary.Change{Op: vary.Insert, Text: "4/4: p+m i p'+a i p+m i p'+a i"})
	require.NoError(t, err)
	anew, _, err = vary.Apply(hard, tk, demand.Fitted, vary.Change{Op: vary.Refresh})
	require.NoError(t, err)
	assert.True(t, anew[len(anew)-1].Same(steps[len(steps)-1]))
	assert.True(t, slices.ContainsFunc(anew, func(s vary.Step) bool { return s.Pinned }))
}

// Levels follow the song: another shape, another level.
func TestMeasuredAnew(t *testing.T) {
	tk, steps := ladderSteps(t)
	assert.Equal(t, steps, vary.Measured(steps, tk, demand.Fitted), "nothing changed, nothing moved")
	require.NoError(t, tk.Pin("F=133211"))
	now := vary.Measured(steps, tk, demand.Fitted)
	assert.Greater(t, now[len(now)-1].Level, steps[len(steps)-1].Level)
	assert.InDelta(t, now[0].Level, steps[0].Level, 1e-9, "one chord is not F")
}

func TestLadderChangesThatMakeNoSense(t *testing.T) {
	tk, steps := ladderSteps(t)
	for _, c := range []struct {
		change vary.Change
		want   string
	}{
		{vary.Change{Op: vary.Drop, At: len(steps) - 1}, "the last step is the target and stays"},
		{vary.Change{Op: vary.Pin, At: 99}, "there is no step 100"},
		{vary.Change{Op: vary.Insert, Text: "3/4: p . ."}, "it cannot be played together with 4/4: p . p'+m . p i p' ."},
		{vary.Change{Op: vary.Lower, At: 0}, "step 1 cannot go further; the last step is the target"},
		{vary.Change{Op: vary.Split, At: 0}, "no rule leads to a step between 0 and 1"},
		{vary.Change{Op: "dance"}, `"dance" is not something that can be done to a ladder`},
	} {
		_, _, err := vary.Apply(steps, tk, demand.Fitted, c.change)
		assert.EqualError(t, err, c.want)
	}
}

func TestRebindToAnotherSong(t *testing.T) {
	tk, steps := ladderSteps(t)
	other := task(t, tk.Pattern, "G | D")
	out, err := vary.Rebind(steps, other, demand.Fitted)
	require.NoError(t, err)
	assert.False(t, slices.ContainsFunc(out, func(s vary.Step) bool { return s.Over == "two chords, a bar each" }), "two chords are all that the song has")
	assert.Equal(t, texts(figures(steps)), texts(figures(out)), "the figures are the same")
	assert.Equal(t, "all chords", out[len(out)-1].Over)
	for i, s := range out {
		assert.Positive(t, s.Level)
		if i > 0 {
			assert.Greater(t, s.Level, out[i-1].Level)
		}
	}
	assert.NotEqual(t, steps[0].Level, out[0].Level, "measured anew")
	waltz := task(t, hand.MustParse("3/4: p . i . m ."), "G | D")
	_, err = vary.Rebind(steps, waltz, demand.Fitted)
	assert.EqualError(t, err, "the ladder is in 4/4, the song in 3/4")
}

func figures(steps []vary.Step) (out []hand.Pattern) {
	for _, s := range steps {
		if s.Over == "one chord" {
			out = append(out, s.Pattern)
		}
	}
	return out
}

func TestStudentsKeepTheirStep(t *testing.T) {
	tk, steps := ladderSteps(t)
	out, _, err := vary.Apply(steps, tk, demand.Fitted, vary.Change{Op: vary.Split, At: 4})
	require.NoError(t, err)
	assert.Equal(t, 3, vary.Moved(steps, out, 3))
	assert.Equal(t, 5, vary.Moved(steps, out, 4))
	dropped, _, err := vary.Apply(steps, tk, demand.Fitted, vary.Change{Op: vary.Drop, At: 2})
	require.NoError(t, err)
	assert.Equal(t, 1, vary.Moved(steps, dropped, 2), "whose step is gone stands on the one below")
}
