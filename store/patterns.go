package store

import (
	"context"
	"database/sql"
	"fmt"
	"time"

	"arplin/core/pattern"
	"arplin/store/database"
	"arplin/store/ref"
)

// Pattern is a teacher's own pattern.
type Pattern struct {
	ID      ref.Pattern
	Name    string
	Version int
	Pattern pattern.Pattern
}

// AddPattern stores a new pattern as version 1.
func (s *Store) AddPattern(ctx context.Context, teacher ref.Teacher, name string, p pattern.Pattern) (ref.Pattern, error) {
	id, err := s.insert(ctx, "INSERT INTO patterns (teacher_id, name, notation, version, created_at, uid) VALUES (?, ?, ?, 1, ?, ?)",
		teacher, name, p.String(), time.Now().UTC(), named(""))
	if err != nil {
		return 0, fmt.Errorf("adding a pattern: %w", err)
	}
	return ref.Pattern(id), nil
}

// ChangePattern stores another name or text for the given version.
func (s *Store) ChangePattern(ctx context.Context, teacher ref.Teacher, p Pattern) error {
	n, err := s.db.Change(ctx, "UPDATE patterns SET name = ?, notation = ?, version = version + 1 WHERE teacher_id = ? AND id = ? AND version = ?",
		p.Name, p.Pattern.String(), teacher, p.ID, p.Version)
	if err != nil {
		return fmt.Errorf("changing a pattern: %w", err)
	}
	if n == 1 {
		return nil
	}
	current, err := s.Pattern(ctx, teacher, p.ID)
	if err != nil {
		return err
	}
	return &StaleError{"pattern", current.Version}
}

const patternQuery = "SELECT id, name, version, notation FROM patterns WHERE teacher_id = ?"

func scanPattern(scan func(...any) error) (p Pattern, err error) {
	var notation string
	if err := scan(&p.ID, &p.Name, &p.Version, &notation); err != nil {
		return p, err
	}
	p.Pattern, err = pattern.Decode(notation)
	return p, err
}

// Pattern finds one of the teacher's patterns, archived or not.
func (s *Store) Pattern(ctx context.Context, teacher ref.Teacher, id ref.Pattern) (Pattern, error) {
	p, err := scanPattern(s.db.QueryRowContext(ctx, patternQuery+" AND id = ?", teacher, id).Scan)
	return p, notFound(err, "pattern")
}

// Patterns lists a teacher's patterns by name, the archived ones left out.
func (s *Store) Patterns(ctx context.Context, teacher ref.Teacher) ([]Pattern, error) {
	rows, err := s.db.QueryContext(ctx, patternQuery+" AND archived = FALSE ORDER BY name, id", teacher)
	return database.Collect(rows, err, func(r *sql.Rows) (Pattern, error) { return scanPattern(r.Scan) })
}
