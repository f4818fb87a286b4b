package demo_test

import (
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/ladder"
	"arplin/core/practice"
	"arplin/demo"
	"arplin/store"
	"arplin/store/storetest"
	"arplin/teach"
	"arplin/teach/desk"
)

func TestMain(m *testing.M) { storetest.Main(m) }

// The demo school is stored once, stands on its ladder, and has tempos to look at.
func TestLoadOnce(t *testing.T) {
	s := storetest.Open(t)
	ctx, now := t.Context(), time.Date(2026, 11, 25, 12, 0, 0, 0, time.UTC)
	school, err := demo.LoadPlain(ctx, s, now)
	require.NoError(t, err)
	again, err := demo.LoadPlain(ctx, s, now)
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
	require.Len(t, lessons, len(school.Lessons))
	assert.False(t, lessons[0].Ended.IsZero())
	assert.Len(t, lessons[0].Away, len(school.Lessons[0].Away))
	songs, _, err := s.Songs(ctx, teacher.ID, store.Find{})
	require.NoError(t, err)
	assert.Len(t, songs, len(school.Songs))
	_, err = s.Ladder(ctx, teacher.ID, 0)
	assert.ErrorIs(t, err, store.ErrNotFound)
}

// The desk of the demo shows every kind of proposal, two songs, a term and lessons with who was away.
func TestTheDemoShowsEveryProposal(t *testing.T) {
	s := storetest.Open(t)
	ctx, now := t.Context(), time.Now()
	school, err := demo.Load(ctx, s, now)
	require.NoError(t, err)
	teacher, err := s.TeacherByEmail(ctx, school.Teacher.Email)
	require.NoError(t, err)
	on := teach.New(s)
	class, err := on.People.Class(ctx, teacher.ID, 0)
	require.NoError(t, err)
	shown, _, err := on.Desk.Load(ctx, teacher.ID, class, desk.DeskView{}, now)
	require.NoError(t, err)
	assert.Len(t, shown.Now, 2, "two songs")
	assert.Equal(t, "Nine Umbrellas", shown.Ladder.SongTitle, "the one that the term is for stands in front")
	kinds := map[practice.Kind]string{}
	for _, line := range shown.Lines {
		if line.Number > 0 {
			kinds[line.Decision.Kind] += line.Name
		}
	}
	for _, kind := range []practice.Kind{practice.MoveOn, practice.Jump, practice.Ease, practice.Drill, practice.Stay} {
		assert.NotEmpty(t, kinds[kind], "%s", kind)
	}
	assert.True(t, shown.ToDecide()[0].Tense(), "a hand that hurts comes first")
	assert.Len(t, shown.Waiting, 1, "a newcomer")
	term, err := s.TermOf(ctx, teacher.ID, class.ID)
	require.NoError(t, err)
	assert.Equal(t, school.Term.Name, term.Name)
	lessons, err := s.Lessons(ctx, teacher.ID, class.ID, 9, now)
	require.NoError(t, err)
	assert.Len(t, lessons, len(school.Lessons))
}
