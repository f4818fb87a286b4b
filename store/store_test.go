package store_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/difficulty"
	"arplin/core/ladder"
	"arplin/core/ladder/order"
	"arplin/core/pattern"
	"arplin/core/say"
	"arplin/core/song"
	"arplin/core/song/edit"
	"arplin/store"
	"arplin/store/ref"
	"arplin/store/storetest"
)

func TestMain(m *testing.M) { storetest.Main(m) }

// school is a class with a song, a ladder and two students, of one teacher.
type school struct {
	teacher  ref.Teacher
	class    ref.Class
	song     ref.Song
	ladder   ref.Ladder
	students []ref.Student
}

// someSteps have something in every field.
func someSteps(target pattern.Pattern) []ladder.Step {
	return []ladder.Step{
		{ID: 1, Pattern: target, Adds: []ladder.Thing{{Stage: ladder.Tapped}}, Over: ladder.OneChord, Play: difficulty.Tapped, Level: 1.5},
		{ID: 2, Pattern: pattern.MustParse("4/4: p . . . . . . ."), Adds: []ladder.Thing{{Rule: "every-beat", Short: true}, {Stage: ladder.Own}}, Over: ladder.OneChord, Level: 2, Pinned: true},
		{ID: 5, Pattern: target, Adds: []ladder.Thing{{Stage: ladder.WholeSong}}, Over: ladder.AllChords, Level: 4, Pace: 60},
		{ID: 4, Pattern: target, Adds: []ladder.Thing{{Stage: ladder.GoalTempo}}, Over: ladder.AllChords, Level: 5},
	}
}

func newSchool(t *testing.T, s *store.Store, name string) school {
	t.Helper()
	ctx := t.Context()
	sc := school{teacher: storetest.Teacher(t, s, name)}
	var err error
	sc.class, err = s.AddClass(ctx, sc.teacher, store.Class{Name: name, LessonMinutes: 45, Fingers: "moving", LowFifth: true})
	require.NoError(t, err)
	meter, _ := pattern.ParseMeter("4/4")
	bars, err := song.ParseChords("C | Am | F G7 | C", meter)
	require.NoError(t, err)
	sc.song, err = s.AddSong(ctx, sc.teacher, song.Song{Title: "A " + name, Meter: meter, Tempo: 80, Sections: []song.Section{{Name: "Verse", Bars: bars}}})
	require.NoError(t, err)
	target := pattern.MustParse("4/4: p+m . p' i p m p' .")
	sc.ladder, err = s.AddLadder(ctx, sc.teacher, store.Ladder{ClassID: sc.class, SongID: sc.song, Instrument: "ukulele", PatternName: "target", Target: target, Sections: []song.SectionID{1}, Ladder: ladder.Ladder{Choice: order.Choice{Order: order.RhythmFirst}, Steps: someSteps(target)}})
	require.NoError(t, err)
	for _, st := range []string{"Pia", "Jo"} {
		id, err := s.AddStudent(ctx, sc.teacher, store.Student{ClassID: sc.class, Name: st, Instrument: "ukulele"})
		require.NoError(t, err)
		sc.students = append(sc.students, id)
	}
	return sc
}

func TestSongComesBackAsItWas(t *testing.T) {
	s := storetest.Open(t)
	sc := newSchool(t, s, "song")
	sg, err := s.Song(t.Context(), sc.teacher, sc.song)
	require.NoError(t, err)
	assert.Equal(t, 1, sg.Version)
	assert.Equal(t, "4/4", sg.Meter.String())
	require.Len(t, sg.Bars(), 4)
	assert.Equal(t, []song.Change{{Symbol: "F", Ticks: 10080}, {Symbol: "G7", Ticks: 10080}}, sg.Bars()[2].Changes)

	require.NoError(t, s.Archive(t.Context(), sc.teacher, ref.ASong, int64(sc.song), true))
	list, _, err := s.Songs(t.Context(), sc.teacher, store.Find{})
	require.NoError(t, err)
	assert.Empty(t, list)
	require.NoError(t, s.Archive(t.Context(), sc.teacher, ref.ASong, int64(sc.song), false))
	list, _, err = s.Songs(t.Context(), sc.teacher, store.Find{})
	require.NoError(t, err)
	assert.Len(t, list, 1)
}

