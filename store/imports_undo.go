package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"strings"
	"time"

	"arplin/core/ladder"
	"arplin/core/song"
)

// InUseError refuses to take an import back: what it brought was used or changed since then.
type InUseError struct{ What []string }

func (e *InUseError) Error() string { return strings.Join(e.What, ", ") }

// ErrUndone: an import was taken back already.
var ErrUndone = errors.New("this import was taken back already")

// came is what an import brought.
type came struct {
	kind    Kind
	row     int64
	changed bool
	version int
	was     string
}

// UndoImport takes all that an import brought out again, and puts back what it replaced, or does nothing:
// what was changed or used since then is an InUseError.
func (s *Store) UndoImport(ctx context.Context, teacher TeacherID, id ImportID, at time.Time) error {
	err := s.inTx(ctx, func(tx *sql.Tx) error {
		var undone sql.NullTime
		if err := tx.QueryRowContext(ctx, "SELECT undone_at FROM imports WHERE teacher_id = ? AND id = ? FOR UPDATE", teacher, id).Scan(&undone); err != nil {
			return notFound(err, "import")
		}
		if undone.Valid {
			return ErrUndone
		}
		rows, err := tx.QueryContext(ctx, "SELECT kind, row_id, changed, version, was FROM imported WHERE teacher_id = ? AND import_id = ?", teacher, id)
		list, err := collect(rows, err, func(r *sql.Rows) (c came, err error) {
			return c, r.Scan(&c.kind, &c.row, &c.changed, &c.version, &c.was)
		})
		if err != nil {
			return err
		}
		if err := unused(ctx, tx, teacher, id, list); err != nil {
			return err
		}
		for _, c := range list {
			if c.changed {
				if err := putBack(ctx, tx, teacher, c); err != nil {
					return err
				}
			}
		}
		for _, gone := range []struct {
			kind  Kind
			table string
		}{{AnEntry, "log_entries"}, {ALadder, "ladders"}, {AStudent, "students"}, {AClass, "classes"}, {ASong, "songs"}, {APattern, "patterns"}} {
			if _, err := tx.ExecContext(ctx, "DELETE x FROM "+gone.table+" x JOIN imported m ON m.teacher_id = x.teacher_id AND m.row_id = x.id WHERE m.teacher_id = ? AND m.import_id = ? AND m.kind = ? AND m.changed = FALSE", teacher, id, string(gone.kind)); err != nil {
				return err
			}
		}
		_, err = tx.ExecContext(ctx, "UPDATE imports SET undone_at = ? WHERE teacher_id = ? AND id = ?", at.UTC(), teacher, id)
		return err
	})
	if err != nil {
		return fmt.Errorf("taking an import back: %w", err)
	}
	return nil
}

// unused reports what hangs on an import by now that it did not bring, and what was changed.
func unused(ctx context.Context, tx *sql.Tx, teacher TeacherID, id ImportID, list []came) error {
	var e InUseError
	count := func(says, query string, args ...any) error {
		var n int
		err := tx.QueryRowContext(ctx, query, args...).Scan(&n)
		if err == nil && n > 0 {
			e.What = append(e.What, fmt.Sprintf(says, n))
		}
		return err
	}
	const brought = "SELECT row_id FROM imported WHERE teacher_id = ? AND import_id = ? AND changed = FALSE AND kind = "
	for _, q := range []struct{ says, query string }{
		{"tries in the log since then: %d", "SELECT COUNT(*) FROM log_entries e WHERE e.teacher_id = ? AND (e.student_id IN (" + brought + "'student') OR e.ladder_id IN (" + brought + "'ladder')) AND e.id NOT IN (" + brought + "'entry')"},
		{"ladders made since then: %d", "SELECT COUNT(*) FROM ladders l WHERE l.teacher_id = ? AND (l.song_id IN (" + brought + "'song') OR l.class_id IN (" + brought + "'class')) AND l.id NOT IN (" + brought + "'ladder')"},
	} {
		if err := count(q.says, q.query, teacher, teacher, id, teacher, id, teacher, id); err != nil {
			return err
		}
	}
	if err := count("students who joined since then: %d", "SELECT COUNT(*) FROM students t WHERE t.teacher_id = ? AND t.class_id IN ("+brought+"'class') AND t.id NOT IN ("+brought+"'student')", teacher, teacher, id, teacher, id); err != nil {
		return err
	}
	changed := map[Kind]int{}
	for _, c := range list {
		table, ok := map[Kind]string{ASong: "songs", ALadder: "ladders", APattern: "patterns"}[c.kind]
		if !ok {
			continue
		}
		var version int
		err := tx.QueryRowContext(ctx, "SELECT version FROM "+table+" WHERE teacher_id = ? AND id = ? FOR UPDATE", teacher, c.row).Scan(&version)
		if err != nil && !errors.Is(err, sql.ErrNoRows) {
			return err
		}
		if err == nil && version != c.version {
			changed[c.kind]++
		}
	}
	for _, k := range Kinds {
		if n := changed[k.Kind]; n > 0 {
			e.What = append(e.What, fmt.Sprintf("%s changed since then: %d", k.Plural, n))
		}
	}
	if len(e.What) > 0 {
		return &e
	}
	return nil
}

