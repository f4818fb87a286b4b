package store_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/vary"
	"arplin/store"
	"arplin/store/storetest"
)

func TestLadderComesBackAsItWas(t *testing.T) {
	s := storetest.Open(t)
	sc := newSchool(t, s, "ladder")
	l, err := s.Ladder(t.Context(), sc.teacher, sc.ladder)
	require.NoError(t, err)
	assert.Equal(t, someSteps(l.Target), l.Steps)
	assert.Equal(t, "Verse", l.Part)
	assert.Equal(t, vary.RhythmFirst, l.Order)
	assert.Equal(t, "A ladder", l.SongTitle)
}

func TestStudentsMoveWithTheSteps(t *testing.T) {
	s := storetest.Open(t)
	sc := newSchool(t, s, "steps")
	ctx := t.Context()
	_, err := s.Place(ctx, sc.teacher, sc.ladder, sc.students[0], 3)
	require.NoError(t, err)
	l, err := s.Ladder(ctx, sc.teacher, sc.ladder)
	require.NoError(t, err)
	require.NoError(t, s.SaveSteps(ctx, sc.teacher, sc.ladder, l.Version, vary.AccentsEarly, l.Steps[1:], "Dropped the first"))
	at := func() int {
		places, err := s.Placements(ctx, sc.teacher, sc.ladder)
		require.NoError(t, err)
		return places[sc.students[0]]
	}
	assert.Equal(t, 2, at(), "the same step, one lower now")
	var stale *store.StaleLadderError
	require.ErrorAs(t, s.SaveSteps(ctx, sc.teacher, sc.ladder, l.Version, l.Order, l.Steps, "late"), &stale)
	l, err = s.Ladder(ctx, sc.teacher, sc.ladder)
	require.NoError(t, err)
	assert.Equal(t, vary.AccentsEarly, l.Order)
	says, err := s.UndoSteps(ctx, sc.teacher, sc.ladder)
	require.NoError(t, err)
	assert.Equal(t, "Dropped the first", says)
	l, err = s.Ladder(ctx, sc.teacher, sc.ladder)
	require.NoError(t, err)
	assert.Equal(t, vary.RhythmFirst, l.Order, "the order is taken back with the steps")
	assert.Equal(t, 3, at())
	_, err = s.UndoSteps(ctx, sc.teacher, sc.ladder)
	assert.ErrorIs(t, err, store.ErrNoHistory)
	_, err = s.UndoSteps(ctx, storetest.Teacher(t, s, "steps-other"), sc.ladder)
	assert.ErrorIs(t, err, store.ErrNotFound)
}

// Several students are placed together or not at all.
func TestPlaceAll(t *testing.T) {
	s := storetest.Open(t)
	sc := newSchool(t, s, "places")
	ctx := t.Context()
	was, err := s.PlaceAll(ctx, sc.teacher, sc.ladder, map[int64]int{sc.students[0]: 2})
	require.NoError(t, err)
	assert.Equal(t, map[int64]int{sc.students[0]: -1}, was)
	_, err = s.PlaceAll(ctx, sc.teacher, sc.ladder, map[int64]int{sc.students[0]: 0, 999_999: 1})
	assert.ErrorIs(t, err, store.ErrNotFound)
	places, err := s.Placements(ctx, sc.teacher, sc.ladder)
	require.NoError(t, err)
	assert.Equal(t, map[int64]int{sc.students[0]: 2}, places, "nobody was moved")
	was, err = s.PlaceAll(ctx, sc.teacher, sc.ladder, map[int64]int{sc.students[0]: -1})
	require.NoError(t, err)
	assert.Equal(t, map[int64]int{sc.students[0]: 2}, was)
}

// Two teachers' windows, or two copies of the program, save the same version at
// once: exactly one wins, the other is told.
func TestOneOfTwoSavesWins(t *testing.T) {
	s := storetest.Open(t)
	sc := newSchool(t, s, "race")
	ctx := t.Context()
	l, err := s.Ladder(ctx, sc.teacher, sc.ladder)
	require.NoError(t, err)
	results := make(chan error, 2)
	for i := range 2 {
		go func() {
			results <- s.SaveSteps(ctx, sc.teacher, sc.ladder, l.Version, l.Order, l.Steps[i+1:], fmt.Sprint("save ", i))
		}()
	}
	var stale *store.StaleLadderError
	won := 0
	for range 2 {
		if err := <-results; err == nil {
			won++
		} else {
			require.ErrorAs(t, err, &stale)
			assert.Contains(t, stale.Error(), "version")
		}
	}
	assert.Equal(t, 1, won)
	now, err := s.Ladder(ctx, sc.teacher, sc.ladder)
	require.NoError(t, err)
	assert.Equal(t, l.Version+1, now.Version)
}
