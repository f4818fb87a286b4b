package answer

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"log/slog"
	"reflect"

	lru "github.com/hashicorp/golang-lru/v2"

	"arplin/letters"
	"arplin/store"
	"arplin/store/ref"
)

// From is what the rooms make their answers from. Safe for concurrent use.
type From struct {
	Store *store.Store
	Log   *slog.Logger // nil for the usual one
	// Computing, where it is set, is called before a ladder is computed: a test makes one fail.
	Computing func(ref.Ladder)
	kept      *lru.Cache[string, any]
}

// keptResults bounds what is remembered: the largest results are pages of strips
// of about half a megabyte.
const keptResults = 128

// New is what is made of one store.
func New(s *store.Store) *From {
	kept, err := lru.New[string, any](keptResults)
	if err != nil {
		panic(err) // the size is positive
	}
	return &From{Store: s, kept: kept}
}

// Rows is what a page was loaded from; its digest changes whenever any of it
// does, so that what was computed from it can be kept by content: no other copy
// of the program can make it wrong.
type Rows string

// RowsOf digests values by what they print.
func RowsOf(values ...any) Rows {
	sum := sha256.New()
	for _, v := range values {
		if reflect.ValueOf(v).Kind() == reflect.Func {
			panic("answer: a function has no content; it was to be called")
		}
		fmt.Fprintf(sum, "%+v\n", v)
	}
	return Rows(hex.EncodeToString(sum.Sum(nil)[:16]))
}

// Keep returns what was computed from the same content before, or computes it.
func Keep[T any](f *From, name string, rows Rows, compute func() T) T {
	key := name + string(rows)
	if v, ok := f.kept.Get(key); ok {
		return v.(T)
	}
	v := compute()
	f.kept.Add(key, v)
	return v
}

// KeepUntil is Keep for what may take long: it ends when nobody waits any more, and what is not
// whole then is not kept.
func KeepUntil[T any](ctx context.Context, f *From, name string, rows Rows, compute func(stop func() bool) T) (v T, err error) {
	key := name + string(rows)
	if v, ok := f.kept.Get(key); ok {
		return v.(T), nil
	}
	v = compute(func() bool { return ctx.Err() != nil })
	if ctx.Err() != nil {
		return v, Refuse("this took too long and was stopped; nothing was changed")
	}
	f.kept.Add(key, v)
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

func Refuse(format string, args ...any) error { return &Refusal{fmt.Sprintf(format, args...)} }

// Refused makes a refusal of an error of the core, whose clauses are for people.
func Refused(err error) error {
	if err == nil {
		return nil
	}
	return &Refusal{err.Error()}
}

// Found tells a row that is not there from a failure.
func Found(err error) (bool, error) {
	if errors.Is(err, store.ErrNotFound) {
		return false, nil
	}
	return err == nil, err
}

// Stale is an error of what was changed in another window meanwhile: what is there now, to be
// shown beside what was typed.
type Stale[T any] struct{ There T }

func (s *Stale[T]) Error() string { return "changed in another window meanwhile" }

// IfStale makes a stale write one that brings what is there now.
func IfStale[T any](err error, there func() (T, error)) error {
	var stale *store.StaleError
	if !errors.As(err, &stale) {
		return err
	}
	now, err := there()
	if err != nil {
		return err
	}
	return &Stale[T]{now}
}

// Sentence makes a sentence of a clause.
func Sentence(clause string) string {
	if clause == "" {
		return ""
	}
	return letters.Capital(clause) + "."
}
