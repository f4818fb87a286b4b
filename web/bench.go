package web

import (
	"errors"
	"fmt"
	"html/template"
	"strconv"
	"strings"

	"github.com/gofiber/fiber/v3"

	"arplin/core/hand"
	"arplin/core/theory"
	"arplin/store"
)

// benchData is the bench. Nothing of it is kept on the server between keys: the
// notation line is the whole state.
type benchData struct {
	Page
	Name     string
	Pattern  hand.Pattern
	Notation string
	Cursor   hand.Cursor
	Grid     int
	Grids    []int
	Meters   []hand.Meter
	Chord    string
	Strip    template.HTML
	Said     string // what the last key did, or could not do
	Words    string
	Counts   string
	Level    levelView
	Near     neighbours
	On       []onChord
	OwnID    int64
	Version  int
	Conflict *store.Pattern
}

// benchWidth is the room for the strip on a laptop, in pixels.
const benchWidth = 1100.0

const startPattern = "4/4: . . . . . . . ."

// bench opens a pattern: one of the catalogue, one of the teacher's, or an empty
// bar.
func (s *server) bench(c fiber.Ctx) error {
	data := benchData{Pattern: hand.MustParse(startPattern), Chord: "Am"}
	if from := c.Query("from"); from != "" {
		ref, err := s.findPattern(c, from)
		if err != nil {
			return err
		}
		data.Pattern, data.Name = ref.Pattern, ref.Name
		if ref.OwnID != 0 && c.Query("copy") == "" {
			data.OwnID, data.Version = ref.OwnID, ref.Version
		} else {
			data.Name = "My " + strings.ToLower(ref.Name[:1]) + ref.Name[1:]
		}
	}
	if notation := c.Query("notation"); notation != "" {
		p, err := hand.Parse(notation)
		if err != nil {
			return fiber.NewError(fiber.StatusUnprocessableEntity, sentenceOf(err))
		}
		data.Pattern = p
	}
	return s.renderBench(c, data)
}

func (s *server) renderBench(c fiber.Ctx, data benchData) error {
	cur, _, err := s.maybeClass(c)
	if err != nil {
		return err
	}
	note := data.Note
	data.Page = page(c, "Bench", "patterns")
	if note.Text != "" {
		data.Note = note
	}
	p := data.Pattern
	data.Notation, data.Grid, data.Grids, data.Meters = p.String(), p.Grid(), p.Meter.Grids(), hand.Meters
	data.Counts = strings.Join(p.Counts(), " ")
	data.Words, _ = p.Words()
	d := newDrawer(cur)
	strip, _ := d.bound(p, d.ins[0], "C")
	strip.Cursor = &data.Cursor
	strip.SlotWidth = min(70, max(32, benchWidth/float64(p.Grid()*len(p.Bars))))
	data.Strip = template.HTML(strip.SVG())
	if p.Count() > 0 {
		data.Level, data.Near = measured(d, p, cur.weights(), c.FormValue("deep") != "")
		data.Near.Buttons = true
	}
	if c.FormValue("part") != "strip" {
		data.On = d.onAll(p, data.Chord)
	}
	if c.FormValue("part") == "chords" {
		return c.Render("on_chords", data.On, "")
	}
	if wantsFragment(c) {
		return c.Render("bench_body", data, "")
	}
	return c.Render("bench", data)
}

// readBench takes the state from the form. A notation that cannot be read is an
// error in words; the page keeps what was typed.
func readBench(c fiber.Ctx) (benchData, error) {
	data := benchData{Name: c.FormValue("name"), Chord: c.FormValue("chord")}
	data.OwnID, _ = strconv.ParseInt(c.FormValue("own"), 10, 64)
	data.Version, _ = strconv.Atoi(c.FormValue("version"))
	data.Cursor.Bar, _ = strconv.Atoi(c.FormValue("at_bar"))
	data.Cursor.Slot, _ = strconv.Atoi(c.FormValue("at_slot"))
	data.Cursor.Stroke, _ = strconv.Atoi(c.FormValue("at_stroke"))
	if _, err := theory.ParseChord(data.Chord); err != nil {
		return data, err
	}
	var err error
	data.Pattern, err = hand.Parse(c.FormValue("notation"))
	return data, err
}

// pressBench carries out one thing on the bench and sends the bench back.
func (s *server) pressBench(c fiber.Ctx) error {
	data, err := readBench(c)
	if err == nil {
		err = data.press(c.FormValue("do"), c.FormValue("with"))
	}
	if err != nil {
		return fiber.NewError(fiber.StatusUnprocessableEntity, sentenceOf(err))
	}
	return s.renderBench(c, data)
}

