package storetest

import (
	"context"
	"fmt"
	"os"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"arplin/store"
	"arplin/store/database"
	"arplin/store/localdb"
	"arplin/store/ref"
	"arplin/store/schema"
)

// DSN is the address of the server that Main started.
var DSN string

// Main runs a package's tests with a fresh server: call it from TestMain.
func Main(m *testing.M) {
	os.Exit(run(m))
}

func run(m *testing.M) int {
	dir, err := os.MkdirTemp("", "arplin-test-")
	if err != nil {
		return failed(err)
	}
	defer os.RemoveAll(dir)
	db, err := localdb.StartTied(context.Background(), dir)
	if err != nil {
		return failed(err)
	}
	defer db.Stop() //nolint:errcheck // the folder goes anyway
	DSN = db.DSN
	d, err := database.Open(DSN)
	if err != nil {
		return failed(err)
	}
	if _, err := schema.Migrate(context.Background(), d); err != nil {
		return failed(err)
	}
	if err := d.Close(); err != nil {
		return failed(err)
	}
	return m.Run()
}

func failed(err error) int {
	fmt.Fprintln(os.Stderr, "storetest:", err)
	return 1
}

// Open connects to the migrated database for one test.
func Open(t testing.TB) *store.Store {
	t.Helper()
	return At(t, DSN)
}

// At connects to any database, migrated or not, there or not.
func At(t testing.TB, dsn string) *store.Store {
	t.Helper()
	s, err := store.Open(dsn)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { s.Close() })
	return s
}

// Teacher adds a teacher of the test's own, so that tests do not meet.
func Teacher(t testing.TB, s *store.Store, name string) ref.Teacher {
	t.Helper()
	id, err := s.AddTeacher(t.Context(), fmt.Sprintf("%s-%d@arplin.test", name, time.Now().UnixNano()), name, "no password")
	if err != nil {
		t.Fatal(err)
	}
	return id
}

// Own is an empty database on a server of the test's own, and its address.
func Own(t *testing.T) (*store.Store, string) {
	t.Helper()
	server, err := localdb.Start(t.Context(), t.TempDir())
	require.NoError(t, err)
	t.Cleanup(func() { server.Stop() }) //nolint:errcheck // the folder goes anyway
	return At(t, server.DSN), server.DSN
}
