package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"arplin/store/database"
	"arplin/store/ref"
)

// Lesson is a class's lesson: planned, running, or over.
type Lesson struct {
	ID      ref.Lesson
	ClassID ref.Class
	Minutes int
	Kept    []int     // minutes of its pieces, where the teacher has moved them
	Body    string    // the plan as it was begun, as package teach writes it; empty before
	At      int       // the piece that is on, from 0
	PieceAt time.Time // when it began
	Began   time.Time // zero before it does
	Ended   time.Time // zero until it is over
	Away    []ref.Student
	Version int
}

// Running reports a lesson that has begun and is not over.
func (l Lesson) Running() bool { return !l.Began.IsZero() && l.Ended.IsZero() }

const lessonQuery = `SELECT x.id, x.class_id, x.minutes, x.kept, x.body, x.at_piece, x.piece_at, x.began_at, x.ended_at, x.version,
	(SELECT JSON_ARRAYAGG(a.student_id) FROM absences a WHERE a.lesson_id = x.id) FROM lessons x WHERE x.teacher_id = ?`

func scanLesson(scan func(...any) error) (l Lesson, err error) {
	var kept string
	var away sql.NullString
	var pieceAt, began, ended sql.NullTime
	if err := scan(&l.ID, &l.ClassID, &l.Minutes, &kept, &l.Body, &l.At, &pieceAt, &began, &ended, &l.Version, &away); err != nil {
		return l, err
	}
	l.PieceAt, l.Began, l.Ended = pieceAt.Time, began.Time, ended.Time
	for text, into := range map[string]any{kept: &l.Kept, away.String: &l.Away} {
		if text == "" {
			continue
		}
		if err := json.Unmarshal([]byte(text), into); err != nil {
			return l, fmt.Errorf("lesson %d: %w", l.ID, err)
		}
	}
	return l, nil
}

// Lessons lists the newest lessons of a class, the newest first: the first is the next
// one where it is not over; one that was forgotten is.
func (s *Store) Lessons(ctx context.Context, teacher ref.Teacher, class ref.Class, most int, now time.Time) ([]Lesson, error) {
	rows, err := s.db.QueryContext(ctx, lessonQuery+" AND x.class_id = ? ORDER BY x.id DESC LIMIT ?", teacher, class, most)
	return database.Collect(rows, err, func(r *sql.Rows) (Lesson, error) {
		l, err := scanLesson(r.Scan)
		return l.overBy(now), err
	})
}

// Lesson finds one of the teacher's lessons.
func (s *Store) Lesson(ctx context.Context, teacher ref.Teacher, id ref.Lesson) (Lesson, error) {
	l, err := scanLesson(s.db.QueryRowContext(ctx, lessonQuery+" AND x.id = ?", teacher, id).Scan)
	return l, notFound(err, "lesson")
}

// forgotten is how long after its beginning a lesson that nobody has ended is over.
const forgotten = 6 * time.Hour

// overBy ends a lesson that was forgotten, when its minutes were over.
func (l Lesson) overBy(now time.Time) Lesson {
	if l.Running() && now.Sub(l.Began) > forgotten {
		l.Ended = l.Began.Add(time.Duration(l.Minutes) * time.Minute)
	}
	return l
}

// NextLesson finds the class's lesson that is not over, or stores one of the class's
// minutes: two windows that ask at the same time get the same. One that was forgotten is
// ended.
func (s *Store) NextLesson(ctx context.Context, teacher ref.Teacher, class ref.Class, now time.Time) (l Lesson, err error) {
	err = s.db.InTx(ctx, func(tx *sql.Tx) error {
		var minutes int
		if err := tx.QueryRowContext(ctx, "SELECT lesson_minutes FROM classes WHERE teacher_id = ? AND id = ? FOR UPDATE", teacher, class).Scan(&minutes); err != nil {
			return notFound(err, "class")
		}
		if _, err := tx.ExecContext(ctx, "UPDATE lessons SET ended_at = began_at + INTERVAL minutes MINUTE, version = version + 1 WHERE teacher_id = ? AND class_id = ? AND ended_at IS NULL AND began_at < ?", teacher, class, now.Add(-forgotten).UTC()); err != nil {
			return err
		}
		l, err = scanLesson(tx.QueryRowContext(ctx, lessonQuery+" AND x.class_id = ? AND x.ended_at IS NULL ORDER BY x.id DESC LIMIT 1", teacher, class).Scan)
		if !errors.Is(err, sql.ErrNoRows) {
			return err
		}
		id, err := insert(ctx, tx, "INSERT INTO lessons (teacher_id, class_id, minutes, body, created_at) VALUES (?, ?, ?, '', ?)", teacher, class, minutes, time.Now().UTC())
		l = Lesson{ID: ref.Lesson(id), ClassID: class, Minutes: minutes, Version: 1}
		return err
	})
	if err != nil {
		return l, fmt.Errorf("the next lesson: %w", err)
	}
	return l, nil
}