func TestSongHistory(t *testing.T) {
	s := storetest.Open(t)
	sc := newSchool(t, s, "history")
	ctx := t.Context()
	load := func() store.Song {
		sg, err := s.Song(ctx, sc.teacher, sc.song)
		require.NoError(t, err)
		return sg
	}
	edit := func(tempo int) {
		sg := load()
		sg.Tempo = tempo
		require.NoError(t, s.SaveSong(ctx, sc.teacher, sg, say.Of("tempo-set", tempo)))
	}
	edit(90)
	edit(100)
	move := func(step int) error { _, err := s.MoveSong(ctx, sc.teacher, sc.song, load().Version, step); return err }
	require.NoError(t, move(-1))
	assert.Equal(t, 90, load().Tempo)
	require.NoError(t, move(-1))
	assert.Equal(t, 80, load().Tempo)
	assert.ErrorIs(t, move(-1), store.ErrNoHistory)
	require.NoError(t, move(+1))
	assert.Equal(t, 90, load().Tempo)
	edit(95) // what had been undone is gone
	assert.ErrorIs(t, move(+1), store.ErrNoHistory)
	assert.Equal(t, store.Moves{Undo: true}, load().Moves)

	stale := load()
	edit(96)
	stale.Tempo = 50
	var conflict *store.StaleError
	require.ErrorAs(t, s.SaveSong(ctx, sc.teacher, stale, say.Of("late")), &conflict)
	assert.Equal(t, load().Version, conflict.Version)
	assert.Contains(t, conflict.Error(), "version")
	assert.Equal(t, 96, load().Tempo)
	_, err := s.MoveSong(ctx, sc.teacher, sc.song, stale.Version, -1)
	assert.ErrorAs(t, err, &conflict)
	other := storetest.Teacher(t, s, "history-other")
	assert.ErrorIs(t, s.SaveSong(ctx, other, load(), say.Of("theft")), store.ErrNotFound)
	_, err = s.MoveSong(ctx, other, sc.song, load().Version, -1)
	assert.ErrorIs(t, err, store.ErrNotFound)
}

// Undo goes 200 steps back and no further, for songs and for ladders.
func TestTheDepthOfUndo(t *testing.T) {
	s := storetest.Open(t)
	sc := newSchool(t, s, "depth")
	ctx := t.Context()
	sg, err := s.Song(ctx, sc.teacher, sc.song)
	require.NoError(t, err)
	l, err := s.Ladder(ctx, sc.teacher, sc.ladder)
	require.NoError(t, err)
	for i := range 205 {
		sg.Tempo = 60 + i%100
		require.NoError(t, s.SaveSong(ctx, sc.teacher, sg, say.Of("tempo-set", i)))
		sg.Version++
		require.NoError(t, s.SaveLadder(ctx, sc.teacher, l, say.Of("pinned", i)))
		l.Version++
	}
	steps := func(back func() error) (n int) {
		for back() == nil {
			n++
		}
		return n
	}
	assert.Equal(t, 200, steps(func() error {
		sg.Version++
		_, err := s.MoveSong(ctx, sc.teacher, sc.song, sg.Version-1, -1)
		return err
	}))
	assert.Equal(t, 200, steps(func() error {
		l.Version++
		_, err := s.MoveLadder(ctx, sc.teacher, sc.ladder, l.Version-1, -1)
		return err
	}))
}

// An id that was undone is never given to something else.
func TestIDsDoNotComeBack(t *testing.T) {
	s := storetest.Open(t)
	sc := newSchool(t, s, "ids")
	ctx := t.Context()
	insert := func() song.BarID {
		sg, err := s.Song(ctx, sc.teacher, sc.song)
		require.NoError(t, err)
		var d say.Line
		sg.Song, d, err = sg.Apply(edit.InsertBar{After: sg.Bars()[0].ID})
		require.NoError(t, err)
		require.NoError(t, s.SaveSong(ctx, sc.teacher, sg, d))
		return sg.Bars()[1].ID
	}
	first := insert()
	sg, err := s.Song(ctx, sc.teacher, sc.song)
	require.NoError(t, err)
	_, err = s.MoveSong(ctx, sc.teacher, sc.song, sg.Version, -1)
	require.NoError(t, err)
	assert.NotEqual(t, first, insert())
}

