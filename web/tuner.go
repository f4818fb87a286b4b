package web

import (
	"github.com/gofiber/fiber/v3"

	"arplin/teach/people"
)

type tunePage struct {
	Page
	people.TuningUp
}

// tune is where strings are tuned: by ear, or by the microphone.
func (s *server) tune(c fiber.Ctx) error {
	return c.Render("tune", tunePage{page(c, "Tuner", "tune"), class(c).TuneUp(c.Query("instrument"))})
}
