package ladder_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/difficulty"
	"arplin/core/ladder"
	"arplin/core/ladder/edit"
	"arplin/core/ladder/grow"
	"arplin/core/ladder/order"
	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
)

func aLadder(t *testing.T) (difficulty.Task, ladder.Ladder) {
	t.Helper()
	tk := task(t, pattern.MustParse("4/4: p . p'+m . p i p' ."), "C | Am | F | G7")
	return tk, newLadder(order.Choice{Size: order.Small}, tk)
}

func newLadder(c order.Choice, tk difficulty.Task) ladder.Ladder {
	steps, next := ladder.Numbered(grow.Build(c, tk, difficulty.Fitted, 0), 1)
	return ladder.Ladder{Choice: c, Steps: steps, Next: next}
}

func figure(notation string) pattern.Pattern { return pattern.MustParse(notation) }

func TestEdits(t *testing.T) {
	tk, l := aLadder(t)
	target := l.Steps[len(l.Steps)-1]
	id := func(at int) ladder.StepID { return l.Steps[at].ID }
	for _, c := range []struct {
		edit   edit.Edit
		length int
		says   string
	}{
		{edit.Pin{Step: id(2)}, 0, "Pinned step 3"}, {edit.Drop{Step: id(2)}, -1, "Removed step 3"}, {edit.Split{Step: target.ID}, 1, fmt.Sprintf("Added a step below step %d", len(l.Steps)+1)},
		{edit.Join{Step: id(3)}, -1, "Joined steps 3 and 4"}, {edit.Raise{Step: id(1)}, 0, "Swapped steps 2 and 3"},
		{edit.Write{Step: id(1), Pattern: figure("4/4: p . . . p . . .")}, 0, "Changed step 2"},
		{edit.Insert{Pattern: figure("4/4: p . p . . . . .")}, 1, "Added your step as step 2"}, {edit.Rebuild{Choice: order.Choice{Size: order.Small}}, 0, "Rebuilt unpinned steps"},
	} {
		out, d, err := edit.Apply(l, c.edit, tk, difficulty.Fitted)
		require.NoError(t, err, "%+v", c.edit)
		assert.Equal(t, c.says, edit.DoneWords.Say(d))
		assert.Len(t, out.Steps, len(l.Steps)+c.length, "%+v", c.edit)
		last := out.Steps[len(out.Steps)-1]
		assert.Equal(t, target.Pattern.String(), last.Pattern.String(), "%+v keeps the target", c.edit)
		assert.Equal(t, target.ID, last.ID, "%+v: the target is the same step", c.edit)
	}
	out, _, err := edit.Apply(l, edit.Drop{Step: id(2)}, tk, difficulty.Fitted)
	require.NoError(t, err)
	assert.Equal(t, "bass on 2 and 4, alternating bass", ladder.Describe(out.Steps, 2, tk).Name, "what was dropped is named above")
	out, _, err = edit.Apply(l, edit.Thin{Steps: []ladder.StepID{id(2), id(1), id(4)}}, tk, difficulty.Fitted)
	require.NoError(t, err)
	assert.Len(t, out.Steps, len(l.Steps)-3)
	assert.Equal(t, "bass on every beat, alternating bass", ladder.Describe(out.Steps, 1, tk).Name, "what was joined is named once")
}

func TestPinnedStepsStayWhenTheRestIsRebuilt(t *testing.T) {
	tk, l := aLadder(t)
	apply := func(l ladder.Ladder, e edit.Edit) ladder.Ladder {
		out, _, err := edit.Apply(l, e, tk, difficulty.Fitted)
		require.NoError(t, err)
		return out
	}
	own := apply(l, edit.Insert{Pattern: figure("4/4: p . p+i . p . p+i .")})
	anew := apply(apply(own, edit.Drop{Step: own.Steps[0].ID}), edit.Rebuild{}).Steps
	at := slices.IndexFunc(anew, func(s ladder.Step) bool { return s.Pinned })
	require.Positive(t, at)
	assert.Equal(t, "4/4: p . p+i . p . p+i .", anew[at].Pattern.String())
	assert.Equal(t, "4/4: p . p . p . p .", anew[at-1].Pattern.String(), "above what it grows from")
	last := l.Steps[len(l.Steps)-1]
	assert.True(t, anew[len(anew)-1].Same(last))
	assert.Equal(t, last.ID, anew[len(anew)-1].ID, "the same step keeps its id")

	// A step that is harder than the target stays, and the target stays the last.
	hard := apply(apply(l, edit.Insert{Pattern: figure("4/4: p+m i p'+a i p+m i p'+a i")}), edit.Rebuild{}).Steps
	assert.True(t, hard[len(hard)-1].Same(last))
	assert.True(t, slices.ContainsFunc(hard, func(s ladder.Step) bool { return s.Pinned }))
}

