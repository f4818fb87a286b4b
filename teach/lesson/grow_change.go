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
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/ladders"
)

// GrowChange is what is done on the page, of the version that it showed.
type GrowChange struct {
	Version     int
	Pass, Group int // from 1
	Part        string
}

// ChangeGrow gives a group another part in a pass, and says what it did and what was there;
// what was proposed is kept from then on.
func (t *Room) ChangeGrow(ctx context.Context, teacher ref.Teacher, l ladders.Ladder, c GrowChange, now time.Time) (says, was string, err error) {
	g, err := t.LoadGrow(ctx, teacher, l, now)
	if err != nil {
		return "", "", err
	}
	if c.Pass < 1 || c.Pass > len(g.Passes) || c.Group < 1 || c.Group > len(g.Groups) {
		return "", "", answer.Refuse("that part of the song, or that group, is not there any more")
	}
	part, err := g.readPart(c.Part, c.Group-1)
	if err != nil {
		return "", "", err
	}
	kept := g.keep()
	was = partValue(kept.Parts[c.Pass-1][c.Group-1])
	kept.Parts[c.Pass-1][c.Group-1] = part
	says = fmt.Sprintf("%s in part %d: %s", g.band.Groups[c.Group-1].Name, c.Pass, g.partName(part))
	return says, was, t.keepGrow(ctx, teacher, l, kept, c.Version)
}

// keep is what the page shows, to be stored.
func (g Grow) keep() KeptGrow {
	kept := KeptGrow{Format: GrowFormat, Passes: g.band.Passes}
	for _, gr := range g.Groups {
		kept.Groups = append(kept.Groups, slices.Clone(gr.Students))
	}
	for _, cells := range g.cells {
		var parts []arrange.Part
		for _, c := range cells {
			parts = append(parts, c.Part)
		}
		kept.Parts = append(kept.Parts, parts)
	}
	return kept
}

// MoveGrow puts a student into another group, counted from 1, or into one of their own, 0. A
// group that nobody is left in goes.
func (t *Room) MoveGrow(ctx context.Context, teacher ref.Teacher, l ladders.Ladder, version int, id ref.Student, to int, now time.Time) (says string, err error) {
	g, err := t.LoadGrow(ctx, teacher, l, now)
	if err != nil {
		return "", err
	}
	st, here := l.Class.Student(id)
	from := slices.IndexFunc(g.Groups, func(gr GrowGroup) bool { return slices.Contains(gr.Students, id) })
	if !here || from < 0 || to < 0 || to > len(g.Groups) {
		return "", answer.Refuse("that student, or that group, is not there any more")
	}
	if to == from+1 || to == 0 && len(g.Groups[from].Students) == 1 {
		return "", answer.Refuse("%s is there already", st.Name)
	}
	before, kept := g.keep(), g.keep()
	kept.Before = &before
	kept.Groups[from] = slices.DeleteFunc(kept.Groups[from], func(s ref.Student) bool { return s == id })
	if says = fmt.Sprintf("%s is a group of their own", st.Name); to > 0 {
		kept.Groups[to-1] = append(kept.Groups[to-1], id)
		says = fmt.Sprintf("%s plays with %s", st.Name, g.band.Groups[to-1].Name)
	} else {
		kept.Groups = append(kept.Groups, []ref.Student{id})
	}
	if len(kept.Groups[from]) == 0 {
		kept.Groups = slices.Delete(kept.Groups, from, from+1)
		for p := range kept.Parts {
			kept.Parts[p] = slices.Delete(kept.Parts[p], from, from+1)
		}
	}
	return says, t.keepGrow(ctx, teacher, l, kept, version)
}

// TurnsGrow has two groups, counted from 1, take turns with their parts.
func (t *Room) TurnsGrow(ctx context.Context, teacher ref.Teacher, l ladders.Ladder, version, one, other int, now time.Time) (says string, err error) {
	g, err := t.LoadGrow(ctx, teacher, l, now)
	if err != nil {
		return "", err
	}
	n := len(g.Groups)
	if one < 1 || other < 1 || one > n || other > n || one == other {
		return "", answer.Refuse("choose another group that is still there")
	}
	before, kept := g.keep(), g.keep()
	kept.Before = &before
	swapped := g.band.TakeTurns(kept.Parts, one-1, other-1)
	if len(swapped) == 0 {
		return "", answer.Refuse("there’s no section they could swap: it’d be too hard for one of them, or the same for both")
	}
	var parts []string
	for _, p := range swapped {
		parts = append(parts, fmt.Sprint(p+1))
	}
	says = fmt.Sprintf("%s and %s swap in part %s", g.band.Groups[one-1].Name, g.band.Groups[other-1].Name, strings.Join(parts, ", "))
	return says, t.keepGrow(ctx, teacher, l, kept, version)
}

// ProposeGrow lets go of what was changed; RestoreGrow brings it back.
func (t *Room) ProposeGrow(ctx context.Context, teacher ref.Teacher, l ladders.Ladder, version int, now time.Time) error {
	g, err := t.LoadGrow(ctx, teacher, l, now)
	if err != nil {
		return err
	}
	before := g.kept
	before.Before = nil
	return t.keepGrow(ctx, teacher, l, KeptGrow{Format: GrowFormat, Before: &before}, version)
}

// RestoreGrow brings back what was there before it was proposed anew.
func (t *Room) RestoreGrow(ctx context.Context, teacher ref.Teacher, l ladders.Ladder, version int, now time.Time) error {
	g, err := t.LoadGrow(ctx, teacher, l, now)
	if err != nil {
		return err
	}
	if g.kept.Before == nil {
		return answer.Refuse("there’s nothing to bring back")
	}
	return t.keepGrow(ctx, teacher, l, *g.kept.Before, version)
}

func (t *Room) keepGrow(ctx context.Context, teacher ref.Teacher, l ladders.Ladder, kept KeptGrow, version int) error {
	body, err := json.Marshal(kept)
	if err != nil {
		return err
	}
	err = t.Store.SetArrangement(ctx, teacher, store.Arrangement{LadderID: l.ID, Body: string(body), Version: version})
	var stale *store.StaleError
	if errors.As(err, &stale) {
		return answer.Refuse("this was changed in another window. This is the latest version")
	}
	return err
}
