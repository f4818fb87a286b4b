package localdb_test

import (
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/store"
	"arplin/store/localdb"
)

func ping(t *testing.T, dsn string) error {
	t.Helper()
	s, err := store.Open(dsn)
	require.NoError(t, err)
	defer s.Close()
	return s.Ping(t.Context())
}

// After the server, or the program around it, was killed, the next start
// recovers, and what was stored is there.
func TestRecoversAfterAKill(t *testing.T) {
	dir := t.TempDir()
	first, err := localdb.Start(t.Context(), dir)
	require.NoError(t, err)
	s, err := store.Open(first.DSN)
	require.NoError(t, err)
	_, err = s.Migrate(t.Context())
	require.NoError(t, err)
	id, err := s.AddTeacher(t.Context(), "kept@arplin.test", "Kept", "hash")
	require.NoError(t, err)
	require.NoError(t, s.Close())

	pid := pidOf(t, dir)
	require.NoError(t, syscall.Kill(pid, syscall.SIGKILL)) // the server dies
	<-first.Done()

	second, err := localdb.Start(t.Context(), dir)
	require.NoError(t, err)
	s, err = store.Open(second.DSN)
	require.NoError(t, err)
	defer s.Close()
	teacher, err := s.Teacher(t.Context(), id)
	require.NoError(t, err)
	assert.Equal(t, "Kept", teacher.Name)

	// The program dies and leaves its server running: the next start ends it.
	third, err := localdb.Start(t.Context(), dir)
	require.NoError(t, err)
	select {
	case <-second.Done():
	case <-time.After(20 * time.Second):
		t.Fatal("the leftover server still runs on the folder")
	}
	assert.NoError(t, ping(t, third.DSN))
	require.NoError(t, third.Stop())
	assert.Error(t, ping(t, third.DSN))
}

func pidOf(t *testing.T, dir string) int {
	t.Helper()
	text, err := os.ReadFile(filepath.Join(dir, "mariadb.pid"))
	require.NoError(t, err)
	pid, err := strconv.Atoi(strings.TrimSpace(string(text)))
	require.NoError(t, err)
	return pid
}

func TestALongFolderNameIsNoTrouble(t *testing.T) {
	dir := filepath.Join(t.TempDir(), strings.Repeat("a-long-folder-name/", 6))
	db, err := localdb.Start(t.Context(), dir)
	require.NoError(t, err)
	assert.NoError(t, ping(t, db.DSN))
	require.NoError(t, db.Stop())
	require.NoError(t, localdb.Remove(dir))
	assert.NoDirExists(t, dir)
}

// Tests of several packages, or two copies of the program, start at once.
func TestManyStartAtOnce(t *testing.T) {
	var group sync.WaitGroup
	for range 4 {
		group.Go(func() {
			db, err := localdb.Start(t.Context(), t.TempDir())
			if assert.NoError(t, err) {
				assert.NoError(t, db.Stop())
			}
		})
	}
	group.Wait()
}
