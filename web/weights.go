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
	Parts   []weightView
	Moves   []moveView
}

type weightView struct {
	Name, Shown string
	Factor      float64
}

// moveView is a pattern whose level the class's weights move.
type moveView struct {
	ID, Name         string
	Fitted, Here, By string
	off              float64
}

const shownMoves = 12

func (s *server) weightsPage(c fiber.Ctx) error {
	cur, has, err := s.maybeClass(c)
	if err != nil {
		return err
	}
	if !has {
		return seeOther(c, "/class")
	}
	data := weightsData{Page: page(c, "What counts as hard", "class"), Class: cur.class, Factors: factors}
	by := factorsOf(cur.class)
	for _, name := range demand.Names() {
		f, ok := by[name]
		if !ok {
			f = 1
		}
		data.Parts = append(data.Parts, weightView{name, strings.ReplaceAll(name, "_", " "), f})
	}
	data.Moves = moves(cur)
	return c.Render("weights", data)
}

// moves lists the patterns of the catalogue that the class's weights move most.
func moves(cur current) []moveView {
	var list []moveView
	for _, e := range hand.Catalogue {
		t := demand.OneChord(e.Pattern, theory.MustChord(benchChord), cur.instruments()[0], cur.school(), benchTempo)
		fitted, here := demand.Of(t, demand.Fitted).Level, demand.Of(t, cur.weights()).Level
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
