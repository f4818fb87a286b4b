package store

import (
	"context"
	"database/sql"
	"fmt"
	"time"
)

// Entry is a clean tempo in the log.
type Entry struct {
	ID        int64
	StudentID int64
	LadderID  int64
	Step      int
	Tempo     int
	At        time.Time
}

// AddEntry appends a clean tempo. The client's id makes an entry that is sent
// twice one entry; the stored id comes back either way.
func (s *Store) AddEntry(ctx context.Context, teacher int64, e Entry, clientID string) (int64, error) {
	_, err := s.db.ExecContext(ctx, `INSERT INTO log_entries (teacher_id, student_id, ladder_id, step, tempo, client_id, at)
		SELECT ?, t.id, l.id, ?, ?, ?, ? FROM students t JOIN ladders l ON l.class_id = t.class_id AND l.teacher_id = t.teacher_id
		WHERE t.id = ? AND l.id = ? AND t.teacher_id = ?`,
		teacher, e.Step, e.Tempo, clientID, e.At.UTC(), e.StudentID, e.LadderID, teacher)
	if err != nil && !isDuplicate(err) {
		return 0, fmt.Errorf("logging a tempo: %w", err)
	}
	var id int64
	err = s.db.QueryRowContext(ctx, "SELECT id FROM log_entries WHERE teacher_id = ? AND client_id = ?", teacher, clientID).Scan(&id)
	return id, notFound(err, "student on this ladder")
}

// Withdraw takes an entry back by appending another. Taking back twice is once.
func (s *Store) Withdraw(ctx context.Context, teacher, entry int64, at time.Time) error {
	res, err := s.db.ExecContext(ctx, `INSERT INTO log_entries (teacher_id, student_id, ladder_id, step, tempo, withdraws, client_id, at)
		SELECT teacher_id, student_id, ladder_id, step, tempo, id, CONCAT('withdraws-', id), ? FROM log_entries
		WHERE id = ? AND teacher_id = ? AND withdraws IS NULL`, at.UTC(), entry, teacher)
	if isDuplicate(err) {
		return nil
	}
	if err != nil {
		return fmt.Errorf("taking an entry back: %w", err)
	}
	if n, _ := res.RowsAffected(); n == 0 {
		return fmt.Errorf("entry: %w", ErrNotFound)
	}
	return nil
}

// Entries lists what stands in the log for a class since a time, oldest first;
// entries that were taken back are left out.
func (s *Store) Entries(ctx context.Context, teacher, class int64, since time.Time) ([]Entry, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT e.id, e.student_id, e.ladder_id, e.step, e.tempo, e.at
		FROM log_entries e JOIN students t ON t.id = e.student_id
		WHERE e.teacher_id = ? AND t.class_id = ? AND e.at >= ? AND e.withdraws IS NULL
		AND NOT EXISTS (SELECT 1 FROM log_entries w WHERE w.withdraws = e.id)
		ORDER BY e.at, e.id`, teacher, class, since.UTC())
	return collect(rows, err, func(r *sql.Rows) (e Entry, err error) {
		return e, r.Scan(&e.ID, &e.StudentID, &e.LadderID, &e.Step, &e.Tempo, &e.At)
	})
}
