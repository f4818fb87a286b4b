package web

import (
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/core/bind"
	"arplin/letters"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/people"
)

func (s *server) addStudent(c fiber.Ctx) error {
	class, err := pathID[ref.Class](c)
	if err != nil {
		return err
	}
	f := typedStudent(c)
	return s.savedStudent(c, 0, f, s.People.AddStudent(c.Context(), who(c), class, f, time.Now()))
}

func (s *server) changeStudent(c fiber.Ctx) error {
	id, err := pathID[ref.Student](c)
	if err != nil {
		return err
	}
	if _, err := formVersion(c); err != nil {
		return err
	}
	f := typedStudent(c)
	return s.savedStudent(c, id, f, s.People.ChangeStudent(c.Context(), who(c), id, f))
}

func typedStudent(c fiber.Ctx) people.Typed {
	f := people.Typed{
		Name: c.FormValue("name"), Instrument: c.FormValue("instrument"), Tuning: strings.TrimSpace(c.FormValue("tuning")),
		LeftHanded: c.FormValue("left_handed") != "", DayMinutes: strings.TrimSpace(c.FormValue("day_minutes")), Shapes: strings.TrimSpace(c.FormValue("shapes")),
		Capo: strings.TrimSpace(c.FormValue("capo")), NoBarre: c.FormValue("no_barre") != "", NoLittle: c.FormValue("no_little") != "",
		Version: formID[int](c, "version"),
	}
	if school, err := bind.ParseFingerSchool(c.FormValue("own_fingers")); err == nil {
		f.Fingers = string(school)
	}
	return f
}

// savedStudent shows what came of saving; what cannot be saved comes back with a sentence and what
// was typed.
func (s *server) savedStudent(c fiber.Ctx, editing ref.Student, f people.Typed, err error) error {
	var stale *answer.Stale[store.Student]
	if errors.As(err, &stale) {
		now := stale.There
		f.Version = now.Version
		p := classPage{Page: page(c, "Class", "class"), Editing: editing, Form: f}
		p.Problem = fmt.Sprintf("This student was changed in another window: %s, %s, %d minutes a day. Your text is still here. Save again to use it.", now.Name, people.InstrumentName(now.Instrument), now.DayMinutes)
		c.Status(fiber.StatusConflict)
		return s.showClass(c, p)
	}
	if problem, ok := refusal(err); ok {
		p := classPage{Page: page(c, "Class", "class"), Editing: editing, Form: f}
		p.Problem = problem
		return s.showClass(c, p)
	}
	if err != nil {
		return err
	}
	return seeOther(c, "/class#add")
}

// addRoster adds a pasted list of students to a class.
func (s *server) addRoster(c fiber.Ctx) error {
	class, err := pathID[ref.Class](c)
	if err != nil {
		return err
	}
	if _, err := s.People.Stored(c.Context(), who(c), class); err != nil {
		return err
	}
	list := c.FormValue("list")
	file, err := sentText(c)
	if err == nil && file != "" {
		list = letters.Clean(file)
	}
	says := ""
	var look *people.Roster
	if err == nil {
		says, look, err = s.People.AddRoster(c.Context(), who(c), class, list, c.FormValue("sure") == "yes", time.Now())
	}
	if look != nil { // nobody is added until somebody has looked
		if len(look.Wrong) > 0 {
			c.Status(fiber.StatusUnprocessableEntity)
		}
		return s.showClass(c, classPage{Page: page(c, "Class", "class"), Pasted: list, Look: look})
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
	id, err := pathID[ref.Student](c)
	if err != nil {
		return err
	}
	version, err := formVersion(c)
	if err != nil {
		return err
	}
	note := strings.TrimSpace(c.FormValue("note"))
	err = s.People.KeepNote(c.Context(), who(c), id, version, note)
	var stale *answer.Stale[store.Student]
	if errors.As(err, &stale) {
		c.Status(fiber.StatusConflict)
		return s.showStudent(c, id, fmt.Sprintf("This student was changed in another window. The saved note is “%s”. Your text is still below. Save again to use it.", stale.There.Note), note)
	}
	if problem, ok := refusal(err); ok {
		return s.showStudent(c, id, problem+" It’s kept below.", note)
	}
	if err != nil {
		return err
	}
	leaveNote(c, Note{Text: "Note saved."})
	return seeOther(c, fmt.Sprintf("/students/%d", id))
}

// leaveClass notes that a student has left the class, or is back in it.
func (s *server) leaveClass(c fiber.Ctx) error {
	id, err := pathID[ref.Student](c)
	if err != nil {
		return err
	}
	back := c.FormValue("back") == "yes"
	name, err := s.People.Leave(c.Context(), who(c), id, back, time.Now())
	if err != nil {
		return err
	}
	note := Note{Text: fmt.Sprintf("%s has left the class. The log is kept.", name), Undo: fmt.Sprintf("/students/%d/leave?back=yes", id)}
	if back {
		note = Note{Text: fmt.Sprintf("%s is in the class again.", name)}
	}
	leaveNote(c, note)
	return seeOther(c, "/class")
}

// moveStudent puts a student into another class, with all that was heard.
func (s *server) moveStudent(c fiber.Ctx) error {
	id, err := pathID[ref.Student](c)
	if err != nil {
		return err
	}
	class, err := s.People.MoveStudent(c.Context(), who(c), id, formID[ref.Class](c, "to"), time.Now())
	if problem, ok := refusal(err); ok {
		return s.showStudent(c, id, problem, "")
	}
	if err != nil {
		return err
	}
	leaveNote(c, Note{Text: fmt.Sprintf("Moved to %s, with the log and decisions. Put the name on a step there.", class)})
	return seeOther(c, fmt.Sprintf("/students/%d", id))
}
