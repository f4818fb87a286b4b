package store

import (
	"context"
	"crypto/sha256"
	"database/sql"
	"encoding/hex"
	"fmt"
	"time"

	"arplin/core/ladder"
	"arplin/core/practice"
	"arplin/core/practice/fault"
	"arplin/core/song"
	"arplin/store/database"
	"arplin/store/ref"
)

// Entry is a try in the log: a tempo, clean or not. The step is kept as it was when it
// was played.
type Entry struct {
	ID        ref.Entry
	UID       ref.UID // its name for good, where the whole log is read
	StudentID ref.Student
	LadderID  ref.Ladder
	Step      ladder.Step
	Tempo     int
	Failed    bool // not clean
	Errors    practice.Errors
	Minutes   int // of practice, 0 where nothing was said
	Fault     fault.Fault
	Bar       song.BarID // where it failed; 0 where that was not said
	Word      string
	Taken     bool // a take that Listen judged, logged as it said
	At        time.Time
}

// AddEntry appends a try. The client's id makes an entry that is sent
// twice one entry, whose id comes back either way; another student, ladder
// or tempo it is ErrReused.
func (s *Store) AddEntry(ctx context.Context, teacher ref.Teacher, e Entry, clientID string) (id ref.Entry, err error) {
	err = s.db.InTx(ctx, func(tx *sql.Tx) error {
		id, err = addEntry(ctx, tx, teacher, e, clientID, "")
		return err
	})
	if err != nil {
		return 0, fmt.Errorf("logging a tempo: %w", err)
	}
	return id, nil
}

// Sent is an entry with the client's id of it.
type Sent struct {
	Entry
	ClientID string
}

// AddEntries appends several tries, all of them or none, and returns their ids.
func (s *Store) AddEntries(ctx context.Context, teacher ref.Teacher, list []Sent) (ids []ref.Entry, err error) {
	err = s.db.InTx(ctx, func(tx *sql.Tx) error {
		ids = nil
		for _, e := range list {
			id, err := addEntry(ctx, tx, teacher, e.Entry, e.ClientID, "")
			if err != nil {
				return err
			}
			ids = append(ids, id)
		}
		return nil
	})
	if err != nil {
		return nil, fmt.Errorf("logging tempos: %w", err)
	}
	return ids, nil
}

func addEntry(ctx context.Context, tx *sql.Tx, teacher ref.Teacher, e Entry, clientID string, uid ref.UID) (id ref.Entry, err error) {
	if err := ofClass(ctx, tx, teacher, e.LadderID, []ref.Student{e.StudentID}); err != nil {
		return 0, err
	}
	played, err := keepPlayed(ctx, tx, teacher, e.LadderID, e.Step)
	if err != nil {
		return 0, err
	}
	_, err = tx.ExecContext(ctx, `INSERT INTO log_entries (teacher_id, student_id, ladder_id, step_id, played_id, tempo, failed, errors, minutes, fault, bar_id, word, taken, client_id, at, uid) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
		teacher, e.StudentID, e.LadderID, e.Step.ID, played, e.Tempo, e.Failed, e.Errors, e.Minutes, e.Fault, e.Bar, e.Word, e.Taken, clientID, e.At.UTC(), named(uid))
	if err != nil && !database.IsDuplicate(err) {
		return 0, err
	}
	var kept Entry
	if err := tx.QueryRowContext(ctx, "SELECT id, student_id, ladder_id, tempo, failed, fault FROM log_entries WHERE teacher_id = ? AND client_id = ?", teacher, clientID).
		Scan(&id, &kept.StudentID, &kept.LadderID, &kept.Tempo, &kept.Failed, &kept.Fault); err != nil {
		return 0, err
	}
	if kept.StudentID != e.StudentID || kept.LadderID != e.LadderID || kept.Tempo != e.Tempo || kept.Failed != e.Failed || kept.Fault != e.Fault {
		return 0, ErrReused
	}
	return id, nil
}

// Withdraw takes an entry back by appending another. Taking back twice is once.
func (s *Store) Withdraw(ctx context.Context, teacher ref.Teacher, entry ref.Entry, at time.Time) error {
	n, err := s.db.Change(ctx, `INSERT INTO log_entries (teacher_id, student_id, ladder_id, step_id, played_id, tempo, withdraws, client_id, at)
		SELECT teacher_id, student_id, ladder_id, step_id, played_id, tempo, id, CONCAT('withdraws-', id), ? FROM log_entries
		WHERE id = ? AND teacher_id = ? AND withdraws IS NULL`, at.UTC(), entry, teacher)
	if database.IsDuplicate(err) {
		return nil
	}
	if err != nil {
		return fmt.Errorf("taking an entry back: %w", err)
	}
	if n == 0 {
		return fmt.Errorf("entry: %w", ErrNotFound)
	}
	return nil
}

// standing are the entries that were not taken back; inOrder, oldest first, and inOrderBack
// the newest.
const (
	standing    = ` e.withdraws IS NULL AND NOT EXISTS (SELECT 1 FROM log_entries w WHERE w.withdraws = e.id)`
	inOrder     = standing + ` ORDER BY e.at, e.id`
	inOrderBack = standing + ` ORDER BY e.at DESC, e.id DESC`
)

// recentTries is how many tries of a student TriesOn reads.
const recentTries = 24

// TriesOn lists the most recent tries of each student of a ladder's class on it, since a
// time, oldest first; what a step was like then is not read. However long the log is,
// this is short: where the recent ones begin is looked up for each student first.
func (s *Store) TriesOn(ctx context.Context, teacher ref.Teacher, id ref.Ladder, since time.Time) ([]Entry, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT e.id, e.student_id, e.ladder_id, e.step_id, e.tempo, e.failed, e.fault, e.bar_id, e.taken, e.at
		FROM (SELECT t.id, COALESCE((SELECT r.at FROM log_entries r WHERE r.student_id = t.id AND r.ladder_id = l.id AND r.at >= ? ORDER BY r.at DESC LIMIT 1 OFFSET ?), ?) begins
			FROM ladders l JOIN students t ON t.teacher_id = l.teacher_id AND t.class_id = l.class_id WHERE l.teacher_id = ? AND l.id = ? GROUP BY t.id) x
		JOIN log_entries e ON e.student_id = x.id AND e.ladder_id = ? AND e.at >= x.begins
		WHERE e.teacher_id = ? AND`+inOrder, since.UTC(), recentTries-1, since.UTC(), teacher, id, id, teacher)
	return database.Collect(rows, err, func(r *sql.Rows) (e Entry, err error) {
		return e, r.Scan(&e.ID, &e.StudentID, &e.LadderID, &e.Step.ID, &e.Tempo, &e.Failed, &e.Fault, &e.Bar, &e.Taken, &e.At)
	})
}

