package web

import (
	"errors"
	"fmt"
	"strconv"

	"github.com/gofiber/fiber/v3"

	"arplin/core/pattern"
	"arplin/core/theory"
	"arplin/letters"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/patterns"
)

type benchPage struct {
	Page
	patterns.Bench
	patterns.BenchPage
	Name    string
	Chord   string
	On      []patterns.OnChord
	Near    *nearby // opened
	OwnID   ref.Pattern
	Version int
	There   *store.Pattern // what another window saved in the meantime
}

// Grids and Meters are the choices of the page.
func (p benchPage) Grids() []int            { return p.Pattern.Meter.Grids() }
func (p benchPage) Meters() []pattern.Meter { return pattern.Meters }

const startPattern = "4/4: . . . . . . . ."

// bench opens a pattern: one of the catalogue, one of the teacher's, or an empty
// bar.
func (s *server) bench(c fiber.Ctx) error {
	p := benchPage{Page: page(c, "Bench", "patterns"), Bench: patterns.Bench{Pattern: pattern.MustParse(startPattern)}, Chord: "Am"}
	if from := c.Query("from"); from != "" {
		ref, err := s.Patterns.Pattern(c.Context(), who(c), from)
		if err != nil {
			return err
		}
		p.Bench.Pattern, p.Name = ref.Entry.Pattern, ref.Name
		if ref.OwnID != 0 && c.Query("copy") == "" {
			p.OwnID, p.Version = ref.OwnID, ref.Version
		} else {
			p.Name = "My " + letters.Lower(ref.Name)
		}
	}
	if notation := c.Query("notation"); notation != "" {
		f, err := pattern.Parse(notation)
		if err != nil {
			return refuse(err.Error())
		}
		p.Bench.Pattern = f
	}
	return s.showBench(c, p)
}

func (s *server) showBench(c fiber.Ctx, p benchPage) error {
	p.BenchPage = p.Show(p.Class)
	switch c.FormValue("part") {
	case "chords":
		return c.Render("on_chords", s.Patterns.OnChords(p.Class, p.Pattern, p.Chord), "")
	case "around":
		near := nearby{Neighbours: s.Patterns.AroundPattern(p.Class, p.Pattern, c.FormValue("deep") != ""), Keys: true}
		return c.Render("neighbours", near, "")
	}
	if !isPiece(c) {
		p.On = s.Patterns.OnChords(p.Class, p.Pattern, p.Chord)
	}
	return render(c, "bench", "bench_strip", p.Page, p)
}

// readBench takes the state from the form. A notation that cannot be read is a
// refusal; the page keeps what was typed.
func readBench(c fiber.Ctx) (benchPage, error) {
	p := benchPage{Page: page(c, "Bench", "patterns"), Name: c.FormValue("name"), Chord: c.FormValue("chord"), OwnID: formID[ref.Pattern](c, "own"), Version: formID[int](c, "version")}
	p.Cursor = pattern.Cursor{Bar: formID[int](c, "at_bar"), Slot: formID[int](c, "at_slot"), Stroke: formID[int](c, "at_stroke")}
	if _, err := theory.ParseChord(p.Chord); err != nil {
		return p, refuse(err.Error())
	}
	var err error
	if p.Bench.Pattern, err = readFigure(c, c.FormValue("notation")); err != nil {
		return p, refuse(err.Error())
	}
	return p, nil
}

// readFigure reads a figure in notation, or as it is said; the meter where that is known comes with it.
func readFigure(c fiber.Ctx, text string) (pattern.Pattern, error) {
	m, err := pattern.ParseMeter(c.FormValue("meter"))
	if err != nil {
		m = pattern.Meter{Beats: 4, Unit: 4}
	}
	return pattern.Read(text, m)
}

// pressBench carries out one thing on the bench and sends the bench back.
func (s *server) pressBench(c fiber.Ctx) error {
	p, err := readBench(c)
	if err != nil {
		return err
	}
	if p.Bench, err = p.Press(patterns.BenchDo(c.FormValue("do")), c.FormValue("with")); err != nil {
		return err
	}
	return s.showBench(c, p)
}

// savePattern stores the bench: a new pattern, or the next version of one.
func (s *server) savePattern(c fiber.Ctx) error {
	p, err := readBench(c)
	if err != nil {
		return err
	}
	p.OwnID, err = s.Patterns.Keep(c.Context(), who(c), store.Pattern{ID: p.OwnID, Name: p.Name, Version: p.Version, Pattern: p.Pattern})
	var stale *answer.Stale[store.Pattern]
	if errors.As(err, &stale) {
		p.There, p.Version = &stale.There, stale.There.Version
		c.Status(fiber.StatusConflict)
		return s.showBench(c, p)
	}
	if err != nil {
		return err
	}
	return goTo(c, fmt.Sprintf("/patterns/%s%s", patterns.OwnPrefix, strconv.FormatInt(int64(p.OwnID), 10)))
}
