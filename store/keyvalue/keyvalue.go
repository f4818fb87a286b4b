package keyvalue

import (
	"bytes"
	"context"
	"crypto/rand"
	"crypto/sha256"
	"database/sql"
	"encoding/hex"
	"errors"
	"time"

	"arplin/store/database"
)

// Table is the one in which the web server keeps sessions and rate limits. It has the methods
// that Fiber's middleware wants of a storage.
type Table struct {
	db       *database.DB
	sessions bool
	now      func() time.Time
}

// Limits returns the storage for limits, and for what waits for an hour.
func Limits(db *database.DB) *Table { return &Table{db, false, time.Now} }

// Sessions returns the storage for sessions. A key is kept as its digest, so that
// whoever reads the table cannot sign in, and one that was deleted cannot be set
// again: a request that runs while its session ends does not bring it back.
func Sessions(db *database.DB) *Table { return &Table{db, true, time.Now} }

// endedFor is how long an ended session is remembered; no request lasts so long.
const endedFor = 24 * time.Hour

func (kv *Table) key(key string) string {
	if !kv.sessions {
		return key
	}
	sum := sha256.Sum256([]byte(key))
	return "session-" + hex.EncodeToString(sum[:])
}

// GetWithContext returns nil without an error for a key that is not there, has
// expired or has ended.
func (kv *Table) GetWithContext(ctx context.Context, key string) ([]byte, error) {
	var v []byte
	err := kv.db.QueryRowContext(ctx, "SELECT v FROM keyvalues WHERE k = ? AND NOT ended AND (expires_at = 0 OR expires_at > ?)", kv.key(key), kv.now().Unix()).Scan(&v)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, nil
	}
	return v, err
}

// Take returns a value that begins with a prefix and removes it, for one of all who ask at once;
// nil for the others, and where it begins otherwise.
func (kv *Table) Take(ctx context.Context, key string, prefix []byte) (v []byte, err error) {
	err = kv.db.InTx(ctx, func(tx *sql.Tx) error {
		err := tx.QueryRowContext(ctx, "SELECT v FROM keyvalues WHERE k = ? AND NOT ended AND (expires_at = 0 OR expires_at > ?) FOR UPDATE", kv.key(key), kv.now().Unix()).Scan(&v)
		if errors.Is(err, sql.ErrNoRows) || err == nil && !bytes.HasPrefix(v, prefix) {
			v = nil
			return nil
		}
		if err == nil {
			_, err = tx.ExecContext(ctx, "DELETE FROM keyvalues WHERE k = ?", kv.key(key))
		}
		return err
	})
	return v, err
}

// SetWithContext stores a value; an expiry of 0 is never.
func (kv *Table) SetWithContext(ctx context.Context, key string, val []byte, exp time.Duration) error {
	if key == "" || len(val) == 0 {
		return nil
	}
	expires := int64(0)
	if exp > 0 {
		expires = kv.now().Add(exp).Unix()
	}
	_, err := kv.db.Change(ctx, `INSERT INTO keyvalues (k, v, expires_at) VALUES (?, ?, ?)
		ON DUPLICATE KEY UPDATE v = IF(ended, v, VALUES(v)), expires_at = IF(ended, expires_at, VALUES(expires_at))`, kv.key(key), val, expires)
	return err
}

// DeleteWithContext removes a key, there or not; a session ends for good.
func (kv *Table) DeleteWithContext(ctx context.Context, key string) error {
	if !kv.sessions {
		_, err := kv.db.Change(ctx, "DELETE FROM keyvalues WHERE k = ?", key)
		return err
	}
	until := kv.now().Add(endedFor).Unix()
	_, err := kv.db.Change(ctx, "UPDATE keyvalues SET v = '', ended = TRUE, expires_at = ? WHERE k = ?", until, kv.key(key))
	return err
}

// ResetWithContext removes all keys but the program's own.
func (kv *Table) ResetWithContext(ctx context.Context) error {
	_, err := kv.db.Change(ctx, "DELETE FROM keyvalues WHERE k <> ?", secretKey)
	return err
}

// Get is GetWithContext without one.
func (kv *Table) Get(key string) ([]byte, error) {
	return kv.GetWithContext(context.Background(), key)
}

// Set is SetWithContext without one.
func (kv *Table) Set(key string, val []byte, exp time.Duration) error {
	return kv.SetWithContext(context.Background(), key, val, exp)
}

// Delete is DeleteWithContext without one.
func (kv *Table) Delete(key string) error {
	return kv.DeleteWithContext(context.Background(), key)
}

// Reset is ResetWithContext without one.
func (kv *Table) Reset() error { return kv.ResetWithContext(context.Background()) }

// Close leaves the database to its store.
func (kv *Table) Close() error { return nil }

// Sweep removes what has expired.
func (kv *Table) Sweep(ctx context.Context) error {
	_, err := kv.db.Change(ctx, "DELETE FROM keyvalues WHERE expires_at > 0 AND expires_at <= ?", kv.now().Unix())
	return err
}

const (
	secretKey   = "secret"
	secretBytes = 64
)

// Secret is the key with which the copies of the program sign: made once.
func (kv *Table) Secret(ctx context.Context) (secret []byte, err error) {
	fresh := make([]byte, secretBytes)
	_, _ = rand.Read(fresh) // it never fails
	if _, err := kv.db.Change(ctx, "INSERT IGNORE INTO keyvalues (k, v, expires_at) VALUES (?, ?, 0)", secretKey, fresh); err != nil {
		return nil, err
	}
	err = kv.db.QueryRowContext(ctx, "SELECT v FROM keyvalues WHERE k = ?", secretKey).Scan(&secret)
	return secret, err
}
