package backup

import (
	"bufio"
	"bytes"
	"compress/gzip"
	"context"
	"crypto/sha256"
	"database/sql"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"hash"
	"io"
	"slices"
	"strings"
	"time"

	"arplin/store/database"
	"arplin/store/schema"
)

// format counts the forms that a backup has had.
const format = 1

// Tables are those of a backup, in an order in which each refers to those before it.
var Tables = []string{
	"teachers", "classes", "students", "songs", "song_revisions", "ladders", "ladder_revisions", "revision_places",
	"placements", "played_steps", "log_entries", "decisions", "patterns", "week_drills", "drill_tries", "lessons", "absences", "terms", "arrangements", "imports", "imported", "samples", "school_keys", "phone_links", "home_entries", "takes",
}

// Passing are the tables that hold what is worth nothing on another day, or the program's own.
var Passing = []string{"keyvalues", "sent_forms", "invitations", "migration_lease", "goose_db_version"}

type line struct {
	Arplin  int              `json:"arplin_backup,omitempty"` // the head's format
	Schema  int64            `json:"schema,omitempty"`        // the head's version of the tables
	At      string           `json:"at,omitempty"`
	Table   string           `json:"table,omitempty"`
	Columns []string         `json:"columns,omitempty"`
	Next    int64            `json:"next,omitempty"` // the next number of the table, so that none is used again
	End     bool             `json:"end,omitempty"`
	Rows    map[string]int64 `json:"rows,omitempty"`
	SHA256  string           `json:"sha256,omitempty"`
}

// Backed tells what is in a backup.
type Backed struct {
	Schema int64
	At     string
	Rows   map[string]int64 // by table
}

// Text counts what a teacher would look for.
func (b Backed) Text() string {
	var said []string
	for _, c := range []struct{ table, one, many string }{
		{"teachers", "teacher", "teachers"}, {"students", "student", "students"}, {"songs", "song", "songs"}, {"ladders", "ladder", "ladders"},
		{"log_entries", "line of the log", "lines of the log"},
	} {
		word := c.many
		if b.Rows[c.table] == 1 {
			word = c.one
		}
		said = append(said, fmt.Sprintf("%d %s", b.Rows[c.table], word))
	}
	return strings.Join(said, ", ")
}

// writer writes lines and sums them up.
type writer struct {
	out io.Writer
	sum hash.Hash
}

func (w writer) line(v any) error {
	text, err := json.Marshal(v)
	if err != nil {
		return err
	}
	text = append(text, '\n')
	w.sum.Write(text)
	_, err = w.out.Write(text)
	return err
}

// Write backs up everything, as it is at one moment, while the program runs.
func Write(ctx context.Context, db *database.DB, out io.Writer, now time.Time) (b Backed, err error) {
	tx, err := db.BeginTx(ctx, &sql.TxOptions{Isolation: sql.LevelRepeatableRead, ReadOnly: true})
	if err != nil {
		return b, fmt.Errorf("backup: %w", err)
	}
	defer tx.Rollback() //nolint:errcheck // it only reads
	b = Backed{At: now.UTC().Format(time.RFC3339), Rows: map[string]int64{}}
	if err := tx.QueryRowContext(ctx, "SELECT MAX(version_id) FROM goose_db_version WHERE is_applied").Scan(&b.Schema); err != nil {
		return b, fmt.Errorf("backup: %w", err)
	}
	zip := gzip.NewWriter(out)
	w := writer{zip, sha256.New()}
	if err := w.line(line{Arplin: format, Schema: b.Schema, At: b.At}); err != nil {
		return b, fmt.Errorf("backup: %w", err)
	}
	for _, table := range Tables {
		if b.Rows[table], err = w.table(ctx, tx, table); err != nil {
			return b, fmt.Errorf("backup of %s: %w", table, err)
		}
	}
	if err := w.line(line{End: true, Rows: b.Rows, SHA256: hex.EncodeToString(w.sum.Sum(nil))}); err != nil {
		return b, fmt.Errorf("backup: %w", err)
	}
	return b, zip.Close()
}

