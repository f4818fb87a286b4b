package store

import (
	"context"
	"database/sql"
	"fmt"
	"time"

	"arplin/core/ladder"
	"arplin/core/practice"
	"arplin/core/say"
	"arplin/store/database"
	"arplin/store/ref"
)

// Decision is what a teacher has decided about a student, with the reason.
type Decision struct {
	ID        int64
	StudentID ref.Student
	LadderID  ref.Ladder
	Step, To  ladder.StepID
	Kind      practice.Kind
	Why       say.Line
	At        time.Time
	TakenBack bool // undone since
}

// standsSQL is a decision d on its ladder l that was not taken back.
const standsSQL = `(d.n >= 0 AND d.n <= l.head)`

// addDecisions keeps what was decided on a ladder, about students of its class, with the
// revision that it makes; 0 for what moves nobody.
func addDecisions(ctx context.Context, tx *sql.Tx, teacher ref.Teacher, on ref.Ladder, n int, list []Decision) error {
	for _, d := range list {
		of := n
		if d.Step == d.To {
			of = 0
		}
		if _, err := tx.ExecContext(ctx, `INSERT INTO decisions (teacher_id, student_id, ladder_id, step_id, to_step, kind, why, at, n) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`,
			teacher, d.StudentID, on, d.Step, d.To, d.Kind, d.Why.String(), d.At.UTC(), of); err != nil {
			return fmt.Errorf("keeping a decision: %w", err)
		}
	}
	return nil
}

// KeepDecisions keeps decisions that move nobody, about students of a ladder's class.
func (s *Store) KeepDecisions(ctx context.Context, teacher ref.Teacher, on ref.Ladder, list []Decision) error {
	return s.db.InTx(ctx, func(tx *sql.Tx) error {
		for _, d := range list {
			if err := ofClass(ctx, tx, teacher, on, []ref.Student{d.StudentID}); err != nil {
				return err
			}
		}
		return addDecisions(ctx, tx, teacher, on, 0, list)
	})
}

// Decisions lists what was decided about a student, the newest first.
func (s *Store) Decisions(ctx context.Context, teacher ref.Teacher, student ref.Student) ([]Decision, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT d.id, d.student_id, d.ladder_id, d.step_id, d.to_step, d.kind, d.why, d.at, NOT `+standsSQL+` FROM decisions d JOIN ladders l ON l.id = d.ladder_id
		WHERE d.teacher_id = ? AND d.student_id = ? ORDER BY d.at DESC, d.id DESC LIMIT 100`, teacher, student)
	return database.Collect(rows, err, func(r *sql.Rows) (d Decision, err error) {
		var why string
		err = r.Scan(&d.ID, &d.StudentID, &d.LadderID, &d.Step, &d.To, &d.Kind, &why, &d.At, &d.TakenBack)
		d.Why = say.Parse(why)
		return d, err
	})
}

// DecisionsOf lists what was decided about the students of a class since a time and
// stands, oldest first: from it comes the pace of each.
func (s *Store) DecisionsOf(ctx context.Context, teacher ref.Teacher, class ref.Class, since time.Time) ([]Decision, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT d.id, d.student_id, d.ladder_id, d.step_id, d.to_step, d.kind, d.at FROM students t JOIN decisions d ON d.teacher_id = t.teacher_id AND d.student_id = t.id
		JOIN ladders l ON l.id = d.ladder_id WHERE t.teacher_id = ? AND t.class_id = ? AND d.at >= ? AND `+standsSQL+` ORDER BY d.at, d.id`, teacher, class, since.UTC())
	return database.Collect(rows, err, scanDecided)
}

// staysSQL are the decisions to stay about the students of a class since a time, after which
// nothing more was heard of the student on that ladder.
const staysSQL = `FROM students t JOIN decisions d ON d.teacher_id = t.teacher_id AND d.student_id = t.id
	WHERE t.teacher_id = ? AND t.class_id = ? AND d.at >= ? AND d.kind = ?
	AND NOT EXISTS (SELECT 1 FROM log_entries e WHERE e.student_id = d.student_id AND e.ladder_id = d.ladder_id AND e.at > d.at)`

func scanDecided(r *sql.Rows) (d Decision, err error) {
	return d, r.Scan(&d.ID, &d.StudentID, &d.LadderID, &d.Step, &d.To, &d.Kind, &d.At)
}
