package database_test

import (
	"context"
	"database/sql"
	"fmt"
	"strings"
	"testing"

	"github.com/go-sql-driver/mysql"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/store/database"
	"arplin/store/storetest"
)

func TestMain(m *testing.M) { storetest.Main(m) }

// What failed for another's sake is tried again; what fails for its own is said at once. 1467 was seen
// where several teachers were added at the same time on a busy machine.
func TestAgain(t *testing.T) {
	for number, want := range map[uint16]int{1205: 3, 1213: 3, 1467: 3, 1062: 1, 1146: 1} {
		asked := 0
		err := database.Again(t.Context(), func() error {
			if asked++; asked < 3 {
				return fmt.Errorf("adding: %w", &mysql.MySQLError{Number: number})
			}
			return nil
		})
		assert.Equal(t, want, asked, "%d", number)
		assert.Equal(t, want == 1, err != nil, "%d", number)
	}
}

// Whatever the database says when it cannot serve is known as that. Source: MariaDB
// Server Documentation, Error Code Reference.
func TestUnavailable(t *testing.T) {
	for _, number := range []uint16{1021, 1040, 1044, 1045, 1047, 1053, 1114, 1205, 1213, 1290, 1317, 1836, 1969} {
		assert.True(t, database.Unavailable(fmt.Errorf("saving: %w", &mysql.MySQLError{Number: number})), "%d", number)
	}
	for _, number := range []uint16{1054, 1062, 1064, 1146, 1406, 1452} {
		assert.False(t, database.Unavailable(&mysql.MySQLError{Number: number}), "%d is the program's fault", number)
	}
	assert.True(t, database.Unavailable(fmt.Errorf("asking: %w", context.DeadlineExceeded)))
	for _, full := range []*mysql.MySQLError{{Number: 1021, Message: "Disk full (/tmp); waiting"}, {Number: 1114, Message: "The table 'songs' is full"}, {Number: 3, Message: "Error writing file '/x' (Errcode: 28 \"No space left on device\")"}, {Number: 1030, Message: "Got error 28 from storage engine"}} {
		assert.True(t, database.DiskFull(fmt.Errorf("saving: %w", full)), full.Message)
	}
	assert.False(t, database.DiskFull(&mysql.MySQLError{Number: 1213, Message: "Deadlock found"}))
	assert.False(t, database.Unavailable(sql.ErrNoRows))
	assert.False(t, database.Unavailable(nil))
}

// The first node that serves is used, and the next when it does not.
func TestSeveralNodes(t *testing.T) {
	good := strings.TrimSuffix(storetest.DSN[strings.Index(storetest.DSN, "tcp(")+4:], ")/arplin")
	dsn := strings.Replace(storetest.DSN, "tcp("+good+")", "tcp(127.0.0.1:1, 127.0.0.1:2,"+good+")", 1)
	require.NotEqual(t, storetest.DSN, dsn)
	s, err := database.Open(dsn)
	require.NoError(t, err)
	defer s.Close()
	for range 5 {
		require.NoError(t, s.Ping(t.Context()))
	}
	_, err = database.Open("arplin:x@tcp(a:1,b:2/arplin")
	assert.ErrorContains(t, err, "the database address")
}
