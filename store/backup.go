package store

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
)

// A backup is a gzip file of lines of JSON: a head, then for each table a line
// that names it and a line a row, and an end with the rows of each table and the
// SHA-256 of all lines before it. Every value is the text that the database gives
// for it, or null. Sessions, limits and forms that were sent are not in it.

// backupFormat counts the forms that a backup has had.
const backupFormat = 1

// backupTables are in an order in which each refers to those before it.
var backupTables = []string{
	"teachers", "classes", "students", "songs", "song_revisions", "ladders", "ladder_revisions", "revision_places",
	"placements", "played_steps", "log_entries", "decisions", "patterns", "week_drills", "drill_tries", "lessons", "absences", "terms", "arrangements", "imports", "imported", "samples", "school_keys", "phone_links", "home_entries",
}

// passingTables hold what is worth nothing on another day, or the program's own.
var passingTables = []string{"keyvalues", "sent_forms", "invitations", "migration_lease", "goose_db_version"}

type backupLine struct {
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

// backupWriter writes lines and sums them up.
type backupWriter struct {
	out io.Writer
	sum hash.Hash
}

func (w backupWriter) line(v any) error {
	text, err := json.Marshal(v)
	if err != nil {
		return err
	}
	text = append(text, '\n')
	w.sum.Write(text)
	_, err = w.out.Write(text)
	return err
}

// Backup writes everything, as it is at one moment, while the program runs.
func (s *Store) Backup(ctx context.Context, out io.Writer, now time.Time) (b Backed, err error) {
	tx, err := s.db.BeginTx(ctx, &sql.TxOptions{Isolation: sql.LevelRepeatableRead, ReadOnly: true})
	if err != nil {
		return b, fmt.Errorf("backup: %w", err)
	}
	defer tx.Rollback() //nolint:errcheck // it only reads
	b = Backed{At: now.UTC().Format(time.RFC3339), Rows: map[string]int64{}}
	if err := tx.QueryRowContext(ctx, "SELECT MAX(version_id) FROM goose_db_version WHERE is_applied").Scan(&b.Schema); err != nil {
		return b, fmt.Errorf("backup: %w", err)
	}
	zip := gzip.NewWriter(out)
	w := backupWriter{zip, sha256.New()}
	if err := w.line(backupLine{Arplin: backupFormat, Schema: b.Schema, At: b.At}); err != nil {
		return b, fmt.Errorf("backup: %w", err)
	}
	for _, table := range backupTables {
		if b.Rows[table], err = w.table(ctx, tx, table); err != nil {
			return b, fmt.Errorf("backup of %s: %w", table, err)
		}
	}
	if err := w.line(backupLine{End: true, Rows: b.Rows, SHA256: hex.EncodeToString(w.sum.Sum(nil))}); err != nil {
		return b, fmt.Errorf("backup: %w", err)
	}
	return b, zip.Close()
}

func (w backupWriter) table(ctx context.Context, tx *sql.Tx, table string) (n int64, err error) {
	columns, err := columnsOf(ctx, tx, table)
	if err != nil {
		return 0, err
	}
	var next sql.NullInt64
	if err := tx.QueryRowContext(ctx, "SELECT auto_increment FROM information_schema.tables WHERE table_schema = DATABASE() AND table_name = ?", table).Scan(&next); err != nil {
		return 0, err
	}
	if err := w.line(backupLine{Table: table, Columns: columns, Next: next.Int64}); err != nil {
		return 0, err
	}
	texts := make([]string, len(columns))
	for i, c := range columns {
		texts[i] = "CAST(`" + c + "` AS CHAR)"
	}
	rows, err := tx.QueryContext(ctx, "SELECT "+strings.Join(texts, ", ")+" FROM "+table+" ORDER BY 1, 2, 3")
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

func columnsOf(ctx context.Context, tx *sql.Tx, table string) ([]string, error) {
	rows, err := tx.QueryContext(ctx, "SELECT column_name FROM information_schema.columns WHERE table_schema = DATABASE() AND table_name = ? ORDER BY ordinal_position", table)
	return collect(rows, err, func(r *sql.Rows) (c string, err error) { return c, r.Scan(&c) })
}

// ErrNotEmpty refuses to put a backup over something.
var ErrNotEmpty = errors.New("there are teachers in this database already; a backup is restored into an empty one")

// errBroken is of a file that is no whole backup.
var errBroken = errors.New("this is no whole backup of Arplin’s")

// Restore reads a backup into an empty database, all of it or nothing, and brings
// it to the newest version. The whole file is checked before anything is stored.
func (s *Store) Restore(ctx context.Context, in io.ReadSeeker) (Backed, error) {
	next := map[string]int64{}
	b, err := readBackup(in, func(l backupLine) error { next[l.Table] = l.Next; return nil }, nil)
	if err != nil {
		return b, fmt.Errorf("restore: %w", err)
	}
	if _, err := in.Seek(0, io.SeekStart); err != nil {
		return b, fmt.Errorf("restore: %w", err)
	}
	if err := s.emptied(ctx); err != nil {
		return b, fmt.Errorf("restore: %w", err)
	}
	if _, err := s.migrateTo(ctx, b.Schema); err != nil {
		return b, fmt.Errorf("restore: %w", err)
	}
	tx, err := s.db.BeginTx(ctx, nil)
	if err != nil {
		return b, fmt.Errorf("restore: %w", err)
	}
	defer tx.Rollback() //nolint:errcheck // after a commit there is nothing to do
	load := loader{ctx: ctx, tx: tx}
	if _, err := readBackup(in, load.table, load.row); err != nil {
		return b, fmt.Errorf("restore: %w", err)
	}
	if err := load.flush(); err != nil {
		return b, fmt.Errorf("restore: %w", err)
	}
	for _, table := range backupTables {
		var n int64
		if err := tx.QueryRowContext(ctx, "SELECT COUNT(*) FROM "+table).Scan(&n); err != nil || n != b.Rows[table] {
			return b, fmt.Errorf("restore: %s has %d rows and not %d: %w", table, n, b.Rows[table], errors.Join(err, errBroken))
		}
	}
	if err := tx.Commit(); err != nil {
		return b, fmt.Errorf("restore: %w", err)
	}
	for table, n := range next { // a number of something that was deleted is not given again
		if n < 2 {
			continue
		}
		if _, err := s.exec(ctx, fmt.Sprintf("ALTER TABLE %s AUTO_INCREMENT = %d", table, n)); err != nil {
			return b, fmt.Errorf("restore: counting on in %s: %w", table, err)
		}
	}
	_, err = s.Migrate(ctx)
	return b, err
}

// emptied makes a database without teachers one without tables, so that it can be
// given those of a backup's time.
func (s *Store) emptied(ctx context.Context) error {
	rows, err := s.db.QueryContext(ctx, "SELECT table_name FROM information_schema.tables WHERE table_schema = DATABASE() AND table_type = 'BASE TABLE'")
	tables, err := collect(rows, err, func(r *sql.Rows) (t string, err error) { return t, r.Scan(&t) })
	if err != nil {
		return err
	}
	ours := map[string]bool{"song_history": true, "ladder_history": true} // of earlier versions
	for _, t := range append(append([]string{}, backupTables...), passingTables...) {
		ours[t] = true
	}
	for _, t := range tables {
		var n int
		switch {
		case !ours[t]:
			return fmt.Errorf("there is a table %s that is not Arplin’s; a backup is restored into a database of its own", t)
		case t == "teachers":
			if err := s.db.QueryRowContext(ctx, "SELECT COUNT(*) FROM teachers").Scan(&n); err != nil {
				return err
			}
		}
		if n > 0 {
			return ErrNotEmpty
		}
	}
	conn, err := s.db.Conn(ctx)
	if err != nil {
		return err
	}
	defer conn.Close()
	if _, err := conn.ExecContext(ctx, "SET foreign_key_checks = 0"); err != nil {
		return err
	}
	for _, t := range tables {
		if _, err := conn.ExecContext(ctx, "DROP TABLE "+t); err != nil {
			return err
		}
	}
	_, err = conn.ExecContext(ctx, "SET foreign_key_checks = 1")
	return err
}

// maxBackupLine bounds a row; the largest column that is filled holds a song.
const maxBackupLine = 64 << 20

// readBackup reads a backup to its end and checks it.
func readBackup(in io.Reader, table func(backupLine) error, row func([]*string) error) (b Backed, err error) {
	zip, err := gzip.NewReader(in)
	if err != nil {
		return b, fmt.Errorf("%w: %w", errBroken, err)
	}
	lines := bufio.NewScanner(zip)
	lines.Buffer(nil, maxBackupLine)
	sum := sha256.New()
	counted := map[string]int64{}
	var at backupLine // the table that is read
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
			var l backupLine
			if err := json.Unmarshal(text, &l); err != nil {
				return b, fmt.Errorf("%w: %w", errBroken, err)
			}
			switch {
			case first && l.Arplin == 0:
				return b, errBroken
			case first && l.Arplin > backupFormat:
				return b, fmt.Errorf("this backup is of a newer Arplin (form %d); restore it with that one", l.Arplin)
			case first:
				b.Schema, b.At = l.Schema, l.At
			case l.End:
				if hex.EncodeToString(sum.Sum(nil)) != l.SHA256 || !sameCounts(counted, l.Rows) {
					return b, fmt.Errorf("%w: its sum is another", errBroken)
				}
				b.Rows = l.Rows
				return b, nil
			case !slices.Contains(backupTables, l.Table) || !plainNames(l.Columns):
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
	for _, t := range backupTables {
		if a[t] != b[t] {
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

// loader stores rows by the hundred.
type loader struct {
	ctx    context.Context
	tx     *sql.Tx
	insert string
	one    string // the place for a row
	rows   int
	bytes  int
	values []any
}

// How much goes into one statement.
const (
	loadRows  = 200
	loadBytes = 1 << 20
)

func (l *loader) table(of backupLine) error {
	name, columns := of.Table, of.Columns
	if err := l.flush(); err != nil {
		return err
	}
	l.insert = "INSERT INTO " + name + " (`" + strings.Join(columns, "`, `") + "`) VALUES "
	l.one = "(?" + strings.Repeat(", ?", len(columns)-1) + ")"
	return nil
}

func (l *loader) row(values []*string) error {
	for _, v := range values {
		if v == nil {
			l.values = append(l.values, nil)
			continue
		}
		l.values = append(l.values, *v)
		l.bytes += len(*v)
	}
	if l.rows++; l.rows >= loadRows || l.bytes > loadBytes {
		return l.flush()
	}
	return nil
}

func (l *loader) flush() error {
	if l.rows == 0 {
		return nil
	}
	_, err := l.tx.ExecContext(l.ctx, l.insert+l.one+strings.Repeat(", "+l.one, l.rows-1), l.values...)
	l.rows, l.bytes, l.values = 0, 0, nil
	return err
}
