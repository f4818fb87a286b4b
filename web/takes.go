package web

import (
	"fmt"
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/core/ladder"
	"arplin/store"
	"arplin/teach/desk"
)

// keepTake keeps what was recorded with a student, and answers with a sentence: the page goes on.
func (s *server) keepTake(c fiber.Ctx) error {
	data, err := sentFile(c)
	if err != nil {
		return err
	}
	says, err := s.Desk.KeepTake(c.Context(), who(c), desk.Keep{
		UID: c.FormValue("uid"), Student: formID[store.StudentID](c, "student"), Ladder: formID[store.LadderID](c, "ladder"), Step: ladder.StepID(formID[int64](c, "step")),
		Tempo: c.FormValue("tempo"), Says: c.FormValue("says"), WAV: data,
	}, time.Now())
	if refused, ok := refusal(err); ok {
		return c.Status(fiber.StatusUnprocessableEntity).JSON(fiber.Map{"problem": refused})
	}
	if err != nil {
		return err
	}
	return c.JSON(fiber.Map{"says": says})
}

// takeSound is a take to be heard again; it is nobody's but the teacher's.
func (s *server) takeSound(c fiber.Ctx) error {
	id, err := pathID[store.TakeID](c)
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
	id, err := pathID[store.TakeID](c)
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
