package desk

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"arplin/core/ladder"
	"arplin/core/practice"
	"arplin/core/say"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/ladders"
)

// Deciding is a decision as a page sent it: for a student on the step that it showed.
type Deciding struct {
	Kind practice.Kind
	Step ladder.StepID
}

// Decide carries out decisions for students of a class on a ladder, and keeps what was
// decided and why. Who has been moved since the page was loaded is not moved again, so
// that what is sent twice is done once.
func (t *Room) Decide(ctx context.Context, teacher ref.Teacher, l ladders.Ladder, sent map[ref.Student]Deciding, now time.Time) (says string, version int, err error) {
	tries, err := t.Store.TriesOn(ctx, teacher, l.ID, ladders.Since(now))
	if err != nil {
		return "", 0, err
	}
	tense, err := t.Store.Tense(ctx, teacher, l.ClassID, ladders.Since(now))
	if err != nil {
		return "", 0, err
	}
	all, err := t.Ladders.LaddersNow(ctx, teacher, l.Class)
	if err != nil {
		return "", 0, err
	}
	of, plays := ladders.TriesOf(tries), ladders.PlaysOf(all)
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
		why := LineOf(l, st, of[st.ID], tense[st.ID], plays[st.ID], ladders.DayOf(now)).Decision
		if why.Kind != kind {
			why.Why = say.Of("by-you")
		}
		if kind == practice.Stay {
			stays = append(stays, store.Decision{StudentID: st.ID, LadderID: l.ID, Step: l.Steps[at].ID, To: l.Steps[at].ID, Kind: kind, Why: why.Why, At: now})
			stay = append(stay, st.Name)
			continue
		}
		to := l.LeadsTo(at, kind)
		if to == 0 {
			return "", 0, answer.Refuse("%s has no step that way", st.Name)
		}
		places[st.ID] = l.Steps[to-1].ID
		kept = append(kept, store.Decision{StudentID: st.ID, LadderID: l.ID, Step: l.Steps[at].ID, To: l.Steps[to-1].ID, Kind: kind, Why: why.Why, At: now})
	}
	const stale = "this was already decided, or a student has moved. Reload the Desk"
	if len(stays) > 0 {
		if err := t.Store.KeepDecisions(ctx, teacher, l.ID, stays); err != nil {
			return "", 0, err
		}
		if says = say.And(stay) + say.Verb(len(stay), " stays", " stay") + " until more is logged."; len(places) == 0 {
			return says, 0, nil
		}
	}
	if len(places) == 0 {
		return "", 0, answer.Refuse(stale)
	}
	says, version, err = t.Ladders.Place(ctx, teacher, l, places, kept...)
	if errors.Is(err, store.ErrMoved) { // between this reading and the move
		return "", 0, answer.Refuse(stale)
	}
	return says, version, err
}

// WhyNobody says why nobody of a ladder is ready to move on, the most frequent reason first.
func (t *Room) WhyNobody(ctx context.Context, teacher ref.Teacher, l ladders.Ladder, now time.Time) (string, error) {
	tries, err := t.Store.TriesOn(ctx, teacher, l.ID, ladders.Since(now))
	if err != nil {
		return "", err
	}
	tense, err := t.Store.Tense(ctx, teacher, l.ClassID, ladders.Since(now))
	if err != nil {
		return "", err
	}
	of := ladders.TriesOf(tries)
	count := map[string]int{}
	for _, st := range l.Class.Students {
		line := LineOf(l, st, of[st.ID], tense[st.ID], 0, ladders.DayOf(now))
		switch {
		case line.Number == 0:
			count["not on a step yet"]++
		case line.Number == len(l.Steps):
			count["already on the last step"]++
		case tense[st.ID]:
			count["tense last time"]++
		case line.State == practice.New:
			count["with nothing logged on their step"]++
		case line.State == practice.Clean:
			count["clean at the goal, but not three times on two days"]++
		case line.Decision.Kind == practice.Ease || line.Decision.Kind == practice.Drill:
			count["with a step back or a drill proposed"]++
		default:
			count["still below the goal"]++
		}
	}
	reasons := slices.SortedFunc(maps.Keys(count), func(a, b string) int { return cmp.Or(count[b]-count[a], strings.Compare(a, b)) })
	for i, why := range reasons {
		reasons[i] = fmt.Sprintf("%d %s", count[why], why)
	}
	if len(reasons) == 0 {
		return "there are no students in the class yet", nil
	}
	return "nobody is ready to move up: " + say.And(reasons), nil
}
