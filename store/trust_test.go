package store_test

import (
	"bytes"
	"compress/gzip"
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io/fs"
	"math/rand/v2"
	"os"
	"os/exec"
	"regexp"
	"strconv"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/go-sql-driver/mysql"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/store"
	"arplin/store/localdb"
	"arplin/store/storetest"
)

// own is an empty database on a server of the test's own.
func own(t *testing.T) *store.Store {
	t.Helper()
	server, err := localdb.Start(t.Context(), t.TempDir())
	require.NoError(t, err)
	t.Cleanup(func() { server.Stop() }) //nolint:errcheck // the folder goes anyway
	s, err := store.Open(server.DSN)
	require.NoError(t, err)
	t.Cleanup(func() { s.Close() })
	t.Setenv("ARPLIN_TEST_DSN", server.DSN)
	return s
}

func clear(t *testing.T, s *store.Store) {
	t.Helper()
	conn, err := s.DB().Conn(t.Context())
	require.NoError(t, err)
	defer conn.Close()
	_, err = conn.ExecContext(t.Context(), "SET foreign_key_checks = 0")
	require.NoError(t, err)
	for _, table := range tables(t, s) {
		_, err := conn.ExecContext(t.Context(), "DROP TABLE "+table)
		require.NoError(t, err)
	}
	_, err = conn.ExecContext(t.Context(), "SET foreign_key_checks = 1")
	require.NoError(t, err)
}

func tables(t *testing.T, s *store.Store) (list []string) {
	t.Helper()
	rows, err := s.DB().Query("SELECT table_name FROM information_schema.tables WHERE table_schema = DATABASE() ORDER BY 1")
	require.NoError(t, err)
	defer rows.Close()
	for rows.Next() {
		var name string
		require.NoError(t, rows.Scan(&name))
		list = append(list, name)
	}
	return list
}

// schema is everything about the tables.
func schema(t *testing.T, s *store.Store) string {
	t.Helper()
	var b strings.Builder
	for _, table := range tables(t, s) {
		var name, text string
		require.NoError(t, s.DB().QueryRow("SHOW CREATE TABLE "+table).Scan(&name, &text))
		lines := strings.Split(regexp.MustCompile(` AUTO_INCREMENT=\d+`).ReplaceAllString(text, ""), ",\n")
		b.WriteString(strings.Join(lines, "\n") + "\n")
	}
	return b.String()
}

// A migration that was cut short after any of its statements is begun anew and
// comes to the same end.
func TestEveryMigrationCanBeRepeated(t *testing.T) {
	s := own(t)
	_, err := s.Migrate(t.Context())
	require.NoError(t, err)
	want := schema(t, s)
	clear(t, s)
	files, err := fs.Glob(store.MigrationFiles(), "migrations/*.sql")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	for _, path := range files {
		version, err := strconv.Atoi(strings.TrimPrefix(path, "migrations/")[:3])
		require.NoError(t, err)
		if version > 1 {
			require.NoError(t, s.MigrateTo(t.Context(), int64(version)-1))
		}
		text, err := fs.ReadFile(store.MigrationFiles(), path)
		require.NoError(t, err)
		for _, statement := range strings.Split(regexp.MustCompile(`(?m)^--.*$`).ReplaceAllString(string(text), ""), ";\n") {
			if strings.TrimSpace(statement) == "" {
				continue
			}
			_, err := s.DB().Exec(statement)
			require.NoError(t, err, statement)
		}
		require.NoError(t, s.MigrateTo(t.Context(), int64(version)), path)
	}
	assert.Equal(t, want, schema(t, s))
}

// Killed at any moment of its migration, a program that starts again ends it.
func TestAMigrationThatIsKilled(t *testing.T) {
	if dsn := os.Getenv("ARPLIN_TEST_MIGRATES"); dsn != "" { // the one that is killed
		s, err := store.Open(dsn)
		require.NoError(t, err)
		_, err = s.Migrate(context.Background())
		require.NoError(t, err)
		return
	}
	s := own(t)
	_, err := s.Migrate(t.Context())
	require.NoError(t, err)
	want := schema(t, s)
	times := 8
	if n, err := strconv.Atoi(os.Getenv("ARPLIN_KILLS")); err == nil {
		times = n
	}
	began := time.Now()
	clear(t, s)
	_, err = s.Migrate(t.Context())
	require.NoError(t, err)
	whole := time.Since(began)
	cut := 0
	for range times {
		clear(t, s)
		victim := exec.Command(os.Args[0], "-test.run=^TestAMigrationThatIsKilled$")
		victim.Env = append(os.Environ(), "ARPLIN_TEST_MIGRATES="+os.Getenv("ARPLIN_TEST_DSN"))
		require.NoError(t, victim.Start())
		time.Sleep(time.Duration(rand.Int64N(int64(whole + 300*time.Millisecond))))
		_ = victim.Process.Kill()
		_ = victim.Wait()
		if schema(t, s) != want {
			cut++
		}
		version, err := s.Migrate(t.Context())
		require.NoError(t, err)
		assert.Positive(t, version)
		require.Equal(t, want, schema(t, s))
	}
	assert.Positive(t, cut, "some were cut short")
}