func TestPatternsHaveVersions(t *testing.T) {
	s := storetest.Open(t)
	sc := newSchool(t, s, "patterns")
	ctx := t.Context()
	id, err := s.AddPattern(ctx, sc.teacher, "Mine", pattern.MustParse("4/4: p i m a"))
	require.NoError(t, err)
	p, err := s.Pattern(ctx, sc.teacher, id)
	require.NoError(t, err)
	p.Name = "Still mine"
	require.NoError(t, s.ChangePattern(ctx, sc.teacher, p))
	var stale *store.StaleError
	require.ErrorAs(t, s.ChangePattern(ctx, sc.teacher, p), &stale)
	p.Version = stale.Version // the newest, so that only the owner decides below
	require.NoError(t, s.Archive(ctx, sc.teacher, ref.APattern, int64(id), true))
	list, err := s.Patterns(ctx, sc.teacher)
	require.NoError(t, err)
	assert.Empty(t, list)
	other := storetest.Teacher(t, s, "patterns-other")
	_, err = s.Pattern(ctx, other, id)
	assert.ErrorIs(t, err, store.ErrNotFound)
	p.Name = "Stolen"
	assert.ErrorIs(t, s.ChangePattern(ctx, other, p), store.ErrNotFound)
	p, err = s.Pattern(ctx, sc.teacher, id)
	require.NoError(t, err)
	assert.Equal(t, "Still mine", p.Name)
}

func TestAClassChoosesHowItPlays(t *testing.T) {
	s := storetest.Open(t)
	sc := newSchool(t, s, "schools")
	c, err := s.Class(t.Context(), sc.teacher, sc.class)
	require.NoError(t, err)
	c.Fingers, c.Lean, c.Anchor, c.SingHigh = "fixed", true, true, "E5"
	require.NoError(t, s.ChangeClass(t.Context(), sc.teacher, c))
	c.Version++
	again, err := s.Class(t.Context(), sc.teacher, sc.class)
	require.NoError(t, err)
	assert.Equal(t, c, again)
	assert.ErrorIs(t, s.ChangeClass(t.Context(), storetest.Teacher(t, s, "schools-other"), c), store.ErrNotFound)
}

func TestLogIsAppendOnlyAndSentOnce(t *testing.T) {
	s := storetest.Open(t)
	sc := newSchool(t, s, "log")
	at := time.Date(2026, 3, 4, 18, 30, 0, 0, time.FixedZone("two hours east", 7200))
	e := store.Entry{StudentID: sc.students[0], LadderID: sc.ladder, Step: someSteps(pattern.MustParse("4/4: p . . ."))[1], Tempo: 72, At: at}
	first, err := s.AddEntry(t.Context(), sc.teacher, e, "sent-once")
	require.NoError(t, err)
	again, err := s.AddEntry(t.Context(), sc.teacher, e, "sent-once")
	require.NoError(t, err)
	assert.Equal(t, first, again)

	entries, err := s.Entries(t.Context(), sc.teacher, sc.class, at.Add(-time.Hour))
	require.NoError(t, err)
	require.Len(t, entries, 1)
	assert.True(t, at.Equal(entries[0].At), "times are UTC in the table")
	assert.Equal(t, time.UTC, entries[0].At.Location())

	require.NoError(t, s.Withdraw(t.Context(), sc.teacher, first, at.Add(time.Minute)))
	require.NoError(t, s.Withdraw(t.Context(), sc.teacher, first, at.Add(time.Minute)), "taking back twice is once")
	entries, err = s.Entries(t.Context(), sc.teacher, sc.class, at.Add(-time.Hour))
	require.NoError(t, err)
	assert.Empty(t, entries)
}

func TestNamesAreTakenOnce(t *testing.T) {
	s := storetest.Open(t)
	sc := newSchool(t, s, "names")
	_, err := s.AddStudent(t.Context(), sc.teacher, store.Student{ClassID: sc.class, Name: "Pia", Instrument: "guitar"})
	assert.ErrorIs(t, err, store.ErrTaken)
}
