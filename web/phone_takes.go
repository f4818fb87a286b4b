package web

import (
	"fmt"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/middleware/limiter"

	"arplin/teach/desk"
)

// phoneTakes are the recordings that a phone may send in a quarter of an hour.
const phoneTakes = 12

// limitTakes bounds what a phone sends, also where all of it is kept: each take is packed.
func (s *server) limitTakes() fiber.Handler {
	return limiter.New(limiter.Config{
		Storage: timely{s.limits}, Max: phoneTakes, Expiration: 15 * time.Minute,
		KeyGenerator: func(c fiber.Ctx) string { return fmt.Sprintf("phone-takes-%d", phoneOf(c).Student) },
		LimitReached: func(c fiber.Ctx) error {
			return c.Status(fiber.StatusTooManyRequests).JSON(whyNot{"That’s a lot of recordings. Try again in a quarter of an hour."})
		},
	})
}

// phoneTake keeps what a student recorded, where the teacher lets the class send it.
func (s *server) phoneTake(c fiber.Ctx) error {
	of := phoneOf(c)
	if !of.Takes {
		return c.Status(fiber.StatusUnprocessableEntity).JSON(whyNot{"Your teacher doesn’t take recordings from phones. Your take is still on this phone."})
	}
	return s.keep(c, of.Teacher, desk.Keep{Student: of.Student, Home: true})
}

// phoneTakeBack deletes what this phone sent.
func (s *server) phoneTakeBack(c fiber.Ctx) error {
	if err := s.Desk.TakeBack(c.Context(), phoneOf(c), c.FormValue("uid")); err != nil {
		return err
	}
	return c.JSON(fiber.Map{"says": "Taken back. It’s only on this phone again."})
}