// putBack makes what was there before the newest version again.
func putBack(ctx context.Context, tx *sql.Tx, teacher TeacherID, c came) error {
	switch c.kind {
	case APattern:
		name, notation, _ := strings.Cut(c.was, "\n")
		_, err := tx.ExecContext(ctx, "UPDATE patterns SET name = ?, notation = ?, version = version + 1 WHERE teacher_id = ? AND id = ?", name, notation, teacher, c.row)
		return err
	case ASong:
		h, err := songDocument.hold(ctx, tx, teacher, c.row, c.version)
		if err != nil {
			return err
		}
		was, err := song.Decode([]byte(c.was))
		if err != nil {
			return err
		}
		n, err := h.append(ctx, tx, Imported(), []byte(c.was))
		if err != nil {
			return err
		}
		return showSong(ctx, tx, SongID(c.row), n, was, []byte(c.was))
	case ALadder:
		h, err := ladderDocument.hold(ctx, tx, teacher, c.row, c.version)
		if err != nil {
			return err
		}
		was, err := ladder.Decode([]byte(c.was))
		if err != nil {
			return err
		}
		return h.appendMoved(ctx, tx, LadderID(c.row), was, Imported(), []byte(c.was))
	}
	return nil
}

// ImportLine is an import in a list.
type ImportLine struct {
	ID     ImportID
	Name   string
	Says   string
	At     time.Time
	Undone bool
}

// Imports lists the last imports, the newest first.
func (s *Store) Imports(ctx context.Context, teacher TeacherID, most int) ([]ImportLine, error) {
	rows, err := s.db.QueryContext(ctx, "SELECT id, name, says, at, undone_at IS NOT NULL FROM imports WHERE teacher_id = ? ORDER BY id DESC LIMIT ?", teacher, most)
	return collect(rows, err, func(r *sql.Rows) (l ImportLine, err error) {
		return l, r.Scan(&l.ID, &l.Name, &l.Says, &l.At, &l.Undone)
	})
}

// WholeLog is the log of a class with all that was said of each try, oldest first.
func (s *Store) WholeLog(ctx context.Context, teacher TeacherID, class ClassID) ([]Entry, error) {
	steps := map[int64]ladder.Step{} // read once
	rows, err := s.db.QueryContext(ctx, `SELECT e.id, e.student_id, e.ladder_id, e.played_id, p.body, e.tempo, e.failed, e.errors, e.minutes, e.fault, e.bar_id, e.word, e.at
		FROM students t JOIN log_entries e ON e.teacher_id = t.teacher_id AND e.student_id = t.id JOIN played_steps p ON p.id = e.played_id
		WHERE t.teacher_id = ? AND t.class_id = ? AND`+inOrder, teacher, class)
	return collect(rows, err, func(r *sql.Rows) (e Entry, err error) {
		var played int64
		var body sql.RawBytes
		if err := r.Scan(&e.ID, &e.StudentID, &e.LadderID, &played, &body, &e.Tempo, &e.Failed, &e.Errors, &e.Minutes, &e.Fault, &e.Bar, &e.Word, &e.At); err != nil {
			return e, err
		}
		if _, known := steps[played]; !known {
			l, err := ladder.Decode(body)
			if err != nil {
				return e, fmt.Errorf("entry %d: %w", e.ID, err)
			}
			steps[played] = l.Steps[0]
		}
		e.Step = steps[played]
		return e, nil
	})
}

// EntryIDs are the ids of all that was ever logged.
func (s *Store) EntryIDs(ctx context.Context, teacher TeacherID) (map[EntryID]bool, error) {
	rows, err := s.db.QueryContext(ctx, "SELECT id FROM log_entries WHERE teacher_id = ?", teacher)
	list, err := collect(rows, err, func(r *sql.Rows) (id EntryID, err error) { return id, r.Scan(&id) })
	ids := make(map[EntryID]bool, len(list))
	for _, id := range list {
		ids[id] = true
	}
	return ids, err
}

// LadderIDs are the ladders of a class that are not archived, in the order in which they were made.
func (s *Store) LadderIDs(ctx context.Context, teacher TeacherID, class ClassID) ([]LadderID, error) {
	rows, err := s.db.QueryContext(ctx, "SELECT id FROM ladders WHERE teacher_id = ? AND class_id = ? AND archived = FALSE ORDER BY id", teacher, class)
	return collect(rows, err, func(r *sql.Rows) (id LadderID, err error) { return id, r.Scan(&id) })
}