// Levels follow the song: another shape, another level.
func TestMeasuredAnew(t *testing.T) {
	tk, l := aLadder(t)
	assert.Equal(t, l.Steps, ladder.Measured(l.Steps, tk, difficulty.Fitted), "nothing changed, nothing moved")
	require.NoError(t, tk.Pin("F=133211"))
	now := ladder.Measured(l.Steps, tk, difficulty.Fitted)
	assert.Greater(t, now[len(now)-1].Level, l.Steps[len(l.Steps)-1].Level)
	assert.InDelta(t, now[0].Level, l.Steps[0].Level, 1e-9, "one chord is not F")
}

func TestEditsThatMakeNoSense(t *testing.T) {
	tk, l := aLadder(t)
	first, last := l.Steps[0].ID, l.Steps[len(l.Steps)-1].ID
	for _, c := range []struct {
		edit edit.Edit
		want string
	}{
		{edit.Drop{Step: last}, "the last step is the target, so it stays"},
		{edit.Pin{Step: 99}, "that step isn’t on the ladder any more"},
		{edit.Pin{}, "that step isn’t on the ladder any more"},
		{edit.Insert{Pattern: figure("3/4: p . .")}, "it cannot be played together with 4/4: p . p'+m . p i p' ."},
		{edit.Write{Step: last, Pattern: figure("4/4: p . . .")}, "the last step is the target. Create another ladder for another target"},
		{edit.Lower{Step: first}, "step 1 is the lowest"},
		{edit.Insert{Pattern: figure("4/4: p . . . p . . .")}, "it’s already step 2"},
		{edit.Insert{Pattern: figure("4/4: p . p ."), Over: "all"}, "a step is on one chord, on two or on all, at a tempo up to the goal"},
		{edit.Insert{Pattern: figure("4/4: p . p ."), After: 99}, "that step isn’t on the ladder any more"},
		{edit.Raise{Step: last}, "the last step is the target, so it stays on top"},
		{edit.Thin{}, "tick the steps you want to remove"},
		{edit.Thin{Steps: []ladder.StepID{first, last}}, "the last step is the target, so it stays"},
		{edit.Raise{Step: first}, "step 2 is made of step 1 and grows from it; write your own first step instead"},
		{edit.Choose{Beginning: ladder.Beginning{First: "E"}}, "E is not a chord of this song any more"},
		{edit.Choose{Beginning: ladder.Beginning{First: "C", Second: "C"}}, "the first two chords are two"},
		{edit.Split{Step: first}, "nothing fits below step 1: it already adds as little as a step can"},
		{edit.Join{Step: first}, "there is no step below the first"},
	} {
		_, _, err := edit.Apply(l, c.edit, tk, difficulty.Fitted)
		assert.EqualError(t, err, c.want)
	}
}

// A ladder is bounded, whatever a teacher puts in.
func TestALadderIsBounded(t *testing.T) {
	tk, l := aLadder(t)
	for len(l.Steps) < 40 {
		again := l.Steps[0]
		again.Level -= 0.001 * float64(len(l.Steps))
		l.Steps = append([]ladder.Step{again}, l.Steps...)
	}
	_, _, err := edit.Apply(l, edit.Insert{Pattern: figure("4/4: p . p . . . . .")}, tk, difficulty.Fitted)
	assert.EqualError(t, err, "a ladder has at most 40 steps")
	_, _, err = edit.Apply(l, edit.Split{Step: l.Steps[len(l.Steps)-1].ID}, tk, difficulty.Fitted)
	assert.EqualError(t, err, "a ladder has at most 40 steps")
}

func TestReuseOnAnotherSong(t *testing.T) {
	tk, l := aLadder(t)
	other := task(t, tk.Pattern, "G | D")
	out, err := grow.Reuse(l, other, difficulty.Fitted)
	require.NoError(t, err)
	assert.False(t, slices.ContainsFunc(out, func(s ladder.Step) bool { return s.Over == ladder.TwoChordsABar }), "two chords are all that the song has")
	assert.Equal(t, texts(figures(l.Steps)), texts(figures(out)), "the patterns are the same")
	assert.Equal(t, ladder.AllChords, out[len(out)-1].Over)
	for i, s := range out {
		assert.Positive(t, s.Level)
		assert.EqualValues(t, i+1, s.ID, "steps of a ladder of its own")
		if i > 0 {
			assert.Greater(t, s.Level, out[i-1].Level)
		}
	}
	assert.NotEqual(t, l.Steps[0].Level, out[0].Level, "measured anew")
	waltz := task(t, figure("3/4: p . i . m ."), "G | D")
	_, err = grow.Reuse(l, waltz, difficulty.Fitted)
	assert.EqualError(t, err, "the ladder is in 4/4, the song in 3/4")
}

