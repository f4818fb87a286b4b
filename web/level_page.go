package web

import (
	"fmt"
	"html/template"

	"github.com/gofiber/fiber/v3"

	"arplin/core/demand"
	"arplin/core/hand"
	"arplin/core/theory"
	"arplin/store"
)

type levelData struct {
	Page
	Notation string
	Level    levelView
	Strip    template.HTML
	Song     *store.Song // that it was measured on; nil for one chord
}

// levelPage opens a level of a list into its parts: of a figure on a song, or on
// one chord.
func (s *server) levelPage(c fiber.Ctx) error {
	p, err := hand.Parse(c.Query("notation"))
	if err != nil {
		return fiber.NewError(fiber.StatusUnprocessableEntity, sentenceOf(err))
	}
	cur, _, err := s.maybeClass(c)
	if err != nil {
		return err
	}
	ins := chosenInstrument(c, cur.instruments())
	data := levelData{Page: page(c, "A level and its parts", "patterns"), Notation: p.String()}
	t := demand.OneChord(p, theory.MustChord(benchChord), ins, cur.school(), benchTempo)
	on := fmt.Sprintf("on %s, %s, at %d", benchChord, ins.Name, benchTempo)
	chord := benchChord
	if id := fiber.Query[int64](c, "song"); id != 0 {
		sg, err := s.Store.Song(c.Context(), teacherID(c), id)
		if err != nil {
			return err
		}
		if sg.Meter != p.Meter {
			return fiber.NewError(fiber.StatusUnprocessableEntity, fmt.Sprintf("The figure is in %s, the song in %s.", p.Meter, sg.Meter))
		}
		data.Active = "songs"
		data.Song, chord = &sg, firstChord(sg.Song).String()
		t = demand.NewTask(p, sg.Song, ins, cur.school(), sg.Tempo)
		on = fmt.Sprintf("on %s, %s, at %d", sg.Title, ins.Name, sg.Tempo)
	}
	data.Level = viewOf(demand.Of(t, cur.weights()), p, on)
	data.Strip = newDrawer(cur).strip(p, ins, chord, nil, 34)
	return c.Render("level_page", data)
}