func (data *benchData) press(do, with string) (err error) {
	switch do {
	case "key":
		data.Pattern, data.Cursor, err = data.Pattern.Press(data.Cursor, with)
	case "at":
		bar, slot, _ := strings.Cut(with, " ")
		data.Cursor = hand.Cursor{}
		data.Cursor.Bar, _ = strconv.Atoi(bar)
		data.Cursor.Slot, _ = strconv.Atoi(slot)
		data.Pattern, data.Cursor, err = data.Pattern.Press(data.Cursor, "")
	case "grid":
		grid, _ := strconv.Atoi(with)
		lost := 0
		if data.Pattern, lost, err = data.Pattern.Regrid(grid); lost > 0 {
			data.Said = fmt.Sprintf("%s between the new slots went; undo brings them back.", plural(lost, "stroke", "strokes"))
		}
		data.Cursor = hand.Cursor{}
	case "meter":
		data.Pattern, err = inMeter(data.Pattern, with)
		data.Cursor = hand.Cursor{}
	case "swing":
		data.Pattern.Swing = !data.Pattern.Swing
		data.Pattern, err = hand.Parse(data.Pattern.String())
	case "words":
		spoken, wordsErr := hand.Spoken(with, data.Pattern.Meter, data.Pattern.Grid())
		if err = wordsErr; err == nil {
			spoken.Swing = data.Pattern.Swing
			data.Pattern, data.Cursor = spoken, hand.Cursor{}
		}
	case "bar": // paste a copied bar over this one
		pasted, parseErr := hand.Parse(with)
		if err = parseErr; err == nil && (pasted.Meter != data.Pattern.Meter || pasted.Grid() != data.Pattern.Grid()) {
			err = errors.New("the copied bar has another meter or grid")
		}
		if err == nil {
			data.Pattern = data.Pattern.Clone()
			data.Pattern.Bars[min(max(data.Cursor.Bar, 0), len(data.Pattern.Bars)-1)] = pasted.Bars[0]
		}
	}
	return err
}

// inMeter begins anew in another meter, with what fits of each bar from its start.
func inMeter(p hand.Pattern, text string) (hand.Pattern, error) {
	m, err := hand.ParseMeter(text)
	if err != nil {
		return p, err
	}
	grid := m.Grids()[0]
	if !m.Compound() {
		grid = m.Grids()[1]
	}
	q := hand.Pattern{Meter: m, Swing: p.Swing && !m.Compound()}
	for _, bar := range p.Clone().Bars {
		fresh := make(hand.Bar, grid)
		copy(fresh, bar)
		q.Bars = append(q.Bars, fresh)
	}
	return q, nil
}

// savePattern stores the bench: a new pattern, or the next version of one.
func (s *server) savePattern(c fiber.Ctx) error {
	data, err := readBench(c)
	if err != nil {
		return fiber.NewError(fiber.StatusUnprocessableEntity, sentenceOf(err))
	}
	name, err := shortName(data.Name, "the pattern", 80)
	if err == nil && data.Pattern.Count() == 0 {
		err = errors.New("the pattern has no stroke yet")
	}
	if err != nil {
		return fiber.NewError(fiber.StatusUnprocessableEntity, sentenceOf(err))
	}
	var stale *store.StalePatternError
	if data.OwnID == 0 {
		data.OwnID, err = s.Store.AddPattern(c.Context(), teacherID(c), name, data.Pattern)
	} else {
		err = s.Store.ChangePattern(c.Context(), teacherID(c), store.Pattern{ID: data.OwnID, Name: name, Version: data.Version, Pattern: data.Pattern})
	}
	if errors.As(err, &stale) {
		data.Conflict, data.Version = &stale.Current, stale.Current.Version
		return s.renderBench(c, data)
	}
	if err != nil {
		return err
	}
	path := fmt.Sprintf("/patterns/%s%d", ownPrefix, data.OwnID)
	if wantsFragment(c) {
		c.Set("X-Go", path)
		return c.Type("html", "utf-8").SendString("<p></p>")
	}
	return seeOther(c, path)
}

func (s *server) archivePattern(c fiber.Ctx) error {
	id, err := pathID(c)
	if err != nil {
		return err
	}
	if err := s.Store.ArchivePattern(c.Context(), teacherID(c), id, true); err != nil {
		return err
	}
	leaveNote(c, "The pattern is put away; songs and ladders that use it keep it.", fmt.Sprintf("/patterns/own/%d/restore", id))
	return seeOther(c, "/patterns")
}

func (s *server) restorePattern(c fiber.Ctx) error {
	id, err := pathID(c)
	if err != nil {
		return err
	}
	if err := s.Store.ArchivePattern(c.Context(), teacherID(c), id, false); err != nil {
		return err
	}
	return seeOther(c, fmt.Sprintf("/patterns/%s%d", ownPrefix, id))
}
