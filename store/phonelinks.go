package store

import (
	"context"
	"crypto/rand"
	"database/sql"
	"encoding/hex"
	"errors"
	"fmt"
	"strings"
	"time"

	"arplin/store/database"
	"arplin/store/ref"
)

// PhoneLink opens one student's page on a phone.
type PhoneLink struct {
	Student ref.Student
	Nonce   [16]byte // of which, with the school's key, the secret is made
	Made    time.Time
	Ends    time.Time // the last day on which it opens, as a date
	Revoked bool
	Opened  time.Time // the last day on which it was opened; zero for never
}

// Open reports a link that opens on a day.
func (l PhoneLink) Open(now time.Time) bool {
	return !l.Revoked && !now.After(l.Ends.AddDate(0, 0, 1))
}

// PhoneKey is the key of this school's links: made once.
func (s *Store) PhoneKey(ctx context.Context) (key []byte, err error) {
	fresh := make([]byte, 32)
	_, _ = rand.Read(fresh) // never fails
	if _, err := s.db.Change(ctx, "INSERT IGNORE INTO school_keys (name, k) VALUES ('phone', ?)", hex.EncodeToString(fresh)); err != nil {
		return nil, err
	}
	var text string
	if err := s.db.QueryRowContext(ctx, "SELECT k FROM school_keys WHERE name = 'phone'").Scan(&text); err != nil {
		return nil, err
	}
	return hex.DecodeString(text)
}

