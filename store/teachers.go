package store

import (
	"context"
	"fmt"
	"time"
)

// Teacher owns everything else.
type Teacher struct {
	ID           TeacherID
	Email        string
	Name         string
	PasswordHash string
	Archived     bool
}

// AddTeacher stores a new teacher; an address in use is ErrTaken.
func (s *Store) AddTeacher(ctx context.Context, email, name, passwordHash string) (TeacherID, error) {
	id, err := insert(ctx, s.db, "INSERT INTO teachers (email, name, password_hash, created_at) VALUES (?, ?, ?, ?)",
		email, name, passwordHash, time.Now().UTC())
	if err != nil {
		return 0, fmt.Errorf("adding a teacher: %w", err)
	}
	return TeacherID(id), nil
}

// TeacherByEmail finds the teacher who signs in.
func (s *Store) TeacherByEmail(ctx context.Context, email string) (Teacher, error) {
	return s.teacher(ctx, "email = ?", email)
}

// Teacher finds a teacher by id.
func (s *Store) Teacher(ctx context.Context, id TeacherID) (Teacher, error) {
	return s.teacher(ctx, "id = ?", id)
}

func (s *Store) teacher(ctx context.Context, where string, arg any) (Teacher, error) {
	var t Teacher
	err := s.db.QueryRowContext(ctx, "SELECT id, email, name, password_hash, archived FROM teachers WHERE "+where, arg).
		Scan(&t.ID, &t.Email, &t.Name, &t.PasswordHash, &t.Archived)
	return t, notFound(err, "teacher")
}
