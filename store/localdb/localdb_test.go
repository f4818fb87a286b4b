package localdb_test

import (
	"bufio"
	"context"
	"fmt"
	"io"
	"log/slog"
	"math/rand/v2"
	"os"
	"os/exec"
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
	"arplin/store/schema"
)

// The test's own binary is also the program that is killed: with a folder in the
// environment it starts the server on it, migrates, and waits for its end.
func TestMain(m *testing.M) {
	slog.SetDefault(slog.New(slog.NewTextHandler(io.Discard, nil)))
	dir := os.Getenv("ARPLIN_TEST_VICTIM")
	if dir == "" {
		os.Exit(m.Run())
	}
	start := localdb.Start
	if os.Getenv("ARPLIN_TEST_TIED") != "" {
		start = localdb.StartTied
	}
	db, err := start(context.Background(), dir)
	if err == nil {
		var s *store.Store
		if s, err = store.Open(db.DSN); err == nil {
			_, err = schema.Migrate(context.Background(), s.DB())
		}
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
	fmt.Println("ready")
	select {}
}

// victim starts a program of its own on a folder; it is dead at the end.
func victim(t *testing.T, dir string) (cmd *exec.Cmd, says *bufio.Reader) {
	t.Helper()
	cmd = exec.Command(os.Args[0])
	cmd.Env = append(os.Environ(), "ARPLIN_TEST_VICTIM="+dir)
	cmd.Stderr = os.Stderr
	out, err := cmd.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, cmd.Start())
	t.Cleanup(func() { kill(cmd) })
	return cmd, bufio.NewReader(out)
}

func kill(cmd *exec.Cmd) {
	_ = cmd.Process.Kill()
	_ = cmd.Wait()
}

func start(t *testing.T, dir string) *localdb.Server {
	t.Helper()
	db, err := localdb.Start(t.Context(), dir)
	require.NoError(t, err)
	return db
}

func ping(t *testing.T, dsn string) error {
	t.Helper()
	s, err := store.Open(dsn)
	require.NoError(t, err)
	defer s.Close()
	return s.Ping(t.Context())
}

func answers(t *testing.T, db *localdb.Server) {
	t.Helper()
	require.Eventually(t, func() bool { return ping(t, db.DSN) == nil && db.Says() == "" }, 40*time.Second, 50*time.Millisecond)
}

func pidOf(t *testing.T, dir string) int {
	t.Helper()
	text, err := os.ReadFile(filepath.Join(dir, "mariadb.pid"))
	require.NoError(t, err)
	pid, err := strconv.Atoi(strings.TrimSpace(string(text)))
	require.NoError(t, err)
	return pid
}

// A server that is killed is started again where it was, with all that was stored,
// as often as it happens.
func TestAKilledServerIsStartedAgain(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	db := start(t, dir)
	s, err := store.Open(db.DSN)
	require.NoError(t, err)
	defer s.Close()
	_, err = schema.Migrate(t.Context(), s.DB())
	require.NoError(t, err)
	id, err := s.AddTeacher(t.Context(), "kept@arplin.test", "Kept", "hash")
	require.NoError(t, err)
	for range 2 {
		ended := db.Done()
		require.NoError(t, syscall.Kill(pidOf(t, dir), syscall.SIGKILL))
		<-ended
		assert.Eventually(t, func() bool { return strings.Contains(db.Says(), "being started again") }, 5*time.Second, time.Millisecond)
		answers(t, db)
		teacher, err := s.Teacher(t.Context(), id)
		require.NoError(t, err)
		assert.Equal(t, "Kept", teacher.Name)
	}
	require.NoError(t, db.Stop())
	assert.Error(t, ping(t, db.DSN))
}

