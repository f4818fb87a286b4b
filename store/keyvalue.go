package store

import (
	"context"
	"database/sql"
	"errors"
	"time"
)

// KeyValues is the table in which the web server keeps sessions and rate
// limits. It has the methods that Fiber's middleware wants of a storage.
type KeyValues struct {
	db  *sql.DB
	now func() time.Time
}

// KeyValues returns the storage.
func (s *Store) KeyValues() *KeyValues { return &KeyValues{s.db, time.Now} }

// GetWithContext returns nil without an error for a key that is not there or
// has expired.
func (kv *KeyValues) GetWithContext(ctx context.Context, key string) ([]byte, error) {
	var v []byte
	err := kv.db.QueryRowContext(ctx, "SELECT v FROM keyvalues WHERE k = ? AND (expires_at = 0 OR expires_at > ?)", key, kv.now().Unix()).Scan(&v)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, nil
	}
	return v, err
}

// SetWithContext stores a value; an expiry of 0 is never.
func (kv *KeyValues) SetWithContext(ctx context.Context, key string, val []byte, exp time.Duration) error {
	if key == "" || len(val) == 0 {
		return nil
	}
	expires := int64(0)
	if exp > 0 {
		expires = kv.now().Add(exp).Unix()
	}
	_, err := kv.db.ExecContext(ctx, "INSERT INTO keyvalues (k, v, expires_at) VALUES (?, ?, ?) ON DUPLICATE KEY UPDATE v = VALUES(v), expires_at = VALUES(expires_at)", key, val, expires)
	return err
}

// DeleteWithContext removes a key, there or not.
func (kv *KeyValues) DeleteWithContext(ctx context.Context, key string) error {
	_, err := kv.db.ExecContext(ctx, "DELETE FROM keyvalues WHERE k = ?", key)
	return err
}

// ResetWithContext removes all keys.
func (kv *KeyValues) ResetWithContext(ctx context.Context) error {
	_, err := kv.db.ExecContext(ctx, "DELETE FROM keyvalues")
	return err
}

// Get is GetWithContext without one.
func (kv *KeyValues) Get(key string) ([]byte, error) {
	return kv.GetWithContext(context.Background(), key)
}

// Set is SetWithContext without one.
func (kv *KeyValues) Set(key string, val []byte, exp time.Duration) error {
	return kv.SetWithContext(context.Background(), key, val, exp)
}

// Delete is DeleteWithContext without one.
func (kv *KeyValues) Delete(key string) error {
	return kv.DeleteWithContext(context.Background(), key)
}

// Reset is ResetWithContext without one.
func (kv *KeyValues) Reset() error { return kv.ResetWithContext(context.Background()) }

// Close leaves the database to its store.
func (kv *KeyValues) Close() error { return nil }

// Sweep removes what has expired.
func (kv *KeyValues) Sweep(ctx context.Context) error {
	_, err := kv.db.ExecContext(ctx, "DELETE FROM keyvalues WHERE expires_at > 0 AND expires_at <= ?", kv.now().Unix())
	return err
}
