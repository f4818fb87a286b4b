package keyvalue_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/store/keyvalue"
	"arplin/store/storetest"
)

func TestMain(m *testing.M) { storetest.Main(m) }

func TestKeysExpire(t *testing.T) {
	kv := keyvalue.Limits(storetest.Open(t).DB())
	require.NoError(t, kv.Set("a", []byte("one"), time.Hour))
	require.NoError(t, kv.Set("a", []byte("two"), time.Hour))
	require.NoError(t, kv.Set("gone", []byte("x"), time.Nanosecond))
	v, err := kv.Get("a")
	require.NoError(t, err)
	assert.Equal(t, "two", string(v))
	v, err = kv.Get("gone")
	require.NoError(t, err)
	assert.Nil(t, v)
	// Without an expiry it stays; what has no key or no value changes nothing.
	require.NoError(t, kv.Set("always", []byte("x"), 0))
	require.NoError(t, kv.Set("a", nil, time.Hour))
	require.NoError(t, kv.Set("", []byte("x"), time.Hour))
	require.NoError(t, kv.Sweep(t.Context()))
	for key, want := range map[string]string{"always": "x", "a": "two", "": ""} {
		v, err = kv.Get(key)
		require.NoError(t, err)
		assert.Equal(t, want, string(v), key)
	}
	require.NoError(t, kv.Delete("always"))
	require.NoError(t, kv.Delete("a"))
	v, err = kv.Get("a")
	require.NoError(t, err)
	assert.Nil(t, v)
}

// A session that has ended stays ended, whatever still runs; what the table holds
// signs nobody in.
func TestASessionEndsForGood(t *testing.T) {
	s := storetest.Open(t)
	kv := keyvalue.Sessions(s.DB())
	require.NoError(t, kv.Set("id-of-a-session", []byte("v1"), time.Hour))
	v, err := kv.Get("id-of-a-session")
	require.NoError(t, err)
	assert.Equal(t, "v1", string(v))
	var n int
	require.NoError(t, s.DB().QueryRow("SELECT COUNT(*) FROM keyvalues WHERE k LIKE '%id-of-a-session%'").Scan(&n))
	assert.Zero(t, n)
	require.NoError(t, kv.Delete("id-of-a-session"))
	require.NoError(t, kv.Set("id-of-a-session", []byte("v2"), time.Hour))
	v, err = kv.Get("id-of-a-session")
	require.NoError(t, err)
	assert.Empty(t, v)
}
