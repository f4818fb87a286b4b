package store

import (
	"context"
	"database/sql"
	"database/sql/driver"
	"errors"
	"fmt"
	"net"
	"strings"
	"time"

	"github.com/go-sql-driver/mysql"
)

var (
	// ErrNotFound: there is no such row, or it is another teacher's.
	ErrNotFound = errors.New("not found")
	// ErrTaken: the name or address is in use.
	ErrTaken = errors.New("already taken")
)

// Store is the database. Safe for concurrent use.
type Store struct {
	db *sql.DB
}

// maxConnections is how many a copy of the program holds: few copies share a
// server's.
const maxConnections = 25

// Open connects to the database of a DSN in the driver's form,
// "user:password@tcp(host:port)/name". Times and character set are the store's
// own affair. It does not wait for the server: call Ping.
func Open(dsn string) (*Store, error) {
	cfg, err := mysql.ParseDSN(dsn)
	if err != nil {
		return nil, fmt.Errorf("the database address: %w", err)
	}
	cfg.ParseTime, cfg.Loc = true, time.UTC
	cfg.Timeout, cfg.ReadTimeout, cfg.WriteTimeout = 5*time.Second, 30*time.Second, 30*time.Second
	cfg.InterpolateParams = true // one way to the server and back for a query, not three
	if cfg.Params == nil {
		cfg.Params = map[string]string{}
	}
	cfg.Params["time_zone"] = "'+00:00'"
	cfg.Params["sql_mode"] = "'STRICT_ALL_TABLES,NO_ZERO_DATE,NO_ENGINE_SUBSTITUTION'"
	connector, err := mysql.NewConnector(cfg)
	if err != nil {
		return nil, fmt.Errorf("the database address: %w", err)
	}
	db := sql.OpenDB(connector)
	db.SetMaxOpenConns(maxConnections)
	db.SetMaxIdleConns(maxConnections)
	db.SetConnMaxLifetime(5 * time.Minute)
	return &Store{db}, nil
}

// Close ends all connections.
func (s *Store) Close() error { return s.db.Close() }

// Ping asks the database whether it answers.
func (s *Store) Ping(ctx context.Context) error {
	var one int
	return s.db.QueryRowContext(ctx, "SELECT 1").Scan(&one)
}

// triesInTx is how often a transaction is tried that the database stopped for
// another's sake.
const triesInTx = 4

// inTx runs f in a transaction, again where two that ran at the same time were in
// each other's way.
func (s *Store) inTx(ctx context.Context, f func(*sql.Tx) error) (err error) {
	for range triesInTx {
		if err = s.tryTx(ctx, f); !isDeadlock(err) {
			return err
		}
	}
	return err
}

// tryTx reads what others have committed: what must not change under it is locked
// by name.
func (s *Store) tryTx(ctx context.Context, f func(*sql.Tx) error) error {
	tx, err := s.db.BeginTx(ctx, &sql.TxOptions{Isolation: sql.LevelReadCommitted})
	if err != nil {
		return err
	}
	if err := f(tx); err != nil {
		_ = tx.Rollback()
		return err
	}
	return tx.Commit()
}

func isDeadlock(err error) bool {
	var my *mysql.MySQLError
	return errors.As(err, &my) && my.Number == 1213
}

// insert runs an INSERT and returns the new id; a duplicate key is ErrTaken.
func insert(ctx context.Context, db interface {
	ExecContext(context.Context, string, ...any) (sql.Result, error)
}, query string, args ...any) (int64, error) {
	res, err := db.ExecContext(ctx, query, args...)
	if isDuplicate(err) {
		return 0, ErrTaken
	}
	if err != nil {
		return 0, err
	}
	return res.LastInsertId()
}

// Gone reports that the database does not answer.
func Gone(err error) bool {
	var netErr *net.OpError
	return errors.Is(err, driver.ErrBadConn) || errors.Is(err, mysql.ErrInvalidConn) ||
		errors.As(err, &netErr) || errors.Is(err, context.DeadlineExceeded)
}

func isDuplicate(err error) bool {
	var my *mysql.MySQLError
	return errors.As(err, &my) && my.Number == 1062
}

// notFound turns the driver's empty result into ErrNotFound and names what was
// looked for.
func notFound(err error, what string) error {
	switch {
	case errors.Is(err, sql.ErrNoRows):
		return fmt.Errorf("%s: %w", what, ErrNotFound)
	case err != nil:
		return fmt.Errorf("%s: %w", what, err)
	}
	return nil
}

// queryIn runs a teacher's query that ends in IN for some ids; no ids find nothing.
func queryIn[ID ~int64](ctx context.Context, db *sql.DB, query string, teacher TeacherID, ids []ID) (*sql.Rows, error) {
	args := []any{teacher}
	for _, id := range append(ids, 0) { // an id that nothing has
		args = append(args, id)
	}
	return db.QueryContext(ctx, query+"(?"+strings.Repeat(", ?", len(ids))+")", args...)
}

// collect reads all rows.
func collect[T any](rows *sql.Rows, err error, scan func(*sql.Rows) (T, error)) ([]T, error) {
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	var list []T
	for rows.Next() {
		v, err := scan(rows)
		if err != nil {
			return nil, err
		}
		list = append(list, v)
	}
	return list, rows.Err()
}
