package answer

import (
	"bytes"
	"errors"
	"fmt"
	"log/slog"
	"runtime"
	"runtime/debug"

	"arplin/store/ref"
)

// Failing is a ladder that could not be computed. The pages of its class stand without it and
// say so; what happened is in the log.
type Failing struct {
	Ladder ref.Ladder
	Song   string
}

// Says is a sentence with what to do.
func (f Failing) Says() string {
	return fmt.Sprintf("Arplin can’t work out the ladder of “%s”. The fault is ours, and it has been written down. Everything you logged is safe. Take the ladder off the Desk and create another with a different pattern.", f.Song)
}

func (f *Failing) Error() string { return fmt.Sprintf("ladder %d cannot be computed", f.Ladder) }

// Computes runs what is computed of a ladder. Where that fails, the stack is in the log, and
// whoever asked goes on without it.
func (t *From) Computes(id ref.Ladder, song string, f func()) (failing *Failing) {
	defer func() {
		if fault := recover(); fault != nil {
			t.Logger().Error("a ladder cannot be computed", "ladder", id, "panic", PanicSays(fault), "trace", string(Trace()))
			failing = &Failing{id, song}
		}
	}()
	if t.Computing != nil {
		t.Computing(id)
	}
	f()
	return nil
}

// Logger is where it is written down what happened.
func (t *From) Logger() *slog.Logger {
	if t.Log == nil {
		return slog.Default()
	}
	return t.Log
}

// PanicSays is what may be written down of a panic: what it says itself may have been typed by
// somebody, unless the runtime said it.
func PanicSays(fault any) string {
	var said runtime.Error
	if err, ok := fault.(error); ok && errors.As(err, &said) {
		return said.Error()
	}
	return fmt.Sprintf("%T", fault)
}

// Trace is the stack without the line in which the runtime repeats the panic's own words.
func Trace() []byte {
	var kept [][]byte
	for _, line := range bytes.Split(debug.Stack(), []byte("\n")) {
		if !bytes.HasPrefix(line, []byte("panic(")) {
			kept = append(kept, line)
		}
	}
	return bytes.Join(kept, []byte("\n"))
}
