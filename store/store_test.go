package store_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/demand"
	"arplin/core/hand"
	"arplin/core/song"
	"arplin/core/vary"
	"arplin/store"
	"arplin/store/storetest"
)

func TestMain(m *testing.M) { storetest.Main(m) }

// school is a class with a song, a ladder and two students, of one teacher.
type school struct {
	teacher, class, song, ladder int64
	students                     []int64
}

// someSteps have something in every field.
func someSteps(target hand.Pattern) []vary.Step {
	return []vary.Step{
		{Pattern: target, Adds: "the rhythm, tapped", Says: "Tap.", Over: "one chord", Play: demand.Tapped, Level: 1.5},
		{Pattern: hand.MustParse("4/4: p . . . . . . ."), Adds: "by hand", Says: "Own.", Over: "one chord", Level: 2, Pinned: true},
		{Pattern: target, Adds: "all chords", Says: "All.", Over: "all chords", Level: 4, Pace: 60},
		{Pattern: target, Adds: "the goal tempo", Says: "Fast.", Over: "all chords", Level: 5},
	}
}

func newSchool(t *testing.T, s *store.Store, name string) school {
	t.Helper()
	ctx := t.Context()
	sc := school{teacher: storetest.Teacher(t, s, name)}
	var err error
	sc.class, err = s.AddClass(ctx, sc.teacher, store.Class{Name: name, LessonMinutes: 45, Fingers: "moving", LowFifth: true})
	require.NoError(t, err)
	meter, _ := hand.ParseMeter("4/4")
	bars, err := song.ParseChords("C | Am | F G7 | C", meter)
	require.NoError(t, err)
	sc.song, err = s.AddSong(ctx, sc.teacher, song.Song{Title: "A " + name, Meter: meter, Tempo: 80, Sections: []song.Section{{Name: "Verse", Bars: bars}}})
	require.NoError(t, err)
	target := hand.MustParse("4/4: p+m . p' i p m p' .")
	sc.ladder, err = s.AddLadder(ctx, sc.teacher, store.Ladder{ClassID: sc.class, SongID: sc.song, PatternName: "target", Target: target, Part: "Verse", Order: vary.RhythmFirst, Steps: someSteps(target)})
	require.NoError(t, err)
	for _, st := range []string{"Pia", "Jo"} {
		id, err := s.AddStudent(ctx, sc.teacher, store.Student{ClassID: sc.class, Name: st, Instrument: "ukulele"})
		require.NoError(t, err)
		sc.students = append(sc.students, id)
	}
	return sc
}

func TestMigrateTwiceChangesNothing(t *testing.T) {
	s := storetest.Open(t)
	first, err := s.Migrate(t.Context())
	require.NoError(t, err)
	again, err := s.Migrate(t.Context())
	require.NoError(t, err)
	assert.Equal(t, first, again)
	assert.Positive(t, first)
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

	require.NoError(t, s.ArchiveSong(t.Context(), sc.teacher, sc.song, true))
	list, err := s.Songs(t.Context(), sc.teacher)
	require.NoError(t, err)
	assert.Empty(t, list)
	require.NoError(t, s.ArchiveSong(t.Context(), sc.teacher, sc.song, false))
	list, err = s.Songs(t.Context(), sc.teacher)
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
		require.NoError(t, s.SaveSong(ctx, sc.teacher, sg, "tempo"))
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
	undo, redo, err := s.CanMove(ctx, sc.teacher, sc.song)
	require.NoError(t, err)
	assert.Equal(t, []bool{true, false}, []bool{undo, redo})

	stale := load()
	edit(96)
	stale.Tempo = 50
	var conflict *store.StaleError
	require.ErrorAs(t, s.SaveSong(ctx, sc.teacher, stale, "late"), &conflict)
	assert.Equal(t, 96, conflict.Current.Tempo, "the text that is there comes with the refusal")
	assert.Equal(t, 96, load().Tempo)
	_, err = s.MoveSong(ctx, sc.teacher, sc.song, stale.Version, -1)
	assert.ErrorAs(t, err, &conflict)
	other := storetest.Teacher(t, s, "history-other")
	assert.ErrorIs(t, s.SaveSong(ctx, other, load(), "theft"), store.ErrNotFound)
}

