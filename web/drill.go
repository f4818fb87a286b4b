package web

import (
	"fmt"
	"html/template"
	"strings"

	"github.com/gofiber/fiber/v3"

	"arplin/core/bind"
	"arplin/core/demand"
	"arplin/core/drill"
	"arplin/core/fretboard"
	"arplin/core/hand"
	"arplin/core/practice"
	"arplin/core/theory"
	"arplin/draw"
	"arplin/store"
)

type drillData struct {
	Page
	Song        store.Song
	Pattern     hand.Entry
	Patterns    []hand.Entry
	Instrument  fretboard.Instrument
	Instruments []fretboard.Instrument
	Bar         int // from 1
	Bars        int
	Kind        string // "bar" or "change"
	Minutes     int
	Hardest     demand.Place
	Exercises   []exerciseView
	Problem     string
	Beat        string
	Care        []string
}

type exerciseView struct {
	drill.Exercise
	Number  int
	Minutes string
	Strip   template.HTML
}

// drillPage makes exercises of a bar or a change of a song; without a bar it
// takes the hardest spot.
func (s *server) drillPage(c fiber.Ctx) error {
	on, err := s.loadSong(c)
	if err != nil {
		return err
	}
	sg, cur := on.Song, on.cur
	data := drillData{
		Page: page(c, "Drill for "+sg.Title, "songs"), Song: sg, Instruments: cur.instruments(), Kind: c.Query("kind", "bar"),
		Minutes: min(60, max(3, fiber.Query[int](c, "minutes", 10))), Beat: sg.Meter.BeatName(), Care: practice.Care, Bars: len(sg.Bars()),
	}
	data.Instrument = chosenInstrument(c, data.Instruments)
	if data.Patterns, err = s.patternsIn(c, sg.Meter); err != nil {
		return err
	}
	if len(data.Patterns) == 0 {
		data.Problem = fmt.Sprintf("There is no pattern in %s yet; make one on the bench.", sg.Meter)
		return c.Render("drill", data)
	}
	data.Pattern = data.Patterns[0]
	for _, e := range data.Patterns {
		if e.ID == c.Query("pattern") {
			data.Pattern = e
		}
	}
	t := demand.NewTask(data.Pattern.Pattern, sg.Song, data.Instrument, cur.school(), sg.Tempo)
	data.Hardest = demand.Of(t, cur.weights()).Hardest
	data.Bar = fiber.Query[int](c, "bar", data.Hardest.Bar+1)
	exercises, err := makeDrill(t, data)
	if err != nil {
		data.Problem = sentenceOf(err)
	}
	for i, e := range exercises {
		data.Exercises = append(data.Exercises, exerciseView{
			Exercise: e, Number: i + 1, Minutes: fmt.Sprintf("%.1f", e.Minutes), Strip: drillStrip(e, data.Instrument, cur, t),
		})
	}
	return c.Render("drill", data)
}

func makeDrill(t demand.Task, data drillData) ([]drill.Exercise, error) {
	if data.Kind == "change" {
		return drill.ChangeTo(t, data.Bar-1, float64(data.Minutes))
	}
	return drill.Bar(t, data.Bar-1, float64(data.Minutes))
}

// drillStrip draws an exercise on its first chord; on open strings or a shape
// that moves it shows that shape.
func drillStrip(e drill.Exercise, ins fretboard.Instrument, cur current, t demand.Task) template.HTML {
	sh, chord := openShape(ins), theory.MustChord("C")
	if moved, err := fretboard.ParseShape(e.Over); err == nil && moved.Strings() == ins.Strings() {
		sh = moved
	}
	if len(e.Bars) > 0 && len(e.Bars[0].Changes) > 0 {
		if c, err := e.Bars[0].Changes[0].Chord(); err == nil {
			if v, ok := t.Shapes[c]; ok {
				chord, sh = c, v.Shape
			}
		}
	}
	r := bind.Pattern(ins, cur.school(), e.Pattern, chord, sh)
	return template.HTML(draw.Strip{
		Instrument: ins, Pattern: e.Pattern, Events: r.Events, Frets: true, SlotWidth: 30, ThickOnTop: cur.class.ThickOnTop,
		Label: e.Title + ": " + e.Pattern.String(),
	}.SVG())
}

func openShape(ins fretboard.Instrument) fretboard.Shape {
	sh, err := fretboard.ParseShape(strings.Repeat("0", ins.Strings()))
	if err != nil {
		panic(err) // every instrument has strings
	}
	return sh
}
