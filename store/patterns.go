package store

import (
	"context"
	"database/sql"
	"fmt"
	"time"

	"arplin/core/hand"
)

// Pattern is a teacher's own pattern.
type Pattern struct {
	ID      int64
	Name    string
	Version int
	Pattern hand.Pattern
}

// StalePatternError refuses a change of a version that is no longer the newest.
type StalePatternError struct{ Current Pattern }

func (e *StalePatternError) Error() string {
	return fmt.Sprintf("the pattern is at version %d by now", e.Current.Version)
}

// AddPattern stores a new pattern as version 1.
func (s *Store) AddPattern(ctx context.Context, teacher int64, name string, p hand.Pattern) (int64, error) {
	id, err := insert(ctx, s.db, "INSERT INTO patterns (teacher_id, name, notation, version, created_at) VALUES (?, ?, ?, 1, ?)",
		teacher, name, p.String(), time.Now().UTC())
	if err != nil {
		return 0, fmt.Errorf("adding a pattern: %w", err)
	}
	return id, nil
}

// ChangePattern stores another name or text for the given version.
func (s *Store) ChangePattern(ctx context.Context, teacher int64, p Pattern) error {
	res, err := s.db.ExecContext(ctx, "UPDATE patterns SET name = ?, notation = ?, version = version + 1 WHERE teacher_id = ? AND id = ? AND version = ?",
		p.Name, p.Pattern.String(), teacher, p.ID, p.Version)
	if err != nil {
		return fmt.Errorf("changing a pattern: %w", err)
	}
	if n, _ := res.RowsAffected(); n == 1 {
		return nil
	}
	current, err := s.Pattern(ctx, teacher, p.ID)
	if err != nil {
		return err
	}
	return &StalePatternError{current}
}

const patternQuery = "SELECT id, name, version, notation FROM patterns WHERE teacher_id = ?"

func scanPattern(scan func(...any) error) (p Pattern, err error) {
	var notation string
	if err := scan(&p.ID, &p.Name, &p.Version, &notation); err != nil {
		return p, err
	}
	p.Pattern, err = hand.Parse(notation)
	return p, err
}

// Pattern finds one of the teacher's patterns, archived or not.
func (s *Store) Pattern(ctx context.Context, teacher, id int64) (Pattern, error) {
	p, err := scanPattern(s.db.QueryRowContext(ctx, patternQuery+" AND id = ?", teacher, id).Scan)
	return p, notFound(err, "pattern")
}

// Patterns lists a teacher's patterns by name, the archived ones left out.
func (s *Store) Patterns(ctx context.Context, teacher int64) ([]Pattern, error) {
	rows, err := s.db.QueryContext(ctx, patternQuery+" AND NOT archived ORDER BY name, id", teacher)
	return collect(rows, err, func(r *sql.Rows) (Pattern, error) { return scanPattern(r.Scan) })
}

// ArchivePattern takes a pattern off the list or puts it back. Songs and
// ladders keep their own text of it.
func (s *Store) ArchivePattern(ctx context.Context, teacher, id int64, archived bool) error {
	return s.archive(ctx, "patterns", teacher, id, archived)
}
