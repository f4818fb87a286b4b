package database

import (
	"context"
	"database/sql"
	"database/sql/driver"
	"fmt"
	"math/rand/v2"
	"time"

	"github.com/go-sql-driver/mysql"
)

// DB is the database. Safe for concurrent use.
type DB struct {
	*sql.DB
	nodes *nodes
}

// maxConnections is how many a copy of the program holds: few copies share a
// server's.
const maxConnections = 25

// settings of every connection. Nothing waits long for a row that somebody else
// holds: the transaction is tried again.
var settings = map[string]string{
	"time_zone":                "'+00:00'",
	"sql_mode":                 "'STRICT_ALL_TABLES,NO_ZERO_DATE,NO_ENGINE_SUBSTITUTION'",
	"innodb_lock_wait_timeout": "3",
	"lock_wait_timeout":        "30",
	"wsrep_sync_wait":          "3", // on a cluster: what another node has acknowledged is seen
}

// Open connects to the database of a DSN in the driver's form,
// "user:password@tcp(host:port)/name". The address may be several with commas
// between them, the nodes of a cluster: the first that serves is used, and the
// next when it does no longer. Times and character set are the store's own
// affair. It does not wait for the server: call Ping.
func Open(dsn string) (*DB, error) {
	one, hosts := splitHosts(dsn)
	cfg, err := mysql.ParseDSN(one)
	if err != nil {
		return nil, fmt.Errorf("the database address: %w", err)
	}
	cfg.ParseTime, cfg.Loc = true, time.UTC
	cfg.Timeout, cfg.ReadTimeout, cfg.WriteTimeout = 3*time.Second, 30*time.Second, 30*time.Second
	cfg.InterpolateParams = true // one way to the server and back for a query, not three; nothing is prepared for one use
	if err := cfg.Apply(mysql.Charset("utf8mb4", "utf8mb4_unicode_ci")); err != nil {
		return nil, fmt.Errorf("the database address: %w", err)
	}
	if cfg.Params == nil {
		cfg.Params = map[string]string{}
	}
	for name, value := range settings {
		cfg.Params[name] = value
	}
	nodes, err := newNodes(cfg, hosts)
	if err != nil {
		return nil, err
	}
	db := sql.OpenDB(nodes)
	db.SetMaxOpenConns(maxConnections)
	db.SetMaxIdleConns(maxConnections)
	db.SetConnMaxLifetime(5 * time.Minute)
	return &DB{db, nodes}, nil
}

// Ping asks the database whether it answers a query; that a connection stands is not enough.
func (db *DB) Ping(ctx context.Context) error {
	var one int
	return db.QueryRowContext(ctx, "SELECT 1").Scan(&one)
}

// Watch has f told of every query from now on; tests count them.
func (db *DB) Watch(f func(query string, args []driver.NamedValue)) { db.nodes.watch = f }

// tries is how often something is tried that the database stopped for another's
// sake.
const tries = 6

// Again runs f, and again where two that ran at the same time were in each
// other's way, after a short pause of chance length so that they do not meet anew.
func Again(ctx context.Context, f func() error) (err error) {
	for n := range tries {
		if err = f(); !isInTheWay(err) {
			return err
		}
		select {
		case <-ctx.Done():
			return err
		case <-time.After(time.Duration(rand.Int64N(int64(n+1) * int64(10*time.Millisecond)))):
		}
	}
	return err
}

// InTx runs f in a transaction, and again like Again.
func (db *DB) InTx(ctx context.Context, f func(*sql.Tx) error) error {
	return Again(ctx, func() error { return db.tryTx(ctx, f) })
}

// tryTx reads what others have committed: what must not change under it is locked
// by name.
func (db *DB) tryTx(ctx context.Context, f func(*sql.Tx) error) error {
	tx, err := db.BeginTx(ctx, &sql.TxOptions{Isolation: sql.LevelReadCommitted})
	if err != nil {
		return err
	}
	if err := f(tx); err != nil {
		_ = tx.Rollback()
		return err
	}
	return tx.Commit()
}

// Change runs one statement that writes and tells how many rows it changed.
func (db *DB) Change(ctx context.Context, query string, args ...any) (rows int64, err error) {
	err = Again(ctx, func() error {
		res, err := db.ExecContext(ctx, query, args...)
		if err != nil {
			return err
		}
		rows, err = res.RowsAffected()
		return err
	})
	return rows, err
}

// Collect reads all rows.
func Collect[T any](rows *sql.Rows, err error, scan func(*sql.Rows) (T, error)) ([]T, error) {
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

// Columns are those of a table, in its order.
func Columns(ctx context.Context, tx *sql.Tx, table string) ([]string, error) {
	rows, err := tx.QueryContext(ctx, "SELECT column_name FROM information_schema.columns WHERE table_schema = DATABASE() AND table_name = ? ORDER BY ordinal_position", table)
	return Collect(rows, err, func(r *sql.Rows) (c string, err error) { return c, r.Scan(&c) })
}
