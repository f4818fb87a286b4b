package web

import (
	"errors"
	"fmt"
	"strconv"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/practice"
	"arplin/store"
	"arplin/teach/people"
	"arplin/teach/songs"
)

type classPage struct {
	Page
	Students    []studentLine
	Instruments []fretboard.Instrument
	Settings    store.Class     // as typed, kept after a problem
	Editing     store.StudentID // the student in the form, 0 for a new one
	Form        studentForm
	NewName     string // of a class that was not made
	Pasted      string // a list of students that could not be read, kept
	CSV         string // a log that could not be read, kept
	Gone        []store.Student
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

func (s *server) showClass(c fiber.Ctx, p classPage) error {
	p.Instruments = fretboard.Instruments
	if p.Settings.ID == 0 {
		p.Settings = p.Class.Class
	}
	all, err := s.Store.AllStudents(c.Context(), who(c), p.Class.ID)
	if err != nil {
		return err
	}
	for _, st := range all {
		if !st.Left.IsZero() {
			p.Gone = append(p.Gone, st)
		}
	}
	for _, st := range p.Class.Students {
		p.Students = append(p.Students, studentLine{st, people.InstrumentName(st.Instrument)})
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

// addClass makes a class, with those who are on a pasted list.
func (s *server) addClass(c fiber.Ctx) error {
	name, err := people.ShortName(c.FormValue("name"), "the class", people.MostClassName)
	list := strings.TrimSpace(c.FormValue("list"))
	if err == nil && list != "" { // a list that cannot be read makes no class
		_, err = people.ParseRoster(list, fretboard.Instruments[0].ID)
	}
	if err != nil {
		p := classPage{Page: page(c, "Class", "class"), NewName: c.FormValue("name"), Pasted: list}
		p.Problem = songs.Sentence(err.Error())
		return s.showClass(c, p)
	}
	id, err := s.Store.AddClass(c.Context(), who(c), store.Class{Name: name, LessonMinutes: 45, Fingers: string(bind.DefaultSchool.Fingers), LowFifth: bind.DefaultSchool.LowFifth})
	if err != nil {
		return err
	}
	visitOf(c).set(keyClass, int64(id))
	if list != "" {
		says, err := s.People.AddRoster(c.Context(), who(c), id, list, time.Now())
		if err != nil {
			return err
		}
		leaveNote(c, Note{Text: says})
	}
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
		p.Problem = songs.Sentence(err.Error())
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
	if class.LessonMinutes, err = strconv.Atoi(c.FormValue("minutes")); err != nil {
		class.LessonMinutes = 0 // as many as no lesson has
	}
	checked, err := people.CheckClass(class)
	if err != nil {
		return class, err
	}
	return checked, nil
}
