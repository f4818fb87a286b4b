package store

import (
	"context"
	"database/sql"
	"fmt"
	"time"

	"arplin/core/practice"
	"arplin/core/practice/fault"
	"arplin/store/database"
	"arplin/store/ref"
)

// HeardNow is what was heard of a class and decided about it: what a lesson goes on from.
type HeardNow struct {
	// Tries are the most recent of each student on each ladder of the desk, oldest first, as TriesOn has
	// them for one.
	Tries []Entry
	// Tense are the students of whom the last that was heard, on any song, was with tension.
	Tense map[ref.Student]bool
	// Stays are the decisions to stay after which nothing more was heard, by student, ladder and step,
	// oldest first.
	Stays []Decision
}

// The kinds of its rows.
const (
	heardTry   = "try"
	heardTense = "tense"
	heardStay  = "stay"
)

// heardNowQuery has tries, tension and stays as rows of one answer: a page asks the database once. The index
// is named, because the database else reads the whole log of each ladder once a student.
const heardNowQuery = `SELECT '` + heardTry + `' kind, e.id, e.student_id, e.ladder_id, e.step_id, e.tempo, e.failed, e.fault, e.bar_id, e.taken, e.at
	FROM (SELECT t.id student, l.id ladder, COALESCE((SELECT r.at FROM log_entries r WHERE r.student_id = t.id AND r.ladder_id = l.id AND r.at >= ? ORDER BY r.at DESC LIMIT 1 OFFSET ?), ?) begins
		FROM ladders l JOIN students t ON t.teacher_id = l.teacher_id AND t.class_id = l.class_id
		WHERE l.teacher_id = ? AND l.class_id = ? AND l.progress = ? AND l.archived = FALSE GROUP BY t.id, l.id) x
	JOIN log_entries e FORCE INDEX (of_student_on_ladder) ON e.student_id = x.student AND e.ladder_id = x.ladder AND e.at >= x.begins
	WHERE e.teacher_id = ? AND` + standing + `
	UNION ALL SELECT '` + heardTense + `', 0, t.id, 0, 0, 0, FALSE, '', 0, FALSE, NULL` + tenseSQL + `
	UNION ALL SELECT '` + heardStay + `', d.id, d.student_id, d.ladder_id, d.step_id, 0, FALSE, '', 0, FALSE, d.at ` + staysSQL + `
	ORDER BY at, id`

// HeardNow reads what was heard of a class since a time, and the decisions to stay since another.
func (s *Store) HeardNow(ctx context.Context, teacher ref.Teacher, class ref.Class, since, stayed time.Time) (now HeardNow, err error) {
	since, stayed = since.UTC(), stayed.UTC()
	rows, err := s.db.QueryContext(ctx, heardNowQuery,
		since, recentTries-1, since, teacher, class, Now, teacher,
		teacher, class, fault.Tension, since,
		teacher, class, stayed, practice.Stay)
	type row struct {
		kind string
		Entry
		at sql.NullTime // tension has none
	}
	list, err := database.Collect(rows, err, func(r *sql.Rows) (h row, err error) {
		e := &h.Entry
		err = r.Scan(&h.kind, &e.ID, &e.StudentID, &e.LadderID, &e.Step.ID, &e.Tempo, &e.Failed, &e.Fault, &e.Bar, &e.Taken, &h.at)
		e.At = h.at.Time
		return h, err
	})
	if err != nil {
		return now, fmt.Errorf("reading the tries of a class: %w", err)
	}
	now.Tense = map[ref.Student]bool{}
	for _, h := range list {
		switch h.kind {
		case heardTry:
			now.Tries = append(now.Tries, h.Entry)
		case heardTense:
			now.Tense[h.StudentID] = true
		case heardStay:
			now.Stays = append(now.Stays, Decision{ID: int64(h.ID), StudentID: h.StudentID, LadderID: h.LadderID, Step: h.Step.ID, Kind: practice.Stay, At: h.At})
		}
	}
	return now, nil
}