func TestPatternsHaveVersions(t *testing.T) {
	s := storetest.Open(t)
	sc := newSchool(t, s, "patterns")
	ctx := t.Context()
	id, err := s.AddPattern(ctx, sc.teacher, "Mine", hand.MustParse("4/4: p i m a"))
	require.NoError(t, err)
	p, err := s.Pattern(ctx, sc.teacher, id)
	require.NoError(t, err)
	p.Name = "Still mine"
	require.NoError(t, s.ChangePattern(ctx, sc.teacher, p))
	var stale *store.StalePatternError
	require.ErrorAs(t, s.ChangePattern(ctx, sc.teacher, p), &stale)
	assert.Equal(t, "Still mine", stale.Current.Name)
	require.NoError(t, s.ArchivePattern(ctx, sc.teacher, id, true))
	list, err := s.Patterns(ctx, sc.teacher)
	require.NoError(t, err)
	assert.Empty(t, list)
	other := storetest.Teacher(t, s, "patterns-other")
	_, err = s.Pattern(ctx, other, id)
	assert.ErrorIs(t, err, store.ErrNotFound)
	assert.ErrorIs(t, s.ChangePattern(ctx, other, p), store.ErrNotFound)
}

func TestAClassChoosesHowItPlays(t *testing.T) {
	s := storetest.Open(t)
	sc := newSchool(t, s, "schools")
	c, err := s.Class(t.Context(), sc.teacher, sc.class)
	require.NoError(t, err)
	c.Fingers, c.Lean, c.Anchor, c.SingHigh = "fixed", true, true, "E5"
	require.NoError(t, s.ChangeClass(t.Context(), sc.teacher, c))
	again, err := s.Class(t.Context(), sc.teacher, sc.class)
	require.NoError(t, err)
	assert.Equal(t, c, again)
	assert.ErrorIs(t, s.ChangeClass(t.Context(), storetest.Teacher(t, s, "schools-other"), c), store.ErrNotFound)
}

func TestPlacesCanBeTakenBack(t *testing.T) {
	s := storetest.Open(t)
	sc := newSchool(t, s, "places")
	was, err := s.Place(t.Context(), sc.teacher, sc.ladder, sc.students[0], 2)
	require.NoError(t, err)
	assert.Equal(t, -1, was)
	was, err = s.Place(t.Context(), sc.teacher, sc.ladder, sc.students[0], 3)
	require.NoError(t, err)
	assert.Equal(t, 2, was)
	places, err := s.Placements(t.Context(), sc.teacher, sc.ladder)
	require.NoError(t, err)
	assert.Equal(t, map[int64]int{sc.students[0]: 3}, places)
	_, err = s.Place(t.Context(), sc.teacher, sc.ladder, sc.students[0], -1)
	require.NoError(t, err)
	places, err = s.Placements(t.Context(), sc.teacher, sc.ladder)
	require.NoError(t, err)
	assert.Empty(t, places)
}

