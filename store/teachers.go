package store

import (
	"context"
	"fmt"
	"time"

	"arplin/store/database"
	"arplin/store/ref"
)

// Teacher owns everything else.
type Teacher struct {
	ID           ref.Teacher
	Email        string
	Name         string
	PasswordHash string
	Archived     bool
	Epoch        int  // of the password: sessions of an earlier one have ended
	Runs         bool // the school: invites others, and lets them back in
}

// AddTeacher stores a new teacher; an address in use is ErrTaken.
func (s *Store) AddTeacher(ctx context.Context, email, name, passwordHash string) (ref.Teacher, error) {
	id, err := s.insert(ctx, "INSERT INTO teachers (email, name, password_hash, created_at, runs) SELECT ?, ?, ?, ?, NOT EXISTS (SELECT 1 FROM teachers)",
		email, name, passwordHash, time.Now().UTC()) // the first one runs the school
	if err != nil {
		return 0, fmt.Errorf("adding a teacher: %w", err)
	}
	return ref.Teacher(id), nil
}

// TeacherByEmail finds the teacher who signs in.
func (s *Store) TeacherByEmail(ctx context.Context, email string) (Teacher, error) {
	return s.teacher(ctx, "email = ?", email)
}

// Teacher finds a teacher by id.
func (s *Store) Teacher(ctx context.Context, id ref.Teacher) (Teacher, error) {
	return s.teacher(ctx, "id = ?", id)
}

func (s *Store) teacher(ctx context.Context, where string, arg any) (Teacher, error) {
	var t Teacher
	err := s.db.QueryRowContext(ctx, "SELECT id, email, name, password_hash, archived, epoch, runs FROM teachers WHERE "+where, arg).
		Scan(&t.ID, &t.Email, &t.Name, &t.PasswordHash, &t.Archived, &t.Epoch, &t.Runs)
	return t, notFound(err, "teacher")
}

// SetPassword stores another password's hash and begins its epoch, which ends the
// sessions of the one before.
func (s *Store) SetPassword(ctx context.Context, id ref.Teacher, hash string) (epoch int, err error) {
	if _, err := s.db.Change(ctx, "UPDATE teachers SET password_hash = ?, epoch = epoch + 1 WHERE id = ?", hash, id); err != nil {
		return 0, fmt.Errorf("changing a password: %w", err)
	}
	t, err := s.Teacher(ctx, id)
	return t.Epoch, err
}

// SetEmail stores another address to sign in with; one in use is ErrTaken.
func (s *Store) SetEmail(ctx context.Context, id ref.Teacher, email string) error {
	_, err := s.db.Change(ctx, "UPDATE teachers SET email = ? WHERE id = ?", email, id)
	if database.IsDuplicate(err) {
		return ErrTaken
	}
	return err
}
