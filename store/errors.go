package store

import (
	"database/sql"
	"errors"
	"fmt"
)

var (
	// ErrNotFound: there is no such row, or it is another teacher's.
	ErrNotFound = errors.New("not found")
	// ErrTaken: the name or address is in use.
	ErrTaken = errors.New("already taken")
	// ErrReused: an id that a client gives once came again with other content.
	ErrReused = errors.New("this id was used for something else")
	// ErrMoved: somebody stands on another step than the page showed.
	ErrMoved = errors.New("moved since")
	// ErrFull: there is no room for one more.
	ErrFull = errors.New("no room")
)

// notFound turns the driver's empty result into ErrNotFound and names what was
// looked for.
func notFound(err error, what string) error {
	switch {
	case errors.Is(err, sql.ErrNoRows):
		return fmt.Errorf("%s: %w", what, ErrNotFound)
	case err != nil:
		return fmt.Errorf("%s: %w", what, err)
	}
	return nil
}
