package lesson

import (
	"context"
	"slices"
	"time"

	"arplin/core/ladder"
	"arplin/core/plan"
	"arplin/draw"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/ladders"
	"arplin/teach/people"
)

// PlacementPage is five minutes with a newcomer: four figures from easy to hard, and the
// step that they lead to.
type PlacementPage struct {
	store.Student
	Class   people.Class
	Ladder  *ladders.Ladder // nil where nothing is on the desk
	Figures []PlacementFigure
	Played  bool // at least one
	Step    ladder.StepID
	Number  int // of the step, from 1
	Name    string
	Why     string
}

// PlacementFigure is a figure to play, with how it was.
type PlacementFigure struct {
	Number int // of its step, from 1
	Name   string
	Lane   draw.SVG
	Hear   string // the address of its score
	Tempo  int
	Heard  plan.Heard
}

// LoadPlacement makes the figures for a student on a ladder of the desk, 0 for the newest,
// and proposes a step by how they were.
func (t *Room) LoadPlacement(ctx context.Context, teacher ref.Teacher, at people.Class, id ref.Student, on ref.Ladder, heard []plan.Heard, now time.Time) (v PlacementPage, err error) {
	if v.Student, err = t.Store.Student(ctx, teacher, id); err != nil {
		return v, err
	}
	if v.Class, err = t.People.ClassOf(ctx, teacher, v.ClassID, at); err != nil {
		return v, err
	}
	p, err := t.planClass(ctx, teacher, v.Class, now)
	if err != nil || len(p.ladders) == 0 {
		return v, err
	}
	p.front(on)
	v.Ladder = &p.ladders[0]
	sg := p.termSong()
	steps := plan.PlacementSteps(sg.Play)
	for i, k := range steps {
		f := PlacementFigure{Number: k + 1, Name: sg.Steps[k].Name, Tempo: v.Ladder.Steps[k].Tempos(v.Ladder.Song.Tempo).Slow}
		f.Lane, _ = p.lane(v.Ladder.ID, v.Ladder.Steps[k].ID)
		f.Hear = ladders.StepScoreAt(v.Ladder.ID, v.Ladder.Steps[k].ID, v.Student.ID)
		if i < len(heard) {
			f.Heard = heard[i]
		}
		v.Figures = append(v.Figures, f)
	}
	step, why := plan.Placement(steps, heard, len(sg.Steps)-1)
	v.Played = slices.ContainsFunc(heard, func(h plan.Heard) bool { return h != "" })
	v.Step, v.Number, v.Name, v.Why = v.Ladder.Steps[step].ID, step+1, sg.Steps[step].Name, why
	return v, nil
}
