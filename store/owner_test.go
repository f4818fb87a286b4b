package store_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/pattern"
	"arplin/core/say"
	"arplin/store"
	"arplin/store/ref"
	"arplin/store/storetest"
)

// No id reaches another teacher's row.
func TestEverythingIsBoundToItsOwner(t *testing.T) {
	s := storetest.Open(t)
	ctx := t.Context()
	mine, theirs := newSchool(t, s, "mine"), newSchool(t, s, "theirs")
	entry, err := s.AddEntry(ctx, theirs.teacher, store.Entry{StudentID: theirs.students[0], LadderID: theirs.ladder, Step: someSteps(pattern.MustParse("4/4: p . . ."))[0], Tempo: 60, At: time.Now()}, "theirs")
	require.NoError(t, err)
	drill, err := s.AddDrill(ctx, theirs.teacher, aDrill(theirs))
	require.NoError(t, err)
	lesson, err := s.NextLesson(ctx, theirs.teacher, theirs.class, time.Now())
	require.NoError(t, err)
	own, err := s.NextLesson(ctx, mine.teacher, mine.class, time.Now())
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
		"log on their drill": func() error {
			return s.AddDrillTry(ctx, mine.teacher, drill, store.DrillTry{Tempo: 60, At: time.Now()}, "theft")
		},
		"finish their drill":           func() error { return s.FinishDrill(ctx, mine.teacher, drill, time.Now()) },
		"their next lesson":            func() error { _, err := s.NextLesson(ctx, mine.teacher, theirs.class, time.Now()); return err },
		"read their lesson":            func() error { _, err := s.Lesson(ctx, mine.teacher, lesson.ID); return err },
		"save their lesson":            func() error { return s.SaveLesson(ctx, mine.teacher, lesson) },
		"their register":               func() error { return s.SetAway(ctx, mine.teacher, lesson.ID, theirs.students[0], true) },
		"their student in my register": func() error { return s.SetAway(ctx, mine.teacher, own.ID, theirs.students[0], true) },
		"read their arrangement":       func() error { _, err := s.ArrangementOf(ctx, mine.teacher, theirs.ladder); return err },
		"arrange theirs": func() error {
			return s.SetArrangement(ctx, mine.teacher, store.Arrangement{LadderID: theirs.ladder, Body: "{}"})
		},
		"read their term": func() error { _, err := s.TermOf(ctx, mine.teacher, theirs.class); return err },
		"set their term": func() error {
			return s.SetTerm(ctx, mine.teacher, store.Term{ClassID: theirs.class, LadderID: theirs.ladder, Begins: time.Now(), Concert: time.Now()})
		},
		"their student leaves": func() error { return s.SetLeft(ctx, mine.teacher, theirs.students[0], time.Now()) },
		"their student to me":  func() error { return s.MoveStudent(ctx, mine.teacher, theirs.students[0], mine.class, time.Now()) },
		"my student to them":   func() error { return s.MoveStudent(ctx, mine.teacher, mine.students[0], theirs.class, time.Now()) },
		"note on their student": func() error {
			return s.SetNote(ctx, mine.teacher, store.Student{ID: theirs.students[0], Note: "x", Version: 1})
		},
		"a list into their class": func() error {
			return s.AddStudents(ctx, mine.teacher, []store.Student{{ClassID: theirs.class, Name: "Eve", Instrument: "guitar"}})
		},
		"read their student": func() error { _, err := s.Student(ctx, mine.teacher, theirs.students[0]); return err },
		"read class":         func() error { _, err := s.Class(ctx, mine.teacher, theirs.class); return err },
		"read song":          func() error { _, err := s.Song(ctx, mine.teacher, theirs.song); return err },
		"archive song":       func() error { return s.Archive(ctx, mine.teacher, ref.ASong, int64(theirs.song), true) },
		"read ladder":        func() error { _, err := s.Ladder(ctx, mine.teacher, theirs.ladder); return err },
		"archive ladder":     func() error { return s.Archive(ctx, mine.teacher, ref.ALadder, int64(theirs.ladder), true) },
		"add a student": func() error {
			_, err := s.AddStudent(ctx, mine.teacher, store.Student{ClassID: theirs.class, Name: "Eve", Instrument: "guitar"})
			return err
		},
		"change their student": func() error {
			return s.ChangeStudent(ctx, mine.teacher, store.Student{ID: theirs.students[0], Name: "Eve", Instrument: "guitar"})
		},
		"ladder on their song": func() error {
			_, err := s.AddLadder(ctx, mine.teacher, store.Ladder{ClassID: mine.class, SongID: theirs.song, Target: pattern.MustParse("4/4: p i m a")})
			return err
		},
		"place their student": func() error {
			_, _, err := s.Place(ctx, mine.teacher, theirs.ladder, store.Places{theirs.students[0]: 1})
			return err
		},
		"their student on my ladder": func() error {
			_, _, err := s.Place(ctx, mine.teacher, mine.ladder, store.Places{theirs.students[0]: 1})
			return err
		},
		"log for their student": func() error {
			_, err := s.AddEntry(ctx, mine.teacher, store.Entry{StudentID: theirs.students[0], LadderID: theirs.ladder, Step: someSteps(pattern.MustParse("4/4: p . . ."))[0], Tempo: 60, At: time.Now()}, "eve")
			return err
		},
		"save their ladder": func() error {
			l, err := s.Ladder(ctx, theirs.teacher, theirs.ladder)
			require.NoError(t, err)
			return s.SaveLadder(ctx, mine.teacher, l, say.Of("theft"))
		},
		"undo their ladder":     func() error { _, err := s.MoveLadder(ctx, mine.teacher, theirs.ladder, 1, -1); return err },
		"delete their song":     func() error { return s.Delete(ctx, mine.teacher, ref.ASong, int64(theirs.song)) },
		"archive their student": func() error { return s.Archive(ctx, mine.teacher, ref.AStudent, int64(theirs.students[0]), true) },
		"withdraw their entry":  func() error { return s.Withdraw(ctx, mine.teacher, entry, time.Now()) },
	} {
		assert.ErrorIs(t, try(), store.ErrNotFound, what)
	}
	for what, list := range map[string]func() (int, error){
		"drills": func() (int, error) {
			l, err := s.Drills(ctx, mine.teacher, theirs.class)
			return len(l), err
		},
		"lessons": func() (int, error) {
			l, err := s.Lessons(ctx, mine.teacher, theirs.class, 5, time.Now())
			return len(l), err
		},
		"log of": func() (int, error) {
			l, err := s.LogOf(ctx, mine.teacher, theirs.class, time.Unix(0, 0))
			return len(l), err
		},
		"ladders now": func() (int, error) { l, err := s.LaddersNow(ctx, mine.teacher, theirs.class); return len(l), err },
		"a visit to their class": func() (int, error) {
			v, err := s.Visit(ctx, mine.teacher, theirs.class)
			n := 0
			for _, st := range v.Students {
				if st.ClassID != mine.class {
					n++
				}
			}
			return n, err
		},
		"heard now": func() (int, error) {
			h, err := s.HeardNow(ctx, mine.teacher, theirs.class, time.Unix(0, 0), time.Unix(0, 0))
			return len(h.Tries) + len(h.Tense) + len(h.Stays), err
		},
		"decided": func() (int, error) {
			l, err := s.DecisionsOf(ctx, mine.teacher, theirs.class, time.Unix(0, 0))
			return len(l), err
		},
		"away often": func() (int, error) { l, err := s.AwayOften(ctx, mine.teacher, theirs.class); return len(l), err },
		"students":   func() (int, error) { l, err := s.Students(ctx, mine.teacher, theirs.class); return len(l), err },
		"ladders": func() (int, error) {
			l, _, err := s.Ladders(ctx, mine.teacher, theirs.class, store.Find{})
			return len(l), err
		},
		"placements": func() (int, error) { l, err := s.Placements(ctx, mine.teacher, theirs.ladder); return len(l), err },
		"tempos": func() (int, error) {
			l, err := s.TriesOn(ctx, mine.teacher, theirs.ladder, time.Time{}.AddDate(1999, 0, 0))
			return len(l), err
		},
		"last clean": func() (int, error) {
			l, err := s.LastCleans(ctx, mine.teacher, theirs.class, 0, time.Time{}.AddDate(1999, 0, 0))
			return len(l), err
		},
		"entries of": func() (int, error) {
			l, err := s.EntriesOf(ctx, mine.teacher, theirs.students[0], time.Time{}.AddDate(1999, 0, 0))
			return len(l), err
		},
		"stands": func() (int, error) { l, err := s.Stands(ctx, mine.teacher, theirs.students[0]); return len(l), err },
		"failed": func() (int, error) {
			l, err := s.FailedMost(ctx, mine.teacher, theirs.class, 0, theirs.song, time.Time{}.AddDate(1999, 0, 0))
			return len(l), err
		},
		"tense": func() (int, error) {
			l, err := s.Tense(ctx, mine.teacher, theirs.class, time.Time{}.AddDate(1999, 0, 0))
			return len(l), err
		},
		"decisions": func() (int, error) { l, err := s.Decisions(ctx, mine.teacher, theirs.students[0]); return len(l), err },
		"on now":    func() (int, error) { l, err := s.OnNow(ctx, mine.teacher, theirs.class); return len(l), err },
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
