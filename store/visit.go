package store

import (
	"context"
	"database/sql"
	"fmt"

	"arplin/store/database"
	"arplin/store/ref"
)

// Visit is what every page begins with: a teacher, the classes in the order in which they were made,
// and who is in one of them.
type Visit struct {
	Teacher  Teacher
	Classes  []Class   // the archived ones left out
	At       ref.Class // the class whose students they are: the wanted one, or the first; 0 for none
	Students []Student
}

var visitQuery = `SELECT t.id, t.email, t.name, t.password_hash, t.archived, t.epoch, t.runs,
	COALESCE(c.id, 0), COALESCE(c.version, 0), COALESCE(c.weights, ''), COALESCE(c.weights_version, 0), COALESCE(c.series, ''), ` + classFields.joined("c") + `,
	COALESCE(s.id, 0), s.joined, COALESCE(s.before_minutes, 0), s.minutes_since, COALESCE(s.version, 0), ` + studentFields.joined("s") + `
	FROM teachers t LEFT JOIN classes c ON c.teacher_id = t.id AND c.archived = FALSE
	LEFT JOIN students s ON s.teacher_id = t.id AND s.class_id = c.id AND s.archived = FALSE AND s.left_on IS NULL AND c.id = COALESCE(
		(SELECT w.id FROM classes w WHERE w.teacher_id = ? AND w.id = ? AND w.archived = FALSE), (SELECT MIN(w.id) FROM classes w WHERE w.teacher_id = ? AND w.archived = FALSE))
	WHERE t.id = ? ORDER BY c.id, s.id`

// Visit reads it at once.
func (s *Store) Visit(ctx context.Context, id ref.Teacher, wanted ref.Class) (v Visit, err error) {
	rows, err := s.db.QueryContext(ctx, visitQuery, id, wanted, id, id)
	_, err = database.Collect(rows, err, func(r *sql.Rows) (struct{}, error) {
		var c Class
		var st Student
		var joined, since sql.NullTime
		to := append([]any{&v.Teacher.ID, &v.Teacher.Email, &v.Teacher.Name, &v.Teacher.PasswordHash, &v.Teacher.Archived, &v.Teacher.Epoch, &v.Teacher.Runs, &c.ID, &c.Version, &c.Weights, &c.WeightsNo, &c.Series}, classFields.of(&c)...)
		to = append(append(to, &st.ID, &joined, &st.BeforeMinutes, &since, &st.Version), studentFields.of(&st)...)
		if err := r.Scan(to...); err != nil {
			return struct{}{}, err
		}
		if n := len(v.Classes); c.ID != 0 && (n == 0 || v.Classes[n-1].ID != c.ID) {
			v.Classes = append(v.Classes, c)
		}
		if st.ID != 0 {
			st.ClassID, st.Joined, st.MinutesSince = c.ID, joined.Time, since.Time
			v.Students = append(v.Students, st)
		}
		return struct{}{}, nil
	})
	switch {
	case err != nil:
		return v, fmt.Errorf("reading a visit: %w", err)
	case v.Teacher.ID == 0:
		return v, fmt.Errorf("teacher: %w", ErrNotFound)
	}
	for _, c := range v.Classes {
		if v.At == 0 || c.ID == wanted {
			v.At = c.ID
		}
	}
	return v, nil
}
