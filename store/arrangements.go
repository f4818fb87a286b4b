package store

import (
	"context"
	"fmt"

	"arplin/store/ref"
)

// Arrangement is who plays what on a ladder's song.
type Arrangement struct {
	LadderID ref.Ladder
	Body     string // JSON
	Version  int    // 0 for one that is not stored
}

// ArrangementOf finds the arrangement of a ladder; ErrNotFound where none is stored.
func (s *Store) ArrangementOf(ctx context.Context, teacher ref.Teacher, ladder ref.Ladder) (a Arrangement, err error) {
	err = s.db.QueryRowContext(ctx, "SELECT ladder_id, body, version FROM arrangements WHERE teacher_id = ? AND ladder_id = ?", teacher, ladder).
		Scan(&a.LadderID, &a.Body, &a.Version)
	return a, notFound(err, "arrangement")
}

// SetArrangement stores an arrangement for its version. The ladder must be the teacher's.
func (s *Store) SetArrangement(ctx context.Context, teacher ref.Teacher, a Arrangement) error {
	query, args := "UPDATE arrangements SET body = ?, version = version + 1 WHERE teacher_id = ? AND ladder_id = ? AND version = ?", []any{a.Body, teacher, a.LadderID, a.Version}
	if a.Version == 0 {
		query, args = "INSERT IGNORE INTO arrangements (teacher_id, ladder_id, body) SELECT l.teacher_id, l.id, ? FROM ladders l WHERE l.teacher_id = ? AND l.id = ?", []any{a.Body, teacher, a.LadderID}
	}
	n, err := s.db.Change(ctx, query, args...)
	if err != nil {
		return fmt.Errorf("storing an arrangement: %w", err)
	}
	if n == 1 {
		return nil
	}
	now, err := s.ArrangementOf(ctx, teacher, a.LadderID)
	if err != nil {
		return err
	}
	return &StaleError{"arrangement", now.Version}
}
