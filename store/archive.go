package store

import (
	"context"
	"database/sql"
	"fmt"

	"arplin/store/database"
	"arplin/store/ref"
)

// archivable is what can be archived, in the order in which the archive lists it, with its table.
var archivable = []struct {
	kind  ref.Kind
	table string
}{{ref.AClass, "classes"}, {ref.AStudent, "students"}, {ref.ASong, "songs"}, {ref.ALadder, "ladders"}, {ref.APattern, "patterns"}}

// tableOf is where what can be archived is kept; ErrNotFound for what cannot.
func tableOf(kind ref.Kind) (string, error) {
	for _, row := range archivable {
		if row.kind == kind {
			return row.table, nil
		}
	}
	return "", fmt.Errorf("%q: %w", string(kind), ErrNotFound)
}

// Archived is something on the list of what is archived.
type Archived struct {
	Kind    ref.Kind
	ID      int64
	Name    string
	Entries int // of the log that would go with it
}

// Archive takes a thing off its list or puts it back.
func (s *Store) Archive(ctx context.Context, teacher ref.Teacher, kind ref.Kind, id int64, archived bool) error {
	table, err := tableOf(kind)
	if err != nil {
		return err
	}
	var found int64
	if err := s.db.QueryRowContext(ctx, "SELECT id FROM "+table+" WHERE teacher_id = ? AND id = ?", teacher, id).Scan(&found); err != nil {
		return notFound(err, string(kind))
	}
	_, err = s.db.Change(ctx, "UPDATE "+table+" SET archived = ? WHERE teacher_id = ? AND id = ?", archived, teacher, id)
	return err
}

// archivedUnion lists what is archived, of every kind.
const archivedUnion = `SELECT 'class' kind, id, name COLLATE utf8mb4_unicode_ci name FROM classes WHERE teacher_id = ? AND archived
	UNION ALL SELECT 'student', id, name COLLATE utf8mb4_unicode_ci FROM students WHERE teacher_id = ? AND archived
	UNION ALL SELECT 'song', id, title FROM songs WHERE teacher_id = ? AND archived
	UNION ALL SELECT 'ladder', l.id, CONCAT(g.title, ': ', l.pattern_name) FROM ladders l JOIN songs g ON g.id = l.song_id WHERE l.teacher_id = ? AND l.archived
	UNION ALL SELECT 'pattern', id, name FROM patterns WHERE teacher_id = ? AND archived`

// ArchivedOf lists a page of what a teacher has archived, with how much of the log
// hangs on each; more tells whether there is another page.
func (s *Store) ArchivedOf(ctx context.Context, teacher ref.Teacher, f Find) (list []Archived, more bool, err error) {
	where, words := f.where("name")
	limit, bounds := f.limit()
	args := append(append([]any{teacher, teacher, teacher, teacher, teacher, teacher}, words...), bounds...)
	rows, err := s.db.QueryContext(ctx, `SELECT a.kind, a.id, a.name, CASE a.kind
			WHEN 'class' THEN (SELECT COUNT(*) FROM log_entries e JOIN students t ON t.id = e.student_id WHERE t.class_id = a.id)
			WHEN 'student' THEN (SELECT COUNT(*) FROM log_entries e WHERE e.student_id = a.id)
			WHEN 'song' THEN (SELECT COUNT(*) FROM ladders l JOIN log_entries e ON e.teacher_id = l.teacher_id AND e.ladder_id = l.id WHERE l.teacher_id = ? AND l.song_id = a.id)
			WHEN 'ladder' THEN (SELECT COUNT(*) FROM log_entries e WHERE e.ladder_id = a.id) ELSE 0 END
		FROM (SELECT * FROM (`+archivedUnion+`) u WHERE TRUE`+where+` ORDER BY name, kind, id`+limit+`) a`, args...)
	list, err = database.Collect(rows, err, func(r *sql.Rows) (a Archived, err error) { return a, r.Scan(&a.Kind, &a.ID, &a.Name, &a.Entries) })
	list, more = paged(list)
	return list, more, err
}

// ArchivedName is what something archived is called; ErrNotFound for what is not
// archived.
func (s *Store) ArchivedName(ctx context.Context, teacher ref.Teacher, kind ref.Kind, id int64) (name string, err error) {
	err = s.db.QueryRowContext(ctx, "SELECT name FROM ("+archivedUnion+") u WHERE kind = ? AND id = ?", teacher, teacher, teacher, teacher, teacher, string(kind), id).Scan(&name)
	return name, notFound(err, string(kind))
}

// Delete removes something archived for good, with everything that hangs on it:
// the keys of the tables take it along. What is not archived is not found.
func (s *Store) Delete(ctx context.Context, teacher ref.Teacher, kind ref.Kind, id int64) error {
	table, err := tableOf(kind)
	if err != nil {
		return err
	}
	return s.deleted(ctx, string(kind), "DELETE FROM "+table+" WHERE teacher_id = ? AND id = ? AND archived", teacher, id)
}

// ArchiveTeacher closes an account or opens it again.
func (s *Store) ArchiveTeacher(ctx context.Context, teacher ref.Teacher, archived bool) error {
	_, err := s.db.Change(ctx, "UPDATE teachers SET archived = ? WHERE id = ?", archived, teacher)
	return err
}

// DeleteTeacher removes an archived account and everything in it for good.
func (s *Store) DeleteTeacher(ctx context.Context, teacher ref.Teacher) error {
	return s.deleted(ctx, "account", "DELETE FROM teachers WHERE id = ? AND archived", teacher)
}

func (s *Store) deleted(ctx context.Context, what, query string, args ...any) error {
	return s.db.InTx(ctx, func(tx *sql.Tx) error {
		res, err := tx.ExecContext(ctx, query, args...)
		if err != nil {
			return fmt.Errorf("deleting a %s: %w", what, err)
		}
		if n, _ := res.RowsAffected(); n == 0 {
			return fmt.Errorf("%s: %w", what, ErrNotFound)
		}
		return nil
	})
}

// Everything lists all that a teacher has, archived or not.
func (s *Store) Everything(ctx context.Context, teacher ref.Teacher) (list []ref.Thing, err error) {
	for _, k := range archivable {
		rows, err := s.db.QueryContext(ctx, "SELECT id FROM "+k.table+" WHERE teacher_id = ? ORDER BY id", teacher)
		ids, err := database.Collect(rows, err, func(r *sql.Rows) (id int64, err error) { return id, r.Scan(&id) })
		if err != nil {
			return nil, err
		}
		for _, id := range ids {
			list = append(list, ref.Thing{Kind: k.kind, ID: id})
		}
	}
	return list, nil
}
