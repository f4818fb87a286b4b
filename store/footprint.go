package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"arplin/store/database"
	"arplin/store/ref"
)

// named is the name of a row for good: the one that it came with, or a fresh one.
func named(given ref.UID) ref.UID {
	if given != "" {
		return given
	}
	return ref.UID(uuid.NewString())
}

// namedTables are where things with such names are stored.
var namedTables = []struct {
	kind  ref.Kind
	table string
	says  string // of one that was changed since an import
}{
	{ref.ASong, "songs", "songs"}, {ref.APattern, "patterns", "patterns"}, {ref.AClass, "classes", "the settings of a class"}, {ref.AStudent, "students", "students"},
	{ref.ALadder, "ladders", "ladders"}, {ref.AnEntry, "log_entries", "log entries"},
}

// reference is a column by which rows of one table refer to another.
type reference struct{ table, column, to string }

// references are those to things that can be imported, as the schema itself has them: a new
// table cannot be forgotten.
func references(ctx context.Context, tx *sql.Tx) ([]reference, error) {
	rows, err := tx.QueryContext(ctx, `SELECT DISTINCT table_name, column_name, referenced_table_name FROM information_schema.key_column_usage
		WHERE table_schema = DATABASE() AND referenced_table_schema = DATABASE() AND referenced_column_name = 'id' ORDER BY 1, 2, 3`)
	list, err := database.Collect(rows, err, func(r *sql.Rows) (f reference, err error) { return f, r.Scan(&f.table, &f.column, &f.to) })
	return slices.DeleteFunc(list, func(f reference) bool { return kindOf(f.to) == "" }), err
}

// kindOf is the kind of thing that a table holds; empty for other tables.
func kindOf(table string) ref.Kind {
	for _, n := range namedTables {
		if n.table == table {
			return n.kind
		}
	}
	return ""
}

// What hangs on things that can be imported, in words, by table.
var hanging = map[string]string{
	"students": "students who joined", "ladders": "ladders", "log_entries": "log entries", "placements": "places on steps", "played_steps": "steps that were played",
	"decisions": "decisions", "week_drills": "drills", "lessons": "lessons", "absences": "attendance", "terms": "the term", "arrangements": "who plays what",
	"song_revisions": "songs", "ladder_revisions": "ladders", "revision_places": "places on steps", "samples": "the sample class", "home_entries": "practice at home", "phone_links": "links to phones", "takes": "takes",
}

// footprint is what an import has stored and what refers to it, as a count and a sum for each
// table: what differs later was used or changed since then.
type footprint map[string]string

func footprintOf(ctx context.Context, tx *sql.Tx, teacher ref.Teacher, id ref.Import) (footprint, error) {
	f := footprint{}
	sum := func(key, table, column string, kind ref.Kind) error {
		columns, err := database.Columns(ctx, tx, table)
		if err != nil {
			return err
		}
		for i, c := range columns {
			columns[i] = "IFNULL(x.`" + c + "`, 0x00)"
		}
		var rows int64
		var total string
		err = tx.QueryRowContext(ctx, "SELECT COUNT(*), COALESCE(SUM(CRC32(CONCAT_WS(0x1f, "+strings.Join(columns, ", ")+"))), 0) FROM "+table+" x JOIN imported m ON m.row_id = x.`"+column+
			"` WHERE m.teacher_id = ? AND m.import_id = ? AND m.kind = ? AND m.changed = FALSE", teacher, id, string(kind)).Scan(&rows, &total)
		if rows > 0 {
			f[key] = fmt.Sprintf("%d:%s", rows, total)
		}
		return err
	}
	for _, n := range namedTables {
		if err := sum(n.table, n.table, "id", n.kind); err != nil {
			return nil, fmt.Errorf("what came into %s: %w", n.table, err)
		}
	}
	refs, err := references(ctx, tx)
	if err != nil {
		return nil, err
	}
	for _, r := range refs {
		if err := sum(r.table+"."+r.column, r.table, r.column, kindOf(r.to)); err != nil {
			return nil, fmt.Errorf("what refers to an import in %s: %w", r.table, err)
		}
	}
	return f, nil
}

// since says what differs from an earlier footprint.
func (f footprint) since(was footprint) (what []string) {
	say := func(words string) {
		if !slices.Contains(what, words) {
			what = append(what, words)
		}
	}
	for _, n := range namedTables {
		if f[n.table] != was[n.table] {
			say(n.says)
		}
	}
	keys := make([]string, 0, len(f)+len(was))
	for key := range f {
		keys = append(keys, key)
	}
	for key := range was {
		keys = append(keys, key)
	}
	slices.Sort(keys)
	for _, key := range slices.Compact(keys) {
		table, _, refers := strings.Cut(key, ".")
		if !refers || f[key] == was[key] {
			continue
		}
		words, known := hanging[table]
		if !known {
			words = strings.ReplaceAll(table, "_", " ")
		}
		say(words)
	}
	return what
}

func (f footprint) encode() string {
	text, _ := json.Marshal(f) // a map of strings
	return string(text)
}
