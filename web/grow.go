package web

import (
	"fmt"

	"github.com/gofiber/fiber/v3"

	"arplin/teach"
)

type growPage struct {
	Page
	teach.Grow
	Care []string
}

// loadGrow reads the arrangement of the ladder in the address.
func (s *server) loadGrow(c fiber.Ctx) (teach.Grow, error) {
	l, err := s.loadLadder(c)
	if err != nil {
		return teach.Grow{}, err
	}
	return s.LoadGrow(c.Context(), who(c), l)
}

// grow is the conductor's page: who plays what in which part of the song.
func (s *server) grow(c fiber.Ctx) error { return s.showGrow(c, "") }

func (s *server) showGrow(c fiber.Ctx, problem string) error {
	g, err := s.loadGrow(c)
	if err != nil {
		return err
	}
	p := growPage{Page: page(c, g.Ladder.SongTitle+": who plays what", "ladders"), Grow: g, Care: teach.Care}
	p.Page.Problem = problem
	return render(c, "grow", "grow_body", p.Page, p)
}

// changeGrow gives a group another part, or lets the song be arranged anew.
func (s *server) changeGrow(c fiber.Ctx) error {
	l, err := s.loadLadder(c)
	if err != nil {
		return err
	}
	if c.FormValue("anew") != "" {
		err = s.Store.DropArrangement(c.Context(), who(c), l.ID)
	} else {
		err = s.ChangeGrow(c.Context(), who(c), l, formID[int](c, "version"), formID[int](c, "pass"), formID[int](c, "group"), c.FormValue("part"))
	}
	if says, ok := refusal(err); ok {
		return s.showGrow(c, says)
	}
	if err != nil {
		return err
	}
	if isPiece(c) {
		return s.showGrow(c, "")
	}
	return goTo(c, fmt.Sprintf("/ladders/%d/grow", l.ID))
}

// growScore is what a group plays.
func (s *server) growScore(c fiber.Ctx) error {
	g, err := s.loadGrow(c)
	if err != nil {
		return err
	}
	score, err := g.Score(fiber.Query[int](c, "group"), c.Query("instrument"))
	return sendScore(c, score, err)
}

type growSheetPage struct {
	Page
	teach.GrowSheet
	Care []string
}

// growSheet is a group's way through the song, for paper.
func (s *server) growSheet(c fiber.Ctx) error {
	g, err := s.loadGrow(c)
	if err != nil {
		return err
	}
	sheet, err := g.Sheet(fiber.Query[int](c, "group"))
	if err != nil {
		return err
	}
	return c.Render("grow_sheet", growSheetPage{page(c, g.Ladder.SongTitle+": a group's part", "ladders"), sheet, teach.Care})
}
