package web

import (
	"errors"
	"html/template"
	"slices"

	"github.com/gofiber/fiber/v3"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/hand"
	"arplin/core/theory"
	"arplin/draw"
)

type patternListData struct {
	Page
	Meters []meterGroup
}

type meterGroup struct {
	Meter    string
	Patterns []patternCard
}

type patternCard struct {
	hand.Entry
	Strip template.HTML
}

// patternList shows the catalogue by meter, each pattern on C on the class's
// first instrument.
func (s *server) patternList(c fiber.Ctx) error {
	cur, err := s.currentClass(c)
	if err != nil && !errors.Is(err, errNoClass) {
		return err
	}
	ins := cur.instruments()[0]
	chord := theory.MustChord("C")
	v, _ := fretboard.Easiest(ins, chord)
	data := patternListData{Page: page(c, "Patterns", "patterns")}
	for _, m := range hand.Meters {
		group := meterGroup{Meter: m.String()}
		for _, e := range hand.InMeter(m) {
			r := bind.Pattern(ins, cur.school(), e.Pattern, chord, v.Shape)
			strip := draw.Strip{Instrument: ins, Pattern: e.Pattern, Events: r.Events, SlotWidth: 34, ThickOnTop: cur.class.ThickOnTop, Label: e.Name + ": " + e.Notation}
			group.Patterns = append(group.Patterns, patternCard{e, template.HTML(strip.SVG())})
		}
		if len(group.Patterns) > 0 {
			data.Meters = append(data.Meters, group)
		}
	}
	// The meter with the most patterns is the one that a class meets first.
	slices.SortStableFunc(data.Meters, func(a, b meterGroup) int { return len(b.Patterns) - len(a.Patterns) })
	return c.Render("patterns", data)
}
