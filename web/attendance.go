package web

import (
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/store/ref"
	"arplin/teach/lesson"
)

type attendancePage struct {
	Page
	lesson.Attendance
}

// attendance is who came to the lessons of a class.
func (s *server) attendance(c fiber.Ctx) error {
	id, err := pathID[ref.Class](c)
	if err != nil {
		return err
	}
	of, err := s.People.ClassOf(c.Context(), who(c), id, class(c))
	if err != nil {
		return err
	}
	a, err := s.Lesson.LoadAttendance(c.Context(), who(c), of, time.Now())
	if err != nil {
		return err
	}
	return c.Render("attendance", attendancePage{page(c, "Attendance", "class"), a})
}
