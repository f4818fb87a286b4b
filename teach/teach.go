package teach

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"log/slog"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"

	"arplin/core/ladder"
	"arplin/core/song"
	"arplin/store"
)

// Teach is the use cases over one store. Safe for concurrent use.
type Teach struct {
	Store *store.Store
	Log   *slog.Logger // nil for the usual one
	// Computing, where it is set, is called before a ladder is computed: a test makes one fail.
	Computing func(store.LadderID)
	// Learners is what is known of a class: those who know it stand further up.
	Learners func(context.Context, store.TeacherID, Class, song.Song, time.Time) (ladder.Learners, error)
	kept     *lru.Cache[string, any]
}

// keptResults bounds what is remembered: the largest results are pages of strips
// of about half a megabyte.
const keptResults = 128

// New makes the use cases.
func New(s *store.Store) *Teach {
	kept, err := lru.New[string, any](keptResults)
	if err != nil {
		panic(err) // the size is positive
	}
	t := &Teach{Store: s, kept: kept}
	t.Learners = t.LearnersOf
	return t
}

// Rows is what a page was loaded from; its digest changes whenever any of it
// does, so that what was computed from it can be kept by content: no other copy
// of the program can make it wrong.
type Rows string

// rowsOf digests values by what they print.
func rowsOf(values ...any) Rows {
	sum := sha256.New()
	for _, v := range values {
		fmt.Fprintf(sum, "%+v\n", v)
	}
	return Rows(hex.EncodeToString(sum.Sum(nil)[:16]))
}

// keep returns what was computed from the same content before, or computes it.
func keep[T any](t *Teach, name string, rows Rows, compute func() T) T {
	key := name + string(rows)
	if v, ok := t.kept.Get(key); ok {
		return v.(T)
	}
	v := compute()
	t.kept.Add(key, v)
	return v
}

// keepUntil is keep for what may take long: it ends when nobody waits any more, and what is not
// whole then is not kept.
func keepUntil[T any](ctx context.Context, t *Teach, name string, rows Rows, compute func(stop func() bool) T) (v T, err error) {
	key := name + string(rows)
	if v, ok := t.kept.Get(key); ok {
		return v.(T), nil
	}
	v = compute(func() bool { return ctx.Err() != nil })
	if ctx.Err() != nil {
		return v, refuse("this took too long and was stopped; nothing was changed")
	}
	t.kept.Add(key, v)
	return v, nil
}

// Refusal is an error that a person can act on: a clause that is shown as it is.
type Refusal struct{ Clause string }

func (r *Refusal) Error() string { return r.Clause }

// Question is an error that is none when somebody says yes to it: then the same comes again with
// a yes.
type Question struct {
	Asks string // a sentence
	Yes  string // what the button says
}

func (q *Question) Error() string { return q.Asks }

func refuse(format string, args ...any) error { return &Refusal{fmt.Sprintf(format, args...)} }

// refused makes a refusal of an error of the core, whose clauses are for people.
func refused(err error) error {
	if err == nil {
		return nil
	}
	return &Refusal{err.Error()}
}

// found tells a row that is not there from a failure.
func found(err error) (bool, error) {
	if errors.Is(err, store.ErrNotFound) {
		return false, nil
	}
	return err == nil, err
}