func figures(steps []ladder.Step) (out []pattern.Pattern) {
	for _, s := range steps {
		if s.Over == ladder.OneChord {
			out = append(out, s.Pattern)
		}
	}
	return out
}

func texts(list []pattern.Pattern) (out []string) {
	for _, p := range list {
		out = append(out, p.String())
	}
	return out
}

// Students keep their step wherever it goes; whose step is gone stands on what is
// played the same, or on the one below.
func TestStudentsKeepTheirStep(t *testing.T) {
	tk, l := aLadder(t)
	out, _, err := edit.Apply(l, edit.Split{Step: l.Steps[len(l.Steps)-1].ID}, tk, difficulty.Fitted)
	require.NoError(t, err)
	for _, s := range l.Steps {
		assert.Equal(t, s.ID, ladder.Moved(l.Steps, out.Steps, s.ID))
	}
	gone := l.Steps[2].ID
	out, _, err = edit.Apply(l, edit.Drop{Step: gone}, tk, difficulty.Fitted)
	require.NoError(t, err)
	assert.Equal(t, l.Steps[1].ID, ladder.Moved(l.Steps, out.Steps, gone), "whose step is gone stands on the one below")
	again := slices.Clone(l.Steps)
	again[2].ID = 77
	assert.EqualValues(t, 77, ladder.Moved(l.Steps, again, gone), "what is played the same")
	assert.Zero(t, ladder.Moved(l.Steps, out.Steps, 999))
}

// What changes places is the thing that is added: with the finger first the thumb
// turns later, and the upper step has both as before. Common practice.
func TestMovingAStepMakesTheFiguresAnew(t *testing.T) {
	tk, l := aLadder(t)
	at := func(l ladder.Ladder, notation string) int {
		for i, s := range l.Steps {
			if s.Pattern.String() == notation && s.Over == ladder.OneChord && s.Pace == 0 {
				return i
			}
		}
		return -1
	}
	alternating := at(l, "4/4: p . p' . p . p' .")
	require.Positive(t, alternating)
	moved, _, err := edit.Apply(l, edit.Raise{Step: l.Steps[alternating].ID}, tk, difficulty.Fitted)
	require.NoError(t, err)
	assert.Equal(t, "4/4: p . p+m . p . p .", moved.Steps[alternating].Pattern.String(), "the pinch over one string")
	assert.Equal(t, "4/4: p . p'+m . p . p' .", moved.Steps[alternating+1].Pattern.String())
	assert.Equal(t, "middle finger on 2", ladder.Describe(moved.Steps, alternating, tk).Name)
	assert.Equal(t, "alternating bass", ladder.Describe(moved.Steps, alternating+1, tk).Name)
	back, _, err := edit.Apply(moved, edit.Lower{Step: moved.Steps[alternating+1].ID}, tk, difficulty.Fitted)
	require.NoError(t, err)
	assert.True(t, back.Steps[alternating].Same(l.Steps[alternating]))
}

// A step goes where the teacher puts it: a low fifth after the chords is made anew, over each of them,
// up to just below the target.
func TestAnOrnamentGoesAboveTheChords(t *testing.T) {
	tk := task(t, figure("4/4: p . p' . p, . p' ."), "C | Am | F | G7")
	l := newLadder(order.Choice{}, tk)
	at := slices.IndexFunc(l.Steps, func(s ladder.Step) bool { return s.Adds[0].Rule == "low-fifth" })
	require.Positive(t, at)
	id := l.Steps[at].ID
	for k := at; k < len(l.Steps)-1; k++ {
		var err error
		below := l.Steps[k+1]
		l, _, err = edit.Apply(l, edit.Raise{Step: l.Steps[k].ID}, tk, difficulty.Fitted)
		require.NoError(t, err)
		assert.Equal(t, "4/4: p . p' . p . p' .", l.Steps[k].Pattern.String(), "without the fifth")
		assert.Equal(t, []any{below.Over, below.Pace, below.Adds}, []any{l.Steps[k].Over, l.Steps[k].Pace, l.Steps[k].Adds})
		assert.Equal(t, ladder.Thing{Rule: "low-fifth"}, l.Steps[k+1].Adds[0])
	}
	assert.NotZero(t, id)
	assert.True(t, l.Steps[len(l.Steps)-1].Pattern.Equal(tk.Pattern))
}