// A second program on the folder joins the server that is in use, goes without
// ending it, and takes it over when the first one is gone.
func TestASecondProgramJoins(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	first, says := victim(t, dir)
	_, err := says.ReadString('\n') // it is ready
	require.NoError(t, err)
	second := start(t, dir)
	answers(t, second)
	pid := pidOf(t, dir)
	third := start(t, dir)
	require.NoError(t, third.Stop())
	answers(t, second)
	assert.Equal(t, pid, pidOf(t, dir), "the server is the one of before")
	assert.ErrorContains(t, localdb.Remove(dir), "another Arplin runs on the folder")

	kill(first)
	require.Eventually(t, func() bool { return second.Done() != nil }, 10*time.Second, 10*time.Millisecond)
	require.Eventually(t, func() bool {
		text, err := os.ReadFile(filepath.Join(dir, "mariadb.pid"))
		return err == nil && strings.TrimSpace(string(text)) != strconv.Itoa(pid)
	}, 40*time.Second, 50*time.Millisecond, "the leftover is ended, and another started")
	answers(t, second)
	require.NoError(t, second.Stop())
}

// Killed at any moment of its first start, a program starts again.
func TestAFirstStartThatIsKilled(t *testing.T) {
	t.Parallel()
	times := kills(2)
	for i := range times {
		dir := t.TempDir()
		cmd, _ := victim(t, dir)
		time.Sleep(time.Duration((float64(i) + rand.Float64()) / float64(times) * float64(3*time.Second)))
		kill(cmd)
		db := start(t, dir)
		s, err := store.Open(db.DSN)
		require.NoError(t, err)
		_, err = schema.Migrate(t.Context(), s.DB())
		require.NoError(t, err)
		require.NoError(t, s.Close())
		require.NoError(t, db.Stop())
	}
}

// kills is how often something is killed: a few times, or as ARPLIN_KILLS says
// (make torture).
func kills(few int) int {
	if n, err := strconv.Atoi(os.Getenv("ARPLIN_KILLS")); err == nil {
		return n
	}
	return few
}

// A server that a test has started does not outlive a test that is killed; the usual one does, for
// the program that comes next. Source: prctl(2), PR_SET_PDEATHSIG.
func TestATiedServerEndsWithItsProgram(t *testing.T) {
	for _, tied := range []bool{true, false} {
		dir := t.TempDir()
		if tied {
			t.Setenv("ARPLIN_TEST_TIED", "yes")
		} else {
			t.Setenv("ARPLIN_TEST_TIED", "")
		}
		cmd, says := victim(t, dir)
		_, err := says.ReadString('\n')
		require.NoError(t, err)
		text, err := os.ReadFile(filepath.Join(dir, "mariadb.pid"))
		require.NoError(t, err)
		server, err := strconv.Atoi(strings.TrimSpace(string(text)))
		require.NoError(t, err)
		kill(cmd)
		gone := func() bool { // or nobody's, waiting to be buried
			line, err := os.ReadFile(fmt.Sprintf("/proc/%d/cmdline", server))
			return err != nil || len(line) == 0
		}
		if tied {
			assert.Eventually(t, gone, 30*time.Second, 50*time.Millisecond)
			continue
		}
		time.Sleep(time.Second)
		assert.False(t, gone())
		require.NoError(t, localdb.Remove(dir))
		assert.Eventually(t, gone, 30*time.Second, 50*time.Millisecond)
	}
}

// A server that cannot start any more says so in a sentence.
func TestAServerThatDoesNotStart(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	db := start(t, dir)
	pid := pidOf(t, dir)
	require.NoError(t, os.Rename(filepath.Join(dir, "data"), filepath.Join(dir, "away")))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "data"), nil, 0o400), "a disk that gives nothing back")
	require.NoError(t, syscall.Kill(pid, syscall.SIGKILL))
	require.Eventually(t, func() bool { return strings.Contains(db.Says(), "try 3") }, 20*time.Second, 10*time.Millisecond)
	require.NoError(t, os.Remove(filepath.Join(dir, "data")))
	require.NoError(t, os.Rename(filepath.Join(dir, "away"), filepath.Join(dir, "data")))
	answers(t, db)
	require.NoError(t, db.Stop())
}

func TestALongFolderNameIsNoTrouble(t *testing.T) {
	t.Parallel()
	dir := filepath.Join(t.TempDir(), strings.Repeat("a-long-folder-name/", 6))
	db := start(t, dir)
	assert.NoError(t, ping(t, db.DSN))
	require.NoError(t, db.Stop())
	require.NoError(t, localdb.Remove(dir))
	assert.NoDirExists(t, dir)
}

// Tests of several packages, or two copies of the program, start at once.
func TestManyStartAtOnce(t *testing.T) {
	t.Parallel()
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
