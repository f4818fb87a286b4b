package files

import (
	"bytes"
	"cmp"
	"context"
	"crypto/rand"
	"fmt"
	"time"

	"arplin/store/keyvalue"
	"arplin/store/ref"
)

// waits is how long a file that was looked at waits to be taken in.
const waits = time.Hour

// waitingKey is where the file of a teacher waits: one, the last that was looked at.
func waitingKey(teacher ref.Teacher) string { return fmt.Sprintf("taking-%d", teacher) }

// Look shows what a file would bring; nothing is stored but the file, for an hour, under a token.
func (t *Room) Look(ctx context.Context, teacher ref.Teacher, name string, data []byte) (taking Taking, token string, err error) {
	if taking, err = t.OpenBundle(ctx, teacher, name, data); err != nil {
		return taking, "", err
	}
	token = rand.Text()
	return taking, token, keyvalue.Limits(t.Store.DB()).SetWithContext(ctx, waitingKey(teacher), append([]byte(token+"\n"), data...), waits)
}

// TakeInWaiting stores what the file that was looked at brings, once: of four who ask with the
// same token one has the file, and the others are told that it is not there.
func (t *Room) TakeInWaiting(ctx context.Context, teacher ref.Teacher, name, token string, now time.Time) (id ref.Import, says string, there bool, err error) {
	kept, err := keyvalue.Limits(t.Store.DB()).Take(ctx, waitingKey(teacher), []byte(token+"\n"))
	if err != nil {
		return 0, "", false, err
	}
	_, data, _ := bytes.Cut(kept, []byte("\n"))
	if len(data) == 0 || token == "" {
		return 0, "", false, nil
	}
	id, says, err = t.TakeIn(ctx, teacher, cmp.Or(name, "a file"), data, now)
	if err != nil { // it can be tried again
		if err := keyvalue.Limits(t.Store.DB()).SetWithContext(context.WithoutCancel(ctx), waitingKey(teacher), kept, waits); err != nil {
			t.Logger().Error("keeping a file before its import", "error", err)
		}
	}
	return id, says, true, err
}

// Imports are the last that were taken in.
func (t *Room) Imports(ctx context.Context, teacher ref.Teacher) (list []ImportLine, err error) {
	stored, err := t.Store.Imports(ctx, teacher, shownImports)
	for _, im := range stored {
		list = append(list, ImportLine{im.ID, im.Name, BringsWords.Say(im.Says), im.At, im.Undone})
	}
	return list, err
}

// ImportLine is an import in a list, with what it brought in words.
type ImportLine struct {
	ID     ref.Import
	Name   string
	Says   string
	At     time.Time
	Undone bool
}

// shownImports are how many imports are listed.
const shownImports = 20
