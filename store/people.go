package store

import (
	"context"
	"database/sql"
	"time"

	"arplin/core/ladder"
	"arplin/store/database"
	"arplin/store/ref"
)

// mostEntries is how much of a student's log is read at once.
const mostEntries = 400

// EntriesOf lists what stands in the log for one student since a time, the newest first;
// what a step was like then is not read.
func (s *Store) EntriesOf(ctx context.Context, teacher ref.Teacher, student ref.Student, since time.Time) ([]Entry, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT e.id, e.student_id, e.ladder_id, e.step_id, e.tempo, e.failed, e.errors, e.minutes, e.fault, e.bar_id, e.word, e.taken, e.at FROM log_entries e
		WHERE e.teacher_id = ? AND e.student_id = ? AND e.at >= ? AND `+standing+` ORDER BY e.at DESC, e.id DESC LIMIT ?`, teacher, student, since.UTC(), mostEntries)
	return database.Collect(rows, err, scanHeard)
}

// LogOf is the whole log of a class since a time, oldest first; what a step was like then
// is not read.
func (s *Store) LogOf(ctx context.Context, teacher ref.Teacher, class ref.Class, since time.Time) ([]Entry, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT e.id, e.student_id, e.ladder_id, e.step_id, e.tempo, e.failed, e.errors, e.minutes, e.fault, e.bar_id, e.word, e.taken, e.at
		FROM students t JOIN log_entries e ON e.teacher_id = t.teacher_id AND e.student_id = t.id
		WHERE t.teacher_id = ? AND t.class_id = ? AND e.at >= ? AND `+inOrder, teacher, class, since.UTC())
	return database.Collect(rows, err, scanHeard)
}

func scanHeard(r *sql.Rows) (e Entry, err error) {
	return e, r.Scan(&e.ID, &e.StudentID, &e.LadderID, &e.Step.ID, &e.Tempo, &e.Failed, &e.Errors, &e.Minutes, &e.Fault, &e.Bar, &e.Word, &e.Taken, &e.At)
}

// Stands are the steps on which a student stands, by ladder, the archived ones left out.
func (s *Store) Stands(ctx context.Context, teacher ref.Teacher, student ref.Student) (map[ref.Ladder]ladder.StepID, error) {
	type stand struct {
		on ref.Ladder
		at ladder.StepID
	}
	rows, err := s.db.QueryContext(ctx, `SELECT p.ladder_id, p.step_id FROM placements p JOIN ladders l ON l.id = p.ladder_id
		WHERE p.teacher_id = ? AND p.student_id = ? AND l.archived = FALSE`, teacher, student)
	list, err := database.Collect(rows, err, func(r *sql.Rows) (st stand, err error) { return st, r.Scan(&st.on, &st.at) })
	stands := map[ref.Ladder]ladder.StepID{}
	for _, st := range list {
		stands[st.on] = st.at
	}
	return stands, err
}
