package web

import (
	"strconv"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/core/ladder"
	"arplin/teach/ladders"
	"arplin/teach/people"
)

type togetherPage struct {
	Page
	ladders.Together
	Care []string
}

// together shows the class's steps at once, for the projector.
func (s *server) together(c fiber.Ctx) error {
	l, err := s.loadLadder(c)
	if err != nil {
		return err
	}
	together := l.Together()
	if c.Query("grow") == "yes" {
		g, err := s.Lesson.LoadGrow(c.Context(), who(c), l, time.Now())
		if err != nil {
			return err
		}
		if len(g.Groups) > 0 { // else there is nobody to be a lane
			together = g.Together()
		}
	}
	p := togetherPage{Page: page(c, l.SongTitle+", together", "desk"), Together: together, Care: people.Care}
	p.Stage = true
	return c.Render("together", p)
}

// togetherLane is a step as it is handed to a lane while it plays.
func (s *server) togetherLane(c fiber.Ctx) error {
	l, err := s.loadLadder(c)
	if err != nil {
		return err
	}
	id, _ := strconv.Atoi(c.Params("step")) // none is on no ladder
	lane, err := l.Lane(ladder.StepID(id), strings.Split(c.Query("on"), ","))
	if err != nil {
		return err
	}
	return c.Render("together_lane", lane, "")
}
