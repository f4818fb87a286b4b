package store_test

import (
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/store"
	"arplin/store/ref"
	"arplin/store/storetest"
)

// A class has one lesson that is not over, whoever asks for it; what was changed of an
// older version is refused; the register is kept beside it.
func TestLessons(t *testing.T) {
	s, ctx := storetest.Open(t), t.Context()
	sc := newSchool(t, s, "lessons")
	var group sync.WaitGroup
	ids := make([]ref.Lesson, 6)
	for i := range ids {
		group.Go(func() {
			l, err := s.NextLesson(ctx, sc.teacher, sc.class, time.Now())
			assert.NoError(t, err)
			ids[i] = l.ID
		})
	}
	group.Wait()
	for _, id := range ids {
		assert.Equal(t, ids[0], id, "two windows get the same lesson")
	}
	l, err := s.Lesson(ctx, sc.teacher, ids[0])
	require.NoError(t, err)
	assert.Equal(t, store.Lesson{ID: ids[0], ClassID: sc.class, Minutes: 45, Version: 1}, l)
	assert.False(t, l.Running())

	at := time.Date(2026, 11, 24, 18, 0, 0, 0, time.UTC)
	l.Kept, l.Began, l.PieceAt, l.At, l.Body = []int{40, 5}, at, at.Add(time.Minute), 1, `{"plan":{}}`
	require.NoError(t, s.SaveLesson(ctx, sc.teacher, l))
	assert.ErrorContains(t, s.SaveLesson(ctx, sc.teacher, l), "version 2 by now")
	require.NoError(t, s.SetAway(ctx, sc.teacher, l.ID, sc.students[1], true))
	require.NoError(t, s.SetAway(ctx, sc.teacher, l.ID, sc.students[1], true), "twice is once")
	l.Version, l.Away = 2, []ref.Student{sc.students[1]}
	got, err := s.Lesson(ctx, sc.teacher, l.ID)
	require.NoError(t, err)
	assert.Equal(t, l, got)
	assert.True(t, got.Running())

	often, err := s.AwayOften(ctx, sc.teacher, sc.class)
	require.NoError(t, err)
	assert.Empty(t, often, "the lesson is not over")
	l.Ended = at.Add(time.Hour)
	require.NoError(t, s.SaveLesson(ctx, sc.teacher, l))
	often, err = s.AwayOften(ctx, sc.teacher, sc.class)
	require.NoError(t, err)
	assert.Equal(t, map[ref.Student]int{sc.students[1]: 1}, often)
	next, err := s.NextLesson(ctx, sc.teacher, sc.class, time.Now())
	require.NoError(t, err)
	assert.NotEqual(t, l.ID, next.ID)
	list, err := s.Lessons(ctx, sc.teacher, sc.class, 5, time.Now())
	require.NoError(t, err)
	require.Len(t, list, 2)
	assert.Equal(t, next.ID, list[0].ID, "the newest first")
	// One that nobody has ended is over after some hours, when its minutes were.
	next.Began, next.PieceAt, next.Body = at, at, `{"plan":{}}`
	require.NoError(t, s.SaveLesson(ctx, sc.teacher, next))
	soon, err := s.Lessons(ctx, sc.teacher, sc.class, 1, at.Add(2*time.Hour))
	require.NoError(t, err)
	assert.True(t, soon[0].Running())
	late, err := s.Lessons(ctx, sc.teacher, sc.class, 1, at.AddDate(0, 0, 7))
	require.NoError(t, err)
	assert.Equal(t, at.Add(45*time.Minute), late[0].Ended)
	third, err := s.NextLesson(ctx, sc.teacher, sc.class, at.AddDate(0, 0, 7))
	require.NoError(t, err)
	assert.NotEqual(t, next.ID, third.ID)

	require.NoError(t, s.SetAway(ctx, sc.teacher, l.ID, sc.students[1], false))
	often, err = s.AwayOften(ctx, sc.teacher, sc.class)
	require.NoError(t, err)
	assert.Empty(t, often)
}

// A term is one for a class; another ladder, or a stale version, is refused.
func TestTerms(t *testing.T) {
	s, ctx := storetest.Open(t), t.Context()
	sc, other := newSchool(t, s, "terms"), newSchool(t, s, "terms other")
	_, err := s.TermOf(ctx, sc.teacher, sc.class)
	assert.ErrorIs(t, err, store.ErrNotFound)
	day := func(d int) time.Time { return time.Date(2026, 9, d, 0, 0, 0, 0, time.UTC) }
	want := store.Term{ClassID: sc.class, LadderID: sc.ladder, Begins: day(1), Concert: day(30), Name: "the evening"}
	require.NoError(t, s.SetTerm(ctx, sc.teacher, want))
	want.Version = 1
	got, err := s.TermOf(ctx, sc.teacher, sc.class)
	require.NoError(t, err)
	assert.Equal(t, want, got)
	want.Name = "the hall"
	require.NoError(t, s.SetTerm(ctx, sc.teacher, want))
	assert.ErrorContains(t, s.SetTerm(ctx, sc.teacher, want), "by now")
	want.Version, want.LadderID = 2, other.ladder
	assert.ErrorIs(t, s.SetTerm(ctx, sc.teacher, want), store.ErrNotFound, "another teacher’s ladder")
}

