package web

import (
	"slices"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/core/ladder"
	"arplin/store/ref"
	"arplin/teach/ladders"
	"arplin/teach/paper"
	"arplin/teach/people"
)

type sheetPage struct {
	Page
	paper.Sheet
	Care []string
	Way  *phoneWay // to the page of the student whom it is for
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
	ask := paper.Ask{
		Step: formID[ladder.StepID](c, "step"), Student: formID[ref.Student](c, "student"), Instrument: c.Query("instrument"),
		AllChords: c.Query("all") != "", Ghosts: c.Query("ghosts") != "",
	}
	if c.Query("was") != "" && c.Query("was") != c.Query("student") { // another student was chosen: that one's own step
		ask.Step = 0
	}
	sheet, err := s.Paper.Load(c.Context(), who(c), l, ask, time.Now())
	if err != nil {
		return err
	}
	p := sheetPage{page(c, "Sheet: "+l.SongTitle, "ladders"), sheet, people.Care, nil, c.OriginalURL()}
	if sheet.For.ID != 0 {
		if p.Way, err = s.wayTo(c, l.Class, sheet.For.ID); err != nil {
			return err
		}
	}
	if unchanged(c, p.Page, l.Rows(query(c), sheet.Drills), p.Way.address()) {
		return nil
	}
	return c.Render("sheet", p)
}

type sheetsPage struct {
	Page
	Ladder ladders.Ladder
	Sheets []paper.Sheet
	Ways   map[ref.Student]*phoneWay // to the page of each
	Care   []string
	By     string // "instrument"; empty for a sheet each student
	Large  bool   // type that is read from further away; it takes more pages
}

// Pages is how many there are of paper.
func (p sheetsPage) Pages() (n int) {
	for _, sh := range p.Sheets {
		n += sh.Paper.Pages()
	}
	return n
}

// Waiting names those who are on no step.
func (p sheetsPage) Waiting() string {
	var names []string
	for _, st := range p.Ladder.Class.Students {
		if !slices.ContainsFunc(p.Sheets, func(sh paper.Sheet) bool { return sh.For.ID == st.ID }) {
			names = append(names, st.Name)
		}
	}
	return strings.Join(names, ", ")
}

// sheets is paper for everybody, in one print job.
func (s *server) sheets(c fiber.Ctx) error {
	l, err := s.loadLadder(c)
	if err != nil {
		return err
	}
	p := sheetsPage{Page: page(c, "Sheets: "+l.SongTitle, "ladders"), Ladder: l, Care: people.Care, Large: c.Query("large") == "yes"}
	if c.Query("by") == "instrument" {
		p.By, p.Sheets = "instrument", s.Paper.ByInstrument(l)
	} else if p.Sheets, err = s.Paper.LoadAll(c.Context(), who(c), l, time.Now()); err != nil {
		return err
	} else if p.Ways, err = s.waysTo(c, l.Class); err != nil {
		return err
	}
	return c.Render("sheets", p)
}
