package web

import (
	"errors"
	"fmt"
	"strconv"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/core/fretboard"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/people"
)

type classPage struct {
	Page
	Sample      bool // the class to look around in
	Students    []studentLine
	Instruments []fretboard.Instrument
	Settings    store.Class // as typed, kept after a problem
	Editing     ref.Student // the student in the form, 0 for a new one
	Form        people.Typed
	NewName     string         // of a class that was not made
	Pasted      string         // a list of students that could not be read, kept
	Look        *people.Roster // what was read of it
	CSV         string         // a log that could not be read, kept
	Gone        []store.Student
}

type studentLine struct {
	store.Student
	InstrumentName string
	CannotYet      []string // "barre", "little finger"
}

func (s *server) classPage(c fiber.Ctx) error {
	p := classPage{Page: page(c, "Class", "class"), Form: people.NewStudent()}
	if st, ok := class(c).Student(formID[ref.Student](c, "student")); ok {
		p.Editing, p.Form = st.ID, people.TypedOf(st)
	}
	return s.showClass(c, p)
}

func (s *server) showClass(c fiber.Ctx, p classPage) error {
	p.Instruments = fretboard.Instruments
	if p.Settings.ID == 0 {
		p.Settings = p.Class.Class
	}
	sample, err := s.People.HasSample(c.Context(), who(c))
	if err != nil {
		return err
	}
	p.Sample = p.Class.Has && sample == p.Class.ID
	if p.Gone, err = s.People.Gone(c.Context(), who(c), p.Class.ID); err != nil {
		return err
	}
	for _, st := range p.Class.Students {
		p.Students = append(p.Students, studentLine{st, people.InstrumentName(st.Instrument), people.CannotYet(st)})
	}
	return render(c, "class", "class", p.Page, p)
}

// chooseClass makes a class the one that the teacher works with.
func (s *server) chooseClass(c fiber.Ctx) error {
	id := formID[ref.Class](c, "class")
	if _, err := s.People.Stored(c.Context(), who(c), id); err != nil {
		return err
	}
	visitOf(c).set(keyClass, int64(id))
	return seeOther(c, backTo(c))
}

// addClass makes a class, with those who are on a pasted list.
func (s *server) addClass(c fiber.Ctx) error {
	id, says, err := s.People.AddClass(c.Context(), who(c), c.FormValue("name"), c.FormValue("list"), time.Now())
	if problem, ok := refusal(err); ok {
		p := classPage{Page: page(c, "Class", "class"), NewName: c.FormValue("name"), Pasted: strings.TrimSpace(c.FormValue("list"))}
		p.Problem = problem
		return s.showClass(c, p)
	}
	if err != nil {
		return err
	}
	visitOf(c).set(keyClass, int64(id))
	if says != "" {
		leaveNote(c, Note{Text: says})
	}
	return seeOther(c, "/class")
}

// changeClass stores the class's name, minutes, schools and singing range.
func (s *server) changeClass(c fiber.Ctx) error {
	id, err := pathID[ref.Class](c)
	if err != nil {
		return err
	}
	typed, err := readClass(c, id)
	if err == nil {
		err = s.People.ChangeClass(c.Context(), who(c), typed)
	}
	var stale *answer.Stale[store.Class]
	if errors.As(err, &stale) { // what was typed is shown beside what another window has saved
		now := stale.There
		typed.Version = now.Version
		p := classPage{Page: page(c, "Class", "class"), Settings: typed}
		p.Problem = fmt.Sprintf("These settings were changed in another window: “%s”, %d minutes, sings from %s to %s. Your text is still here. Save again to use it.", now.Name, now.LessonMinutes, now.SingLow, now.SingHigh)
		c.Status(fiber.StatusConflict)
		return s.showClass(c, p)
	}
	if problem, ok := refusal(err); ok {
		p := classPage{Page: page(c, "Class", "class"), Settings: typed}
		p.Problem = problem
		return s.showClass(c, p)
	}
	if err != nil {
		return err
	}
	leaveNote(c, Note{Text: "Saved."})
	return seeOther(c, "/class")
}

func readClass(c fiber.Ctx, id ref.Class) (store.Class, error) {
	yes := func(name string) bool { return c.FormValue(name) == "yes" }
	class := store.Class{
		ID: id, Name: c.FormValue("name"), Fingers: c.FormValue("fingers"), LowFifth: yes("low_fifth"), ThickOnTop: yes("thick_on_top"),
		Lean: yes("lean"), Anchor: yes("anchor"), LongNails: yes("long_nails"), Wrist: yes("wrist"), Pick: yes("pick"), Roll: c.FormValue("roll"),
		Grows: c.FormValue("grows"), StepSize: c.FormValue("step_size"), ChordsCome: c.FormValue("chords_come"),
		SingLow: strings.TrimSpace(c.FormValue("sing_low")), SingHigh: strings.TrimSpace(c.FormValue("sing_high")),
	}
	var err error
	if class.Version, err = formVersion(c); err != nil {
		return class, refuse("part of the page is missing. Reload it")
	}
	if class.LessonMinutes, err = strconv.Atoi(c.FormValue("minutes")); err != nil {
		class.LessonMinutes = 0 // as many as no lesson has
	}
	return class, nil
}