// An own step takes the chords, the tempo and the place that the teacher gives it.
func TestAnOwnStepHasItsPlace(t *testing.T) {
	tk, l := aLadder(t)
	after := l.Steps[len(l.Steps)-2]
	out, d, err := edit.Apply(l, edit.Insert{Pattern: figure("4/4: p . . . p . . ."), After: after.ID, Over: ladder.TwoChords, Pace: 60}, tk, difficulty.Fitted)
	require.NoError(t, err)
	assert.Equal(t, fmt.Sprintf("Added your step as step %d", len(l.Steps)), edit.DoneWords.Say(d))
	own := out.Steps[len(out.Steps)-2]
	assert.Equal(t, []any{ladder.TwoChords, 60, true}, []any{own.Over, own.Pace, own.Pinned})
	assert.Equal(t, after.ID, out.Steps[len(out.Steps)-3].ID)
}

// A teacher's first chords are kept, and the ladder is built on them.
func TestAChosenBeginning(t *testing.T) {
	tk, l := aLadder(t)
	out, d, err := edit.Apply(l, edit.Choose{Beginning: ladder.Beginning{First: "G7", Second: "C"}}, tk, difficulty.Fitted)
	require.NoError(t, err)
	assert.Equal(t, "Started with G7, then C", edit.DoneWords.Say(d))
	data, err := out.Encode()
	require.NoError(t, err)
	again, err := ladder.Decode(data)
	require.NoError(t, err)
	there := ladder.Begin(tk, again.Begin)
	assert.Equal(t, []string{"G7"}, again.Steps[0].Stage(there))
	for _, s := range again.Steps {
		if s.Over == ladder.TwoChords {
			assert.Equal(t, []string{"G7", "C"}, s.Stage(there))
		}
	}
}

// What was split and joined again is what it was: the step says nothing of what lay between.
func TestSplitThenJoinIsNothing(t *testing.T) {
	if testing.Short() {
		t.Skip("in make test")
	}
	for _, e := range catalogue.All {
		for _, chords := range []string{"C", "G | C | D | Em"} {
			tk := task(t, e.Pattern, chords)
			l := newLadder(order.Choice{Size: order.Small}, tk)
			for i, s := range l.Steps {
				parted, _, err := edit.Apply(l, edit.Split{Step: s.ID}, tk, difficulty.Fitted)
				if err != nil {
					continue // there is nothing between
				}
				joined, _, err := edit.Apply(parted, edit.Join{Step: s.ID}, tk, difficulty.Fitted)
				require.NoError(t, err)
				require.Len(t, joined.Steps, len(l.Steps))
				for k := range l.Steps {
					require.Equal(t, l.Steps[k].Adds, joined.Steps[k].Adds, "%s on %s, step %d split and joined: step %d", e.ID, chords, i+1, k+1)
					require.Equal(t, ladder.Describe(l.Steps, k, tk), ladder.Describe(joined.Steps, k, tk))
				}
			}
		}
	}
}

// Another size keeps the steps that stay, by their ids, and nobody loses their place: who stood on a step
// that went stands on the nearest below it.
func TestAnotherSizeKeepsTheStepsThatStay(t *testing.T) {
	for _, e := range catalogue.All {
		tk := task(t, e.Pattern, "C | Am | F | G7")
		for _, o := range order.All {
			was := newLadder(order.Choice{Order: o.Value, Size: order.Small}, tk)
			for _, size := range []order.Size{order.Usual, order.Big} {
				now, _, err := edit.Apply(was, edit.Rebuild{Choice: order.Choice{Order: o.Value, Size: size}}, tk, difficulty.Fitted)
				require.NoError(t, err)
				place := -1
				for i, s := range was.Steps {
					at := ladder.Find(now.Steps, ladder.Moved(was.Steps, now.Steps, s.ID))
					require.GreaterOrEqual(t, at, max(0, place), "%s, %s, %s: step %d", e.ID, o.Name, size, i+1)
					place = at
				}
				for _, s := range now.Steps {
					require.GreaterOrEqual(t, ladder.Find(was.Steps, s.ID), 0, "%s, %s, %s: %s is a step that was there", e.ID, o.Name, size, s.Pattern)
				}
			}
		}
	}
}
