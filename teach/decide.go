package teach

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/core/practice"
	"arplin/core/say"
	"arplin/store"
)

// drillAt is the address of the drill that a decision proposes.
func drillAt(l Ladder, student store.StudentID, d practice.Decision) string {
	at := fmt.Sprintf("/songs/%d/drill?student=%d&kind=%s&bar=%d", l.SongID, student, drillOf(d.Fault, d.Bar), d.Bar)
	if i := slices.IndexFunc(pattern.Catalogue, func(e pattern.Entry) bool { return e.Pattern.Equal(l.Target) }); i >= 0 {
		at += "&pattern=" + pattern.Catalogue[i].ID
	}
	return at
}

// drillOf is the kind of drill for a fault in a bar: one of the change is of the way into it.
func drillOf(fault practice.Fault, bar int) string {
	if fault.AtChange() && bar > 1 {
		return ChangeDrill
	}
	return BarDrill
}

// leadsTo is the number of the step to which a decision leads, 0 for staying.
func (l Ladder) leadsTo(at int, kind practice.Kind) int {
	to := map[practice.Kind]int{practice.MoveOn: at + 1, practice.Jump: at + 2, practice.Ease: at - 1}
	next, moves := to[kind]
	if next = min(next, len(l.Steps)-1); !moves || next < 0 || next == at {
		return 0
	}
	return next + 1
}

// Deciding is a decision as a page sent it: for a student on the step that it showed.
type Deciding struct {
	Kind practice.Kind
	Step ladder.StepID
}

// Decide carries out decisions for students of a class on a ladder, and keeps what was
// decided and why. Who has been moved since the page was loaded is not moved again, so
// that what is sent twice is done once.
func (t *Teach) Decide(ctx context.Context, teacher store.TeacherID, l Ladder, sent map[store.StudentID]Deciding, now time.Time) (says string, version int, err error) {
	tries, err := t.Store.TriesOn(ctx, teacher, l.ID, since(now))
	if err != nil {
		return "", 0, err
	}
	tense, err := t.Store.Tense(ctx, teacher, l.ClassID, since(now))
	if err != nil {
		return "", 0, err
	}
	of := triesOf(tries)
	places := store.Places{}
	var kept, stays []store.Decision
	var stay []string
	for _, st := range l.Class.Students {
		wanted, ok := sent[st.ID]
		at := ladder.Find(l.Steps, l.Places[st.ID])
		if !ok || at < 0 || l.Steps[at].ID != wanted.Step {
			continue
		}
		kind := wanted.Kind
		why := deskLine(l, st, of[st.ID], tense[st.ID], dayOf(now)).Decision
		if why.Kind != kind {
			why.Why = "by you"
		}
		if kind == practice.Stay {
			stays = append(stays, store.Decision{StudentID: st.ID, LadderID: l.ID, Step: l.Steps[at].ID, To: l.Steps[at].ID, Kind: kind, Why: why.Why, At: now})
			stay = append(stay, st.Name)
			continue
		}
		to := l.leadsTo(at, kind)
		if to == 0 {
			return "", 0, refuse("%s has no step further that way", st.Name)
		}
		places[st.ID] = l.Steps[to-1].ID
		kept = append(kept, store.Decision{StudentID: st.ID, LadderID: l.ID, Step: l.Steps[at].ID, To: l.Steps[to-1].ID, Kind: kind, Why: why.Why, At: now})
	}
	const stale = "this was decided already, or somebody was moved since; load the desk again"
	if len(stays) > 0 {
		if err := t.Store.KeepDecisions(ctx, teacher, l.ID, stays); err != nil {
			return "", 0, err
		}
		if says = say.And(stay) + " stays; it is proposed again when more is heard."; len(places) == 0 {
			return says, 0, nil
		}
	}
	if len(places) == 0 {
		return "", 0, refuse(stale)
	}
	says, version, err = t.Place(ctx, teacher, l, places, kept...)
	if errors.Is(err, store.ErrMoved) { // between this reading and the move
		return "", 0, refuse(stale)
	}
	return says, version, err
}
