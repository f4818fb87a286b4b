package store_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/store"
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
		mine.UID = store.UID(fmt.Sprintf("take-%08d", n))
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
