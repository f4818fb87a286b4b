package store

import (
	"context"
	"database/sql"
	"database/sql/driver"
	"io/fs"
	"strings"
)

// Watch tells a test of every query.
func (s *Store) Watch(f func(query string, args []driver.NamedValue)) { s.nodes.watch = f }

// DB is the database for what only tests ask.
func (s *Store) DB() *sql.DB { return s.db }

// MigrateTo stops at a version.
func (s *Store) MigrateTo(ctx context.Context, version int64) error {
	_, err := s.migrateTo(ctx, version)
	return err
}

// MigrationFiles are the statements.
func MigrationFiles() fs.FS { return migrations }

// BackupTables and PassingTables are all tables together.
var BackupTables, PassingTables = backupTables, passingTables

// References are the columns that refer to what can be imported.
func References(ctx context.Context, s *Store) (list []string, err error) {
	err = s.inTx(ctx, func(tx *sql.Tx) error {
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
