package web

import (
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/core/ladder"
	"arplin/store"
	"arplin/teach"
)

type sheetPage struct {
	Page
	teach.Sheet
	Care []string
	here string
}

// Here is the address of the sheet, to which a form comes back.
func (p sheetPage) Here() string { return p.here }

// sheet is paper for one step.
func (s *server) sheet(c fiber.Ctx) error {
	l, err := s.loadLadder(c)
	if err != nil {
		return err
	}
	ask := teach.SheetAsk{
		Step: formID[ladder.StepID](c, "step"), Student: formID[store.StudentID](c, "student"), Instrument: c.Query("instrument"),
		AllChords: c.Query("all") != "", Ghosts: c.Query("ghosts") != "",
	}
	if c.Query("was") != "" && c.Query("was") != c.Query("student") { // another student was chosen: that one's own step
		ask.Step = 0
	}
	sheet, err := s.LoadSheet(c.Context(), who(c), l, ask, time.Now())
	if err != nil {
		return err
	}
	p := sheetPage{page(c, "Sheet: "+l.SongTitle, "ladders"), sheet, teach.Care, c.OriginalURL()}
	if unchanged(c, p.Page, l.Rows(query(c), sheet.Drills)) {
		return nil
	}
	return c.Render("sheet", p)
}