// SaveLesson stores a lesson's minutes, plan and clock for its version; who is away is
// left as it is.
func (s *Store) SaveLesson(ctx context.Context, teacher ref.Teacher, l Lesson) error {
	kept := ""
	if len(l.Kept) > 0 {
		text, err := json.Marshal(l.Kept)
		if err != nil {
			return fmt.Errorf("saving a lesson: %w", err)
		}
		kept = string(text)
	}
	n, err := s.db.Change(ctx, `UPDATE lessons SET minutes = ?, kept = ?, body = ?, at_piece = ?, piece_at = ?, began_at = ?, ended_at = ?, version = version + 1
		WHERE teacher_id = ? AND id = ? AND version = ?`, l.Minutes, kept, l.Body, l.At, orNull(l.PieceAt), orNull(l.Began), orNull(l.Ended), teacher, l.ID, l.Version)
	if err != nil {
		return fmt.Errorf("saving a lesson: %w", err)
	}
	if n == 1 {
		return nil
	}
	now, err := s.Lesson(ctx, teacher, l.ID)
	if err != nil {
		return err
	}
	return &StaleError{"lesson", now.Version}
}

// orNull is a time for the table; the zero time is none.
func orNull(t time.Time) any {
	if t.IsZero() {
		return nil
	}
	return t.UTC()
}

// SetAway notes that a student of the class is away from a lesson, or is there after all.
func (s *Store) SetAway(ctx context.Context, teacher ref.Teacher, lesson ref.Lesson, student ref.Student, away bool) error {
	var found int
	err := s.db.QueryRowContext(ctx, "SELECT 1 FROM lessons x JOIN students t ON t.teacher_id = x.teacher_id AND t.class_id = x.class_id WHERE x.teacher_id = ? AND x.id = ? AND t.id = ?", teacher, lesson, student).Scan(&found)
	if err != nil {
		return notFound(err, "student")
	}
	if away {
		_, err = s.db.Change(ctx, "INSERT IGNORE INTO absences (teacher_id, lesson_id, student_id) VALUES (?, ?, ?)", teacher, lesson, student)
	} else {
		_, err = s.db.Change(ctx, "DELETE FROM absences WHERE teacher_id = ? AND lesson_id = ? AND student_id = ?", teacher, lesson, student)
	}
	if err != nil {
		return fmt.Errorf("register: %w", err)
	}
	return nil
}

// AwayOften counts lessons that are over and from which each student of a class was away.
func (s *Store) AwayOften(ctx context.Context, teacher ref.Teacher, class ref.Class) (map[ref.Student]int, error) {
	type often struct {
		id ref.Student
		n  int
	}
	rows, err := s.db.QueryContext(ctx, `SELECT t.id, COUNT(*) FROM students t JOIN absences a ON a.teacher_id = t.teacher_id AND a.student_id = t.id
		JOIN lessons x ON x.id = a.lesson_id AND x.ended_at IS NOT NULL WHERE t.teacher_id = ? AND t.class_id = ? GROUP BY t.id`, teacher, class)
	list, err := database.Collect(rows, err, func(r *sql.Rows) (o often, err error) { return o, r.Scan(&o.id, &o.n) })
	by := map[ref.Student]int{}
	for _, o := range list {
		by[o.id] = o.n
	}
	return by, err
}
