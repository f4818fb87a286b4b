package web

import (
	"fmt"
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/core/ladder"
	"arplin/store/ref"
	"arplin/teach/desk"
)

// keepTake keeps what was recorded with a student, and answers with a sentence: the page goes on.
func (s *server) keepTake(c fiber.Ctx) error {
	return s.keep(c, who(c), desk.Keep{Student: formID[ref.Student](c, "student")})
}

// keep keeps the take that was sent, and answers with what is said of that, or why not.
func (s *server) keep(c fiber.Ctx, teacher ref.Teacher, k desk.Keep) (err error) {
	if k.WAV, err = sentFile(c); err != nil {
		return err
	}
	k.UID, k.Tempo, k.Says = c.FormValue("uid"), c.FormValue("tempo"), c.FormValue("says")
	k.Ladder, k.Step = formID[ref.Ladder](c, "ladder"), ladder.StepID(formID[int64](c, "step"))
	says, err := s.Desk.KeepTake(c.Context(), teacher, k, time.Now())
	if refused, ok := refusal(err); ok {
		return c.Status(fiber.StatusUnprocessableEntity).JSON(whyNot{refused})
	}
	if err != nil {
		return err
	}
	return c.JSON(fiber.Map{"says": says})
}

// takeSound is a take to be heard again; it is nobody's but the teacher's.
func (s *server) takeSound(c fiber.Ctx) error {
	id, err := pathID[ref.Take](c)
	if err != nil {
		return err
	}
	data, err := s.Desk.TakeSound(c.Context(), who(c), id)
	if err != nil {
		return err
	}
	c.Set(fiber.HeaderContentType, "audio/flac")
	c.Set(fiber.HeaderCacheControl, "private, no-store")
	return c.Send(data)
}

func (s *server) deleteTake(c fiber.Ctx) error {
	id, err := pathID[ref.Take](c)
	if err != nil {
		return err
	}
	student, err := s.Desk.DeleteTake(c.Context(), who(c), id)
	if err != nil {
		return err
	}
	leaveNote(c, Note{Text: "The take is deleted."})
	return goTo(c, fmt.Sprintf("/students/%d", student))
}
