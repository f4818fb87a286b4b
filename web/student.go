package web

import (
	"cmp"
	"fmt"
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/core/plan"
	"arplin/store/ref"
	"arplin/teach/desk"
	"arplin/teach/lesson"
	"arplin/teach/people"
)

type studentPage struct {
	Page
	desk.Student
	NoteTyped string
	Care      []string
}

// studentPage shows all of a student's songs, tempos and decisions.
func (s *server) studentPage(c fiber.Ctx) error {
	id, err := pathID[ref.Student](c)
	if err != nil {
		return err
	}
	return s.showStudent(c, id, "", "")
}

// showStudent shows the page with a problem, and the note as it was typed.
func (s *server) showStudent(c fiber.Ctx, id ref.Student, problem, note string) error {
	st, err := s.Desk.LoadStudent(c.Context(), who(c), class(c), id, time.Now())
	if err != nil {
		return err
	}
	p := studentPage{page(c, st.Name, "class"), st, cmp.Or(note, st.Note), people.Care}
	p.Problem = problem
	return render(c, "student", "student", p.Page, p)
}

type placementPage struct {
	Page
	lesson.PlacementPage
	Care []string
}

// placement is five minutes with a newcomer; what was heard stands in the address.
func (s *server) placement(c fiber.Ctx) error {
	id, err := pathID[ref.Student](c)
	if err != nil {
		return err
	}
	var heard []plan.Heard
	for i := range plan.PlacementFigures {
		switch h := plan.Heard(c.Query(fmt.Sprintf("heard%d", i))); h {
		case plan.HeardClean, plan.HeardNot:
			heard = append(heard, h)
		default:
			heard = append(heard, "")
		}
	}
	v, err := s.Lesson.LoadPlacement(c.Context(), who(c), class(c), id, formID[ref.Ladder](c, "ladder"), heard, time.Now())
	if err != nil {
		return err
	}
	return c.Render("placement", placementPage{page(c, "Find a step for "+v.Student.Name, "class"), v, people.Care})
}
