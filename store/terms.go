package store

import (
	"context"
	"fmt"
	"strconv"
	"strings"
	"time"

	"arplin/store/ref"
)

// Term is the weeks of a class up to a concert.
type Term struct {
	ClassID  ref.Class
	LadderID ref.Ladder
	Begins   time.Time // dates
	Concert  time.Time
	Name     string       // what the concert is called
	At       string       // the hour of the lessons, "17:30"; empty where nobody has said
	Off      []time.Time  // days in whose weeks there is no lesson
	More     []ref.Ladder // further songs of the concert
	Version  int          // 0 for one that is not stored
}

// TermOf finds the term of a class.
func (s *Store) TermOf(ctx context.Context, teacher ref.Teacher, class ref.Class) (t Term, err error) {
	var off, more string
	err = s.db.QueryRowContext(ctx, "SELECT class_id, ladder_id, begins, concert, name, at_hour, off_weeks, more_ladders, version FROM terms WHERE teacher_id = ? AND class_id = ?", teacher, class).
		Scan(&t.ClassID, &t.LadderID, &t.Begins, &t.Concert, &t.Name, &t.At, &off, &more, &t.Version)
	for day := range strings.SplitSeq(off, ",") {
		if on, err := time.Parse(time.DateOnly, day); err == nil {
			t.Off = append(t.Off, on)
		}
	}
	for id := range strings.SplitSeq(more, ",") {
		if n, err := strconv.ParseInt(id, 10, 64); err == nil {
			t.More = append(t.More, ref.Ladder(n))
		}
	}
	return t, notFound(err, "term")
}

// SetTerm stores the term of a class for its version. Class and ladder must be the
// teacher's, and the ladder the class's.
func (s *Store) SetTerm(ctx context.Context, teacher ref.Teacher, t Term) error {
	begins, concert := t.Begins.Format(time.DateOnly), t.Concert.Format(time.DateOnly)
	off, more := t.offText(), t.moreText()
	query, args := `UPDATE terms x JOIN ladders l ON l.teacher_id = x.teacher_id AND l.class_id = x.class_id AND l.id = ?
		SET x.ladder_id = l.id, x.begins = ?, x.concert = ?, x.name = ?, x.at_hour = ?, x.off_weeks = ?, x.more_ladders = ?, x.version = x.version + 1 WHERE x.teacher_id = ? AND x.class_id = ? AND x.version = ?`,
		[]any{t.LadderID, begins, concert, t.Name, t.At, off, more, teacher, t.ClassID, t.Version}
	if t.Version == 0 {
		query, args = `INSERT IGNORE INTO terms (teacher_id, class_id, ladder_id, begins, concert, name, at_hour, off_weeks, more_ladders) SELECT l.teacher_id, l.class_id, l.id, ?, ?, ?, ?, ?, ? FROM ladders l WHERE l.teacher_id = ? AND l.class_id = ? AND l.id = ?`,
			[]any{begins, concert, t.Name, t.At, off, more, teacher, t.ClassID, t.LadderID}
	}
	n, err := s.db.Change(ctx, query, args...)
	if err != nil {
		return fmt.Errorf("storing a term: %w", err)
	}
	if n == 1 {
		return nil
	}
	now, err := s.TermOf(ctx, teacher, t.ClassID)
	if err != nil {
		return err
	}
	if now.Version == t.Version { // the ladder is not there
		return fmt.Errorf("ladder: %w", ErrNotFound)
	}
	return &StaleError{"term", now.Version}
}

func (t Term) offText() string {
	var days []string
	for _, on := range t.Off {
		days = append(days, on.Format(time.DateOnly))
	}
	return strings.Join(days, ",")
}

func (t Term) moreText() string {
	var ids []string
	for _, id := range t.More {
		ids = append(ids, strconv.FormatInt(int64(id), 10))
	}
	return strings.Join(ids, ",")
}