// One copy migrates while the others wait; an older program does not touch what a
// newer one has made.
func TestSeveralMigrateAtOnce(t *testing.T) {
	s := own(t)
	var group sync.WaitGroup
	for range 5 {
		group.Go(func() {
			other, err := store.Open(os.Getenv("ARPLIN_TEST_DSN"))
			if assert.NoError(t, err) {
				defer other.Close()
				_, err = other.Migrate(context.Background())
				assert.NoError(t, err)
			}
		})
	}
	group.Wait()
	var applied, versions int
	require.NoError(t, s.DB().QueryRow("SELECT COUNT(*), COUNT(DISTINCT version_id) FROM goose_db_version").Scan(&applied, &versions))
	assert.Equal(t, versions, applied, "each was applied once")

	_, err := s.DB().Exec("INSERT INTO goose_db_version (version_id, is_applied) VALUES (9999, TRUE)")
	require.NoError(t, err)
	_, err = s.Migrate(t.Context())
	assert.ErrorContains(t, err, "the database is of a newer Arplin")
}

// A database in which letters would be lost is made so that they are not, or
// refused.
func TestLettersHaveTheirPlace(t *testing.T) {
	s := own(t)
	_, err := s.DB().Exec("ALTER DATABASE CHARACTER SET latin1")
	require.NoError(t, err)
	_, err = s.Migrate(t.Context())
	require.NoError(t, err)
	id, err := s.AddTeacher(t.Context(), "a@arplin.test", "Zoë \U0001F3B8", "hash")
	require.NoError(t, err)
	teacher, err := s.Teacher(t.Context(), id)
	require.NoError(t, err)
	assert.Equal(t, "Zoë \U0001F3B8", teacher.Name)
	clear(t, s)
	_, err = s.DB().Exec("CREATE TABLE teachers (id INT) CHARACTER SET latin1")
	require.NoError(t, err)
	_, err = s.Migrate(t.Context())
	assert.ErrorContains(t, err, "older character set")
}

// Everything that is a teacher's comes back from a backup, which is checked before
// anything is stored, and only into an empty database.
func TestBackupAndRestore(t *testing.T) {
	from := storetest.Open(t)
	sc := newSchool(t, from, "backed")
	l, err := from.Ladder(t.Context(), sc.teacher, sc.ladder)
	require.NoError(t, err)
	entry, err := from.AddEntry(t.Context(), sc.teacher, store.Entry{StudentID: sc.students[0], LadderID: sc.ladder, Step: l.Steps[0], Tempo: 61, At: time.Now()}, "backed")
	require.NoError(t, err)
	require.NoError(t, from.Withdraw(t.Context(), sc.teacher, entry, time.Now()))
	last, err := from.AddSong(t.Context(), sc.teacher, song.Song{Title: "Gone by then", Meter: pattern.Meter{Beats: 4, Unit: 4}, Tempo: 80})
	require.NoError(t, err)
	_, err = from.DB().Exec("DELETE FROM songs WHERE id = ?", last)
	require.NoError(t, err)
	require.NoError(t, from.Sessions().Set("somebody", []byte("signed in"), time.Hour))
	var file bytes.Buffer
	backed, err := from.Backup(t.Context(), &file, time.Now())
	require.NoError(t, err)
	assert.Positive(t, backed.Rows["log_entries"])
	assert.Contains(t, store.Backed{Rows: map[string]int64{"teachers": 1, "songs": 2}}.Text(), "1 teacher, 0 students, 2 songs")
	all := append(append([]string{}, store.BackupTables...), store.PassingTables...)
	assert.ElementsMatch(t, tables(t, from), all, "every table is backed up, or known to pass")

	to := own(t)
	whole := file.Bytes()
	const head = `{"arplin_backup":1,"schema":11}` + "\n"
	for name, broken := range map[string][]byte{
		"cut short": whole[:len(whole)/2], "no backup": []byte("{}"), "empty": nil,
		"no end": zipped(t, head), "a blank line": zipped(t, head+"\n"+head),
		"turned": append(append([]byte{}, whole[:len(whole)/2]...), append([]byte{whole[len(whole)/2] ^ 0x40}, whole[len(whole)/2+1:]...)...),
	} {
		_, err := to.Restore(t.Context(), bytes.NewReader(broken))
		assert.ErrorContains(t, err, "no whole backup", name)
		assert.NotContains(t, err.Error(), "%!", name)
		assert.Empty(t, tables(t, to), "%s: nothing was stored", name)
	}
	_, err = to.Migrate(t.Context()) // a program that has started on it is no harm
	require.NoError(t, err)
	restored, err := to.Restore(t.Context(), bytes.NewReader(whole))
	require.NoError(t, err)
	assert.Equal(t, backed, restored)
	for _, table := range store.BackupTables {
		assert.Equal(t, contents(t, from.DB(), table), contents(t, to.DB(), table), table)
	}
	assert.Equal(t, schema(t, from), schema(t, to))
	next, err := to.AddSong(t.Context(), sc.teacher, song.Song{Title: "After it", Meter: pattern.Meter{Beats: 4, Unit: 4}, Tempo: 80})
	require.NoError(t, err)
	assert.Greater(t, next, last, "the number of what was deleted is not used again")
	again, err := to.Ladder(t.Context(), sc.teacher, sc.ladder)
	require.NoError(t, err)
	assert.Equal(t, l, again)
	_, err = to.Restore(t.Context(), bytes.NewReader(whole))
	assert.ErrorIs(t, err, store.ErrNotEmpty)
}

