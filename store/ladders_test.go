package store_test

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/ladder"
	"arplin/core/ladder/edit"
	"arplin/core/ladder/order"
	"arplin/core/say"
	"arplin/core/song"
	"arplin/store"
	"arplin/store/ref"
	"arplin/store/storetest"
)

func TestLadderComesBackAsItWas(t *testing.T) {
	s := storetest.Open(t)
	sc := newSchool(t, s, "ladder")
	l, err := s.Ladder(t.Context(), sc.teacher, sc.ladder)
	require.NoError(t, err)
	assert.Equal(t, someSteps(l.Target), l.Steps)
	assert.Equal(t, []song.SectionID{1}, l.Sections)
	assert.Equal(t, order.RhythmFirst, l.Order)
	assert.Equal(t, "A ladder", l.SongTitle)
	lines, _, err := s.Ladders(t.Context(), sc.teacher, sc.class, store.Find{})
	require.NoError(t, err)
	require.Len(t, lines, 1)
	assert.Equal(t, 4, lines[0].Steps)
}

// Two ladders of one song have names apart, also where the first name is as long as a name may be.
func TestLaddersOfASongHaveNamesApart(t *testing.T) {
	s := storetest.Open(t)
	sc := newSchool(t, s, "apart")
	ctx := t.Context()
	var names []string
	for range 3 {
		l, err := s.Ladder(ctx, sc.teacher, sc.ladder)
		require.NoError(t, err)
		l.PatternName = strings.Repeat("ü", song.MaxPatternName)
		id, err := s.AddLadder(ctx, sc.teacher, l)
		require.NoError(t, err)
		got, err := s.Ladder(ctx, sc.teacher, id)
		require.NoError(t, err)
		names = append(names, strings.TrimLeft(got.PatternName, "ü"))
	}
	assert.Equal(t, []string{"", " (2)", " (3)"}, names)
}

// Steps keep their students, and undo and redo bring everybody back to where they
// stood, whatever was moved in between.
func TestStudentsMoveWithTheSteps(t *testing.T) {
	s := storetest.Open(t)
	sc := newSchool(t, s, "steps")
	ctx := t.Context()
	pia, jo := sc.students[0], sc.students[1]
	load := func() store.Ladder {
		l, err := s.Ladder(ctx, sc.teacher, sc.ladder)
		require.NoError(t, err)
		return l
	}
	at := func() store.Places {
		places, err := s.Placements(ctx, sc.teacher, sc.ladder)
		require.NoError(t, err)
		return places
	}
	_, _, err := s.Place(ctx, sc.teacher, sc.ladder, store.Places{pia: 4, jo: 1})
	require.NoError(t, err)
	stale := load()
	shorter := load()
	shorter.Steps, shorter.Order = shorter.Steps[1:], order.AccentsEarly
	require.NoError(t, s.SaveLadder(ctx, sc.teacher, shorter, say.Of("dropped", 1)))
	assert.EqualValues(t, 4, at()[pia], "the same step, one lower now")
	assert.EqualValues(t, 2, at()[jo], "the step is gone; the lowest is what is left")
	var refused *store.StaleError
	require.ErrorAs(t, s.SaveLadder(ctx, sc.teacher, stale, say.Of("late")), &refused)
	assert.Equal(t, load().Version, refused.Version)
	assert.Equal(t, order.AccentsEarly, load().Order)

	_, _, err = s.Place(ctx, sc.teacher, sc.ladder, store.Places{jo: 5})
	require.NoError(t, err)
	move := func(by int) store.Moved {
		m, err := s.MoveLadder(ctx, sc.teacher, sc.ladder, load().Version, by)
		require.NoError(t, err)
		return m
	}
	m := move(-1)
	assert.Equal(t, edit.Placed().ID, m.Done.ID, "a move of a name is taken back by itself")
	assert.EqualValues(t, 2, at()[jo])
	m = move(-1)
	assert.Equal(t, say.Of("dropped", 1), m.Done)
	assert.Equal(t, store.Places{pia: 4, jo: 1}, at(), "everybody is back")
	assert.EqualValues(t, 2, m.Before[jo])
	assert.Equal(t, order.RhythmFirst, load().Order, "the order is taken back with the steps")
	assert.Equal(t, store.Moves{Undo: true, Redo: true}, load().Moves)
	move(+1)
	assert.EqualValues(t, 2, at()[jo])
	move(+1)
	assert.EqualValues(t, 5, at()[jo])
	_, err = s.MoveLadder(ctx, sc.teacher, sc.ladder, load().Version, +1)
	assert.ErrorIs(t, err, store.ErrNoHistory)
	_, err = s.MoveLadder(ctx, sc.teacher, sc.ladder, load().Version-1, -1)
	assert.ErrorAs(t, err, &refused)
	_, err = s.MoveLadder(ctx, sc.teacher, sc.ladder, 0, -1)
	assert.ErrorAs(t, err, &refused, "no version is no way round the check")
}

