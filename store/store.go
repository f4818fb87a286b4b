package store

import (
	"context"
	"database/sql"
	"strings"

	"arplin/store/database"
	"arplin/store/ref"
)

// Store has the rows of teachers. Safe for concurrent use.
type Store struct {
	db *database.DB
}

// Open connects to the database of a DSN, as database.Open does. Its schema must be the newest
// before rows are asked for.
func Open(dsn string) (*Store, error) {
	db, err := database.Open(dsn)
	if err != nil {
		return nil, err
	}
	return &Store{db}, nil
}

// Close ends all connections.
func (s *Store) Close() error { return s.db.Close() }

// DB is where the rows are, for what is about all of them: the schema, a backup, keys.
func (s *Store) DB() *database.DB { return s.db }

// Ping asks the database whether it answers.
func (s *Store) Ping(ctx context.Context) error { return s.db.Ping(ctx) }

// execer is the database or a transaction.
type execer interface {
	ExecContext(context.Context, string, ...any) (sql.Result, error)
}

// insert runs an INSERT and returns the new id; a duplicate key is ErrTaken.
func (s *Store) insert(ctx context.Context, query string, args ...any) (id int64, err error) {
	err = database.Again(ctx, func() error {
		id, err = insert(ctx, s.db, query, args...)
		return err
	})
	return id, err
}

func insert(ctx context.Context, db execer, query string, args ...any) (int64, error) {
	res, err := db.ExecContext(ctx, query, args...)
	if database.IsDuplicate(err) {
		return 0, ErrTaken
	}
	if err != nil {
		return 0, err
	}
	return res.LastInsertId()
}

// queryIn runs a teacher's query that ends in IN for some ids; no ids find nothing.
func queryIn[ID ~int64](ctx context.Context, db *database.DB, query string, teacher ref.Teacher, ids []ID) (*sql.Rows, error) {
	args := []any{teacher}
	for _, id := range append(ids, 0) { // an id that nothing has
		args = append(args, id)
	}
	return db.QueryContext(ctx, query+"(?"+strings.Repeat(", ?", len(ids))+")", args...)
}
