package people

import (
	"context"
	"errors"
	"slices"
	"strconv"
	"strings"
	"time"

	"arplin/core/fretboard"
	"arplin/core/practice"
	"arplin/core/song"
	"arplin/core/song/hand"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
)

// Typed is a student as a form has one, kept as it is after a problem.
type Typed struct {
	Name, Instrument  string
	Tuning            string // of the teacher's own, "E2 A2 D3 G3 B3 E4"
	LeftHanded        bool
	Fingers           string // the student's own school, empty for the class's
	DayMinutes        string
	Shapes            string // chords held in a way of their own
	Capo              string
	NoBarre, NoLittle bool // what the hand cannot do yet
	Version           int  // of the student that is changed
}

// NewStudent is what the form of a new student shows.
func NewStudent() Typed {
	return Typed{Instrument: fretboard.Instruments[0].ID, DayMinutes: strconv.Itoa(practice.UsualDay)}
}

// TypedOf is a student as the form shows one.
func TypedOf(st store.Student) Typed {
	f := Typed{Name: st.Name, Instrument: st.Instrument, LeftHanded: st.LeftHanded, Fingers: st.Fingers, DayMinutes: strconv.Itoa(st.DayMinutes), Shapes: st.Shapes, Version: st.Version}
	if st.Capo > 0 {
		f.Capo = strconv.Itoa(st.Capo)
	}
	if cannot, err := hand.ParseCannots(st.Cannot); err == nil {
		f.NoBarre, f.NoLittle = slices.Contains(cannot, hand.NoBarre), slices.Contains(cannot, hand.NoLittle)
	}
	if tuning, own := fretboard.TuningOf(st.Instrument); own {
		f.Tuning = tuning
	}
	return f
}

// read checks what was typed; what cannot be read is a refusal.
func (f Typed) read() (store.Student, error) {
	st := store.Student{Name: f.Name, Instrument: f.Instrument, Shapes: f.Shapes, LeftHanded: f.LeftHanded, Fingers: f.Fingers, Version: f.Version}
	var err error
	if st.DayMinutes, err = readDay(f.DayMinutes); err != nil {
		return st, err
	}
	if f.Tuning != "" {
		tuning, err := fretboard.ParseTuning(f.Tuning)
		if err != nil {
			return st, answer.Refused(err)
		}
		st.Instrument = fretboard.Custom(tuning).ID
	}
	if f.Capo != "" {
		if st.Capo, err = strconv.Atoi(f.Capo); err != nil {
			return st, answer.Refuse("a capo sits on fret 1 to %d, or nowhere, not on %q", song.MaxCapo, f.Capo)
		}
	}
	var cannot []hand.Cannot
	if f.NoBarre {
		cannot = append(cannot, hand.NoBarre)
	}
	if f.NoLittle {
		cannot = append(cannot, hand.NoLittle)
	}
	st.Cannot = hand.CannotText(cannot)
	return CheckStudent(st)
}

// readDay reads the minutes of practice a day; none are the usual ones.
func readDay(text string) (int, error) {
	if text == "" {
		return practice.UsualDay, nil
	}
	n, err := strconv.Atoi(text)
	if err != nil {
		return 0, answer.Refuse("a day has %d to %d minutes of practice, not %q", practice.MinDay, practice.MaxDay, text)
	}
	return n, nil
}

// AddStudent adds who was typed to a class.
func (t *Room) AddStudent(ctx context.Context, teacher ref.Teacher, class ref.Class, f Typed, now time.Time) error {
	st, err := f.read()
	if err != nil {
		return err
	}
	st.ClassID, st.Joined = class, now
	_, err = t.Store.AddStudent(ctx, teacher, st)
	return nameTaken(err, st)
}

// ChangeStudent stores what was typed of a student. What another window has stored comes as an
// answer.Stale.
func (t *Room) ChangeStudent(ctx context.Context, teacher ref.Teacher, id ref.Student, f Typed) error {
	st, err := f.read()
	if err != nil {
		return err
	}
	st.ID = id
	return t.staleStudent(ctx, teacher, id, nameTaken(t.Store.ChangeStudent(ctx, teacher, st), st))
}

func nameTaken(err error, st store.Student) error {
	if errors.Is(err, store.ErrTaken) {
		return answer.Refuse("there’s already a %s in this class, perhaps archived. Add a letter or use a nickname", st.Name)
	}
	return err
}

func (t *Room) staleStudent(ctx context.Context, teacher ref.Teacher, id ref.Student, err error) error {
	return answer.IfStale(err, func() (store.Student, error) { return t.Store.Student(ctx, teacher, id) })
}

// KeepNote stores the teacher's note on a student. What another window has stored comes as an
// answer.Stale.
func (t *Room) KeepNote(ctx context.Context, teacher ref.Teacher, id ref.Student, version int, note string) error {
	note = strings.TrimSpace(note)
	if err := checkNote(note); err != nil {
		return err
	}
	return t.staleStudent(ctx, teacher, id, t.Store.SetNote(ctx, teacher, store.Student{ID: id, Note: note, Version: version}))
}

// Leave notes that a student has left the class, or is back in it, and says who.
func (t *Room) Leave(ctx context.Context, teacher ref.Teacher, id ref.Student, back bool, now time.Time) (name string, err error) {
	st, err := t.Store.Student(ctx, teacher, id)
	if err != nil {
		return "", err
	}
	if back {
		now = time.Time{}
	}
	return st.Name, t.Store.SetLeft(ctx, teacher, id, now)
}

// MoveStudent puts a student into another class, with all that was heard, and says which.
func (t *Room) MoveStudent(ctx context.Context, teacher ref.Teacher, id ref.Student, to ref.Class, now time.Time) (class string, err error) {
	c, err := t.Store.Class(ctx, teacher, to)
	if err != nil {
		return "", err
	}
	err = t.Store.MoveStudent(ctx, teacher, id, to, now)
	if errors.Is(err, store.ErrTaken) {
		return "", answer.Refuse("there’s already someone with that name in %s. Change the name first", c.Name)
	}
	return c.Name, err
}

// Find looks for students of all classes by name.
func (t *Room) Find(ctx context.Context, teacher ref.Teacher, find store.Find) ([]store.FoundStudent, error) {
	return t.Store.FindStudents(ctx, teacher, find)
}
