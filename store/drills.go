package store

import (
	"context"
	"database/sql"
	"fmt"
	"time"

	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/store/database"
	"arplin/store/ref"
)

// WeekDrill is a drill that a student has on the week, and on the weeks after it until it
// is done or taken off.
type WeekDrill struct {
	ID          ref.Drill
	StudentID   ref.Student
	SongID      ref.Song
	SongTitle   string
	Week        time.Time  // on which it was put there: any time of it, and once stored its Monday, as a date
	Kind        string     // "bar" or "change"
	Bar         song.BarID // 0 where it was gone before bars had ids
	Pattern     pattern.Pattern
	PatternName string
	Minutes     int
	Over        string // the progression under the figure, "C | F | G7"; empty where it is to be found
	Withdrawn   bool
	Done        bool
}

// AddDrill puts a drill on a student's week. Student and song must be the
// teacher's.
func (s *Store) AddDrill(ctx context.Context, teacher ref.Teacher, d WeekDrill) (ref.Drill, error) {
	id, err := s.insert(ctx, `INSERT INTO week_drills (teacher_id, student_id, song_id, week, kind, bar_id, pattern, pattern_name, minutes, over_chords, created_at)
		SELECT ?, t.id, g.id, ?, ?, ?, ?, ?, ?, ?, ? FROM students t, songs g WHERE t.id = ? AND t.teacher_id = ? AND g.id = ? AND g.teacher_id = ?`,
		teacher, monday(d.Week).Format(time.DateOnly), d.Kind, d.Bar, d.Pattern.String(), d.PatternName, d.Minutes, d.Over, time.Now().UTC(), d.StudentID, teacher, d.SongID, teacher)
	if err == nil && id == 0 {
		err = ErrNotFound
	}
	if err != nil {
		return 0, fmt.Errorf("putting a drill on a week: %w", err)
	}
	return ref.Drill(id), nil
}

// monday is the first day of a time's week in that time's place.
func monday(t time.Time) time.Time { return t.AddDate(0, 0, -(int(t.Weekday())+6)%7) }

// WithdrawDrill takes a drill off a week or puts it back.
func (s *Store) WithdrawDrill(ctx context.Context, teacher ref.Teacher, id ref.Drill, withdrawn bool) error {
	if _, err := s.Drill(ctx, teacher, id); err != nil {
		return err
	}
	_, err := s.db.Change(ctx, "UPDATE week_drills SET withdrawn = ? WHERE teacher_id = ? AND id = ?", withdrawn, teacher, id)
	return err
}

const drillQuery = `SELECT d.id, d.student_id, d.song_id, g.title, d.week, d.kind, d.bar_id, d.pattern, d.pattern_name, d.minutes, d.over_chords, d.withdrawn, d.done_at IS NOT NULL
	FROM week_drills d JOIN songs g ON g.id = d.song_id JOIN students t ON t.id = d.student_id WHERE d.teacher_id = ?`

func scanDrill(scan func(...any) error) (d WeekDrill, err error) {
	var notation string
	if err := scan(&d.ID, &d.StudentID, &d.SongID, &d.SongTitle, &d.Week, &d.Kind, &d.Bar, &notation, &d.PatternName, &d.Minutes, &d.Over, &d.Withdrawn, &d.Done); err != nil {
		return d, err
	}
	if d.Pattern, err = pattern.Decode(notation); err != nil {
		return d, fmt.Errorf("drill %d: %w", d.ID, err)
	}
	return d, nil
}

// Drill finds one of the teacher's drills, withdrawn or not.
func (s *Store) Drill(ctx context.Context, teacher ref.Teacher, id ref.Drill) (WeekDrill, error) {
	d, err := scanDrill(s.db.QueryRowContext(ctx, drillQuery+" AND d.id = ?", teacher, id).Scan)
	return d, notFound(err, "drill")
}

// FinishDrill notes that a drill is done, or that it is not after all.
func (s *Store) FinishDrill(ctx context.Context, teacher ref.Teacher, id ref.Drill, at time.Time) error {
	if _, err := s.Drill(ctx, teacher, id); err != nil {
		return err
	}
	_, err := s.db.Change(ctx, "UPDATE week_drills SET done_at = ? WHERE teacher_id = ? AND id = ?", orNull(at), teacher, id)
	return err
}

// Drills lists the drills that the students of a class have, in the order in which they
// were given: those that are neither done nor taken off.
func (s *Store) Drills(ctx context.Context, teacher ref.Teacher, class ref.Class) ([]WeekDrill, error) {
	rows, err := s.db.QueryContext(ctx, drillQuery+" AND t.class_id = ? AND d.withdrawn = FALSE AND d.done_at IS NULL AND t.archived = FALSE AND t.left_on IS NULL ORDER BY d.id", teacher, class)
	return database.Collect(rows, err, func(r *sql.Rows) (WeekDrill, error) { return scanDrill(r.Scan) })
}

// DrillTry is what was heard on a drill.
type DrillTry struct {
	Tempo  int
	Failed bool // not clean
	At     time.Time
}

// AddDrillTry appends a try. The client's id makes one that is sent twice one.
func (s *Store) AddDrillTry(ctx context.Context, teacher ref.Teacher, id ref.Drill, t DrillTry, clientID string) error {
	if _, err := s.Drill(ctx, teacher, id); err != nil {
		return err
	}
	_, err := s.db.Change(ctx, "INSERT INTO drill_tries (teacher_id, drill_id, tempo, failed, client_id, at) VALUES (?, ?, ?, ?, ?, ?)", teacher, id, t.Tempo, t.Failed, clientID, t.At.UTC())
	if err != nil && !database.IsDuplicate(err) {
		return fmt.Errorf("logging a drill: %w", err)
	}
	return nil
}

// DrillTries lists what was heard on a drill, the newest first.
func (s *Store) DrillTries(ctx context.Context, teacher ref.Teacher, id ref.Drill) ([]DrillTry, error) {
	rows, err := s.db.QueryContext(ctx, "SELECT tempo, failed, at FROM drill_tries WHERE teacher_id = ? AND drill_id = ? ORDER BY at DESC, id DESC LIMIT 50", teacher, id)
	return database.Collect(rows, err, func(r *sql.Rows) (t DrillTry, err error) { return t, r.Scan(&t.Tempo, &t.Failed, &t.At) })
}
