package store_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/store"
	"arplin/store/ref"
	"arplin/store/storetest"
)

// A take is kept once, with its student; another teacher has nothing of it, and there is room for few.
func TestTakesAreFewAndTheTeachersOwn(t *testing.T) {
	s, ctx := storetest.Open(t), t.Context()
	sc, other := newSchool(t, s, "takes"), newSchool(t, s, "takes-other")
	take := store.Take{UID: "0b6ee0f6-0000-4000-8000-000000000001", StudentID: sc.students[0], LadderID: sc.ladder, Step: 2, Tempo: 72, Seconds: 9, Says: "Even within 12 ms.", At: time.Now().UTC().Truncate(time.Millisecond)}
	sound := []byte("fLaC and some samples")
	for range 2 {
		require.NoError(t, s.KeepTake(ctx, sc.teacher, take, sound))
	}
	kept, err := s.Takes(ctx, sc.teacher, sc.class, 0)
	require.NoError(t, err)
	require.Len(t, kept, 1)
	take.ID, take.Bytes = kept[0].ID, len(sound)
	assert.Equal(t, take, kept[0])
	back, err := s.TakeSound(ctx, sc.teacher, take.ID)
	require.NoError(t, err)
	assert.Equal(t, sound, back)

	_, err = s.TakeSound(ctx, other.teacher, take.ID)
	require.ErrorIs(t, err, store.ErrNotFound)
	_, err = s.DeleteTake(ctx, other.teacher, take.ID)
	require.ErrorIs(t, err, store.ErrNotFound)
	theirs := take
	theirs.UID = "0b6ee0f6-0000-4000-8000-000000000002"
	require.ErrorIs(t, s.KeepTake(ctx, other.teacher, theirs, sound), store.ErrNotFound, "on another's ladder")
	theirs.LadderID = 0
	require.ErrorIs(t, s.KeepTake(ctx, other.teacher, theirs, sound), store.ErrNotFound, "of another's student")

	mine := store.Take{StudentID: other.students[0], Tempo: 60, At: time.Now()}
	require.ErrorIs(t, s.KeepTake(ctx, other.teacher, mine, make([]byte, store.MostTakeBytes+1)), store.ErrFull)
	for n := range store.MostTakes {
		mine.UID = ref.UID(fmt.Sprintf("take-%08d", n))
		require.NoError(t, s.KeepTake(ctx, other.teacher, mine, sound))
	}
	mine.UID = "take-too-many"
	require.ErrorIs(t, s.KeepTake(ctx, other.teacher, mine, sound), store.ErrFull)
	all, err := s.Takes(ctx, other.teacher, other.class, other.students[0])
	require.NoError(t, err)
	whose, err := s.DeleteTake(ctx, other.teacher, all[0].ID)
	require.NoError(t, err)
	assert.Equal(t, other.students[0], whose)
	require.NoError(t, s.KeepTake(ctx, other.teacher, mine, sound), "room again")
}

// A phone's takes are three of each student, the newest; they push out none that was kept otherwise, and are taken
// back by the phone that sent them alone.
func TestTakesFromHomeAreThreeOfEach(t *testing.T) {
	s, ctx := storetest.Open(t), t.Context()
	sc := newSchool(t, s, "takes-home")
	began := time.Now().UTC().Truncate(time.Second)
	keep := func(name string, student int, home bool, after time.Duration) {
		t.Helper()
		require.NoError(t, s.KeepTake(ctx, sc.teacher, store.Take{UID: ref.UID(name), StudentID: sc.students[student], Tempo: 60, Home: home, At: began.Add(after)}, []byte("fLaC")))
	}
	names := func() (list []ref.UID) {
		kept, err := s.Takes(ctx, sc.teacher, sc.class, 0)
		require.NoError(t, err)
		for _, k := range kept {
			list = append(list, k.UID)
		}
		return list
	}
	keep("kept-here", 0, false, 0)
	keep("of-another", 1, true, time.Second)
	for i, name := range []string{"home-1", "home-2", "home-3", "home-4"} {
		keep(name, 0, true, time.Duration(i+2)*time.Second)
	}
	assert.Equal(t, []ref.UID{"home-4", "home-3", "home-2", "of-another", "kept-here"}, names())
	for _, name := range []ref.UID{"kept-here", "of-another"} {
		require.NoError(t, s.DeleteHomeTake(ctx, sc.teacher, sc.students[0], name))
	}
	require.Len(t, names(), 5, "not the phone's")
	require.NoError(t, s.DeleteHomeTake(ctx, sc.teacher, sc.students[0], "home-3"))
	assert.NotContains(t, names(), ref.UID("home-3"))

	on, err := s.PhoneTakes(ctx, sc.teacher, sc.class)
	require.NoError(t, err)
	assert.False(t, on, "until the teacher lets them")
	other := newSchool(t, s, "takes-home-other")
	require.ErrorIs(t, s.SetPhoneTakes(ctx, other.teacher, sc.class, true), store.ErrNotFound)
}
