package store

import (
	"cmp"
	"context"
	"database/sql"
	"fmt"
	"time"

	"arplin/core/practice"
	"arplin/store/database"
	"arplin/store/ref"
)

// Student belongs to a class.
type Student struct {
	ID         ref.Student
	ClassID    ref.Class
	Version    int // counts every save
	Name       string
	Instrument string // a fretboard id
	LeftHanded bool
	Fingers    string // "moving" or "fixed"; empty follows the class
	DayMinutes int    // of practice a day; 0 is stored as the usual
	Shapes     string // chords held in a way of their own, as song.ParseOwn reads them
	Capo       int    // the fret where a capo always sits; 0 for none
	Cannot     string // what the hand cannot do yet, as package teach lists it
	Note       string // of the teacher, about playing
	Joined     time.Time
	Left       time.Time // dates; zero where they are not known
	// Minutes a day before the last change of them, and when that was.
	BeforeMinutes int
	MinutesSince  time.Time
}

// studentFields are what a teacher sets of a student.
var studentFields = fields[Student]{
	{"name", func(st *Student) any { return &st.Name }},
	{"instrument", func(st *Student) any { return &st.Instrument }},
	{"left_handed", func(st *Student) any { return &st.LeftHanded }},
	{"fingers", func(st *Student) any { return &st.Fingers }},
	{"day_minutes", func(st *Student) any { return &st.DayMinutes }},
	{"shapes", func(st *Student) any { return &st.Shapes }},
	{"capo", func(st *Student) any { return &st.Capo }},
	{"cannot", func(st *Student) any { return &st.Cannot }},
	{"note", func(st *Student) any { return &st.Note }},
}

// AddStudent stores a new student; a name twice in a class is ErrTaken.
func (s *Store) AddStudent(ctx context.Context, teacher ref.Teacher, st Student) (ref.Student, error) {
	var id int64
	err := s.db.InTx(ctx, func(tx *sql.Tx) (err error) {
		id, err = addStudent(ctx, tx, teacher, st, "")
		return err
	})
	if err != nil {
		return 0, fmt.Errorf("adding a student: %w", err)
	}
	return ref.Student(id), nil
}

// addStudent stores a student of a class that is the teacher's.
func addStudent(ctx context.Context, tx *sql.Tx, teacher ref.Teacher, st Student, uid ref.UID) (int64, error) {
	st.DayMinutes = cmp.Or(st.DayMinutes, practice.UsualDay)
	id, err := insert(ctx, tx, "INSERT INTO students (teacher_id, class_id, joined, uid, "+studentFields.columns()+") SELECT ?, id, ?, ?, "+studentFields.marks()+" FROM classes WHERE id = ? AND teacher_id = ?",
		append(append([]any{teacher, dateOrNull(st.Joined), named(uid)}, studentFields.of(&st)...), st.ClassID, teacher)...)
	if err == nil && id == 0 {
		err = ErrNotFound
	}
	return id, err
}

// AddStudents stores several at once, or none: where one name is taken, it is ErrTaken.
func (s *Store) AddStudents(ctx context.Context, teacher ref.Teacher, list []Student) error {
	err := s.db.InTx(ctx, func(tx *sql.Tx) error {
		for _, st := range list {
			if _, err := addStudent(ctx, tx, teacher, st, ""); err != nil {
				return err
			}
		}
		return nil
	})
	if err != nil {
		return fmt.Errorf("adding students: %w", err)
	}
	return nil
}

// dateOrNull is a date for the table; the zero time is none.
func dateOrNull(t time.Time) any {
	if t.IsZero() {
		return nil
	}
	return t.Format(time.DateOnly)
}

// ChangeStudent stores what is known of a student for the given version; class, note and
// dates stay. Minutes of before are kept with the day of the change.
func (s *Store) ChangeStudent(ctx context.Context, teacher ref.Teacher, st Student) error {
	st.DayMinutes = cmp.Or(st.DayMinutes, practice.UsualDay)
	set := studentFields.but("note")
	n, err := s.db.Change(ctx, "UPDATE students SET before_minutes = IF(day_minutes = ?, before_minutes, day_minutes), minutes_since = IF(day_minutes = ?, minutes_since, ?), "+set.set()+
		", version = version + 1 WHERE teacher_id = ? AND id = ? AND version = ?",
		append(append([]any{st.DayMinutes, st.DayMinutes, time.Now().UTC()}, set.of(&st)...), teacher, st.ID, st.Version)...)
	if database.IsDuplicate(err) {
		err = ErrTaken
	}
	if err != nil {
		return fmt.Errorf("changing a student: %w", err)
	}
	return s.changedStudent(ctx, teacher, st, n)
}

// SetNote stores the teacher's note on a student for the given version.
func (s *Store) SetNote(ctx context.Context, teacher ref.Teacher, st Student) error {
	n, err := s.db.Change(ctx, "UPDATE students SET note = ?, version = version + 1 WHERE teacher_id = ? AND id = ? AND version = ?", st.Note, teacher, st.ID, st.Version)
	if err != nil {
		return fmt.Errorf("noting: %w", err)
	}
	return s.changedStudent(ctx, teacher, st, n)
}