// A tempo stays with the step and the figure on which it was played, whatever
// becomes of the ladder.
func TestAnEntryKeepsItsStep(t *testing.T) {
	s := storetest.Open(t)
	sc := newSchool(t, s, "entries")
	ctx := t.Context()
	l, err := s.Ladder(ctx, sc.teacher, sc.ladder)
	require.NoError(t, err)
	played := l.Steps[1]
	now := time.Now()
	add := func(step ladder.Step, tempo int, id string) {
		_, err := s.AddEntry(ctx, sc.teacher, store.Entry{StudentID: sc.students[0], LadderID: sc.ladder, Step: step, Tempo: tempo, At: now}, id)
		require.NoError(t, err)
	}
	add(played, 60, "entry-before")
	edited := l
	edited.Steps = append([]ladder.Step{}, l.Steps[1:]...)
	edited.Steps[0].Pattern = l.Target
	require.NoError(t, s.SaveLadder(ctx, sc.teacher, edited, say.Of("written", 1)))
	add(edited.Steps[0], 66, "entry-after")
	entries, err := s.Entries(ctx, sc.teacher, sc.class, now.Add(-time.Hour))
	require.NoError(t, err)
	require.Len(t, entries, 2)
	assert.Equal(t, played.ID, entries[0].Step.ID)
	assert.Equal(t, played.Pattern, entries[0].Step.Pattern, "as it was played")
	assert.Equal(t, played.ID, entries[1].Step.ID)
	assert.Equal(t, l.Target, entries[1].Step.Pattern)
	tempos, err := s.TriesOn(ctx, sc.teacher, sc.ladder, now.Add(-time.Hour))
	require.NoError(t, err)
	require.Len(t, tempos, 2)
	assert.Equal(t, played.ID, tempos[0].Step.ID)
	cleans, err := s.LastCleans(ctx, sc.teacher, sc.class, 0, now.Add(-time.Hour))
	require.NoError(t, err)
	assert.Equal(t, map[store.OnSong]int{{Student: sc.students[0], Song: sc.song}: 66}, cleans)
	cleans, err = s.LastCleans(ctx, sc.teacher, sc.class, sc.students[1], now.Add(-time.Hour))
	require.NoError(t, err)
	assert.Empty(t, cleans)
}

