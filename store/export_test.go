package store

import (
	"context"
	"database/sql"
	"strings"
)

// References are the columns that refer to what can be imported.
func References(ctx context.Context, s *Store) (list []string, err error) {
	err = s.db.InTx(ctx, func(tx *sql.Tx) error {
		refs, err := references(ctx, tx)
		for _, r := range refs {
			list = append(list, r.table+"."+r.column)
		}
		return err
	})
	return list, err
}

// TablesOf are the tables of columns.
func TablesOf(columns []string) map[string]bool {
	tables := map[string]bool{}
	for _, c := range columns {
		table, _, _ := strings.Cut(c, ".")
		tables[table] = true
	}
	return tables
}

// Hanging are the words for what hangs on an import.
var Hanging = hanging