func TestLogIsAppendOnlyAndSentOnce(t *testing.T) {
	s := storetest.Open(t)
	sc := newSchool(t, s, "log")
	at := time.Date(2026, 3, 4, 18, 30, 0, 0, time.FixedZone("two hours east", 7200))
	e := store.Entry{StudentID: sc.students[0], LadderID: sc.ladder, Step: 1, Tempo: 72, At: at}
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

// No id reaches another teacher's row.
func TestEverythingIsBoundToItsOwner(t *testing.T) {
	s := storetest.Open(t)
	ctx := t.Context()
	mine, theirs := newSchool(t, s, "mine"), newSchool(t, s, "theirs")
	entry, err := s.AddEntry(ctx, theirs.teacher, store.Entry{StudentID: theirs.students[0], LadderID: theirs.ladder, Tempo: 60, At: time.Now()}, "theirs")
	require.NoError(t, err)
	drill, err := s.AddDrill(ctx, theirs.teacher, aDrill(theirs))
	require.NoError(t, err)
	for what, try := range map[string]func() error{
		"read their drill":     func() error { _, err := s.Drill(ctx, mine.teacher, drill); return err },
		"withdraw their drill": func() error { return s.WithdrawDrill(ctx, mine.teacher, drill, true) },
		"drill for their student": func() error {
			d := aDrill(mine)
			d.StudentID = theirs.students[0]
			_, err := s.AddDrill(ctx, mine.teacher, d)
			return err
		},
		"drill on their song": func() error {
			d := aDrill(mine)
			d.SongID = theirs.song
			_, err := s.AddDrill(ctx, mine.teacher, d)
			return err
		},
		"read their student": func() error { _, err := s.Student(ctx, mine.teacher, theirs.students[0]); return err },
		"read class":         func() error { _, err := s.Class(ctx, mine.teacher, theirs.class); return err },
		"read song":          func() error { _, err := s.Song(ctx, mine.teacher, theirs.song); return err },
		"archive song":       func() error { return s.ArchiveSong(ctx, mine.teacher, theirs.song, true) },
		"read ladder":        func() error { _, err := s.Ladder(ctx, mine.teacher, theirs.ladder); return err },
		"archive ladder":     func() error { return s.ArchiveLadder(ctx, mine.teacher, theirs.ladder, true) },
		"add a student": func() error {
			_, err := s.AddStudent(ctx, mine.teacher, store.Student{ClassID: theirs.class, Name: "Eve", Instrument: "guitar"})
			return err
		},
		"change their student": func() error {
			return s.ChangeStudent(ctx, mine.teacher, store.Student{ID: theirs.students[0], Name: "Eve", Instrument: "guitar"})
		},
		"ladder on their song": func() error {
			_, err := s.AddLadder(ctx, mine.teacher, store.Ladder{ClassID: mine.class, SongID: theirs.song, Target: hand.MustParse("4/4: p i m a")})
			return err
		},
		"place their student": func() error { _, err := s.Place(ctx, mine.teacher, theirs.ladder, theirs.students[0], 1); return err },
		"their student on my ladder": func() error {
			_, err := s.Place(ctx, mine.teacher, mine.ladder, theirs.students[0], 1)
			return err
		},
		"log for their student": func() error {
			_, err := s.AddEntry(ctx, mine.teacher, store.Entry{StudentID: theirs.students[0], LadderID: theirs.ladder, Tempo: 60, At: time.Now()}, "eve")
			return err
		},
		"withdraw their entry": func() error { return s.Withdraw(ctx, mine.teacher, entry, time.Now()) },
	} {
		assert.ErrorIs(t, try(), store.ErrNotFound, what)
	}
	for what, list := range map[string]func() (int, error){
		"drills": func() (int, error) {
			l, err := s.Drills(ctx, mine.teacher, theirs.class, aDrill(theirs).Week)
			return len(l), err
		},
		"students":   func() (int, error) { l, err := s.Students(ctx, mine.teacher, theirs.class); return len(l), err },
		"ladders":    func() (int, error) { l, err := s.Ladders(ctx, mine.teacher, theirs.class); return len(l), err },
		"placements": func() (int, error) { l, err := s.Placements(ctx, mine.teacher, theirs.ladder); return len(l), err },
		"entries": func() (int, error) {
			l, err := s.Entries(ctx, mine.teacher, theirs.class, time.Time{}.AddDate(1999, 0, 0))
			return len(l), err
		},
	} {
		n, err := list()
		assert.NoError(t, err, what)
		assert.Zero(t, n, what)
	}
}

func TestNamesAreTakenOnce(t *testing.T) {
	s := storetest.Open(t)
	sc := newSchool(t, s, "names")
	_, err := s.AddStudent(t.Context(), sc.teacher, store.Student{ClassID: sc.class, Name: "Pia", Instrument: "guitar"})
	assert.ErrorIs(t, err, store.ErrTaken)
}

func TestKeyValuesExpire(t *testing.T) {
	kv := storetest.Open(t).KeyValues()
	require.NoError(t, kv.Set("a", []byte("one"), time.Hour))
	require.NoError(t, kv.Set("a", []byte("two"), time.Hour))
	require.NoError(t, kv.Set("gone", []byte("x"), time.Nanosecond))
	v, err := kv.Get("a")
	require.NoError(t, err)
	assert.Equal(t, "two", string(v))
	v, err = kv.Get("gone")
	require.NoError(t, err)
	assert.Nil(t, v)
	require.NoError(t, kv.Sweep(t.Context()))
	require.NoError(t, kv.Delete("a"))
	v, err = kv.Get("a")
	require.NoError(t, err)
	assert.Nil(t, v)
}
