package web

import (
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/gofiber/fiber/v3"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/practice"
	"arplin/core/song"
	"arplin/letters"
	"arplin/store"
	"arplin/teach/answer"
	"arplin/teach/people"
	"arplin/teach/songs"
)

// studentForm is a student as typed, kept after a problem.
type studentForm struct {
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

// formOf is a student as the form shows one.
func formOf(st store.Student) studentForm {
	f := studentForm{Name: st.Name, Instrument: st.Instrument, LeftHanded: st.LeftHanded, Fingers: st.Fingers, DayMinutes: strconv.Itoa(st.DayMinutes), Shapes: st.Shapes, Version: st.Version}
	if st.Capo > 0 {
		f.Capo = strconv.Itoa(st.Capo)
	}
	if cannot, err := song.ParseCannots(st.Cannot); err == nil {
		f.NoBarre, f.NoLittle = slices.Contains(cannot, song.NoBarre), slices.Contains(cannot, song.NoLittle)
	}
	if tuning, own := fretboard.TuningOf(st.Instrument); own {
		f.Tuning = tuning
	}
	return f
}

func (s *server) addStudent(c fiber.Ctx) error {
	class, err := pathID[store.ClassID](c)
	if err != nil {
		return err
	}
	return s.saveStudent(c, 0, func(st store.Student) error {
		st.ClassID, st.Joined = class, time.Now()
		_, err := s.Store.AddStudent(c.Context(), who(c), st)
		return err
	})
}

func (s *server) changeStudent(c fiber.Ctx) error {
	id, err := pathID[store.StudentID](c)
	if err != nil {
		return err
	}
	version, err := formVersion(c)
	if err != nil {
		return err
	}
	return s.saveStudent(c, id, func(st store.Student) error {
		st.ID, st.Version = id, version
		return s.Store.ChangeStudent(c.Context(), who(c), st)
	})
}

// saveStudent reads the form and saves; what cannot be saved comes back with a
// sentence and what was typed.
func (s *server) saveStudent(c fiber.Ctx, editing store.StudentID, save func(store.Student) error) error {
	f := studentForm{
		Name: c.FormValue("name"), Instrument: c.FormValue("instrument"), Tuning: strings.TrimSpace(c.FormValue("tuning")),
		LeftHanded: c.FormValue("left_handed") != "", DayMinutes: strings.TrimSpace(c.FormValue("day_minutes")), Shapes: strings.TrimSpace(c.FormValue("shapes")),
		Capo: strings.TrimSpace(c.FormValue("capo")), NoBarre: c.FormValue("no_barre") != "", NoLittle: c.FormValue("no_little") != "",
	}
	if school, err := bind.ParseFingerSchool(c.FormValue("own_fingers")); err == nil {
		f.Fingers = string(school)
	}
	st, err := f.read()
	if err == nil {
		err = save(st)
	}
	if errors.Is(err, store.ErrTaken) {
		err = refuse(fmt.Sprintf("there is a %s in this class already, perhaps among the archived; add a letter or a nickname", st.Name))
	}
	f.Version = formID[int](c, "version")
	var stale *store.StaleError
	if errors.As(err, &stale) {
		now, err := s.Store.Student(c.Context(), who(c), editing)
		if err != nil {
			return err
		}
		f.Version = now.Version
		p := classPage{Page: page(c, "Class", "class"), Editing: editing, Form: f}
		p.Problem = fmt.Sprintf("In another window this student was changed in the meantime: there it is %s, %s, %d minutes a day. What you typed is still in the form: save it again to use yours.", now.Name, people.InstrumentName(now.Instrument), now.DayMinutes)
		c.Status(fiber.StatusConflict)
		return s.showClass(c, p)
	}
	var refusal *answer.Refusal
	if errors.As(err, &refusal) {
		p := classPage{Page: page(c, "Class", "class"), Editing: editing, Form: f}
		p.Problem = songs.Sentence(refusal.Clause)
		return s.showClass(c, p)
	}
	if err != nil {
		return err
	}
	return seeOther(c, "/class#add")
}

// read checks what was typed; what cannot be read is a refusal.
func (f studentForm) read() (store.Student, error) {
	st := store.Student{Name: f.Name, Instrument: f.Instrument, Shapes: f.Shapes, LeftHanded: f.LeftHanded, Fingers: f.Fingers}
	var err error
	if st.DayMinutes, err = readDay(f.DayMinutes); err != nil {
		return st, err
	}
	if f.Tuning != "" {
		tuning, err := fretboard.ParseTuning(f.Tuning)
		if err != nil {
			return st, refuse(err.Error())
		}
		st.Instrument = fretboard.Custom(tuning).ID
	}
	if f.Capo != "" {
		if st.Capo, err = strconv.Atoi(f.Capo); err != nil {
			return st, refuse(fmt.Sprintf("a capo sits on fret 1 to %d, or nowhere, not on %q", song.MaxCapo, f.Capo))
		}
	}
	var cannot []song.Cannot
	if f.NoBarre {
		cannot = append(cannot, song.NoBarre)
	}
	if f.NoLittle {
		cannot = append(cannot, song.NoLittle)
	}
	st.Cannot = song.CannotText(cannot)
	return people.CheckStudent(st)
}

// readDay reads the minutes of practice a day; none are the usual ones.
func readDay(text string) (int, error) {
	if text == "" {
		return practice.UsualDay, nil
	}
	n, err := strconv.Atoi(text)
	if err != nil {
		return 0, refuse(fmt.Sprintf("a day has %d to %d minutes of practice, not %q", practice.MinDay, practice.MaxDay, text))
	}
	return n, nil
}

// addRoster adds a pasted list of students to a class.
func (s *server) addRoster(c fiber.Ctx) error {
	class, err := pathID[store.ClassID](c)
	if err != nil {
		return err
	}
	if _, err := s.Store.Class(c.Context(), who(c), class); err != nil {
		return err
	}
	list := c.FormValue("list")
	file, err := sentText(c)
	if err == nil && file != "" {
		list = letters.Clean(file)
	}
	says := ""
	if err == nil {
		says, err = s.People.AddRoster(c.Context(), who(c), class, list, time.Now())
	}
	if problem, ok := refusal(err); ok {
		p := classPage{Page: page(c, "Class", "class"), Pasted: list}
		p.Problem = problem
		return s.showClass(c, p)
	}
	if err != nil {
		return err
	}
	leaveNote(c, Note{Text: says})
	return seeOther(c, "/class")
}

// noteStudent stores the teacher's note on a student.
func (s *server) noteStudent(c fiber.Ctx) error {
	id, err := pathID[store.StudentID](c)
	if err != nil {
		return err
	}
	version, err := formVersion(c)
	if err != nil {
		return err
	}
	note := strings.TrimSpace(c.FormValue("note"))
	if utf8.RuneCountInString(note) > people.MostNote {
		return s.showStudent(c, id, fmt.Sprintf("A note has at most %d letters; this one has %d. It is kept below.", people.MostNote, utf8.RuneCountInString(note)), note)
	}
	err = s.Store.SetNote(c.Context(), who(c), store.Student{ID: id, Note: note, Version: version})
	var stale *store.StaleError
	if errors.As(err, &stale) {
		now, err := s.Store.Student(c.Context(), who(c), id)
		if err != nil {
			return err
		}
		c.Status(fiber.StatusConflict)
		return s.showStudent(c, id, fmt.Sprintf("In another window something of this student was changed in the meantime; the note there is “%s”. What you typed is still below: save it again to use yours.", now.Note), note)
	}
	if err != nil {
		return err
	}
	leaveNote(c, Note{Text: "The note is kept."})
	return seeOther(c, fmt.Sprintf("/students/%d", id))
}

// leaveClass notes that a student has left the class, or is back in it.
func (s *server) leaveClass(c fiber.Ctx) error {
	id, err := pathID[store.StudentID](c)
	if err != nil {
		return err
	}
	st, err := s.Store.Student(c.Context(), who(c), id)
	if err != nil {
		return err
	}
	back := c.FormValue("back") == "yes"
	on := time.Now()
	note := Note{Text: fmt.Sprintf("%s has left the class; what was heard is kept.", st.Name), Undo: fmt.Sprintf("/students/%d/leave?back=yes", id)}
	if back {
		on, note = time.Time{}, Note{Text: fmt.Sprintf("%s is in the class again.", st.Name)}
	}
	if err := s.Store.SetLeft(c.Context(), who(c), id, on); err != nil {
		return err
	}
	leaveNote(c, note)
	return seeOther(c, "/class")
}

// moveStudent puts a student into another class, with all that was heard.
func (s *server) moveStudent(c fiber.Ctx) error {
	id, err := pathID[store.StudentID](c)
	if err != nil {
		return err
	}
	to := formID[store.ClassID](c, "to")
	class, err := s.Store.Class(c.Context(), who(c), to)
	if err != nil {
		return err
	}
	err = s.Store.MoveStudent(c.Context(), who(c), id, to, time.Now())
	if errors.Is(err, store.ErrTaken) {
		return s.showStudent(c, id, fmt.Sprintf("There is somebody of that name in %s already; change the name first.", class.Name), "")
	}
	if err != nil {
		return err
	}
	leaveNote(c, Note{Text: fmt.Sprintf("Moved to %s, with what was heard and decided. Put the name on a step there.", class.Name)})
	return seeOther(c, fmt.Sprintf("/students/%d", id))
}
