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
		StudentID: sc.students[0], SongID: sc.song, Week: store.WeekOf(time.Date(2026, 11, 25, 18, 0, 0, 0, time.UTC)), Kind: "change", Bar: 3,
		Pattern: pattern.MustParse("4/4: p . i . m . a ."), PatternName: "Roll", Minutes: 7,
	}
}

func TestDrillsStandOnTheirWeek(t *testing.T) {
	s := storetest.Open(t)
	sc := newSchool(t, s, "drills")
	ctx := t.Context()
	want := aDrill(sc)
	id, err := s.AddDrill(ctx, sc.teacher, want)
	require.NoError(t, err)
	list := func(week time.Time) []store.WeekDrill {
		l, err := s.Drills(ctx, sc.teacher, sc.class, week)
		require.NoError(t, err)
		return l
	}
	require.Len(t, list(want.Week), 1)
	got := list(want.Week)[0]
	want.ID, want.SongTitle = id, "A drills"
	assert.Equal(t, want, got)
	assert.Empty(t, list(want.Week.AddDate(0, 0, 7)))
	require.NoError(t, s.WithdrawDrill(ctx, sc.teacher, id, true))
	assert.Empty(t, list(want.Week))
	require.NoError(t, s.WithdrawDrill(ctx, sc.teacher, id, false))
	assert.Len(t, list(want.Week), 1)
}

// ISO 8601: a week begins on Monday.
func TestWeekOf(t *testing.T) {
	for day, monday := range map[string]string{"2026-11-23": "2026-11-23", "2026-11-25": "2026-11-23", "2026-11-29": "2026-11-23", "2026-11-30": "2026-11-30", "2027-01-01": "2026-12-28"} {
		at, err := time.Parse(time.DateOnly, day)
		require.NoError(t, err)
		assert.Equal(t, monday, store.WeekOf(at.Add(23*time.Hour)).Format(time.DateOnly), day)
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
	st.Version++
	again, err := s.Student(ctx, sc.teacher, st.ID)
	require.NoError(t, err)
	assert.Equal(t, st, again)
}
