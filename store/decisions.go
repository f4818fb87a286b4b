package store

import (
	"context"
	"database/sql"
	"fmt"
	"time"

	"arplin/core/ladder"
	"arplin/core/practice"
)

// Decision is what a teacher has decided about a student, with the reason.
type Decision struct {
	ID        int64
	StudentID StudentID
	LadderID  LadderID
	Step, To  ladder.StepID
	Kind      practice.Kind
	Why       string
	At        time.Time
}

// addDecisions keeps what was decided on a ladder, about students of its class.
func addDecisions(ctx context.Context, tx *sql.Tx, teacher TeacherID, on LadderID, list []Decision) error {
	for _, d := range list {
		if _, err := tx.ExecContext(ctx, `INSERT INTO decisions (teacher_id, student_id, ladder_id, step_id, to_step, kind, why, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?)`,
			teacher, d.StudentID, on, d.Step, d.To, d.Kind, d.Why, d.At.UTC()); err != nil {
			return fmt.Errorf("keeping a decision: %w", err)
		}
	}
	return nil
}

// Decisions lists what was decided about a student, the newest first.
func (s *Store) Decisions(ctx context.Context, teacher TeacherID, student StudentID) ([]Decision, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT id, student_id, ladder_id, step_id, to_step, kind, why, at FROM decisions
		WHERE teacher_id = ? AND student_id = ? ORDER BY at DESC, id DESC LIMIT 100`, teacher, student)
	return collect(rows, err, func(r *sql.Rows) (d Decision, err error) {
		return d, r.Scan(&d.ID, &d.StudentID, &d.LadderID, &d.Step, &d.To, &d.Kind, &d.Why, &d.At)
	})
}
