package web

import (
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/store/ref"
	"arplin/teach/people"
)

// classOf is the class of the address.
func (s *server) classOf(c fiber.Ctx) (people.Class, error) {
	id, err := pathID[ref.Class](c)
	if err != nil {
		return people.Class{}, err
	}
	return s.People.ClassOf(c.Context(), who(c), id, class(c))
}

// logFile gives the log of a class as CSV.
func (s *server) logFile(c fiber.Ctx) error {
	of, err := s.classOf(c)
	if err != nil {
		return err
	}
	text, err := s.Files.LogFile(c.Context(), who(c), of)
	if err != nil {
		return err
	}
	c.Attachment("log.csv")
	c.Set(fiber.HeaderContentType, "text/csv; charset=utf-8") // after it: it sets one of its own
	return c.SendString(text)
}

// registerFile gives who was there as CSV.
func (s *server) registerFile(c fiber.Ctx) error {
	of, err := s.classOf(c)
	if err != nil {
		return err
	}
	text, err := s.Files.RegisterFile(c.Context(), who(c), of, time.Now())
	if err != nil {
		return err
	}
	c.Attachment("register.csv")
	c.Set(fiber.HeaderContentType, "text/csv; charset=utf-8") // after it: it sets one of its own
	return c.SendString(text)
}

// readLogFile adds a CSV file, or what was pasted of one, to the log of a class.
func (s *server) readLogFile(c fiber.Ctx) error {
	of, err := s.classOf(c)
	if err != nil {
		return err
	}
	text := c.FormValue("csv")
	file, err := sentText(c)
	if err == nil && file != "" {
		text = file
	}
	says := ""
	if err == nil {
		says, err = s.Files.ReadLogFile(c.Context(), who(c), of, text, time.Now())
	}
	if problem, ok := refusal(err); ok {
		p := classPage{Page: page(c, "Class", "class"), CSV: text}
		p.Problem = problem
		return s.showClass(c, p)
	}
	if err != nil {
		return err
	}
	leaveNote(c, Note{Text: says})
	return seeOther(c, "/class")
}
