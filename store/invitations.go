package store

import (
	"context"
	"database/sql"
	"fmt"
	"strings"
	"time"

	"arplin/store/ref"
)

// Invitation is what a link allows: an account of one's own, or for a teacher another password.
type Invitation struct {
	Teacher ref.Teacher // 0 for a new account
	Expires time.Time
}

// AddInvitation keeps a link by its digest; those that have run out go.
func (s *Store) AddInvitation(ctx context.Context, digest [32]byte, in Invitation, now time.Time) error {
	if _, err := s.db.Change(ctx, "DELETE FROM invitations WHERE expires < ?", now.UTC()); err != nil {
		return fmt.Errorf("old invitations: %w", err)
	}
	teacher := sql.NullInt64{Int64: int64(in.Teacher), Valid: in.Teacher != 0}
	if _, err := s.db.Change(ctx, "INSERT INTO invitations (digest, teacher_id, expires) VALUES (?, ?, ?)", digest[:], teacher, in.Expires.UTC()); err != nil {
		return fmt.Errorf("keeping an invitation: %w", err)
	}
	return nil
}

// InvitationBy finds what a link allows, while it does.
func (s *Store) InvitationBy(ctx context.Context, digest [32]byte, now time.Time) (in Invitation, err error) {
	var teacher sql.NullInt64
	err = s.db.QueryRowContext(ctx, "SELECT teacher_id, expires FROM invitations WHERE digest = ? AND expires >= ?", digest[:], now.UTC()).Scan(&teacher, &in.Expires)
	in.Teacher = ref.Teacher(teacher.Int64)
	return in, notFound(err, "invitation")
}

// UseInvitation takes a link: whoever is first has it, everyone else gets ErrNotFound.
func (s *Store) UseInvitation(ctx context.Context, digest [32]byte, now time.Time) error {
	n, err := s.db.Change(ctx, "DELETE FROM invitations WHERE digest = ? AND expires >= ?", digest[:], now.UTC())
	if err == nil && n == 0 {
		return fmt.Errorf("invitation: %w", ErrNotFound)
	}
	return err
}

// AddSample notes that a class is there to look around in, with its songs.
func (s *Store) AddSample(ctx context.Context, teacher ref.Teacher, class ref.Class, songs []ref.Song) error {
	var ids []string
	for _, id := range songs {
		ids = append(ids, fmt.Sprint(id))
	}
	_, err := s.db.Change(ctx, "INSERT IGNORE INTO samples (class_id, songs, added) SELECT id, ?, UTC_DATE() FROM classes WHERE teacher_id = ? AND id = ?", strings.Join(ids, ","), teacher, class)
	return err
}

// SampleOf is the teacher's sample class; ErrNotFound where there is none.
func (s *Store) SampleOf(ctx context.Context, teacher ref.Teacher) (class ref.Class, err error) {
	err = s.db.QueryRowContext(ctx, "SELECT x.class_id FROM samples x JOIN classes c ON c.id = x.class_id WHERE c.teacher_id = ? ORDER BY x.class_id LIMIT 1", teacher).Scan(&class)
	return class, notFound(err, "sample class")
}

// RemoveSample removes the teacher's sample class with all that hangs on it, and its songs unless another
// class has a ladder of one by now.
func (s *Store) RemoveSample(ctx context.Context, teacher ref.Teacher) error {
	return s.db.InTx(ctx, func(tx *sql.Tx) error {
		var class ref.Class
		var songs string
		err := tx.QueryRowContext(ctx, "SELECT x.class_id, x.songs FROM samples x JOIN classes c ON c.id = x.class_id WHERE c.teacher_id = ? ORDER BY x.class_id LIMIT 1 FOR UPDATE", teacher).Scan(&class, &songs)
		if err != nil {
			return notFound(err, "sample class")
		}
		if _, err := tx.ExecContext(ctx, "DELETE FROM classes WHERE teacher_id = ? AND id = ?", teacher, class); err != nil {
			return fmt.Errorf("removing a sample: %w", err)
		}
		_, err = tx.ExecContext(ctx, "DELETE FROM songs WHERE teacher_id = ? AND FIND_IN_SET(id, ?) AND NOT EXISTS (SELECT 1 FROM ladders l WHERE l.teacher_id = songs.teacher_id AND l.song_id = songs.id)", teacher, songs)
		return err
	})
}
