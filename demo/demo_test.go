package demo_test

import (
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/ladder"
	"arplin/demo"
	"arplin/store"
	"arplin/store/storetest"
)

func TestMain(m *testing.M) { storetest.Main(m) }

// The demo school is stored once, stands on its ladder, and has tempos to look at.
func TestLoadOnce(t *testing.T) {
	s := storetest.Open(t)
	ctx, now := t.Context(), time.Date(2026, 11, 25, 12, 0, 0, 0, time.UTC)
	school, err := demo.Load(ctx, s, now)
	require.NoError(t, err)
	again, err := demo.Load(ctx, s, now)
	require.NoError(t, err)
	assert.Equal(t, school, again)
	teacher, err := s.TeacherByEmail(ctx, school.Teacher.Email)
	require.NoError(t, err)
	classes, err := s.Classes(ctx, teacher.ID)
	require.NoError(t, err)
	require.Len(t, classes, 1, "loaded twice, stored once")
	students, err := s.Students(ctx, teacher.ID, classes[0].ID)
	require.NoError(t, err)
	assert.Len(t, students, len(school.Students))
	ladders, _, err := s.Ladders(ctx, teacher.ID, classes[0].ID, store.Find{})
	require.NoError(t, err)
	require.Len(t, ladders, 3, "one of them is finished, one set aside")
	desk, err := s.OnNow(ctx, teacher.ID, classes[0].ID)
	require.NoError(t, err)
	require.Len(t, desk, 1)
	places, err := s.Placements(ctx, teacher.ID, desk[0].ID)
	require.NoError(t, err)
	on, err := s.Ladder(ctx, teacher.ID, desk[0].ID)
	require.NoError(t, err)
	for i, st := range students {
		assert.Equal(t, school.Students[i].Step, ladder.Find(on.Steps, places[st.ID]), st.Name)
	}
	entries, err := s.Entries(ctx, teacher.ID, classes[0].ID, now.AddDate(0, -3, 0))
	require.NoError(t, err)
	for _, e := range entries {
		assert.True(t, e.At.Before(now), "heard before today")
	}
	assert.True(t, slices.ContainsFunc(entries, func(e store.Entry) bool { return e.At.Before(now.AddDate(0, 0, -56)) }), "eight weeks of history")
	assert.Greater(t, len(entries), 60)
	decided, err := s.DecisionsOf(ctx, teacher.ID, classes[0].ID, now.AddDate(0, 0, -84))
	require.NoError(t, err)
	assert.Greater(t, len(decided), 10)
	lessons, err := s.Lessons(ctx, teacher.ID, classes[0].ID, 2, now)
	require.NoError(t, err)
	require.Len(t, lessons, 1)
	assert.False(t, lessons[0].Ended.IsZero())
	assert.Len(t, lessons[0].Away, len(school.Lesson.Away))
	songs, _, err := s.Songs(ctx, teacher.ID, store.Find{})
	require.NoError(t, err)
	assert.Len(t, songs, len(school.Songs))
	_, err = s.Ladder(ctx, teacher.ID, 0)
	assert.ErrorIs(t, err, store.ErrNotFound)
}
