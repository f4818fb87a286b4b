package store

import (
	"context"
	"fmt"
	"time"

	"arplin/store/ref"
)

// formsKept is how long a form that was sent is known again.
const formsKept = 14 * 24 * time.Hour

// SentForm is what is known of a form that was sent before.
type SentForm struct {
	Location string // where it led; empty while it is still at work, or when it was cut short
	At       time.Time
}

// TakeForm notes a form by its key before it is carried out. A key that was taken
// already comes back with what is known of it.
func (s *Store) TakeForm(ctx context.Context, teacher ref.Teacher, key string, now time.Time) (before SentForm, fresh bool, err error) {
	n, err := s.db.Change(ctx, "INSERT IGNORE INTO sent_forms (teacher_id, k, at) VALUES (?, ?, ?)", teacher, key, now.Unix())
	if err != nil {
		return before, false, fmt.Errorf("noting a form: %w", err)
	}
	if n == 1 {
		return before, true, nil
	}
	var at int64
	if err := s.db.QueryRowContext(ctx, "SELECT location, at FROM sent_forms WHERE teacher_id = ? AND k = ?", teacher, key).Scan(&before.Location, &at); err != nil {
		return before, false, notFound(err, "form")
	}
	before.At = time.Unix(at, 0)
	return before, false, nil
}

// FormLed notes where a form led.
func (s *Store) FormLed(ctx context.Context, teacher ref.Teacher, key, location string) error {
	_, err := s.db.Change(ctx, "UPDATE sent_forms SET location = ? WHERE teacher_id = ? AND k = ?", location, teacher, key)
	return err
}

// FreeForm forgets a form of which nothing came, so that it can be sent again.
func (s *Store) FreeForm(ctx context.Context, teacher ref.Teacher, key string) error {
	_, err := s.db.Change(ctx, "DELETE FROM sent_forms WHERE teacher_id = ? AND k = ?", teacher, key)
	return err
}

// SweepForms forgets those that were sent long ago.
func (s *Store) SweepForms(ctx context.Context, now time.Time) error {
	_, err := s.db.Change(ctx, "DELETE FROM sent_forms WHERE at < ?", now.Add(-formsKept).Unix())
	return err
}
