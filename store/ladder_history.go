package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"

	"arplin/core/vary"
)

// StaleLadderError refuses a change of a version that is no longer the newest.
type StaleLadderError struct{ Version int }

func (e *StaleLadderError) Error() string {
	return fmt.Sprintf("the ladder is at version %d by now", e.Version)
}

// SaveSteps stores changed steps of a version of a ladder and the order in which
// the rest of them is found anew, and moves the
// students along: whoever stood on a step stands on it still.
func (s *Store) SaveSteps(ctx context.Context, teacher, id int64, version int, order vary.Order, steps []vary.Step, says string) error {
	return s.inTx(ctx, func(tx *sql.Tx) error {
		head, was, err := lockLadder(ctx, tx, teacher, id, version)
		if err != nil {
			return err
		}
		text, err := encodeSteps(steps)
		if err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, "DELETE FROM ladder_history WHERE ladder_id = ? AND (n > ? OR n <= ?)", id, head, head-keptHistory); err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, "INSERT INTO ladder_history (ladder_id, n, says, steps, build_order) VALUES (?, ?, ?, ?, ?)", id, head+1, says, text, string(order)); err != nil {
			return err
		}
		return showSteps(ctx, tx, id, head+1, string(order), was, steps, text)
	})
}

// UndoSteps goes one step back in the ladder's history and returns what was
// taken back.
func (s *Store) UndoSteps(ctx context.Context, teacher, id int64) (says string, err error) {
	err = s.inTx(ctx, func(tx *sql.Tx) error {
		head, was, err := lockLadder(ctx, tx, teacher, id, 0)
		if err != nil {
			return err
		}
		var text []byte
		var order string
		err = tx.QueryRowContext(ctx, "SELECT steps, build_order FROM ladder_history WHERE ladder_id = ? AND n = ?", id, head-1).Scan(&text, &order)
		if errors.Is(err, sql.ErrNoRows) {
			return ErrNoHistory
		}
		if err != nil {
			return err
		}
		if err := tx.QueryRowContext(ctx, "SELECT says FROM ladder_history WHERE ladder_id = ? AND n = ?", id, head).Scan(&says); err != nil {
			return err
		}
		steps, err := decodeSteps(text)
		if err != nil {
			return err
		}
		return showSteps(ctx, tx, id, head-1, order, was, steps, text)
	})
	return says, err
}

// lockLadder holds the ladder's row; version 0 takes whatever is there.
func lockLadder(ctx context.Context, tx *sql.Tx, teacher, id int64, version int) (head int, steps []vary.Step, err error) {
	var current int
	var text []byte
	err = tx.QueryRowContext(ctx, "SELECT version, head, steps FROM ladders WHERE teacher_id = ? AND id = ? FOR UPDATE", teacher, id).Scan(&current, &head, &text)
	if err != nil {
		return 0, nil, notFound(err, "ladder")
	}
	if version != 0 && version != current {
		return 0, nil, &StaleLadderError{current}
	}
	steps, err = decodeSteps(text)
	return head, steps, err
}

func showSteps(ctx context.Context, tx *sql.Tx, id int64, head int, order string, was, now []vary.Step, text []byte) error {
	if _, err := tx.ExecContext(ctx, "UPDATE ladders SET version = version + 1, head = ?, build_order = ?, steps = ? WHERE id = ?", head, order, text, id); err != nil {
		return err
	}
	type place struct {
		student int64
		step    int
	}
	rows, err := tx.QueryContext(ctx, "SELECT student_id, step FROM placements WHERE ladder_id = ?", id)
	places, err := collect(rows, err, func(r *sql.Rows) (p place, err error) { return p, r.Scan(&p.student, &p.step) })
	if err != nil {
		return err
	}
	for _, p := range places {
		if _, err := tx.ExecContext(ctx, "UPDATE placements SET step = ? WHERE ladder_id = ? AND student_id = ?", vary.Moved(was, now, p.step), id, p.student); err != nil {
			return err
		}
	}
	return nil
}
