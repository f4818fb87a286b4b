package store

import (
	"context"
	"database/sql"
	"encoding/base64"
	"fmt"
	"time"

	"arplin/core/ladder"
	"arplin/store/database"
	"arplin/store/ref"
)

// Take is a recording of a student that was kept, with what Listen said of it.
type Take struct {
	ID        ref.Take
	UID       ref.UID
	StudentID ref.Student
	LadderID  ref.Ladder // 0 for none
	Step      ladder.StepID
	Tempo     int
	Seconds   int
	Says      string
	Bytes     int  // of its sound
	Home      bool // sent from the student's phone
	At        time.Time
}

// What a teacher keeps at most: as many takes, and bytes of them together, so that they go into one file.
const (
	MostTakes     = 40
	MostTakeBytes = 7 << 20
	mostHomeTakes = 3   // of a student's phone: the oldest goes for the next
	MostTakeWords = 600 // letters of what was said
)

// KeepTake keeps a take with its sound, a FLAC; one that was kept before stays as it is. Where there is no room it is ErrFull.
func (s *Store) KeepTake(ctx context.Context, teacher ref.Teacher, t Take, sound []byte) error {
	err := s.db.InTx(ctx, func(tx *sql.Tx) error { return keepTake(ctx, tx, teacher, t, sound) })
	if err != nil {
		return fmt.Errorf("keeping a take: %w", err)
	}
	return nil
}

func keepTake(ctx context.Context, tx *sql.Tx, teacher ref.Teacher, t Take, sound []byte) error {
	if t.LadderID != 0 {
		if err := ofClass(ctx, tx, teacher, t.LadderID, []ref.Student{t.StudentID}); err != nil {
			return err
		}
	}
	var here int
	if err := tx.QueryRowContext(ctx, "SELECT id FROM teachers WHERE id = ? FOR UPDATE", teacher).Scan(&here); err != nil { // two at once are counted one after the other
		return notFound(err, "teacher")
	}
	var takes, bytes, known, home int
	if err := tx.QueryRowContext(ctx, `SELECT COUNT(*), COALESCE(SUM(bytes), 0), COALESCE(SUM(uid = ?), 0), COALESCE(SUM(home AND student_id = ?), 0)
		FROM takes WHERE teacher_id = ?`, t.UID, t.StudentID, teacher).Scan(&takes, &bytes, &known, &home); err != nil {
		return err
	}
	if known > 0 {
		return nil
	}
	if t.Home && home >= mostHomeTakes { // a phone takes no room from the others
		var oldest ref.Take
		var size int
		if err := tx.QueryRowContext(ctx, "SELECT id, bytes FROM takes WHERE teacher_id = ? AND student_id = ? AND home ORDER BY at, id LIMIT 1", teacher, t.StudentID).Scan(&oldest, &size); err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, "DELETE FROM takes WHERE id = ?", oldest); err != nil {
			return err
		}
		takes, bytes = takes-1, bytes-size
	}
	if takes >= MostTakes || bytes+len(sound) > MostTakeBytes {
		return ErrFull
	}
	on := sql.NullInt64{Int64: int64(t.LadderID), Valid: t.LadderID != 0}
	id, err := insert(ctx, tx, `INSERT INTO takes (teacher_id, student_id, ladder_id, step_id, tempo, seconds, says, bytes, sound, uid, at, home)
		SELECT teacher_id, id, ?, ?, ?, ?, ?, ?, ?, ?, ?, ? FROM students WHERE teacher_id = ? AND id = ?`,
		on, t.Step, t.Tempo, t.Seconds, t.Says, len(sound), base64.StdEncoding.EncodeToString(sound), named(t.UID), t.At.UTC(), t.Home, teacher, t.StudentID)
	if err == nil && id == 0 {
		return fmt.Errorf("student: %w", ErrNotFound)
	}
	return err
}