// Several students are placed together or not at all.
func TestPlace(t *testing.T) {
	s := storetest.Open(t)
	sc := newSchool(t, s, "places")
	ctx := t.Context()
	was, _, err := s.Place(ctx, sc.teacher, sc.ladder, store.Places{sc.students[0]: 2})
	require.NoError(t, err)
	assert.Equal(t, store.Places{sc.students[0]: 0}, was)
	for _, wrong := range []store.Places{{sc.students[0]: 1, 999_999: 1}, {sc.students[0]: 1, sc.students[1]: 77}} {
		_, _, err = s.Place(ctx, sc.teacher, sc.ladder, wrong)
		assert.ErrorIs(t, err, store.ErrNotFound)
	}
	places, err := s.Placements(ctx, sc.teacher, sc.ladder)
	require.NoError(t, err)
	assert.Equal(t, store.Places{sc.students[0]: 2}, places, "nobody was moved")
	was, _, err = s.Place(ctx, sc.teacher, sc.ladder, store.Places{sc.students[0]: 0})
	require.NoError(t, err)
	assert.Equal(t, store.Places{sc.students[0]: 2}, was)
	places, err = s.Placements(ctx, sc.teacher, sc.ladder)
	require.NoError(t, err)
	assert.Empty(t, places)
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
			edited := l
			edited.Steps = l.Steps[i+1:]
			results <- s.SaveLadder(ctx, sc.teacher, edited, say.Of("dropped", fmt.Sprint(i)))
		}()
	}
	var stale *store.StaleError
	won := 0
	for range 2 {
		if err := <-results; err == nil {
			won++
		} else {
			require.ErrorAs(t, err, &stale)
		}
	}
	assert.Equal(t, 1, won)
	now, err := s.Ladder(ctx, sc.teacher, sc.ladder)
	require.NoError(t, err)
	assert.Equal(t, l.Version+1, now.Version)
}

// A desk holds four songs: a fifth sets the oldest aside, a new ladder for a song takes
// the place of its old one, and nothing is put on a full desk.
func TestOnTheDesk(t *testing.T) {
	s := storetest.Open(t)
	sc := newSchool(t, s, "desk")
	ctx := t.Context()
	on := func() (ids []ref.Ladder) {
		lines, err := s.OnNow(ctx, sc.teacher, sc.class)
		require.NoError(t, err)
		for _, l := range lines {
			ids = append(ids, l.ID)
		}
		return ids
	}
	l, err := s.Ladder(ctx, sc.teacher, sc.ladder)
	require.NoError(t, err)
	assert.Equal(t, store.Now, l.Progress)
	again, err := s.AddLadder(ctx, sc.teacher, l)
	require.NoError(t, err)
	assert.Equal(t, []ref.Ladder{again}, on(), "the same part of the same song")
	sg, err := s.Song(ctx, sc.teacher, l.SongID)
	require.NoError(t, err)
	want := []ref.Ladder{again}
	for range store.MostNow {
		l.SongID, err = s.AddSong(ctx, sc.teacher, sg.Song)
		require.NoError(t, err)
		id, err := s.AddLadder(ctx, sc.teacher, l)
		require.NoError(t, err)
		want = append([]ref.Ladder{id}, want...)
	}
	assert.Equal(t, want[:store.MostNow], on())
	require.ErrorIs(t, s.SetProgress(ctx, sc.teacher, again, store.Now), store.ErrFull)
	require.NoError(t, s.SetProgress(ctx, sc.teacher, want[0], store.Finished))
	require.NoError(t, s.SetProgress(ctx, sc.teacher, again, store.Now))
	assert.Equal(t, append(want[1:store.MostNow:store.MostNow], again), on())
	require.ErrorIs(t, s.SetProgress(ctx, newSchool(t, s, "desk-other").teacher, again, store.Aside), store.ErrNotFound)
}

// A decision moves and is kept in one, and only from the step that it is about.
func TestADecisionIsKeptWithTheMove(t *testing.T) {
	s := storetest.Open(t)
	sc := newSchool(t, s, "decided")
	ctx, pia := t.Context(), sc.students[0]
	_, _, err := s.Place(ctx, sc.teacher, sc.ladder, store.Places{pia: 1})
	require.NoError(t, err)
	d := store.Decision{StudentID: pia, LadderID: sc.ladder, Step: 1, To: 2, Kind: "move-on", Why: say.Of("move-on", 3, 80, 2), At: time.Now()}
	_, _, err = s.Place(ctx, sc.teacher, sc.ladder, store.Places{pia: 2}, d)
	require.NoError(t, err)
	_, _, err = s.Place(ctx, sc.teacher, sc.ladder, store.Places{pia: 2}, d)
	require.ErrorIs(t, err, store.ErrMoved)
	kept, err := s.Decisions(ctx, sc.teacher, pia)
	require.NoError(t, err)
	require.Len(t, kept, 1)
	assert.Equal(t, d.Why, kept[0].Why)
}
