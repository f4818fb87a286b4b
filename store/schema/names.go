package schema

import (
	"context"
	"crypto/sha256"
	"database/sql"
	"encoding/hex"
	"fmt"
	"time"

	"arplin/store/database"
)

// carryNames is migration 22: what was stored before names were kept gets the one under which
// it was exported until then, so that an old file finds it; what came from a file, the name that
// it has there. It is one transaction and can be run again.
func carryNames(ctx context.Context, tx *sql.Tx) error {
	rows, err := tx.QueryContext(ctx, "SELECT id, created_at FROM teachers")
	origins := map[int64]string{}
	if _, err := database.Collect(rows, err, func(r *sql.Rows) (int64, error) {
		var id int64
		var created time.Time
		err := r.Scan(&id, &created)
		sum := sha256.Sum256(fmt.Appendf(nil, "arplin %d %s", id, created.UTC().Format(time.RFC3339Nano)))
		origins[id] = hex.EncodeToString(sum[:8])
		return id, err
	}); err != nil {
		return fmt.Errorf("names: %w", err)
	}
	tables := map[string]string{"song": "songs", "pattern": "patterns", "class": "classes", "student": "students", "ladder": "ladders", "entry": "log_entries"}
	for teacher, origin := range origins {
		for kind, table := range tables {
			if _, err := tx.ExecContext(ctx, "UPDATE "+table+" SET uid = CONCAT(?, id) WHERE teacher_id = ? AND uid IS NULL", origin+"-"+kind+"-", teacher); err != nil {
				return fmt.Errorf("names of %s: %w", table, err)
			}
		}
	}
	type came struct {
		teacher, row int64
		uid, kind    string
	}
	rows, err = tx.QueryContext(ctx, `SELECT m.teacher_id, m.row_id, m.uid, m.kind FROM imported m JOIN imports i ON i.teacher_id = m.teacher_id AND i.id = m.import_id
		WHERE i.undone_at IS NULL AND m.changed = FALSE ORDER BY i.id DESC`)
	list, err := database.Collect(rows, err, func(r *sql.Rows) (c came, err error) { return c, r.Scan(&c.teacher, &c.row, &c.uid, &c.kind) })
	if err != nil {
		return fmt.Errorf("names: %w", err)
	}
	seen := map[came]bool{}
	for _, c := range list {
		name := came{teacher: c.teacher, uid: c.uid}
		table, known := tables[c.kind]
		if seen[name] || !known { // one file that was taken in several times: the newest has its names
			continue
		}
		seen[name] = true
		if _, err := tx.ExecContext(ctx, "UPDATE "+table+" SET uid = ? WHERE teacher_id = ? AND id = ?", c.uid, c.teacher, c.row); err != nil {
			return fmt.Errorf("names of %s: %w", table, err)
		}
	}
	return nil
}
