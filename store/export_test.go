package store

import (
	"context"
	"database/sql"
	"database/sql/driver"
	"io/fs"
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