func zipped(t *testing.T, text string) []byte {
	t.Helper()
	var file bytes.Buffer
	zip := gzip.NewWriter(&file)
	_, err := zip.Write([]byte(text))
	require.NoError(t, errors.Join(err, zip.Close()))
	return file.Bytes()
}

func contents(t *testing.T, db *sql.DB, table string) (sum string) {
	t.Helper()
	var name string
	require.NoError(t, db.QueryRow("CHECKSUM TABLE "+table).Scan(&name, &sum))
	return sum
}

// Whatever the database says when it cannot serve is known as that. Source: MariaDB
// Server Documentation, Error Code Reference.
func TestUnavailable(t *testing.T) {
	for _, number := range []uint16{1021, 1040, 1044, 1045, 1047, 1053, 1114, 1205, 1213, 1290, 1317, 1836, 1969} {
		assert.True(t, store.Unavailable(fmt.Errorf("saving: %w", &mysql.MySQLError{Number: number})), "%d", number)
	}
	for _, number := range []uint16{1054, 1062, 1064, 1146, 1406, 1452} {
		assert.False(t, store.Unavailable(&mysql.MySQLError{Number: number}), "%d is the program's fault", number)
	}
	assert.True(t, store.Unavailable(fmt.Errorf("asking: %w", context.DeadlineExceeded)))
	for _, full := range []*mysql.MySQLError{{Number: 1021, Message: "Disk full (/tmp); waiting"}, {Number: 1114, Message: "The table 'songs' is full"}, {Number: 3, Message: "Error writing file '/x' (Errcode: 28 \"No space left on device\")"}, {Number: 1030, Message: "Got error 28 from storage engine"}} {
		assert.True(t, store.DiskFull(fmt.Errorf("saving: %w", full)), full.Message)
	}
	assert.False(t, store.DiskFull(&mysql.MySQLError{Number: 1213, Message: "Deadlock found"}))
	assert.False(t, store.Unavailable(store.ErrNotFound))
	assert.False(t, store.Unavailable(nil))
}

// A session that has ended stays ended, whatever still runs; what the table holds
// signs nobody in.
func TestASessionEndsForGood(t *testing.T) {
	s := storetest.Open(t)
	kv := s.Sessions()
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

// The first node that serves is used, and the next when it does not.
func TestSeveralNodes(t *testing.T) {
	good := strings.TrimSuffix(storetest.DSN[strings.Index(storetest.DSN, "tcp(")+4:], ")/arplin")
	dsn := strings.Replace(storetest.DSN, "tcp("+good+")", "tcp(127.0.0.1:1, 127.0.0.1:2,"+good+")", 1)
	require.NotEqual(t, storetest.DSN, dsn)
	s, err := store.Open(dsn)
	require.NoError(t, err)
	defer s.Close()
	for range 5 {
		require.NoError(t, s.Ping(t.Context()))
	}
	_, err = store.Open("arplin:x@tcp(a:1,b:2/arplin")
	assert.ErrorContains(t, err, "the database address")
}