// changedStudent tells why no row was changed.
func (s *Store) changedStudent(ctx context.Context, teacher ref.Teacher, st Student, rows int64) error {
	if rows == 1 {
		return nil
	}
	now, err := s.Student(ctx, teacher, st.ID)
	if err != nil {
		return err
	}
	return &StaleError{"student", now.Version}
}

// SetLeft stores the day on which a student has left the class; the zero time is one who
// is in it.
func (s *Store) SetLeft(ctx context.Context, teacher ref.Teacher, id ref.Student, on time.Time) error {
	if _, err := s.Student(ctx, teacher, id); err != nil {
		return err
	}
	if _, err := s.db.Change(ctx, "UPDATE students SET left_on = ?, version = version + 1 WHERE teacher_id = ? AND id = ?", dateOrNull(on), teacher, id); err != nil {
		return fmt.Errorf("leaving a class: %w", err)
	}
	return nil
}

// MoveStudent puts a student into another class of the teacher's. The log, the decisions
// and the drills go along; the places on the old class's ladders are taken off. A name
// that the other class has already is ErrTaken.
func (s *Store) MoveStudent(ctx context.Context, teacher ref.Teacher, id ref.Student, to ref.Class, on time.Time) error {
	err := s.db.InTx(ctx, func(tx *sql.Tx) error {
		var class ref.Class
		if err := tx.QueryRowContext(ctx, "SELECT id FROM classes WHERE teacher_id = ? AND id = ? AND archived = FALSE", teacher, to).Scan(&class); err != nil {
			return notFound(err, "class")
		}
		res, err := tx.ExecContext(ctx, "UPDATE students SET class_id = ?, joined = ?, left_on = NULL, version = version + 1 WHERE teacher_id = ? AND id = ?", to, dateOrNull(on), teacher, id)
		if database.IsDuplicate(err) {
			return ErrTaken
		}
		if err != nil {
			return err
		}
		if n, _ := res.RowsAffected(); n == 0 {
			return fmt.Errorf("student: %w", ErrNotFound)
		}
		_, err = tx.ExecContext(ctx, "DELETE p FROM placements p JOIN ladders l ON l.id = p.ladder_id WHERE p.teacher_id = ? AND p.student_id = ? AND l.class_id <> ?", teacher, id, to)
		return err
	})
	if err != nil {
		return fmt.Errorf("moving a student: %w", err)
	}
	return nil
}

// Student finds one of the teacher's students, archived or not.
func (s *Store) Student(ctx context.Context, teacher ref.Teacher, id ref.Student) (Student, error) {
	st, err := scanStudent(s.db.QueryRowContext(ctx, studentQuery+" AND id = ?", teacher, id).Scan)
	return st, notFound(err, "student")
}

var studentQuery = "SELECT id, class_id, joined, left_on, before_minutes, minutes_since, version, " + studentFields.columns() + " FROM students WHERE teacher_id = ?"

func scanStudent(scan func(...any) error) (st Student, err error) {
	var joined, left, since sql.NullTime
	err = scan(append([]any{&st.ID, &st.ClassID, &joined, &left, &st.BeforeMinutes, &since, &st.Version}, studentFields.of(&st)...)...)
	st.Joined, st.Left, st.MinutesSince = joined.Time, left.Time, since.Time
	return st, err
}

// Students lists who is in a class; those who have left and the archived ones are not.
func (s *Store) Students(ctx context.Context, teacher ref.Teacher, class ref.Class) ([]Student, error) {
	rows, err := s.db.QueryContext(ctx, studentQuery+" AND class_id = ? AND archived = FALSE AND left_on IS NULL ORDER BY id", teacher, class)
	return database.Collect(rows, err, func(r *sql.Rows) (Student, error) { return scanStudent(r.Scan) })
}

// AllStudents lists a class, the archived ones and those who have left, too.
func (s *Store) AllStudents(ctx context.Context, teacher ref.Teacher, class ref.Class) ([]Student, error) {
	rows, err := s.db.QueryContext(ctx, studentQuery+" AND class_id = ? ORDER BY id", teacher, class)
	return database.Collect(rows, err, func(r *sql.Rows) (Student, error) { return scanStudent(r.Scan) })
}

// FoundStudent is somebody who was looked for, with the name of the class.
type FoundStudent struct {
	ID    ref.Student
	Name  string
	Class string
}

// FindStudents lists those of all classes whose name has the words; who has left or is archived is not
// looked for.
func (s *Store) FindStudents(ctx context.Context, teacher ref.Teacher, find Find) ([]FoundStudent, error) {
	where, args := find.where("s.name")
	limit, bounds := find.limit()
	rows, err := s.db.QueryContext(ctx, "SELECT s.id, s.name, c.name FROM students s JOIN classes c ON c.teacher_id = s.teacher_id AND c.id = s.class_id AND c.archived = FALSE WHERE s.teacher_id = ? AND s.archived = FALSE AND s.left_on IS NULL"+where+" ORDER BY s.name, s.id"+limit,
		append(append([]any{teacher}, args...), bounds...)...)
	return database.Collect(rows, err, func(r *sql.Rows) (f FoundStudent, err error) { return f, r.Scan(&f.ID, &f.Name, &f.Class) })
}
