package store_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/pattern"
	"arplin/core/practice"
	"arplin/store"
	"arplin/store/storetest"
)

// aDrill is a drill on the week of a school's first student.
func aDrill(sc school) store.WeekDrill {
	return store.WeekDrill{
		StudentID: sc.students[0], SongID: sc.song, Week: time.Date(2026, 11, 23, 0, 0, 0, 0, time.UTC), Kind: "change", Bar: 3,
		Pattern: pattern.MustParse("4/4: p . i . m . a ."), PatternName: "Roll", Minutes: 7,
	}
}

// A drill stays from week to week until it is done or taken off, and comes back.
func TestDrillsStayUntilTheyAreDone(t *testing.T) {
	s := storetest.Open(t)
	sc := newSchool(t, s, "drills")
	ctx := t.Context()
	want := aDrill(sc)
	want.Week = want.Week.AddDate(0, 0, -21)
	id, err := s.AddDrill(ctx, sc.teacher, want)
	require.NoError(t, err)
	list := func() []store.WeekDrill {
		l, err := s.Drills(ctx, sc.teacher, sc.class)
		require.NoError(t, err)
		return l
	}
	want.ID, want.SongTitle = id, "A drills"
	assert.Equal(t, []store.WeekDrill{want}, list(), "three weeks later")
	require.NoError(t, s.WithdrawDrill(ctx, sc.teacher, id, true))
	assert.Empty(t, list())
	require.NoError(t, s.WithdrawDrill(ctx, sc.teacher, id, false))
	assert.Len(t, list(), 1)
	at := time.Date(2026, 11, 24, 18, 0, 0, 0, time.UTC)
	require.NoError(t, s.AddDrillTry(ctx, sc.teacher, id, store.DrillTry{Tempo: 60, Failed: true, At: at}, "drill-try-00000001"))
	require.NoError(t, s.AddDrillTry(ctx, sc.teacher, id, store.DrillTry{Tempo: 60, Failed: true, At: at}, "drill-try-00000001"), "twice is once")
	require.NoError(t, s.AddDrillTry(ctx, sc.teacher, id, store.DrillTry{Tempo: 66, At: at.Add(time.Hour)}, "drill-try-00000002"))
	heard, err := s.DrillTries(ctx, sc.teacher, id)
	require.NoError(t, err)
	assert.Equal(t, []store.DrillTry{{Tempo: 66, At: at.Add(time.Hour)}, {Tempo: 60, Failed: true, At: at}}, heard)
	require.NoError(t, s.FinishDrill(ctx, sc.teacher, id, time.Now()))
	assert.Empty(t, list())
	d, err := s.Drill(ctx, sc.teacher, id)
	require.NoError(t, err)
	assert.True(t, d.Done)
	require.NoError(t, s.FinishDrill(ctx, sc.teacher, id, time.Time{}))
	assert.Len(t, list(), 1)
}

// A drill is of the week in which it was put there. ISO 8601: a week begins on Monday.
func TestADrillIsOfAWeek(t *testing.T) {
	s := storetest.Open(t)
	sc := newSchool(t, s, "weeks")
	for day, monday := range map[string]string{"2026-11-23": "2026-11-23", "2026-11-25": "2026-11-23", "2026-11-29": "2026-11-23", "2026-11-30": "2026-11-30", "2027-01-01": "2026-12-28"} {
		at, err := time.Parse(time.DateOnly, day)
		require.NoError(t, err)
		d := aDrill(sc)
		d.Week = at.Add(23 * time.Hour)
		id, err := s.AddDrill(t.Context(), sc.teacher, d)
		require.NoError(t, err)
		d, err = s.Drill(t.Context(), sc.teacher, id)
		require.NoError(t, err)
		assert.Equal(t, monday, d.Week.Format(time.DateOnly), day)
	}
}

// A student's minutes a day are the usual ones until somebody says otherwise.
func TestMinutesADay(t *testing.T) {
	s := storetest.Open(t)
	sc := newSchool(t, s, "minutes")
	ctx := t.Context()
	st, err := s.Student(ctx, sc.teacher, sc.students[0])
	require.NoError(t, err)
	assert.Equal(t, practice.UsualDay, st.DayMinutes)
	st.DayMinutes = 25
	require.NoError(t, s.ChangeStudent(ctx, sc.teacher, st))
	again, err := s.Student(ctx, sc.teacher, st.ID)
	require.NoError(t, err)
	assert.Equal(t, practice.UsualDay, again.BeforeMinutes, "what it was before is kept, with the day")
	assert.WithinDuration(t, time.Now(), again.MinutesSince, time.Minute)
	st.Version, st.BeforeMinutes, st.MinutesSince = st.Version+1, again.BeforeMinutes, again.MinutesSince
	assert.Equal(t, st, again)
	st.Name = "Another"
	require.NoError(t, s.ChangeStudent(ctx, sc.teacher, st))
	same, err := s.Student(ctx, sc.teacher, st.ID)
	require.NoError(t, err)
	assert.Equal(t, again.MinutesSince, same.MinutesSince, "another name is no other minutes")
}
