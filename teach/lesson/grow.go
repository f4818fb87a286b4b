package lesson

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"arplin/core/arrange"
	"arplin/core/difficulty"
	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/draw"
	"arplin/letters"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/ladders"
	"arplin/teach/people"
)

// Grow is who plays what on a ladder's song, so that it grows.
type Grow struct {
	Ladder  ladders.Ladder
	Part    string
	Version int  // 0 for one that was never stored
	Yours   bool // changed by the teacher; else proposed
	Groups  []GrowGroup
	Passes  []GrowPass
	Fits    []string // who is stretched, who could play more, and what to swap
	Curve   draw.SVG // how much sounds in each pass
	By      string   // the day of the concert, by which everybody has moved on; empty where it is as today

	growParts
	band   arrange.Band
	cells  [][]arrange.Cell // by pass, then by group
	shared map[arrange.Part]sharedStep
	kept   KeptGrow
}

// GrowGroup is some of the class.
type GrowGroup struct {
	Number      int // from 1
	Students    []ref.Student
	People      []string
	Instruments []string // ids
	Plays       []string
	Best        string // the furthest step that all of them play
}

// GrowPass is a section where it comes.
type GrowPass struct {
	Number int
	Name   string
	Bars   int
	Lacks  []string
	Cells  []GrowCell
}

// GrowCell is what a group plays in a pass.
type GrowCell struct {
	Options []GrowOption
	Lane    draw.SVG
	Name    string
	Why     string
	Above   bool // what the group does not play clean yet
}

// GrowOption is what a group can be given.
type GrowOption struct {
	Value, Name string
	On          bool
}

// GrowFormat is the form of a stored arrangement.
const GrowFormat = 1

// KeptGrow is an arrangement as it is stored: students by id.
type KeptGrow struct {
	Format int              `json:"format"`
	Groups [][]ref.Student  `json:"groups"`
	Passes []arrange.Pass   `json:"passes"`
	Parts  [][]arrange.Part `json:"parts"`            // by pass, then by group
	Before *KeptGrow        `json:"before,omitempty"` // what was there before it was proposed anew
}

// of is what is kept without the groups that nobody of a class is in any more.
func (k KeptGrow) of(c people.Class) KeptGrow {
	out := k
	out.Groups, out.Parts = nil, make([][]arrange.Part, len(k.Parts))
	for i, ids := range k.Groups {
		if !slices.ContainsFunc(ids, func(id ref.Student) bool { _, here := c.Student(id); return here }) {
			continue
		}
		out.Groups = append(out.Groups, ids)
		for p, parts := range k.Parts {
			if i < len(parts) {
				out.Parts[p] = append(out.Parts[p], parts[i])
			}
		}
	}
	return out
}

// LoadGrow reads the arrangement of a ladder, or proposes one from what everybody is likely to
// play clean by the day of the concert.
func (t *Room) LoadGrow(ctx context.Context, teacher ref.Teacher, l ladders.Ladder, now time.Time) (Grow, error) {
	a, err := t.Store.ArrangementOf(ctx, teacher, l.ID)
	var kept KeptGrow
	switch {
	case err == nil:
		if err := json.Unmarshal([]byte(a.Body), &kept); err != nil || kept.Format > GrowFormat {
			kept = KeptGrow{} // one that cannot be read is proposed anew
		}
	case !errors.Is(err, store.ErrNotFound):
		return Grow{}, err
	}
	from, err := t.growFrom(ctx, teacher, l, now)
	if err != nil {
		return Grow{}, err
	}
	from.parts = answer.Keep(t.From, "grow parts", answer.RowsOf(l.Song.ID, l.Song.Version, l.Sections, l.Class.Class, l.Instrument.ID), func() growParts { return partsOn(l) })
	g := growOf(l, kept, from)
	g.By = from.by
	g.Version, g.Yours, g.kept = a.Version, len(kept.Parts) > 0, kept
	return g, nil
}

