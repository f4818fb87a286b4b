package ladders

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"slices"

	"arplin/core/difficulty"
	"arplin/core/pattern/catalogue"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/patterns"
	"arplin/teach/people"
)

// Weights is what counts as hard in a class, and what that moves.
type Weights struct {
	Class   people.Class
	Factors []float64
	On      string // the figure whose shares are shown
	Parts   []Weight
	Moves   []Moved
	Unsaved bool // what is shown has been chosen, and not saved
}

// Weight is a part, how much it counts, and what it does to a figure of the class.
type Weight struct {
	ID           difficulty.PartID
	Label, About string
	Factor       float64
	Share        string
	Width        int // of a hundred
}

// Moved is a pattern whose level the class's weights move.
type Moved struct {
	ID, Name         string
	Fitted, Here, By string
	off              float64
}

const shownMoves = 12

// LoadWeights shows the class's weights; what has been chosen and not saved is
// shown as if it were.
func (t *Room) LoadWeights(ctx context.Context, teacher ref.Teacher, c people.Class, chosen map[difficulty.PartID]float64) (Weights, error) {
	page := Weights{Class: c, Factors: people.Factors}
	by := map[difficulty.PartID]float64{}
	saved := c.FactorsOf()
	for _, p := range difficulty.Definitions() {
		by[p.ID] = 1
		if f, ok := saved[p.ID]; ok {
			by[p.ID] = f
		}
		if f, ok := chosen[p.ID]; ok && slices.Contains(people.Factors, f) {
			page.Unsaved = page.Unsaved || f != by[p.ID]
			by[p.ID] = f
		}
	}
	weights := difficulty.Fitted.Scaled(by)
	task, on, err := t.figureOf(ctx, teacher, c)
	if err != nil {
		return page, err
	}
	page.On = on
	parts := difficulty.Of(task, weights).Parts
	most := slices.MaxFunc(parts, func(a, b difficulty.Part) int { return cmp.Compare(a.Share, b.Share) }).Share
	for _, p := range parts {
		page.Parts = append(page.Parts, Weight{ID: p.ID, Label: p.Label, About: p.About, Factor: by[p.ID], Share: patterns.Tenth(p.Share), Width: int(100 * p.Share / max(most, 0.01))})
	}
	page.Moves = answer.Keep(t.From, "moved", answer.RowsOf(by, c.Instruments(), c.School()), func() []Moved { return movedBy(c, weights) })
	return page, nil
}

// figureOf is the figure that a class is on: the target of the newest ladder on its desk, on
// its song, else a common one.
func (t *Room) figureOf(ctx context.Context, teacher ref.Teacher, c people.Class) (difficulty.Task, string, error) {
	now, err := t.Store.OnNow(ctx, teacher, c.ID)
	if err != nil {
		return difficulty.Task{}, "", err
	}
	if len(now) == 0 {
		e := catalogue.All[0]
		task, _ := patterns.OnOneChord(e.Pattern, c.Instruments()[0], c)
		return task, e.Name, nil
	}
	l, err := t.Load(ctx, teacher, c, now[0].ID)
	var failing *answer.Failing
	if errors.As(err, &failing) {
		e := catalogue.All[0]
		task, _ := patterns.OnOneChord(e.Pattern, c.Instruments()[0], c)
		return task, e.Name, nil
	}
	return l.Task, l.PatternName + " on " + l.SongTitle, err
}

// movedBy lists the patterns of the catalogue that the weights move most.
func movedBy(c people.Class, weights difficulty.Weights) []Moved {
	var list []Moved
	ins := c.Instruments()[0]
	for _, e := range catalogue.All {
		task, _ := patterns.OnOneChord(e.Pattern, ins, c)
		fitted, here := difficulty.LevelOf(task, difficulty.Fitted), difficulty.LevelOf(task, weights)
		if off := here - fitted; math.Abs(off) >= 0.05 {
			list = append(list, Moved{e.ID, e.Name, patterns.Tenth(fitted), patterns.Tenth(here), fmt.Sprintf("%+.1f", off), off})
		}
	}
	slices.SortStableFunc(list, func(a, b Moved) int { return cmp.Compare(math.Abs(b.off), math.Abs(a.off)) })
	return list[:min(shownMoves, len(list))]
}

// SaveWeights stores how much the parts count, for the version of the weights that
// the page showed; all of them must be said.
func (t *Room) SaveWeights(ctx context.Context, teacher ref.Teacher, id ref.Class, version int, chosen map[difficulty.PartID]float64) error {
	by := map[difficulty.PartID]float64{}
	for _, p := range difficulty.Definitions() {
		f, ok := chosen[p.ID]
		if !ok || !slices.Contains(people.Factors, f) {
			return answer.Refuse("choose how much “%s” counts", p.Label)
		}
		if f != 1 {
			by[p.ID] = f
		}
	}
	text, err := json.Marshal(by)
	if err != nil {
		return err
	}
	return t.Store.SetWeights(ctx, teacher, id, version, string(text))
}
