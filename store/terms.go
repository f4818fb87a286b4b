package store

import (
	"context"
	"fmt"
	"time"
)

// Term is the weeks of a class up to a concert.
type Term struct {
	ClassID  ClassID
	LadderID LadderID
	Begins   time.Time // dates
	Concert  time.Time
	Name     string // what the concert is called
	Version  int    // 0 for one that is not stored
}

// TermOf finds the term of a class.
func (s *Store) TermOf(ctx context.Context, teacher TeacherID, class ClassID) (t Term, err error) {
	err = s.db.QueryRowContext(ctx, "SELECT class_id, ladder_id, begins, concert, name, version FROM terms WHERE teacher_id = ? AND class_id = ?", teacher, class).
		Scan(&t.ClassID, &t.LadderID, &t.Begins, &t.Concert, &t.Name, &t.Version)
	return t, notFound(err, "term")
}

// SetTerm stores the term of a class for its version. Class and ladder must be the
// teacher's, and the ladder the class's.
func (s *Store) SetTerm(ctx context.Context, teacher TeacherID, t Term) error {
	begins, concert := t.Begins.Format(time.DateOnly), t.Concert.Format(time.DateOnly)
	query, args := `UPDATE terms x JOIN ladders l ON l.teacher_id = x.teacher_id AND l.class_id = x.class_id AND l.id = ?
		SET x.ladder_id = l.id, x.begins = ?, x.concert = ?, x.name = ?, x.version = x.version + 1 WHERE x.teacher_id = ? AND x.class_id = ? AND x.version = ?`,
		[]any{t.LadderID, begins, concert, t.Name, teacher, t.ClassID, t.Version}
	if t.Version == 0 {
		query, args = `INSERT IGNORE INTO terms (teacher_id, class_id, ladder_id, begins, concert, name) SELECT l.teacher_id, l.class_id, l.id, ?, ?, ? FROM ladders l WHERE l.teacher_id = ? AND l.class_id = ? AND l.id = ?`,
			[]any{begins, concert, t.Name, teacher, t.ClassID, t.LadderID}
	}
	n, err := s.exec(ctx, query, args...)
	if err != nil {
		return fmt.Errorf("storing a term: %w", err)
	}
	if n == 1 {
		return nil
	}
	now, err := s.TermOf(ctx, teacher, t.ClassID)
	if err != nil {
		return err
	}
	if now.Version == t.Version { // the ladder is not there
		return fmt.Errorf("ladder: %w", ErrNotFound)
	}
	return &StaleError{"term", now.Version}
}
