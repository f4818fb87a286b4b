package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"time"

	"arplin/store/database"
	"arplin/store/ref"
)

// OnDesk is a ladder on a class's desk with its song and where everyone is; the archived are
// not there.
type OnDesk struct {
	Ladder Ladder
	Song   Song
	Places Places
}

var laddersNowQuery = "SELECT " + ladderColumns + ", " + songColumns("g") + `,
	(SELECT JSON_OBJECTAGG(p.student_id, p.step_id) FROM placements p JOIN students t ON t.id = p.student_id WHERE p.teacher_id = x.teacher_id AND p.ladder_id = x.id AND t.archived = FALSE)` +
	ofLadders + ` AND x.class_id = ? AND x.progress = ? AND x.archived = FALSE ORDER BY ` + peopleFirst + ` LIMIT ?`

// peopleFirst orders the ladders of a desk: one on which nobody stands yet does not take the place of one
// that is in use; then the newest.
const peopleFirst = `EXISTS (SELECT 1 FROM placements o JOIN students w ON w.id = o.student_id
	WHERE o.teacher_id = x.teacher_id AND o.ladder_id = x.id AND w.archived = FALSE AND w.left_on IS NULL) DESC, x.created_at DESC, x.id DESC`

// LaddersNow are the ladders on a class's desk, those in use first, then the newest: what a lesson is planned from.
func (s *Store) LaddersNow(ctx context.Context, teacher ref.Teacher, class ref.Class) ([]OnDesk, error) {
	rows, err := s.db.QueryContext(ctx, laddersNowQuery, teacher, class, Now, MostNow)
	return database.Collect(rows, err, func(r *sql.Rows) (on OnDesk, err error) {
		var l ladderRow
		var sg songRow
		var places sql.NullString
		if err := r.Scan(append(append(l.to(), sg.to()...), &places)...); err != nil {
			return on, err
		}
		if on.Ladder, err = l.read(); err != nil {
			return on, err
		}
		if on.Song, err = sg.read(); err != nil {
			return on, err
		}
		if places.Valid {
			err = json.Unmarshal([]byte(places.String), &on.Places)
		}
		return on, err
	})
}

// TriesNow lists the most recent tries of each student of a class on the ladders of its
// desk, since a time, oldest first, as TriesOn does for one. The index is named, because
// the database else reads the whole log of each ladder once a student.
func (s *Store) TriesNow(ctx context.Context, teacher ref.Teacher, class ref.Class, since time.Time) ([]Entry, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT e.id, e.student_id, e.ladder_id, e.step_id, e.tempo, e.failed, e.fault, e.bar_id, e.taken, e.at
		FROM (SELECT t.id student, l.id ladder, COALESCE((SELECT r.at FROM log_entries r WHERE r.student_id = t.id AND r.ladder_id = l.id AND r.at >= ? ORDER BY r.at DESC LIMIT 1 OFFSET ?), ?) begins
			FROM ladders l JOIN students t ON t.teacher_id = l.teacher_id AND t.class_id = l.class_id
			WHERE l.teacher_id = ? AND l.class_id = ? AND l.progress = ? AND l.archived = FALSE GROUP BY t.id, l.id) x
		JOIN log_entries e FORCE INDEX (of_student_on_ladder) ON e.student_id = x.student AND e.ladder_id = x.ladder AND e.at >= x.begins
		WHERE e.teacher_id = ? AND`+inOrder, since.UTC(), recentTries-1, since.UTC(), teacher, class, Now, teacher)
	return database.Collect(rows, err, func(r *sql.Rows) (e Entry, err error) {
		return e, r.Scan(&e.ID, &e.StudentID, &e.LadderID, &e.Step.ID, &e.Tempo, &e.Failed, &e.Fault, &e.Bar, &e.Taken, &e.At)
	})
}
