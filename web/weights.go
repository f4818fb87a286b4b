package web

import (
	"cmp"
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"github.com/gofiber/fiber/v3"

	"arplin/core/demand"
	"arplin/core/hand"
	"arplin/core/theory"
	"arplin/store"
)

// factors are how much more or less a part may count.
var factors = []float64{0, 0.5, 1, 1.5, 2, 3}

// factorsOf reads what a class has stored; what cannot be read is as fitted.
func factorsOf(class store.Class) map[string]float64 {
	by := map[string]float64{}
	if class.Weights != "" {
		if err := json.Unmarshal([]byte(class.Weights), &by); err != nil {
			return nil
		}
	}
	return by
}

func (cur current) weights() demand.Weights { return demand.Fitted.Scaled(factorsOf(cur.class)) }

type weightsData struct {
	Page
	Class   store.Class
	Factors []float64
	On      string // the figure whose shares are shown
	Parts   []weightView
	Moves   []moveView
	Unsaved bool // what is shown has been chosen, and not saved
}

// weightView is a part, how much it counts, and what it does to a figure of the
// class.
type weightView struct {
	Name, Shown, About string
	Factor             float64
	Share              string
	Width              int // of a hundred
}

// moveView is a pattern whose level the class's weights move.
type moveView struct {
	ID, Name         string
	Fitted, Here, By string
	off              float64
}

const shownMoves = 12

// weightsPage shows what counts as hard in a class; what has been chosen and not
// saved is shown as if it were.
func (s *server) weightsPage(c fiber.Ctx) error {
	cur, has, err := s.maybeClass(c)
	if err != nil {
		return err
	}
	if !has {
		return seeOther(c, "/class")
	}
	data := weightsData{Page: page(c, "What counts as hard", "class"), Class: cur.class, Factors: factors}
	saved := factorsOf(cur.class)
	by := map[string]float64{}
	for _, name := range demand.Names() {
		by[name] = factorIn(saved, name)
		if f, err := strconv.ParseFloat(c.Query(name), 64); err == nil && slices.Contains(factors, f) {
			data.Unsaved = data.Unsaved || f != by[name]
			by[name] = f
		}
	}
	weights := demand.Fitted.Scaled(by)
	t, on, err := s.figureOf(c, cur)
	if err != nil {
		return err
	}
	data.On = on
	parts := demand.Of(t, weights).Parts
	most := slices.MaxFunc(parts, func(a, b demand.Part) int { return cmp.Compare(a.Share, b.Share) }).Share
	for _, p := range parts {
		data.Parts = append(data.Parts, weightView{
			Name: p.Name, Shown: strings.ReplaceAll(p.Name, "_", " "), About: p.About, Factor: by[p.Name], Share: fmt.Sprintf("%.1f", p.Share), Width: int(100 * p.Share / max(most, 0.01)),
		})
	}
	data.Moves = moves(cur, weights)
	return c.Render("weights", data)
}

// factorIn is how much a part counts; what is not named counts once.
func factorIn(by map[string]float64, name string) float64 {
	if f, ok := by[name]; ok {
		return f
	}
	return 1
}

// figureOf is the figure that a class is on: the target of its newest ladder on
// its song, else a common one.
func (s *server) figureOf(c fiber.Ctx, cur current) (demand.Task, string, error) {
	ladders, err := s.Store.Ladders(c.Context(), teacherID(c), cur.class.ID)
	if err != nil {
		return demand.Task{}, "", err
	}
	if len(ladders) == 0 {
		e := hand.Catalogue[0]
		return demand.OneChord(e.Pattern, theory.MustChord(benchChord), cur.instruments()[0], cur.school(), benchTempo), e.Name, nil
	}
	on, err := s.withSong(c, ladders[0], cur)
	if err != nil {
		return demand.Task{}, "", err
	}
	return on.task(), on.PatternName + " on " + on.SongTitle, nil
}

// moves lists the patterns of the catalogue that the weights move most.
func moves(cur current, weights demand.Weights) []moveView {
	var list []moveView
	for _, e := range hand.Catalogue {
		t := demand.OneChord(e.Pattern, theory.MustChord(benchChord), cur.instruments()[0], cur.school(), benchTempo)
		fitted, here := demand.Of(t, demand.Fitted).Level, demand.Of(t, weights).Level
		if off := here - fitted; math.Abs(off) >= 0.05 {
			list = append(list, moveView{e.ID, e.Name, fmt.Sprintf("%.1f", fitted), fmt.Sprintf("%.1f", here), fmt.Sprintf("%+.1f", off), off})
		}
	}
	slices.SortStableFunc(list, func(a, b moveView) int { return cmp.Compare(math.Abs(b.off), math.Abs(a.off)) })
	return list[:min(shownMoves, len(list))]
}

func (s *server) setWeights(c fiber.Ctx) error {
	id, err := pathID(c)
	if err != nil {
		return err
	}
	by := map[string]float64{}
	for _, name := range demand.Names() {
		f, err := strconv.ParseFloat(c.FormValue(name), 64)
		if err != nil || !slices.Contains(factors, f) {
			return fiber.NewError(fiber.StatusUnprocessableEntity, fmt.Sprintf("Choose how much %s counts.", strings.ReplaceAll(name, "_", " ")))
		}
		if f != 1 {
			by[name] = f
		}
	}
	text, err := json.Marshal(by)
	if err != nil {
		return err
	}
	if err := s.Store.SetWeights(c.Context(), teacherID(c), id, string(text)); err != nil {
		return err
	}
	leaveNote(c, "Saved. Levels follow from now on; the steps of a ladder stay until they are found anew.", "")
	return seeOther(c, "/class/weights")
}