func (w writer) table(ctx context.Context, tx *sql.Tx, table string) (n int64, err error) {
	columns, err := database.Columns(ctx, tx, table)
	if err != nil {
		return 0, err
	}
	var next sql.NullInt64
	if err := tx.QueryRowContext(ctx, "SELECT auto_increment FROM information_schema.tables WHERE table_schema = DATABASE() AND table_name = ?", table).Scan(&next); err != nil {
		return 0, err
	}
	if err := w.line(line{Table: table, Columns: columns, Next: next.Int64}); err != nil {
		return 0, err
	}
	texts, names := make([]string, len(columns)), make([]string, len(columns))
	for i, c := range columns {
		names[i] = "`" + c + "`"
		texts[i] = "CAST(" + names[i] + " AS CHAR)"
	}
	// By number, not by its text: 99 comes before the 100 that takes it back.
	rows, err := tx.QueryContext(ctx, "SELECT "+strings.Join(texts, ", ")+" FROM "+table+" ORDER BY "+strings.Join(names[:min(3, len(names))], ", "))
	if err != nil {
		return 0, err
	}
	defer rows.Close()
	row := make([]*string, len(columns))
	into := make([]any, len(columns))
	for i := range row {
		into[i] = &row[i]
	}
	for ; rows.Next(); n++ {
		if err := rows.Scan(into...); err != nil {
			return n, err
		}
		if err := w.line(row); err != nil {
			return n, err
		}
	}
	return n, rows.Err()
}

// ErrNotEmpty refuses to put a backup over something.
var ErrNotEmpty = errors.New("there are teachers in this database already; a backup is restored into an empty one")

// errBroken is of a file that is no whole backup.
var errBroken = errors.New("this is no whole backup of Arplin’s")

// Restore reads a backup into an empty database, all of it or nothing, and brings
// it to the newest version. The whole file is checked before anything is stored.
func Restore(ctx context.Context, db *database.DB, in io.ReadSeeker) (Backed, error) {
	next := map[string]int64{}
	b, err := read(in, func(l line) error { next[l.Table] = l.Next; return nil }, nil)
	if err != nil {
		return b, fmt.Errorf("restore: %w", err)
	}
	if _, err := in.Seek(0, io.SeekStart); err != nil {
		return b, fmt.Errorf("restore: %w", err)
	}
	if err := emptied(ctx, db); err != nil {
		return b, fmt.Errorf("restore: %w", err)
	}
	if _, err := schema.MigrateTo(ctx, db, b.Schema); err != nil {
		return b, fmt.Errorf("restore: %w", err)
	}
	tx, err := db.BeginTx(ctx, nil)
	if err != nil {
		return b, fmt.Errorf("restore: %w", err)
	}
	defer tx.Rollback() //nolint:errcheck // after a commit there is nothing to do
	load := loader{ctx: ctx, tx: tx}
	if _, err := read(in, load.table, load.row); err != nil {
		return b, fmt.Errorf("restore: %w", err)
	}
	if err := load.end(); err != nil {
		return b, fmt.Errorf("restore: %w", err)
	}
	for table, rows := range b.Rows { // of its time: a table that came later is not among them
		var n int64
		if err := tx.QueryRowContext(ctx, "SELECT COUNT(*) FROM "+table).Scan(&n); err != nil || n != rows {
			return b, fmt.Errorf("restore: %s has %d rows and not %d: %w", table, n, rows, errors.Join(err, errBroken))
		}
	}
	if err := tx.Commit(); err != nil {
		return b, fmt.Errorf("restore: %w", err)
	}
	for table, n := range next { // a number of something that was deleted is not given again
		if n < 2 {
			continue
		}
		if _, err := db.Change(ctx, fmt.Sprintf("ALTER TABLE %s AUTO_INCREMENT = %d", table, n)); err != nil {
			return b, fmt.Errorf("restore: counting on in %s: %w", table, err)
		}
	}
	_, err = schema.Migrate(ctx, db)
	return b, err
}

