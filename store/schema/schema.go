package schema

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"io/fs"

	"github.com/pressly/goose/v3"

	"arplin/store/database"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Migrate brings the schema to the newest version and returns it. One copy of the
// program does it while the others wait. It can be killed at any moment and begun
// again: a migration is one transaction of rows, or statements that can be
// repeated.
func Migrate(ctx context.Context, db *database.DB) (int64, error) { return MigrateTo(ctx, db, 0) }

// MigrateTo stops at a version; 0 is the newest.
func MigrateTo(ctx context.Context, db *database.DB, version int64) (int64, error) {
	if err := wideLetters(ctx, db); err != nil {
		return 0, err
	}
	ctx, release, err := takeLease(ctx, db)
	if err != nil {
		return 0, fmt.Errorf("migrating: %w", err)
	}
	defer release()
	if err := versionTable(ctx, db); err != nil {
		return 0, fmt.Errorf("migrating: %w", err)
	}
	all, err := provider(db)
	if err != nil {
		return 0, err
	}
	sources := all.ListSources()
	newest := sources[len(sources)-1].Version
	now, err := all.GetDBVersion(ctx)
	if err != nil {
		return 0, fmt.Errorf("migrating: %w", err)
	}
	if now > newest {
		return 0, fmt.Errorf("the database is of a newer Arplin: it is at version %d, and this one knows %d; start the newer one", now, newest)
	}
	if version == 0 {
		version = newest
	}
	if _, err := all.UpTo(ctx, version); err != nil {
		return 0, fmt.Errorf("migrating: %w", err)
	}
	return all.GetDBVersion(ctx)
}

func provider(db *database.DB) (*goose.Provider, error) {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return nil, err
	}
	provider, err := goose.NewProvider(goose.DialectMySQL, db.DB, files, goose.WithGoMigrations(
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
func versionTable(ctx context.Context, db *database.DB) error {
	if _, err := db.Change(ctx, `CREATE TABLE IF NOT EXISTS goose_db_version (
		id SERIAL NOT NULL, version_id BIGINT NOT NULL, is_applied BOOLEAN NOT NULL, tstamp TIMESTAMP NULL DEFAULT NOW(), PRIMARY KEY (id))`); err != nil {
		return err
	}
	_, err := db.Change(ctx, "INSERT INTO goose_db_version (version_id, is_applied) SELECT 0, TRUE FROM DUAL WHERE NOT EXISTS (SELECT 1 FROM goose_db_version WHERE version_id = 0)")
	return err
}

// errLetters refuses a database in which names would lose letters.
var errLetters = errors.New("the database keeps its text in an older character set, in which some letters have no place; make it anew with CHARACTER SET utf8mb4 (a backup of Arplin's can be restored into it)")

// wideLetters has the database keep every letter: an empty one is made so, and one
// with tables in another character set is refused.
func wideLetters(ctx context.Context, db *database.DB) error {
	var narrow int
	err := db.QueryRowContext(ctx, `SELECT COUNT(*) FROM information_schema.tables
		WHERE table_schema = DATABASE() AND table_type = 'BASE TABLE' AND table_collation NOT LIKE 'utf8mb4%'`).Scan(&narrow)
	if err != nil {
		return fmt.Errorf("migrating: %w", err)
	}
	if narrow > 0 {
		return errLetters
	}
	var set string
	if err := db.QueryRowContext(ctx, "SELECT default_character_set_name FROM information_schema.schemata WHERE schema_name = DATABASE()").Scan(&set); err != nil {
		return fmt.Errorf("migrating: %w", err)
	}
	if set == "utf8mb4" {
		return nil
	}
	if _, err := db.ExecContext(ctx, "ALTER DATABASE CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci"); err != nil {
		return fmt.Errorf("%w: %w", errLetters, err)
	}
	return nil
}
