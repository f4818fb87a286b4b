package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"time"

	"arplin/core/ladder"
	"arplin/core/practice"
	"arplin/store/database"
	"arplin/store/ref"
)

// HomeEntry is something that a student played at home and wrote down.
type HomeEntry struct {
	StudentID ref.Student
	LadderID  ref.Ladder    // 0 where it is about no step
	Step      ladder.StepID // of the ladder, as it was when it was played
	DrillID   ref.Drill     // 0 for none
	Card      string        // what kind of card it stood on
	Went      practice.Went
	Tempo     int // 0 where none was written
	Minutes   int
	Even      int // milliseconds of the tap test; 0 where there was none
	Word      practice.Word
	ClientID  string    // of the phone; sent twice is stored once
	At        time.Time // when it was played
	Came      time.Time // when it arrived
}

// AddHome stores entries of one student, and returns those that were left: what they are about is not, or
// not any more, of the student's class. What was stored before stays as it is.
func (s *Store) AddHome(ctx context.Context, teacher ref.Teacher, student ref.Student, list []HomeEntry) (left []string, err error) {
	err = s.db.InTx(ctx, func(tx *sql.Tx) error {
		left, err = addHome(ctx, tx, teacher, student, list)
		return err
	})
	if err != nil {
		return nil, fmt.Errorf("keeping what was played at home: %w", err)
	}
	return left, nil
}

func addHome(ctx context.Context, tx *sql.Tx, teacher ref.Teacher, student ref.Student, list []HomeEntry) (left []string, err error) {
	theirs := map[ref.Ladder]bool{0: true}
	for _, e := range list {
		known, asked := theirs[e.LadderID]
		if !asked {
			err := ofClass(ctx, tx, teacher, e.LadderID, []ref.Student{student})
			if err != nil && !errors.Is(err, ErrNotFound) {
				return nil, err
			}
			known = err == nil
			theirs[e.LadderID] = known
		}
		if !known {
			left = append(left, e.ClientID)
			continue
		}
		on := sql.NullInt64{Int64: int64(e.LadderID), Valid: e.LadderID != 0}
		_, err := tx.ExecContext(ctx, `INSERT INTO home_entries (teacher_id, student_id, ladder_id, step_id, drill_id, card, went, tempo, minutes, even_ms, word, client_id, at, came)
			SELECT t.teacher_id, t.id, ?, ?, (SELECT d.id FROM week_drills d WHERE d.teacher_id = t.teacher_id AND d.student_id = t.id AND d.id = ?), ?, ?, ?, ?, ?, ?, ?, ?, ?
			FROM students t WHERE t.teacher_id = ? AND t.id = ? ON DUPLICATE KEY UPDATE client_id = VALUES(client_id)`,
			on, e.Step, e.DrillID, e.Card, e.Went, e.Tempo, e.Minutes, e.Even, e.Word, e.ClientID, e.At.UTC(), e.Came.UTC(), teacher, student)
		if err != nil {
			return nil, err
		}
	}
	return left, nil
}

// CameSince counts what has arrived from a student since a time.
func (s *Store) CameSince(ctx context.Context, teacher ref.Teacher, student ref.Student, since time.Time) (n int, err error) {
	err = s.db.QueryRowContext(ctx, "SELECT COUNT(*) FROM home_entries WHERE teacher_id = ? AND student_id = ? AND came >= ?", teacher, student, since.UTC()).Scan(&n)
	return n, err
}

// HomeNames are the phones' ids of all that came from home.
func (s *Store) HomeNames(ctx context.Context, teacher ref.Teacher) (map[string]bool, error) {
	rows, err := s.db.QueryContext(ctx, "SELECT client_id FROM home_entries WHERE teacher_id = ?", teacher)
	list, err := database.Collect(rows, err, func(r *sql.Rows) (id string, err error) { return id, r.Scan(&id) })
	names := make(map[string]bool, len(list))
	for _, id := range list {
		names[id] = true
	}
	return names, err
}

var homeQuery = `SELECT h.student_id, COALESCE(h.ladder_id, 0), h.step_id, COALESCE(h.drill_id, 0), h.card, h.went, h.tempo, h.minutes, h.even_ms, h.word, h.client_id, h.at, h.came, h.id, FALSE
	FROM students t JOIN home_entries h ON h.teacher_id = t.teacher_id AND h.student_id = t.id
	WHERE t.teacher_id = ? AND t.class_id = ? AND (? = 0 OR t.id = ?) AND h.at >= ?`

// cameHome is a row of what came: an entry, or only that there was a take.
type cameHome struct {
	HomeEntry
	take bool
}

func scanHome(r *sql.Rows) (e cameHome, err error) {
	var id int64
	return e, r.Scan(&e.StudentID, &e.LadderID, &e.Step, &e.DrillID, &e.Card, &e.Went, &e.Tempo, &e.Minutes, &e.Even, &e.Word, &e.ClientID, &e.At, &e.Came, &id, &e.take)
}

// Home lists what the students of a class, or with a student only that one, played at home since a time,
// in the order in which it was played.
func (s *Store) Home(ctx context.Context, teacher ref.Teacher, class ref.Class, student ref.Student, since time.Time) (list []HomeEntry, err error) {
	rows, err := s.db.QueryContext(ctx, homeQuery+" ORDER BY h.at, h.id", teacher, class, student, student, since.UTC())
	all, err := database.Collect(rows, err, scanHome)
	for _, e := range all {
		list = append(list, e.HomeEntry)
	}
	return list, err
}

// CameHome is Home with, by student, the takes that came from phones since then: one question for both.
func (s *Store) CameHome(ctx context.Context, teacher ref.Teacher, class ref.Class, student ref.Student, since time.Time) (list []HomeEntry, takes map[ref.Student]int, err error) {
	rows, err := s.db.QueryContext(ctx, homeQuery+` UNION ALL SELECT k.student_id, 0, 0, 0, '', '', 0, 0, 0, '', '', k.at, k.at, k.id, TRUE
		FROM students t JOIN takes k ON k.teacher_id = t.teacher_id AND k.student_id = t.id
		WHERE t.teacher_id = ? AND t.class_id = ? AND (? = 0 OR t.id = ?) AND k.at >= ? AND k.home ORDER BY at, id`,
		teacher, class, student, student, since.UTC(), teacher, class, student, student, since.UTC())
	all, err := database.Collect(rows, err, scanHome)
	takes = map[ref.Student]int{}
	for _, e := range all {
		if e.take {
			takes[e.StudentID]++
		} else {
			list = append(list, e.HomeEntry)
		}
	}
	return list, takes, err
}
