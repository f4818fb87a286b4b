package store

import (
	"context"
	"database/sql"
	"embed"
	"fmt"
	"io/fs"

	"github.com/pressly/goose/v3"
)

//go:embed migrations/*.sql
var migrations embed.FS

// migrateLock is held by the one copy of the program that migrates.
const migrateLock = "arplin_migrate"

// Migrate brings the schema to the newest version and returns it.
func (s *Store) Migrate(ctx context.Context) (int64, error) {
	conn, err := s.db.Conn(ctx)
	if err != nil {
		return 0, fmt.Errorf("migrating: %w", err)
	}
	defer conn.Close()
	var got sql.NullInt64
	if err := conn.QueryRowContext(ctx, "SELECT GET_LOCK(?, 60)", migrateLock).Scan(&got); err != nil || got.Int64 != 1 {
		return 0, fmt.Errorf("migrating: another copy holds the lock (%v)", err)
	}
	defer conn.ExecContext(context.WithoutCancel(ctx), "SELECT RELEASE_LOCK(?)", migrateLock) //nolint:errcheck // closing the connection frees it too
	provider, err := s.provider()
	if err != nil {
		return 0, err
	}
	if _, err := provider.Up(ctx); err != nil {
		return 0, fmt.Errorf("migrating: %w", err)
	}
	return provider.GetDBVersion(ctx)
}

func (s *Store) provider() (*goose.Provider, error) {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return nil, err
	}
	provider, err := goose.NewProvider(goose.DialectMySQL, s.db, files, goose.WithGoMigrations(
		goose.NewGoMigration(9, &goose.GoFunc{RunTx: carryIdentities}, nil),
	))
	if err != nil {
		return nil, fmt.Errorf("migrating: %w", err)
	}
	return provider, nil
}