// growOf makes the arrangement of what is kept; what is new since then is proposed.
func growOf(l ladders.Ladder, kept KeptGrow, from growFrom) Grow {
	g := Grow{Ladder: l, Part: l.Part()}
	kept = kept.of(l.Class)
	part := l.Song.Part(l.Sections)
	g.groups(l, kept.Groups, from.clean)
	g.band.Passes = arrange.Passes(part)
	for i, step := range l.Steps {
		g.band.Rungs = append(g.band.Rungs, arrange.Rung{ID: step.ID, Name: l.Step(i).Name, Level: step.Level, Figure: step.Pattern, Others: step.Parts})
	}
	g.growParts = from.parts
	g.band.Meter, g.band.Levels, g.band.Tune, g.band.Over = part.Meter, g.levels, g.carried, g.walking
	g.share(l, part, from.others)
	g.cells = g.band.Propose()
	for p, pass := range g.band.Passes {
		was := slices.Index(kept.Passes, pass)
		if was < 0 || was >= len(kept.Parts) {
			continue
		}
		for k := range g.Groups {
			if k < len(kept.Parts[was]) {
				if before := kept.Parts[was][k]; before != g.cells[p][k].Part {
					g.cells[p][k] = arrange.Cell{Part: before, Why: "your choice"}
				}
			}
		}
	}
	g.show(part)
	return g
}

// groups are those that are kept, with who is new; else those who are on the same step.
func (g *Grow) groups(l ladders.Ladder, kept [][]ref.Student, clean map[ref.Student]int) {
	left := map[ref.Student]bool{}
	for _, st := range l.Class.Students {
		left[st.ID] = true
	}
	add := func(ids []ref.Student) {
		group := GrowGroup{Number: len(g.Groups) + 1}
		best := len(l.Steps)
		for _, id := range ids {
			st, here := l.Class.Student(id)
			if !here {
				continue
			}
			delete(left, id)
			group.Students, group.People = append(group.Students, id), append(group.People, st.Name)
			if ins := l.Class.Instrument(st.Instrument); !slices.Contains(group.Instruments, ins.ID) {
				group.Instruments, group.Plays = append(group.Instruments, ins.ID), append(group.Plays, ins.Name)
			}
			best = min(best, clean[id])
		}
		if len(group.People) == 0 {
			return
		}
		group.Best = "no step yet"
		if best >= 0 {
			group.Best = fmt.Sprintf("step %d", best+1)
		}
		g.Groups = append(g.Groups, group)
		g.band.Groups = append(g.band.Groups, arrange.Group{Name: strings.Join(group.People, ", "), Best: best})
	}
	for _, ids := range kept {
		add(ids)
	}
	for i := len(l.Steps) - 1; i >= 0; i-- {
		add(standing(l, l.Steps[i].ID, left))
	}
	add(standing(l, 0, left))
}

// standing are those of the class who are on a step, 0 for none, and in no group yet.
func standing(l ladders.Ladder, step ladder.StepID, left map[ref.Student]bool) (ids []ref.Student) {
	for _, st := range l.Class.Students {
		if left[st.ID] && l.Places[st.ID] == step {
			ids = append(ids, st.ID)
		}
	}
	return ids
}

func (g *Grow) show(part song.Song) {
	most := 1.0
	var curve, efforts []float64
	for p, pass := range g.band.Passes {
		sec := part.Sections[max(0, part.SectionAt(pass.Section))]
		view := GrowPass{Number: p + 1, Name: sec.Name, Bars: len(sec.Bars), Lacks: g.band.Lacks(p, g.cells[p])}
		if sec.Times > 1 {
			view.Name = fmt.Sprintf("%s, time %d", sec.Name, pass.Time)
		}
		for k := range g.Groups {
			view.Cells = append(view.Cells, g.cell(p, k))
		}
		density := g.band.Density(p, g.cells[p])
		curve, efforts, most = append(curve, density), append(efforts, g.band.Effort(g.cells[p])), max(most, density)
		g.Passes = append(g.Passes, view)
	}
	for k := range g.Groups {
		if says := g.band.Fit(g.cells, k); says != "" {
			g.Fits = append(g.Fits, letters.Capital(says)+".")
		}
	}
	g.Curve = draw.Growth(curve, most, efforts)
}

// cell shows a part with all that could be in its place.
func (g *Grow) cell(p, k int) GrowCell {
	c := g.cells[p][k]
	view := GrowCell{Why: c.Why, Name: g.partIn(c.Part, g.band.Passes[p].Section), Above: g.band.Above(c.Part, k)}
	options := g.options(k)
	for _, o := range options {
		view.Options = append(view.Options, GrowOption{partValue(o), g.partIn(o, g.band.Passes[p].Section), o == c.Part})
	}
	if f, ok := g.figure(c.Part, g.band.Passes[p].Section); ok {
		view.Lane = draw.Lane(f, nil, view.Name)
	}
	return view
}

