package store

import (
	"context"
	"database/sql"
	"time"

	"arplin/core/ladder"
)

// LaddersNow are the whole ladders on a class's desk, the newest first: what a lesson is
// planned from.
func (s *Store) LaddersNow(ctx context.Context, teacher TeacherID, class ClassID) ([]Ladder, error) {
	rows, err := s.db.QueryContext(ctx, ladderQuery+` AND x.class_id = ? AND x.progress = ? AND x.archived = FALSE ORDER BY x.created_at DESC, x.id DESC LIMIT ?`, teacher, class, Now, MostNow)
	return collect(rows, err, func(r *sql.Rows) (Ladder, error) { return scanLadder(r.Scan) })
}

// PlacementsNow are the steps on which the students of a class stand, on each ladder of
// its desk.
func (s *Store) PlacementsNow(ctx context.Context, teacher TeacherID, class ClassID) (map[LadderID]Places, error) {
	type placed struct {
		on      LadderID
		student StudentID
		step    ladder.StepID
	}
	rows, err := s.db.QueryContext(ctx, `SELECT p.ladder_id, p.student_id, p.step_id FROM ladders x JOIN placements p ON p.teacher_id = x.teacher_id AND p.ladder_id = x.id
		JOIN students t ON t.id = p.student_id WHERE x.teacher_id = ? AND x.class_id = ? AND x.progress = ? AND x.archived = FALSE AND t.archived = FALSE`, teacher, class, Now)
	list, err := collect(rows, err, func(r *sql.Rows) (p placed, err error) { return p, r.Scan(&p.on, &p.student, &p.step) })
	by := map[LadderID]Places{}
	for _, p := range list {
		if by[p.on] == nil {
			by[p.on] = Places{}
		}
		by[p.on][p.student] = p.step
	}
	return by, err
}

// TriesNow lists the most recent tries of each student of a class on the ladders of its
// desk, since a time, oldest first, as TriesOn does for one. The index is named, because
// the database else reads the whole log of each ladder once a student.
func (s *Store) TriesNow(ctx context.Context, teacher TeacherID, class ClassID, since time.Time) ([]Entry, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT e.id, e.student_id, e.ladder_id, e.step_id, e.tempo, e.failed, e.fault, e.bar_id, e.at
		FROM (SELECT t.id student, l.id ladder, COALESCE((SELECT r.at FROM log_entries r WHERE r.student_id = t.id AND r.ladder_id = l.id AND r.at >= ? ORDER BY r.at DESC LIMIT 1 OFFSET ?), ?) begins
			FROM ladders l JOIN students t ON t.teacher_id = l.teacher_id AND t.class_id = l.class_id
			WHERE l.teacher_id = ? AND l.class_id = ? AND l.progress = ? AND l.archived = FALSE GROUP BY t.id, l.id) x
		JOIN log_entries e FORCE INDEX (of_student_on_ladder) ON e.student_id = x.student AND e.ladder_id = x.ladder AND e.at >= x.begins
		WHERE e.teacher_id = ? AND`+inOrder, since.UTC(), RecentTries-1, since.UTC(), teacher, class, Now, teacher)
	return collect(rows, err, func(r *sql.Rows) (e Entry, err error) {
		return e, r.Scan(&e.ID, &e.StudentID, &e.LadderID, &e.Step.ID, &e.Tempo, &e.Failed, &e.Fault, &e.Bar, &e.At)
	})
}