// PhoneLinks are the links of a class by student; archived students have none that opens.
func (s *Store) PhoneLinks(ctx context.Context, teacher ref.Teacher, class ref.Class) (map[ref.Student]PhoneLink, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT p.student_id, p.nonce, p.made, p.ends, p.revoked, p.opened FROM students t JOIN phone_links p ON p.teacher_id = t.teacher_id AND p.student_id = t.id
		WHERE t.teacher_id = ? AND t.class_id = ?`, teacher, class)
	list, err := database.Collect(rows, err, func(r *sql.Rows) (l PhoneLink, err error) {
		var nonce string
		var opened sql.NullTime
		if err := r.Scan(&l.Student, &nonce, &l.Made, &l.Ends, &l.Revoked, &opened); err != nil {
			return l, err
		}
		_, err = hex.Decode(l.Nonce[:], []byte(nonce))
		l.Opened = opened.Time
		return l, err
	})
	by := map[ref.Student]PhoneLink{}
	for _, l := range list {
		by[l.Student] = l
	}
	return by, err
}

// GivePhoneLinks makes links for those of some students who have none. Digest says what is looked up of a nonce.
func (s *Store) GivePhoneLinks(ctx context.Context, teacher ref.Teacher, students []ref.Student, ends, now time.Time, digest func([16]byte) [32]byte) error {
	return s.putPhoneLinks(ctx, teacher, students, ends, now, digest, "student_id = x.student_id")
}

// RenewPhoneLinks makes other links for students: those before open nothing any more.
func (s *Store) RenewPhoneLinks(ctx context.Context, teacher ref.Teacher, students []ref.Student, ends, now time.Time, digest func([16]byte) [32]byte) error {
	return s.putPhoneLinks(ctx, teacher, students, ends, now, digest, "nonce = x.nonce, digest = x.digest, made = x.made, ends = x.ends, revoked = FALSE, opened = NULL")
}

// putPhoneLinks makes links in one question; those of another teacher's students, and of archived ones, are not made.
func (s *Store) putPhoneLinks(ctx context.Context, teacher ref.Teacher, students []ref.Student, ends, now time.Time, digest func([16]byte) [32]byte, there string) error {
	if len(students) == 0 {
		return nil
	}
	var rows []string
	var args []any
	for _, id := range students {
		var nonce [16]byte
		_, _ = rand.Read(nonce[:]) // never fails
		sum := digest(nonce)
		rows = append(rows, "SELECT ? id, ? nonce, ? digest")
		args = append(args, id, hex.EncodeToString(nonce[:]), hex.EncodeToString(sum[:]))
	}
	_, err := s.db.Change(ctx, `INSERT INTO phone_links (student_id, teacher_id, nonce, digest, made, ends)
		SELECT * FROM (SELECT t.id student_id, t.teacher_id, v.nonce, v.digest, ? made, ? ends FROM students t JOIN (`+strings.Join(rows, " UNION ALL ")+`) v ON v.id = t.id WHERE t.teacher_id = ? AND NOT t.archived) x
		ON DUPLICATE KEY UPDATE `+there, append(append([]any{now.UTC(), ends.Format(time.DateOnly)}, args...), teacher)...)
	if err != nil {
		return fmt.Errorf("making links: %w", err)
	}
	return nil
}

// RevokePhoneLinks ends the links of a class, or with a student only that one's.
func (s *Store) RevokePhoneLinks(ctx context.Context, teacher ref.Teacher, class ref.Class, student ref.Student) error {
	_, err := s.db.Change(ctx, `UPDATE phone_links p JOIN students t ON t.teacher_id = p.teacher_id AND t.id = p.student_id SET p.revoked = TRUE
		WHERE t.teacher_id = ? AND t.class_id = ? AND (? = 0 OR t.id = ?)`, teacher, class, student, student)
	return err
}

// EndPhoneLinks sets the last day of all links of a class.
func (s *Store) EndPhoneLinks(ctx context.Context, teacher ref.Teacher, class ref.Class, ends time.Time) error {
	_, err := s.db.Change(ctx, "UPDATE phone_links p JOIN students t ON t.teacher_id = p.teacher_id AND t.id = p.student_id SET p.ends = ? WHERE t.teacher_id = ? AND t.class_id = ?", ends.Format(time.DateOnly), teacher, class)
	return err
}

// PhoneTakes is whether the students of a class may send recordings from their phones.
func (s *Store) PhoneTakes(ctx context.Context, teacher ref.Teacher, class ref.Class) (on bool, err error) {
	err = s.db.QueryRowContext(ctx, "SELECT phone_takes FROM classes WHERE teacher_id = ? AND id = ?", teacher, class).Scan(&on)
	return on, notFound(err, "class")
}

// SetPhoneTakes lets the students of a class send recordings, or no longer; those that came stay.
func (s *Store) SetPhoneTakes(ctx context.Context, teacher ref.Teacher, class ref.Class, on bool) error {
	if _, err := s.PhoneTakes(ctx, teacher, class); err != nil {
		return err
	}
	_, err := s.db.Change(ctx, "UPDATE classes SET phone_takes = ? WHERE teacher_id = ? AND id = ?", on, teacher, class)
	return err
}

// Phone is whose phone a link is on.
type Phone struct {
	Teacher ref.Teacher
	Class   ref.Class
	Student ref.Student
	Takes   bool // may send recordings
}

// PhoneBy finds whose phone it is by a link's digest: ErrNotFound for one that is revoked, has ended, is of
// somebody or a class that was archived, or never was. The day of its use is noted.
func (s *Store) PhoneBy(ctx context.Context, digest [32]byte, now time.Time) (p Phone, err error) {
	var opened sql.NullTime
	err = s.db.QueryRowContext(ctx, `SELECT t.teacher_id, t.class_id, t.id, c.phone_takes, l.opened FROM phone_links l JOIN students t ON t.teacher_id = l.teacher_id AND t.id = l.student_id
		JOIN classes c ON c.teacher_id = t.teacher_id AND c.id = t.class_id JOIN teachers o ON o.id = t.teacher_id
		WHERE l.digest = ? AND NOT l.revoked AND l.ends >= ? AND NOT t.archived AND NOT c.archived AND NOT o.archived AND t.left_on IS NULL`,
		hex.EncodeToString(digest[:]), now.Format(time.DateOnly)).Scan(&p.Teacher, &p.Class, &p.Student, &p.Takes, &opened)
	if errors.Is(err, sql.ErrNoRows) {
		return p, fmt.Errorf("link: %w", ErrNotFound)
	}
	if err == nil && now.UTC().Format(time.DateOnly) != opened.Time.Format(time.DateOnly) {
		_, err = s.db.Change(ctx, "UPDATE phone_links SET opened = ? WHERE digest = ?", now.UTC(), hex.EncodeToString(digest[:]))
	}
	return p, err
}
