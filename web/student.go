package web

import (
	"cmp"
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/store"
	"arplin/teach"
)

type studentPage struct {
	Page
	teach.Student
	NoteTyped string
	Care      []string
}

// studentPage shows all of a student's songs, tempos and decisions.
func (s *server) studentPage(c fiber.Ctx) error {
	id, err := pathID[store.StudentID](c)
	if err != nil {
		return err
	}
	return s.showStudent(c, id, "", "")
}

// showStudent shows the page with a problem, and the note as it was typed.
func (s *server) showStudent(c fiber.Ctx, id store.StudentID, problem, note string) error {
	st, err := s.LoadStudent(c.Context(), who(c), class(c), id, time.Now())
	if err != nil {
		return err
	}
	p := studentPage{page(c, st.Name, "class"), st, cmp.Or(note, st.Note), teach.Care}
	p.Problem = problem
	return render(c, "student", "student", p.Page, p)
}
