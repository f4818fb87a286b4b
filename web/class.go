package web

import (
	"errors"
	"fmt"
	"strconv"
	"strings"
	"unicode/utf8"

	"github.com/gofiber/fiber/v3"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/practice"
	"arplin/core/song"
	"arplin/core/theory"
	"arplin/store"
	"arplin/teach"
)

type classPage struct {
	Page
	Students    []studentLine
	Instruments []fretboard.Instrument
	Settings    store.Class     // as typed, kept after a problem
	Editing     store.StudentID // the student in the form, 0 for a new one
	Form        studentForm
}

// studentForm is a student as typed, kept after a problem.
type studentForm struct {
	Name, Instrument string
	Tuning           string // of the teacher's own, "E2 A2 D3 G3 B3 E4"
	LeftHanded       bool
	Fingers          string // the student's own school, empty for the class's
	DayMinutes       string
	Shapes           string // chords held in a way of their own
	Version          int    // of the student that is changed
}

type studentLine struct {
	store.Student
	InstrumentName string
}

func (s *server) classPage(c fiber.Ctx) error {
	p := classPage{Page: page(c, "Class", "class"), Form: studentForm{Instrument: fretboard.Instruments[0].ID, DayMinutes: strconv.Itoa(practice.UsualDay)}}
	if st, ok := class(c).Student(formID[store.StudentID](c, "student")); ok {
		p.Editing, p.Form = st.ID, formOf(st)
	}
	return s.showClass(c, p)
}

// formOf is a student as the form shows one.
func formOf(st store.Student) studentForm {
	f := studentForm{Name: st.Name, Instrument: st.Instrument, LeftHanded: st.LeftHanded, Fingers: st.Fingers, DayMinutes: strconv.Itoa(st.DayMinutes), Shapes: st.Shapes, Version: st.Version}
	if tuning, own := fretboard.TuningOf(st.Instrument); own {
		f.Tuning = tuning
	}
	return f
}

func (s *server) showClass(c fiber.Ctx, p classPage) error {
	p.Instruments = fretboard.Instruments
	if p.Settings.ID == 0 {
		p.Settings = p.Class.Class
	}
	for _, st := range p.Class.Students {
		p.Students = append(p.Students, studentLine{st, teach.InstrumentName(st.Instrument)})
	}
	return render(c, "class", "class", p.Page, p)
}

// chooseClass makes a class the one that the teacher works with.
func (s *server) chooseClass(c fiber.Ctx) error {
	id := formID[store.ClassID](c, "class")
	if _, err := s.Store.Class(c.Context(), who(c), id); err != nil {
		return err
	}
	visitOf(c).set(keyClass, int64(id))
	return seeOther(c, backTo(c))
}

// shortName checks a name that people type.
func shortName(s, what string, most int) (string, error) {
	name := strings.Join(strings.Fields(s), " ")
	switch {
	case name == "":
		return "", fmt.Errorf("%s needs a name", what)
	case utf8.RuneCountInString(name) > most: // what a column of the database counts
		return "", fmt.Errorf("that name is longer than %d letters", most)
	}
	return name, nil
}

func (s *server) addClass(c fiber.Ctx) error {
	name, err := shortName(c.FormValue("name"), "the class", 80)
	if err != nil {
		p := classPage{Page: page(c, "Class", "class")}
		p.Problem = teach.Sentence(err.Error())
		return s.showClass(c, p)
	}
	id, err := s.Store.AddClass(c.Context(), who(c), store.Class{Name: name, LessonMinutes: 45, Fingers: string(bind.DefaultSchool.Fingers), LowFifth: bind.DefaultSchool.LowFifth})
	if err != nil {
		return err
	}
	visitOf(c).set(keyClass, int64(id))
	return seeOther(c, "/class")
}

// changeClass stores the class's name, minutes, schools and singing range.
func (s *server) changeClass(c fiber.Ctx) error {
	id, err := pathID[store.ClassID](c)
	if err != nil {
		return err
	}
	typed, err := readClass(c, id)
	if err != nil {
		p := classPage{Page: page(c, "Class", "class"), Settings: typed}
		p.Problem = teach.Sentence(err.Error())
		return s.showClass(c, p)
	}
	err = s.Store.ChangeClass(c.Context(), who(c), typed)
	var stale *store.StaleError
	if errors.As(err, &stale) {
		return s.staleClass(c, typed)
	}
	if err != nil {
		return err
	}
	leaveNote(c, Note{Text: "Saved."})
	return seeOther(c, "/class")
}

