package web

import (
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/store"
	"arplin/teach"
)

type studentPage struct {
	Page
	teach.Student
	Care []string
}

// studentPage shows all of a student's songs, tempos and decisions.
func (s *server) studentPage(c fiber.Ctx) error {
	id, err := pathID[store.StudentID](c)
	if err != nil {
		return err
	}
	st, err := s.LoadStudent(c.Context(), who(c), class(c), id, time.Now())
	if err != nil {
		return err
	}
	return c.Render("student", studentPage{page(c, st.Name, "class"), st, teach.Care})
}
