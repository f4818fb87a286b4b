package ladders

import (
	"context"
	"fmt"
	"slices"
	"time"

	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
	"arplin/core/practice"
	"arplin/core/practice/fault"
	"arplin/letters"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
)

// LogDrill logs what was heard on a drill, as in a student's field: "72", "66 x".
func (t *Room) LogDrill(ctx context.Context, teacher ref.Teacher, id ref.Drill, text, clientID string, now time.Time) (says string, err error) {
	d, err := t.Store.Drill(ctx, teacher, id)
	if err != nil {
		return "", err
	}
	line, err := practice.ParseOwn(text, nil, letters.Fold)
	switch {
	case err != nil:
		return "", answer.Refused(err)
	case line.Song != "" || line.Word != "" || line.Fault != "" || line.Bar > 0 || line.Minutes > 0:
		return "", answer.Refuse("a drill takes a tempo, and x if it wasn’t clean")
	}
	if err := t.Store.AddDrillTry(ctx, teacher, d.ID, store.DrillTry{Tempo: line.Tempo, Failed: !line.Clean, At: now}, clientID); err != nil {
		return "", err
	}
	if line.Clean {
		return fmt.Sprintf("%d, clean.", line.Tempo), nil
	}
	return fmt.Sprintf("%d, not clean.", line.Tempo), nil
}

// DrillAt is the address of the drill that a decision proposes.
func DrillAt(l Ladder, student ref.Student, d practice.Decision) string {
	at := fmt.Sprintf("/songs/%d/drill?student=%d&kind=%s&bar=%d", l.SongID, student, drillOf(d.Fault, d.Bar, len(l.Song.Chords())), d.Bar)
	if i := slices.IndexFunc(catalogue.All, func(e catalogue.Entry) bool { return e.Pattern.Equal(l.Target) }); i >= 0 {
		at += "&pattern=" + catalogue.All[i].ID
	}
	return at
}

// drillOf is the kind of drill for a fault in a bar: one of the change is of the way into it.
func drillOf(fault fault.Fault, bar, chords int) string {
	if fault.AtChange() && bar > 1 && chords > 1 {
		return ChangeDrill
	}
	return BarDrill
}

// TakeDrillOff takes a drill off the week; it can come back.
func (t *Room) TakeDrillOff(ctx context.Context, teacher ref.Teacher, id ref.Drill) error {
	return t.Store.WithdrawDrill(ctx, teacher, id, true)
}

// FinishDrill notes that a drill is done.
func (t *Room) FinishDrill(ctx context.Context, teacher ref.Teacher, id ref.Drill, now time.Time) error {
	return t.Store.FinishDrill(ctx, teacher, id, now)
}

// RestoreDrill puts a drill back that was done or taken off.
func (t *Room) RestoreDrill(ctx context.Context, teacher ref.Teacher, id ref.Drill) error {
	if err := t.Store.WithdrawDrill(ctx, teacher, id, false); err != nil {
		return err
	}
	return t.Store.FinishDrill(ctx, teacher, id, time.Time{})
}

// PlayingOf is what a fault is heard in: a figure over some chords.
func PlayingOf(p pattern.Pattern, chords int) fault.Playing {
	return fault.Playing{Strums: p.HasStrums() && !p.UsesFingers() && !p.Uses(pattern.Thumb), Chords: chords}
}

// PlayingAt is what a step plays, from 0.
func (l Ladder) PlayingAt(at int) fault.Playing {
	chords := len(l.Steps[at].Stage(l.Task))
	if chords == 0 { // all of the song's
		chords = len(l.Song.Part(l.Sections).Chords())
	}
	return PlayingOf(l.Steps[at].Pattern, chords)
}