// Takes lists what was kept of a class's students, or with a student only of that one, the newest first.
func (s *Store) Takes(ctx context.Context, teacher ref.Teacher, class ref.Class, student ref.Student) ([]Take, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT k.id, k.uid, k.student_id, COALESCE(k.ladder_id, 0), k.step_id, k.tempo, k.seconds, k.says, k.bytes, k.home, k.at
		FROM students t JOIN takes k ON k.teacher_id = t.teacher_id AND k.student_id = t.id
		WHERE t.teacher_id = ? AND t.class_id = ? AND (? = 0 OR t.id = ?) ORDER BY k.at DESC, k.id DESC`, teacher, class, student, student)
	return database.Collect(rows, err, func(r *sql.Rows) (t Take, err error) {
		return t, r.Scan(&t.ID, &t.UID, &t.StudentID, &t.LadderID, &t.Step, &t.Tempo, &t.Seconds, &t.Says, &t.Bytes, &t.Home, &t.At)
	})
}

// LadderTitles are the titles of the songs of all ladders, archived ones, too.
func (s *Store) LadderTitles(ctx context.Context, teacher ref.Teacher) (map[ref.Ladder]string, error) {
	type titled struct {
		id    ref.Ladder
		title string
	}
	rows, err := s.db.QueryContext(ctx, "SELECT l.id, g.title FROM ladders l JOIN songs g ON g.teacher_id = l.teacher_id AND g.id = l.song_id WHERE l.teacher_id = ?", teacher)
	list, err := database.Collect(rows, err, func(r *sql.Rows) (t titled, err error) { return t, r.Scan(&t.id, &t.title) })
	titles := make(map[ref.Ladder]string, len(list))
	for _, t := range list {
		titles[t.id] = t.title
	}
	return titles, err
}

// TakeNames are the names of all that were kept.
func (s *Store) TakeNames(ctx context.Context, teacher ref.Teacher) (map[ref.UID]bool, error) {
	rows, err := s.db.QueryContext(ctx, "SELECT uid FROM takes WHERE teacher_id = ?", teacher)
	list, err := database.Collect(rows, err, func(r *sql.Rows) (uid ref.UID, err error) { return uid, r.Scan(&uid) })
	names := make(map[ref.UID]bool, len(list))
	for _, uid := range list {
		names[uid] = true
	}
	return names, err
}

// TakeRoom is how many bytes can still be kept.
func (s *Store) TakeRoom(ctx context.Context, teacher ref.Teacher) (room int, err error) {
	err = s.db.QueryRowContext(ctx, "SELECT ? - COALESCE(SUM(bytes), 0) FROM takes WHERE teacher_id = ?", MostTakeBytes, teacher).Scan(&room)
	return room, err
}

// TakeSound is a take's FLAC.
func (s *Store) TakeSound(ctx context.Context, teacher ref.Teacher, id ref.Take) ([]byte, error) {
	var text string
	if err := s.db.QueryRowContext(ctx, "SELECT sound FROM takes WHERE teacher_id = ? AND id = ?", teacher, id).Scan(&text); err != nil {
		return nil, notFound(err, "take")
	}
	return base64.StdEncoding.DecodeString(text)
}

// DeleteTake deletes a take for good, and says whose it was.
func (s *Store) DeleteTake(ctx context.Context, teacher ref.Teacher, id ref.Take) (student ref.Student, err error) {
	if err := s.db.QueryRowContext(ctx, "SELECT student_id FROM takes WHERE teacher_id = ? AND id = ?", teacher, id).Scan(&student); err != nil {
		return 0, notFound(err, "take")
	}
	_, err = s.db.Change(ctx, "DELETE FROM takes WHERE teacher_id = ? AND id = ?", teacher, id)
	return student, err
}

// DeleteHomeTake takes back what a student's phone sent; what was kept otherwise stays, and so does everyone else's.
func (s *Store) DeleteHomeTake(ctx context.Context, teacher ref.Teacher, student ref.Student, uid ref.UID) error {
	_, err := s.db.Change(ctx, "DELETE FROM takes WHERE teacher_id = ? AND student_id = ? AND uid = ? AND home", teacher, student, uid)
	return err
}
