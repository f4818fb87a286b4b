package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"arplin/core/ladder"
	"arplin/core/say"
	"arplin/core/song"
	"arplin/store/database"
	"arplin/store/ref"
)

// InUseError refuses to take an import back: what it brought was used or changed since then.
type InUseError struct{ What []string }

func (e *InUseError) Error() string { return strings.Join(e.What, ", ") }

// ErrUndone: an import was taken back already.
var ErrUndone = errors.New("this import was already undone")

// came is what an import brought.
type came struct {
	kind    ref.Kind
	row     int64
	changed bool
	version int
	was     string
}

// UndoImport takes all that an import brought out again, and puts back what it replaced, or does nothing:
// what was changed or used since then is an InUseError.
func (s *Store) UndoImport(ctx context.Context, teacher ref.Teacher, id ref.Import, at time.Time) error {
	err := s.db.InTx(ctx, func(tx *sql.Tx) error {
		var undone sql.NullTime
		if err := tx.QueryRowContext(ctx, "SELECT undone_at FROM imports WHERE teacher_id = ? AND id = ? FOR UPDATE", teacher, id).Scan(&undone); err != nil {
			return notFound(err, "import")
		}
		if undone.Valid {
			return ErrUndone
		}
		rows, err := tx.QueryContext(ctx, "SELECT kind, row_id, changed, version, was FROM imported WHERE teacher_id = ? AND import_id = ?", teacher, id)
		list, err := database.Collect(rows, err, func(r *sql.Rows) (c came, err error) {
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
			kind  ref.Kind
			table string
		}{{ref.AnEntry, "log_entries"}, {ref.ALadder, "ladders"}, {ref.AStudent, "students"}, {ref.AClass, "classes"}, {ref.ASong, "songs"}, {ref.APattern, "patterns"}} {
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

// unused reports what was used or changed since an import: what it stored and what refers to it
// is not as it was, or what it replaced has a newer version.
func unused(ctx context.Context, tx *sql.Tx, teacher ref.Teacher, id ref.Import, list []came) error {
	var kept string
	if err := tx.QueryRowContext(ctx, "SELECT footprint FROM imports WHERE teacher_id = ? AND id = ?", teacher, id).Scan(&kept); err != nil {
		return err
	}
	var was footprint
	if json.Unmarshal([]byte(kept), &was) != nil {
		return &InUseError{[]string{"an earlier version of Arplin imported it"}}
	}
	now, err := footprintOf(ctx, tx, teacher, id)
	if err != nil {
		return err
	}
	e := InUseError{now.since(was)}
	for _, c := range list {
		if !c.changed {
			continue
		}
		for _, n := range namedTables {
			if n.kind != c.kind {
				continue
			}
			var version int
			err := tx.QueryRowContext(ctx, "SELECT version FROM "+n.table+" WHERE teacher_id = ? AND id = ? FOR UPDATE", teacher, c.row).Scan(&version)
			if err != nil && !errors.Is(err, sql.ErrNoRows) {
				return err
			}
			if version != c.version && !slices.Contains(e.What, n.says) {
				e.What = append(e.What, n.says)
			}
		}
	}
	if len(e.What) > 0 {
		return &e
	}
	return nil
}

// putBack makes what was there before the newest version again.
func putBack(ctx context.Context, tx *sql.Tx, teacher ref.Teacher, c came) error {
	switch c.kind {
	case ref.APattern:
		name, notation, _ := strings.Cut(c.was, "\n")
		_, err := tx.ExecContext(ctx, "UPDATE patterns SET name = ?, notation = ?, version = version + 1 WHERE teacher_id = ? AND id = ?", name, notation, teacher, c.row)
		return err
	case ref.ASong:
		h, err := songDocument.hold(ctx, tx, teacher, c.row, c.version)
		if err != nil {
			return err
		}
		was, err := song.Decode([]byte(c.was))
		if err != nil {
			return err
		}
		n, err := h.append(ctx, tx, say.Of(imported), []byte(c.was))
		if err != nil {
			return err
		}
		return showSong(ctx, tx, ref.Song(c.row), n, was, []byte(c.was))
	case ref.ALadder:
		h, err := ladderDocument.hold(ctx, tx, teacher, c.row, c.version)
		if err != nil {
			return err
		}
		was, err := ladder.Decode([]byte(c.was))
		if err != nil {
			return err
		}
		return h.appendMoved(ctx, tx, ref.Ladder(c.row), was, say.Of(imported), []byte(c.was))
	}
	return nil
}

// ImportLine is an import in a list.
type ImportLine struct {
	ID     ref.Import
	Name   string
	Says   say.Line
	At     time.Time
	Undone bool
}

// Imports lists the last imports, the newest first.
func (s *Store) Imports(ctx context.Context, teacher ref.Teacher, most int) ([]ImportLine, error) {
	rows, err := s.db.QueryContext(ctx, "SELECT id, name, says, at, undone_at IS NOT NULL FROM imports WHERE teacher_id = ? ORDER BY id DESC LIMIT ?", teacher, most)
	return database.Collect(rows, err, func(r *sql.Rows) (l ImportLine, err error) {
		var says string
		err = r.Scan(&l.ID, &l.Name, &says, &l.At, &l.Undone)
		l.Says = say.Parse(says)
		return l, err
	})
}

// WholeLog is the log of a class with all that was said of each try, oldest first.
func (s *Store) WholeLog(ctx context.Context, teacher ref.Teacher, class ref.Class) ([]Entry, error) {
	steps := map[int64]ladder.Step{} // read once
	rows, err := s.db.QueryContext(ctx, `SELECT e.id, e.uid, e.student_id, e.ladder_id, e.played_id, p.body, e.tempo, e.failed, e.errors, e.minutes, e.fault, e.bar_id, e.word, e.taken, e.at
		FROM students t JOIN log_entries e ON e.teacher_id = t.teacher_id AND e.student_id = t.id JOIN played_steps p ON p.id = e.played_id
		WHERE t.teacher_id = ? AND t.class_id = ? AND`+inOrder, teacher, class)
	return database.Collect(rows, err, func(r *sql.Rows) (e Entry, err error) {
		var played int64
		var body sql.RawBytes
		if err := r.Scan(&e.ID, &e.UID, &e.StudentID, &e.LadderID, &played, &body, &e.Tempo, &e.Failed, &e.Errors, &e.Minutes, &e.Fault, &e.Bar, &e.Word, &e.Taken, &e.At); err != nil {
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

// EntryNames are the names of all that was ever logged.
func (s *Store) EntryNames(ctx context.Context, teacher ref.Teacher) (map[ref.UID]bool, error) {
	rows, err := s.db.QueryContext(ctx, "SELECT uid FROM log_entries WHERE teacher_id = ?", teacher)
	list, err := database.Collect(rows, err, func(r *sql.Rows) (uid ref.UID, err error) { return uid, r.Scan(&uid) })
	names := make(map[ref.UID]bool, len(list))
	for _, uid := range list {
		names[uid] = true
	}
	return names, err
}

// LadderIDs are the ladders of a class that are not archived, in the order in which they were made.
func (s *Store) LadderIDs(ctx context.Context, teacher ref.Teacher, class ref.Class) ([]ref.Ladder, error) {
	rows, err := s.db.QueryContext(ctx, "SELECT id FROM ladders WHERE teacher_id = ? AND class_id = ? AND archived = FALSE ORDER BY id", teacher, class)
	return database.Collect(rows, err, func(r *sql.Rows) (id ref.Ladder, err error) { return id, r.Scan(&id) })
}