// emptied makes a database without teachers one without tables, so that it can be
// given those of a backup's time.
func emptied(ctx context.Context, db *database.DB) error {
	rows, err := db.QueryContext(ctx, "SELECT table_name FROM information_schema.tables WHERE table_schema = DATABASE() AND table_type = 'BASE TABLE'")
	there, err := database.Collect(rows, err, func(r *sql.Rows) (t string, err error) { return t, r.Scan(&t) })
	if err != nil {
		return err
	}
	ours := map[string]bool{"song_history": true, "ladder_history": true} // of earlier versions
	for _, t := range slices.Concat(Tables, Passing) {
		ours[t] = true
	}
	for _, t := range there {
		var n int
		switch {
		case !ours[t]:
			return fmt.Errorf("there is a table %s that is not Arplin’s; a backup is restored into a database of its own", t)
		case t == "teachers":
			if err := db.QueryRowContext(ctx, "SELECT COUNT(*) FROM teachers").Scan(&n); err != nil {
				return err
			}
		}
		if n > 0 {
			return ErrNotEmpty
		}
	}
	conn, err := db.Conn(ctx)
	if err != nil {
		return err
	}
	defer conn.Close()
	if _, err := conn.ExecContext(ctx, "SET foreign_key_checks = 0"); err != nil {
		return err
	}
	for _, t := range there {
		if _, err := conn.ExecContext(ctx, "DROP TABLE "+t); err != nil {
			return err
		}
	}
	_, err = conn.ExecContext(ctx, "SET foreign_key_checks = 1")
	return err
}

// longest bounds a row; the largest column holds a take.
const longest = 64 << 20

// read reads a backup to its end and checks it.
func read(in io.Reader, table func(line) error, row func([]*string) error) (b Backed, err error) {
	zip, err := gzip.NewReader(in)
	if err != nil {
		return b, fmt.Errorf("%w: %w", errBroken, err)
	}
	lines := bufio.NewScanner(zip)
	lines.Buffer(nil, longest)
	sum := sha256.New()
	counted := map[string]int64{}
	var at line // the table that is read
	for first := true; lines.Scan(); first = false {
		text := lines.Bytes()
		if bytes.HasPrefix(text, []byte{'['}) && at.Table != "" {
			var values []*string
			if err := json.Unmarshal(text, &values); err != nil || len(values) != len(at.Columns) {
				return b, fmt.Errorf("%w: a row of %s", errBroken, at.Table)
			}
			counted[at.Table]++
			if row != nil {
				if err := row(values); err != nil {
					return b, fmt.Errorf("%s: %w", at.Table, err)
				}
			}
		} else {
			var l line
			if err := json.Unmarshal(text, &l); err != nil {
				return b, fmt.Errorf("%w: %w", errBroken, err)
			}
			switch {
			case first && l.Arplin == 0:
				return b, errBroken
			case first && l.Arplin > format:
				return b, fmt.Errorf("this backup is of a newer Arplin (form %d); restore it with that one", l.Arplin)
			case first:
				b.Schema, b.At = l.Schema, l.At
			case l.End:
				if hex.EncodeToString(sum.Sum(nil)) != l.SHA256 || !sameCounts(counted, l.Rows) {
					return b, fmt.Errorf("%w: its sum is another", errBroken)
				}
				b.Rows = l.Rows
				return b, nil
			case !slices.Contains(Tables, l.Table) || !plainNames(l.Columns):
				return b, fmt.Errorf("%w: %q is no table of ours", errBroken, l.Table)
			default:
				at = l
				if table != nil {
					if err := table(l); err != nil {
						return b, fmt.Errorf("%s: %w", l.Table, err)
					}
				}
			}
		}
		sum.Write(text)
		sum.Write([]byte{'\n'})
	}
	if err := lines.Err(); err != nil {
		return b, fmt.Errorf("%w: it has no end: %w", errBroken, err)
	}
	return b, fmt.Errorf("%w: it has no end", errBroken)
}

func sameCounts(a, b map[string]int64) bool {
	for _, t := range Tables {
		if a[t] != b[t] {
			return false
		}
	}
	for t := range b {
		if !slices.Contains(Tables, t) {
			return false
		}
	}
	return true
}

// plainNames: the names of columns go into statements as they are.
func plainNames(names []string) bool {
	for _, n := range names {
		if n == "" || strings.Trim(n, "abcdefghijklmnopqrstuvwxyz_0123456789") != "" {
			return false
		}
	}
	return len(names) > 0
}