// An arrangement is one for a ladder; a stale version is refused.
func TestArrangements(t *testing.T) {
	s, ctx := storetest.Open(t), t.Context()
	sc := newSchool(t, s, "arrangements")
	_, err := s.ArrangementOf(ctx, sc.teacher, sc.ladder)
	assert.ErrorIs(t, err, store.ErrNotFound)
	want := store.Arrangement{LadderID: sc.ladder, Body: `{"groups": []}`}
	require.NoError(t, s.SetArrangement(ctx, sc.teacher, want))
	var stale *store.StaleError
	assert.ErrorAs(t, s.SetArrangement(ctx, sc.teacher, want), &stale, "it is there by now")
	want.Version = 1
	got, err := s.ArrangementOf(ctx, sc.teacher, sc.ladder)
	require.NoError(t, err)
	assert.Equal(t, want, got)
	require.NoError(t, s.SetArrangement(ctx, sc.teacher, want))
	assert.ErrorAs(t, s.SetArrangement(ctx, sc.teacher, want), &stale)
}

// A student goes to another class with the log, and leaves and comes back; the places on
// the old class’s ladders do not go along.
func TestMovingAndLeaving(t *testing.T) {
	s, ctx := storetest.Open(t), t.Context()
	sc := newSchool(t, s, "moving")
	to, err := s.AddClass(ctx, sc.teacher, store.Class{Name: "Later", LessonMinutes: 45, Fingers: "moving"})
	require.NoError(t, err)
	l, err := s.Ladder(ctx, sc.teacher, sc.ladder)
	require.NoError(t, err)
	id := sc.students[0]
	_, err = s.AddEntry(ctx, sc.teacher, store.Entry{StudentID: id, LadderID: sc.ladder, Step: l.Steps[0], Tempo: 60, At: time.Now()}, "moving-entry-00001")
	require.NoError(t, err)
	_, _, err = s.Place(ctx, sc.teacher, sc.ladder, store.Places{id: l.Steps[0].ID})
	require.NoError(t, err)
	on := time.Date(2026, 11, 24, 12, 0, 0, 0, time.UTC)
	require.NoError(t, s.MoveStudent(ctx, sc.teacher, id, to, on))
	st, err := s.Student(ctx, sc.teacher, id)
	require.NoError(t, err)
	assert.Equal(t, to, st.ClassID)
	assert.Equal(t, "2026-11-24", st.Joined.Format(time.DateOnly))
	heard, err := s.EntriesOf(ctx, sc.teacher, id, time.Now().AddDate(0, 0, -1))
	require.NoError(t, err)
	assert.Len(t, heard, 1, "the history goes along")
	places, err := s.Placements(ctx, sc.teacher, sc.ladder)
	require.NoError(t, err)
	assert.NotContains(t, places, id)
	_, err = s.AddStudent(ctx, sc.teacher, store.Student{ClassID: sc.class, Name: st.Name, Instrument: "guitar"})
	require.NoError(t, err)
	assert.ErrorIs(t, s.MoveStudent(ctx, sc.teacher, id, sc.class, on), store.ErrTaken, "one of that name is there")

	require.NoError(t, s.SetLeft(ctx, sc.teacher, id, on))
	list, err := s.Students(ctx, sc.teacher, to)
	require.NoError(t, err)
	assert.Empty(t, list)
	all, err := s.AllStudents(ctx, sc.teacher, to)
	require.NoError(t, err)
	require.Len(t, all, 1)
	assert.Equal(t, "2026-11-24", all[0].Left.Format(time.DateOnly))
	require.NoError(t, s.SetLeft(ctx, sc.teacher, id, time.Time{}))
	list, err = s.Students(ctx, sc.teacher, to)
	require.NoError(t, err)
	assert.Len(t, list, 1)
}

// A pasted list is stored as a whole or not at all.
func TestAddStudentsTogether(t *testing.T) {
	s, ctx := storetest.Open(t), t.Context()
	sc := newSchool(t, s, "together")
	before, err := s.Students(ctx, sc.teacher, sc.class)
	require.NoError(t, err)
	err = s.AddStudents(ctx, sc.teacher, []store.Student{{ClassID: sc.class, Name: "New One", Instrument: "guitar"}, {ClassID: sc.class, Name: before[0].Name, Instrument: "guitar"}})
	assert.ErrorIs(t, err, store.ErrTaken)
	after, err := s.Students(ctx, sc.teacher, sc.class)
	require.NoError(t, err)
	assert.Equal(t, before, after)
	require.NoError(t, s.AddStudents(ctx, sc.teacher, []store.Student{{ClassID: sc.class, Name: "New One", Instrument: "guitar"}, {ClassID: sc.class, Name: "New Two", Instrument: "ukulele"}}))
	after, err = s.Students(ctx, sc.teacher, sc.class)
	require.NoError(t, err)
	assert.Len(t, after, len(before)+2)
}