// Entries lists what stands in the log for a class since a time, oldest first,
// each with its step as it was played.
func (s *Store) Entries(ctx context.Context, teacher ref.Teacher, class ref.Class, since time.Time) ([]Entry, error) {
	steps := map[int64]ladder.Step{} // read once
	rows, err := s.db.QueryContext(ctx, `SELECT e.id, e.student_id, e.ladder_id, e.played_id, p.body, e.tempo, e.failed, e.at
		FROM students t JOIN log_entries e ON e.teacher_id = t.teacher_id AND e.student_id = t.id JOIN played_steps p ON p.id = e.played_id
		WHERE t.teacher_id = ? AND t.class_id = ? AND e.at >= ? AND`+inOrder, teacher, class, since.UTC())
	return database.Collect(rows, err, func(r *sql.Rows) (e Entry, err error) {
		var played int64
		var body sql.RawBytes
		if err := r.Scan(&e.ID, &e.StudentID, &e.LadderID, &played, &body, &e.Tempo, &e.Failed, &e.At); err != nil {
			return e, err
		}
		step, known := steps[played]
		if !known {
			l, err := ladder.Decode(body)
			if err != nil {
				return e, fmt.Errorf("entry %d: %w", e.ID, err)
			}
			step = l.Steps[0]
			steps[played] = step
		}
		e.Step = step
		return e, nil
	})
}

// OnSong is a student on a song.
type OnSong struct {
	Student ref.Student
	Song    ref.Song
}

// LastCleans are the last clean tempos of a student, or with 0 of a whole class, since a
// time, by student and song.
func (s *Store) LastCleans(ctx context.Context, teacher ref.Teacher, class ref.Class, student ref.Student, since time.Time) (map[OnSong]int, error) {
	type last struct {
		on    OnSong
		tempo int
	}
	rows, err := s.db.QueryContext(ctx, `SELECT student_id, song_id, tempo FROM (
			SELECT e.student_id, l.song_id, e.tempo, ROW_NUMBER() OVER (PARTITION BY e.student_id, l.song_id ORDER BY e.at DESC, e.id DESC) recent
			FROM students t JOIN log_entries e ON e.teacher_id = t.teacher_id AND e.student_id = t.id JOIN ladders l ON l.id = e.ladder_id
			WHERE t.teacher_id = ? AND t.class_id = ? AND (? = 0 OR t.id = ?) AND e.at >= ? AND e.failed = FALSE AND `+standing+`) x WHERE recent = 1`, teacher, class, student, student, since.UTC())
	list, err := database.Collect(rows, err, func(r *sql.Rows) (l last, err error) { return l, r.Scan(&l.on.Student, &l.on.Song, &l.tempo) })
	by := map[OnSong]int{}
	for _, l := range list {
		by[l.on] = l.tempo
	}
	return by, err
}

// keepPlayed stores a step as it is now, once, and returns its row.
func keepPlayed(ctx context.Context, tx *sql.Tx, teacher ref.Teacher, id ref.Ladder, s ladder.Step) (int64, error) {
	s.Level, s.Pinned, s.Remark = 0, false, "" // none of it is a matter of what was played
	body, err := ladder.Ladder{Steps: []ladder.Step{s}}.Encode()
	if err != nil {
		return 0, err
	}
	sum := sha256.Sum256(body)
	return insert(ctx, tx, `INSERT INTO played_steps (teacher_id, ladder_id, step_id, digest, body) VALUES (?, ?, ?, ?, ?)
		ON DUPLICATE KEY UPDATE id = LAST_INSERT_ID(id)`, teacher, id, s.ID, hex.EncodeToString(sum[:]), body)
}