// options are what a group can be given.
func (g *Grow) options(k int) (list []arrange.Part) {
	for _, n := range arrange.PartNames {
		switch n.Kind {
		case arrange.TheTune, arrange.TuneBass:
			if g.band.Tune.Level == 0 {
				continue
			}
		}
		list = append(list, arrange.Part{Kind: n.Kind})
	}
	for _, step := range g.Ladder.Steps {
		list = append(list, arrange.Part{Kind: arrange.OnStep, Step: step.ID})
	}
	return append(list, g.band.Groups[k].Knows...)
}

// figure is what of a part can be drawn on one line, in a section.
func (g *Grow) figure(p arrange.Part, section song.SectionID) (pattern.Pattern, bool) {
	if p.Kind == arrange.OnStep {
		if s, ok := g.shared[p]; ok {
			return s.step.Pattern, true
		}
		i := ladder.Find(g.Ladder.Steps, p.Step)
		if i < 0 || p.Of != 0 {
			return pattern.Pattern{}, false
		}
		return g.band.Rungs[i].In(section), true
	}
	return p.Kind.Figure(g.band.Meter)
}

// partIn is what a part is called in a section: a step that adds its thing to the figure of another part
// of the song is not called by it here.
func (g *Grow) partIn(p arrange.Part, section song.SectionID) string {
	i := ladder.Find(g.Ladder.Steps, p.Step)
	if p.Kind != arrange.OnStep || p.Of != 0 || i < 0 || len(g.Ladder.Steps[i].Parts) == 0 {
		return g.partName(p)
	}
	step := g.Ladder.Steps[i]
	adds, other := step.NewIn()
	here := slices.Contains(adds.Sections, section)
	if !other && i > 0 && step.Pattern.Equal(g.Ladder.Steps[i-1].Pattern) {
		here = true // chords or tempo, for all parts
	} else if !other {
		here = !slices.ContainsFunc(step.Parts, func(f difficulty.Figure) bool { return slices.Contains(f.Sections, section) })
	}
	if here {
		return g.partName(p)
	}
	return fmt.Sprintf("%d, this part’s own pattern", i+1)
}

func (g *Grow) partName(p arrange.Part) string {
	if p.Kind != arrange.OnStep {
		return p.Kind.String()
	}
	if s, ok := g.shared[p]; ok {
		return s.name
	}
	if i := ladder.Find(g.Ladder.Steps, p.Step); i >= 0 && p.Of == 0 {
		return fmt.Sprintf("%d %s", i+1, g.band.Rungs[i].Name)
	}
	return arrange.Rest.String()
}

// roomName is what a part is called on the projector: a part, never a level.
func (g *Grow) roomName(p arrange.Part) string {
	if s, ok := g.shared[p]; ok {
		return s.part
	}
	if i := ladder.Find(g.Ladder.Steps, p.Step); p.Kind == arrange.OnStep && p.Of == 0 && i >= 0 {
		return g.Ladder.PartOf(i)
	}
	return map[arrange.PartKind]string{
		arrange.BassOne: "bass", arrange.Once: "chords", arrange.Strum: "strum", arrange.BassStrum: "bass and strum", arrange.TheTune: "tune", arrange.TuneBass: "tune and bass",
	}[p.Kind]
}

// partValue is a part in a form: its kind; of a step its id, and of one of another song its ladder.
func partValue(p arrange.Part) string {
	switch {
	case p.Kind == arrange.OnStep && p.Of != 0:
		return fmt.Sprintf("step %d of %d", p.Step, p.Of)
	case p.Kind == arrange.OnStep:
		return fmt.Sprintf("step %d", p.Step)
	}
	return string(p.Kind)
}

// readPart is the inverse of partValue, for what a group can be given.
func (g *Grow) readPart(value string, group int) (arrange.Part, error) {
	for _, p := range g.options(group) {
		if partValue(p) == value {
			return p, nil
		}
	}
	return arrange.Part{}, answer.Refuse("%q is no part", letters.Cut(value, 40))
}
