package web

import (
	"errors"
	"fmt"
	"strconv"

	"github.com/gofiber/fiber/v3"

	"arplin/core/difficulty"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/ladders"
)

type weightsPage struct {
	Page
	ladders.Weights
}

// weightsPage shows what counts as hard in a class, and what a choice would move.
func (s *server) weightsPage(c fiber.Ctx) error {
	p := weightsPage{Page: page(c, "What counts as hard", "class")}
	if !p.Page.Class.Has {
		return seeOther(c, "/class")
	}
	return s.showWeights(c, p)
}

func (s *server) showWeights(c fiber.Ctx, p weightsPage) error {
	var err error
	if p.Weights, err = s.Ladders.LoadWeights(c.Context(), who(c), p.Page.Class, chosenWeights(c)); err != nil {
		return err
	}
	return render(c, "weights", "weights", p.Page, p)
}

// setWeights stores how much the parts count.
func (s *server) setWeights(c fiber.Ctx) error {
	id, err := pathID[ref.Class](c)
	if err != nil {
		return err
	}
	version, err := formVersion(c)
	if err != nil {
		return err
	}
	err = s.Ladders.SaveWeights(c.Context(), who(c), id, version, chosenWeights(c))
	var stale *store.StaleError
	if errors.As(err, &stale) { // what was chosen is shown beside what is there now
		p := weightsPage{Page: page(c, "What counts as hard", "class")}
		p.Problem = "The weights of this class were changed in another window. Your choice is still here. Save again to use it, or cancel to see the saved one."
		c.Status(fiber.StatusConflict)
		return s.showWeights(c, p)
	}
	if err != nil {
		return err
	}
	name := "this class"
	if cl, err := s.People.Stored(c.Context(), who(c), id); err == nil {
		name = cl.Name
	}
	leaveNote(c, Note{Text: fmt.Sprintf("Saved. Levels in %s now use these weights.", name)})
	return goTo(c, "/class/weights")
}

// chosenWeights are the factors of a form or an address; what is none is left out.
func chosenWeights(c fiber.Ctx) map[difficulty.PartID]float64 {
	chosen := map[difficulty.PartID]float64{}
	for _, part := range difficulty.Definitions() {
		if f, err := strconv.ParseFloat(c.FormValue(string(part.ID)), 64); err == nil {
			chosen[part.ID] = f
		}
	}
	return chosen
}
