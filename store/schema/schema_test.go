package schema_test

import (
	"context"
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

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/store"
	"arplin/store/schema"
	"arplin/store/storetest"
)

func TestMain(m *testing.M) {
	if os.Getenv("ARPLIN_TEST_MIGRATES") != "" { // one that is killed has the database of who kills it
		os.Exit(m.Run())
	}
	storetest.Main(m)
}

func TestMigrateTwiceChangesNothing(t *testing.T) {
	s := storetest.Open(t)
	first, err := schema.Migrate(t.Context(), s.DB())
	require.NoError(t, err)
	again, err := schema.Migrate(t.Context(), s.DB())
	require.NoError(t, err)
	assert.Equal(t, first, again)
	assert.Positive(t, first)
}

func clear(t *testing.T, s *store.Store) {
	t.Helper()
	conn, err := s.DB().Conn(t.Context())
	require.NoError(t, err)
	defer conn.Close()
	_, err = conn.ExecContext(t.Context(), "SET foreign_key_checks = 0")
	require.NoError(t, err)
	for _, table := range storetest.Tables(t, s) {
		_, err := conn.ExecContext(t.Context(), "DROP TABLE "+table)
		require.NoError(t, err)
	}
	_, err = conn.ExecContext(t.Context(), "SET foreign_key_checks = 1")
	require.NoError(t, err)
}

// A migration that was cut short after any of its statements is begun anew and
// comes to the same end.
func TestEveryMigrationCanBeRepeated(t *testing.T) {
	s, _ := storetest.Own(t)
	_, err := schema.Migrate(t.Context(), s.DB())
	require.NoError(t, err)
	want := storetest.Schema(t, s)
	clear(t, s)
	files, err := fs.Glob(schema.Files(), "migrations/*.sql")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	for _, path := range files {
		version, err := strconv.Atoi(strings.TrimPrefix(path, "migrations/")[:3])
		require.NoError(t, err)
		if version > 1 {
			_, err := schema.MigrateTo(t.Context(), s.DB(), int64(version)-1)
			require.NoError(t, err)
		}
		text, err := fs.ReadFile(schema.Files(), path)
		require.NoError(t, err)
		for _, statement := range strings.Split(regexp.MustCompile(`(?m)^--.*$`).ReplaceAllString(string(text), ""), ";\n") {
			if strings.TrimSpace(statement) == "" {
				continue
			}
			_, err := s.DB().Exec(statement)
			require.NoError(t, err, statement)
		}
		_, err = schema.MigrateTo(t.Context(), s.DB(), int64(version))
		require.NoError(t, err, path)
	}
	assert.Equal(t, want, storetest.Schema(t, s))
}

// Killed at any moment of its migration, a program that starts again ends it.
func TestAMigrationThatIsKilled(t *testing.T) {
	if dsn := os.Getenv("ARPLIN_TEST_MIGRATES"); dsn != "" { // the one that is killed
		s, err := store.Open(dsn)
		require.NoError(t, err)
		_, err = schema.Migrate(context.Background(), s.DB())
		require.NoError(t, err)
		return
	}
	s, address := storetest.Own(t)
	_, err := schema.Migrate(t.Context(), s.DB())
	require.NoError(t, err)
	want := storetest.Schema(t, s)
	times := 3 // make torture has 60
	if n, err := strconv.Atoi(os.Getenv("ARPLIN_KILLS")); err == nil {
		times = n
	}
	began := time.Now()
	clear(t, s)
	_, err = schema.Migrate(t.Context(), s.DB())
	require.NoError(t, err)
	whole := time.Since(began)
	cut := 0
	for i := range times {
		clear(t, s)
		victim := exec.Command(os.Args[0], "-test.run=^TestAMigrationThatIsKilled$")
		victim.Env = append(os.Environ(), "ARPLIN_TEST_MIGRATES="+address)
		require.NoError(t, victim.Start())
		time.Sleep(time.Duration((float64(i) + rand.Float64()) / float64(times) * float64(whole+50*time.Millisecond))) // somewhere in each part of it
		_ = victim.Process.Kill()
		_ = victim.Wait()
		if storetest.Schema(t, s) != want {
			cut++
		}
		version, err := schema.Migrate(t.Context(), s.DB())
		require.NoError(t, err)
		assert.Positive(t, version)
		require.Equal(t, want, storetest.Schema(t, s))
	}
	assert.Positive(t, cut, "some were cut short")
}

// One copy migrates while the others wait; an older program does not touch what a
// newer one has made.
func TestSeveralMigrateAtOnce(t *testing.T) {
	s, address := storetest.Own(t)
	var group sync.WaitGroup
	for range 5 {
		group.Go(func() {
			other, err := store.Open(address)
			if assert.NoError(t, err) {
				defer other.Close()
				_, err = schema.Migrate(context.Background(), other.DB())
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
	_, err = schema.Migrate(t.Context(), s.DB())
	assert.ErrorContains(t, err, "the database is of a newer Arplin")
}

// A database in which letters would be lost is made so that they are not, or
// refused.
func TestLettersHaveTheirPlace(t *testing.T) {
	s, _ := storetest.Own(t)
	_, err := s.DB().Exec("ALTER DATABASE CHARACTER SET latin1")
	require.NoError(t, err)
	_, err = schema.Migrate(t.Context(), s.DB())
	require.NoError(t, err)
	id, err := s.AddTeacher(t.Context(), "a@arplin.test", "Zoë \U0001F3B8", "hash")
	require.NoError(t, err)
	teacher, err := s.Teacher(t.Context(), id)
	require.NoError(t, err)
	assert.Equal(t, "Zoë \U0001F3B8", teacher.Name)
	clear(t, s)
	_, err = s.DB().Exec("CREATE TABLE teachers (id INT) CHARACTER SET latin1")
	require.NoError(t, err)
	_, err = schema.Migrate(t.Context(), s.DB())
	assert.ErrorContains(t, err, "older character set")
}
