package store_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/practice"
	"arplin/store"
	"arplin/store/ref"
	"arplin/store/storetest"
)

// sum stands for the digest that the room home makes of a nonce.
func sum(nonce [16]byte) (d [32]byte) {
	copy(d[:], nonce[:])
	return d
}

// What a phone sends is stored once, in the order in which it was played; what is not the student's is left.
func TestHomeEntriesAreKeptOnce(t *testing.T) {
	s := storetest.Open(t)
	sc, other := newSchool(t, s, "home"), newSchool(t, s, "home-other")
	ctx := t.Context()
	at := time.Date(2026, 11, 25, 18, 0, 0, 0, time.UTC)
	entry := store.HomeEntry{StudentID: sc.students[0], LadderID: sc.ladder, Step: 1, Card: "step", Went: practice.Done, Tempo: 70, Minutes: 10, ClientID: "phone-000001", At: at, Came: at.Add(time.Hour)}
	earlier := entry
	earlier.ClientID, earlier.At, earlier.Went = "phone-000002", at.Add(-24*time.Hour), practice.Hard
	foreign := entry
	foreign.ClientID, foreign.LadderID = "phone-000003", other.ladder
	for range 2 {
		left, err := s.AddHome(ctx, sc.teacher, sc.students[0], []store.HomeEntry{entry, earlier, foreign})
		require.NoError(t, err)
		assert.Equal(t, []string{"phone-000003"}, left)
	}
	list, err := s.Home(ctx, sc.teacher, sc.class, 0, at.AddDate(0, 0, -7))
	require.NoError(t, err)
	assert.Equal(t, []store.HomeEntry{earlier, entry}, list)
	one, err := s.Home(ctx, sc.teacher, sc.class, sc.students[1], at.AddDate(0, 0, -7))
	require.NoError(t, err)
	assert.Empty(t, one)
	theirs, err := s.Home(ctx, other.teacher, sc.class, 0, at.AddDate(0, 0, -7))
	require.NoError(t, err)
	assert.Empty(t, theirs, "another teacher's class")
	left, err := s.AddHome(ctx, other.teacher, sc.students[0], []store.HomeEntry{{Card: "", Word: practice.Hurts, ClientID: "phone-000009", At: at, Came: at}})
	require.NoError(t, err)
	assert.Empty(t, left)
	names, err := s.HomeNames(ctx, other.teacher)
	require.NoError(t, err)
	assert.Empty(t, names, "nothing is stored for another teacher's student")
}

// A link opens one student's page until it ends, is revoked or replaced, or the student goes.
func TestAPhoneLinkOpensWhileItHolds(t *testing.T) {
	s := storetest.Open(t)
	sc, other := newSchool(t, s, "links"), newSchool(t, s, "links-other")
	ctx := t.Context()
	now := time.Date(2026, 11, 25, 18, 0, 0, 0, time.Local)
	ends := now.AddDate(0, 0, 30)
	st := sc.students[0]
	require.NoError(t, s.GivePhoneLinks(ctx, sc.teacher, []ref.Student{st}, ends, now, sum))
	link := func() store.PhoneLink {
		by, err := s.PhoneLinks(ctx, sc.teacher, sc.class)
		require.NoError(t, err)
		return by[st]
	}
	first := link()
	require.NoError(t, s.GivePhoneLinks(ctx, sc.teacher, []ref.Student{st}, ends, now, sum))
	assert.Equal(t, first, link(), "who has one keeps it")
	require.NoError(t, s.GivePhoneLinks(ctx, other.teacher, []ref.Student{st}, ends, now, sum))
	require.NoError(t, s.RenewPhoneLinks(ctx, other.teacher, []ref.Student{st}, ends, now, sum))
	assert.Equal(t, first, link(), "another teacher makes none for them")
	opens := func(l store.PhoneLink, at time.Time) bool {
		p, err := s.PhoneBy(ctx, sum(l.Nonce), at)
		if err != nil {
			require.ErrorIs(t, err, store.ErrNotFound)
			return false
		}
		assert.Equal(t, store.Phone{Teacher: sc.teacher, Class: sc.class, Student: st}, p)
		return true
	}
	assert.True(t, opens(first, now))
	assert.Equal(t, now.UTC().Format(time.DateOnly), link().Opened.Format(time.DateOnly))
	assert.True(t, opens(first, ends), "on its last day")
	assert.False(t, opens(first, ends.AddDate(0, 0, 1)), "the day after")
	require.NoError(t, s.RevokePhoneLinks(ctx, other.teacher, sc.class, 0))
	assert.True(t, opens(first, now), "another teacher revokes nothing")
	require.NoError(t, s.RevokePhoneLinks(ctx, sc.teacher, sc.class, st))
	assert.False(t, opens(first, now))
	require.NoError(t, s.RenewPhoneLinks(ctx, sc.teacher, []ref.Student{st}, ends, now, sum))
	assert.False(t, opens(first, now), "the old one")
	assert.True(t, opens(link(), now))
	require.NoError(t, s.EndPhoneLinks(ctx, sc.teacher, sc.class, now.AddDate(0, 0, -1)))
	assert.False(t, opens(link(), now))
	require.NoError(t, s.EndPhoneLinks(ctx, sc.teacher, sc.class, ends))
	require.NoError(t, s.Archive(ctx, sc.teacher, ref.AStudent, int64(st), true))
	assert.False(t, opens(link(), now), "archived")
}
