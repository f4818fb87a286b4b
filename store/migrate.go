package store

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"io/fs"

	"github.com/pressly/goose/v3"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Migrate brings the schema to the newest version and returns it. One copy of the
// program does it while the others wait. It can be killed at any moment and begun
// again: a migration is one transaction of rows, or statements that can be
// repeated.
func (s *Store) Migrate(ctx context.Context) (int64, error) { return s.migrateTo(ctx, 0) }

// migrateTo stops at a version; 0 is the newest.
func (s *Store) migrateTo(ctx context.Context, version int64) (int64, error) {
	if err := s.wideLetters(ctx); err != nil {
		return 0, err
	}
	ctx, release, err := s.takeLease(ctx)
	if err != nil {
		return 0, fmt.Errorf("migrating: %w", err)
	}
	defer release()
	if err := s.versionTable(ctx); err != nil {
		return 0, fmt.Errorf("migrating: %w", err)
	}
	provider, err := s.provider()
	if err != nil {
		return 0, err
	}
	sources := provider.ListSources()
	newest := sources[len(sources)-1].Version
	now, err := provider.GetDBVersion(ctx)
	if err != nil {
		return 0, fmt.Errorf("migrating: %w", err)
	}
	if now > newest {
		return 0, fmt.Errorf("the database is of a newer Arplin: it is at version %d, and this one knows %d; start the newer one", now, newest)
	}
	if version == 0 {
		version = newest
	}
	if _, err := provider.UpTo(ctx, version); err != nil {
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
		goose.NewGoMigration(22, &goose.GoFunc{RunTx: carryNames}, nil),
	))
	if err != nil {
		return nil, fmt.Errorf("migrating: %w", err)
	}
	return provider, nil
}

// versionTable is the one that goose would make, with its first row: goose makes
// the two one after the other, and a kill between them would be the end.
func (s *Store) versionTable(ctx context.Context) error {
	if _, err := s.exec(ctx, `CREATE TABLE IF NOT EXISTS goose_db_version (
		id SERIAL NOT NULL, version_id BIGINT NOT NULL, is_applied BOOLEAN NOT NULL, tstamp TIMESTAMP NULL DEFAULT NOW(), PRIMARY KEY (id))`); err != nil {
		return err
	}
	_, err := s.exec(ctx, "INSERT INTO goose_db_version (version_id, is_applied) SELECT 0, TRUE FROM DUAL WHERE NOT EXISTS (SELECT 1 FROM goose_db_version WHERE version_id = 0)")
	return err
}

// errLetters refuses a database in which names would lose letters.
var errLetters = errors.New("the database keeps its text in an older character set, in which some letters have no place; make it anew with CHARACTER SET utf8mb4 (a backup of Arplin's can be restored into it)")

// wideLetters has the database keep every letter: an empty one is made so, and one
// with tables in another character set is refused.
func (s *Store) wideLetters(ctx context.Context) error {
	var narrow int
	err := s.db.QueryRowContext(ctx, `SELECT COUNT(*) FROM information_schema.tables
		WHERE table_schema = DATABASE() AND table_type = 'BASE TABLE' AND table_collation NOT LIKE 'utf8mb4%'`).Scan(&narrow)
	if err != nil {
		return fmt.Errorf("migrating: %w", err)
	}
	if narrow > 0 {
		return errLetters
	}
	var set string
	if err := s.db.QueryRowContext(ctx, "SELECT default_character_set_name FROM information_schema.schemata WHERE schema_name = DATABASE()").Scan(&set); err != nil {
		return fmt.Errorf("migrating: %w", err)
	}
	if set == "utf8mb4" {
		return nil
	}
	if _, err := s.db.ExecContext(ctx, "ALTER DATABASE CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci"); err != nil {
		return fmt.Errorf("%w: %w", errLetters, err)
	}
	return nil
}