// staleClass shows what was typed beside what another window has saved.
func (s *server) staleClass(c fiber.Ctx, typed store.Class) error {
	now, err := s.Store.Class(c.Context(), who(c), typed.ID)
	if err != nil {
		return err
	}
	typed.Version = now.Version
	p := classPage{Page: page(c, "Class", "class"), Settings: typed}
	p.Problem = fmt.Sprintf("In another window the settings of this class were changed in the meantime: there it is “%s”, %d minutes, sings from %s to %s. What you typed is still in the form: save it again to use yours.", now.Name, now.LessonMinutes, now.SingLow, now.SingHigh)
	c.Status(fiber.StatusConflict)
	return s.showClass(c, p)
}

func readClass(c fiber.Ctx, id store.ClassID) (store.Class, error) {
	yes := func(name string) bool { return c.FormValue(name) == "yes" }
	class := store.Class{
		ID: id, Name: c.FormValue("name"), Fingers: c.FormValue("fingers"), LowFifth: yes("low_fifth"), ThickOnTop: yes("thick_on_top"),
		Lean: yes("lean"), Anchor: yes("anchor"), LongNails: yes("long_nails"), Wrist: yes("wrist"), Pick: yes("pick"), Roll: c.FormValue("roll"),
		SingLow: strings.TrimSpace(c.FormValue("sing_low")), SingHigh: strings.TrimSpace(c.FormValue("sing_high")),
	}
	var err error
	if class.Version, err = formVersion(c); err != nil {
		return class, errors.New("the page is not whole; load it again")
	}
	if class.Name, err = shortName(class.Name, "the class", 80); err != nil {
		return class, err
	}
	if class.LessonMinutes, err = strconv.Atoi(c.FormValue("minutes")); err != nil || class.LessonMinutes < 5 || class.LessonMinutes > 240 {
		return class, errors.New("a lesson has 5 to 240 minutes")
	}
	if _, err := bind.ParseFingerSchool(class.Fingers); err != nil {
		return class, err
	}
	if _, err := bind.ParseRollSchool(class.Roll); err != nil {
		return class, err
	}
	low, err := theory.ParsePitch(class.SingLow)
	if err != nil {
		return class, err
	}
	high, err := theory.ParsePitch(class.SingHigh)
	if err != nil {
		return class, err
	}
	if low.MIDI() >= high.MIDI() {
		return class, fmt.Errorf("%s is not lower than %s", low, high)
	}
	return class, nil
}

func (s *server) addStudent(c fiber.Ctx) error {
	class, err := pathID[store.ClassID](c)
	if err != nil {
		return err
	}
	return s.saveStudent(c, 0, func(st store.Student) error {
		st.ClassID = class
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
		p.Problem = fmt.Sprintf("In another window this student was changed in the meantime: there it is %s, %s, %d minutes a day. What you typed is still in the form: save it again to use yours.", now.Name, teach.InstrumentName(now.Instrument), now.DayMinutes)
		c.Status(fiber.StatusConflict)
		return s.showClass(c, p)
	}
	var refusal *teach.Refusal
	if errors.As(err, &refusal) {
		p := classPage{Page: page(c, "Class", "class"), Editing: editing, Form: f}
		p.Problem = teach.Sentence(refusal.Clause)
		return s.showClass(c, p)
	}
	if err != nil {
		return err
	}
	return seeOther(c, "/class#add")
}

// read checks what was typed; what cannot be read is a refusal.
func (f studentForm) read() (store.Student, error) {
	st := store.Student{Instrument: f.Instrument, LeftHanded: f.LeftHanded, Fingers: f.Fingers}
	var err error
	if st.Name, err = shortName(f.Name, "the student", 40); err != nil {
		return st, refuse(err.Error())
	}
	if st.DayMinutes, err = readDay(f.DayMinutes); err != nil {
		return st, refuse(err.Error())
	}
	if f.Tuning != "" {
		tuning, err := fretboard.ParseTuning(f.Tuning)
		if err != nil {
			return st, refuse(err.Error())
		}
		st.Instrument = fretboard.Custom(tuning).ID
	}
	ins, err := fretboard.ByID(st.Instrument)
	if err != nil {
		return st, refuse(err.Error())
	}
	own, err := song.ParseOwn(f.Shapes, ins)
	if err != nil {
		return st, refuse(err.Error())
	}
	st.Shapes = song.OwnText(own)
	return st, nil
}

// readDay reads the minutes of practice a day; none are the usual ones.
func readDay(text string) (int, error) {
	if text == "" {
		return practice.UsualDay, nil
	}
	n, err := strconv.Atoi(text)
	if err != nil || n < practice.MinDay || n > practice.MaxDay {
		return practice.UsualDay, fmt.Errorf("a day has %d to %d minutes of practice, not %q", practice.MinDay, practice.MaxDay, text)
	}
	return n, nil
}
