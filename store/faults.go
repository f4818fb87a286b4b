package store

import (
	"context"
	"database/sql"
	"time"

	"arplin/core/practice/fault"
	"arplin/core/song"
	"arplin/store/database"
	"arplin/store/ref"
)

// Failed is what failed in a bar, and how often.
type Failed struct {
	Bar   song.BarID
	Fault fault.Fault
	Times int
}

// FailedMost lists what a student, or with 0 a whole class, failed on a song since a
// time, the most frequent first.
func (s *Store) FailedMost(ctx context.Context, teacher ref.Teacher, class ref.Class, student ref.Student, song ref.Song, since time.Time) ([]Failed, error) {
	const most = 5
	rows, err := s.db.QueryContext(ctx, `SELECT e.bar_id, e.fault, COUNT(*) FROM students t JOIN log_entries e ON e.teacher_id = t.teacher_id AND e.student_id = t.id
		JOIN ladders l ON l.id = e.ladder_id
		WHERE t.teacher_id = ? AND t.class_id = ? AND (? = 0 OR t.id = ?) AND l.song_id = ? AND e.at >= ? AND e.bar_id <> 0 AND `+standing+`
		GROUP BY e.bar_id, e.fault ORDER BY COUNT(*) DESC, MAX(e.at) DESC LIMIT ?`, teacher, class, student, student, song, since.UTC(), most)
	return database.Collect(rows, err, func(r *sql.Rows) (f Failed, err error) { return f, r.Scan(&f.Bar, &f.Fault, &f.Times) })
}

// tenseSQL are the students t of a class of whom the last that was heard since a time was with a fault.
const tenseSQL = ` FROM students t WHERE t.teacher_id = ? AND t.class_id = ? AND ? =
	(SELECT e.fault FROM log_entries e WHERE e.student_id = t.id AND e.at >= ? AND ` + inOrderBack + ` LIMIT 1)`

// Tense are the students of a class of whom the last that was heard since a time, on
// any song, was with tension.
func (s *Store) Tense(ctx context.Context, teacher ref.Teacher, class ref.Class, since time.Time) (map[ref.Student]bool, error) {
	rows, err := s.db.QueryContext(ctx, "SELECT t.id"+tenseSQL, teacher, class, fault.Tension, since.UTC())
	list, err := database.Collect(rows, err, func(r *sql.Rows) (id ref.Student, err error) { return id, r.Scan(&id) })
	tense := map[ref.Student]bool{}
	for _, id := range list {
		tense[id] = true
	}
	return tense, err
}
