package store_test

import (
	"bytes"
	"compress/gzip"
	"crypto/sha256"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/store"
	"arplin/store/backup"
	"arplin/store/database"
	"arplin/store/keyvalue"
	"arplin/store/schema"
	"arplin/store/storetest"
)

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
	require.NoError(t, from.KeepTake(t.Context(), sc.teacher, store.Take{UID: "backed-take", StudentID: sc.students[0], LadderID: sc.ladder, Tempo: 61, At: time.Now()}, []byte("fLaC\x00\xff\xfe")))
	last, err := from.AddSong(t.Context(), sc.teacher, song.Song{Title: "Gone by then", Meter: pattern.Meter{Beats: 4, Unit: 4}, Tempo: 80})
	require.NoError(t, err)
	_, err = from.DB().Exec("DELETE FROM songs WHERE id = ?", last)
	require.NoError(t, err)
	require.NoError(t, keyvalue.Sessions(from.DB()).Set("somebody", []byte("signed in"), time.Hour))
	var file bytes.Buffer
	backed, err := backup.Write(t.Context(), from.DB(), &file, time.Now())
	require.NoError(t, err)
	assert.Positive(t, backed.Rows["log_entries"])
	assert.Contains(t, backup.Backed{Rows: map[string]int64{"teachers": 1, "songs": 2}}.Text(), "1 teacher, 0 students, 2 songs")
	all := slices.Concat(backup.Tables, backup.Passing)
	assert.ElementsMatch(t, storetest.Tables(t, from), all, "every table is backed up, or known to pass")

	to, _ := storetest.Own(t)
	whole := file.Bytes()
	const head = `{"arplin_backup":1,"schema":11}` + "\n"
	for name, broken := range map[string][]byte{
		"cut short": whole[:len(whole)/2], "no backup": []byte("{}"), "empty": nil,
		"no end": zipped(t, head), "a blank line": zipped(t, head+"\n"+head),
		"turned": append(append([]byte{}, whole[:len(whole)/2]...), append([]byte{whole[len(whole)/2] ^ 0x40}, whole[len(whole)/2+1:]...)...),
	} {
		_, err := backup.Restore(t.Context(), to.DB(), bytes.NewReader(broken))
		assert.ErrorContains(t, err, "no whole backup", name)
		assert.NotContains(t, err.Error(), "%!", name)
		assert.Empty(t, storetest.Tables(t, to), "%s: nothing was stored", name)
	}
	_, err = schema.Migrate(t.Context(), to.DB()) // a program that has started on it is no harm
	require.NoError(t, err)
	restored, err := backup.Restore(t.Context(), to.DB(), bytes.NewReader(whole))
	require.NoError(t, err)
	assert.Equal(t, backed, restored)
	for _, table := range backup.Tables {
		assert.Equal(t, contents(t, from.DB(), table), contents(t, to.DB(), table), table)
	}
	assert.Equal(t, storetest.Schema(t, from), storetest.Schema(t, to))
	next, err := to.AddSong(t.Context(), sc.teacher, song.Song{Title: "After it", Meter: pattern.Meter{Beats: 4, Unit: 4}, Tempo: 80})
	require.NoError(t, err)
	assert.Greater(t, next, last, "the number of what was deleted is not used again")
	again, err := to.Ladder(t.Context(), sc.teacher, sc.ladder)
	require.NoError(t, err)
	assert.Equal(t, l, again)
	kept, err := to.Takes(t.Context(), sc.teacher, sc.class, 0)
	require.NoError(t, err)
	sound, err := to.TakeSound(t.Context(), sc.teacher, kept[0].ID)
	require.NoError(t, err)
	assert.Equal(t, "fLaC\x00\xff\xfe", string(sound))
	_, err = backup.Restore(t.Context(), to.DB(), bytes.NewReader(whole))
	assert.ErrorIs(t, err, backup.ErrNotEmpty)
}

// A line of the log that takes another back comes after it, also where its number has a digit more; and a backup in
// which it comes before, as those of November 2026 have it, is restored as well.
func TestABackupOfWhatWasTakenBackIsRestored(t *testing.T) {
	from, _ := storetest.Own(t)
	_, err := schema.Migrate(t.Context(), from.DB())
	require.NoError(t, err)
	rows, err := from.DB().Query("SELECT CONCAT(table_name, '.', column_name) FROM information_schema.key_column_usage WHERE table_schema = DATABASE() AND referenced_table_name = table_name")
	own, err := database.Collect(rows, err, func(r *sql.Rows) (name string, err error) { return name, r.Scan(&name) })
	require.NoError(t, err)
	require.Equal(t, []string{"log_entries.withdraws"}, own, "a restore knows the columns that refer to their own table")
	sc := newSchool(t, from, "taken-back")
	l, err := from.Ladder(t.Context(), sc.teacher, sc.ladder)
	require.NoError(t, err)
	_, err = from.DB().Exec("ALTER TABLE log_entries AUTO_INCREMENT = 99")
	require.NoError(t, err)
	entry, err := from.AddEntry(t.Context(), sc.teacher, store.Entry{StudentID: sc.students[0], LadderID: sc.ladder, Step: l.Steps[0], Tempo: 61, At: time.Now()}, "taken back")
	require.NoError(t, err)
	require.EqualValues(t, 99, entry)
	require.NoError(t, from.Withdraw(t.Context(), sc.teacher, entry, time.Now()))
	var file bytes.Buffer
	backed, err := backup.Write(t.Context(), from.DB(), &file, time.Now())
	require.NoError(t, err)
	require.EqualValues(t, 2, backed.Rows["log_entries"])
	zip, err := gzip.NewReader(bytes.NewReader(file.Bytes()))
	require.NoError(t, err)
	text, err := io.ReadAll(zip)
	require.NoError(t, err)
	lines := strings.SplitAfter(string(text), "\n")
	first := slices.IndexFunc(lines, func(line string) bool { return strings.HasPrefix(line, `["99",`) })
	require.Positive(t, first)
	require.True(t, strings.HasPrefix(lines[first+1], `["100",`), "by number, not as text")
	lines[first], lines[first+1] = lines[first+1], lines[first]
	last := slices.IndexFunc(lines, func(line string) bool { return strings.HasPrefix(line, `{"end"`) })
	sum := regexp.MustCompile(`"sha256":"[0-9a-f]+"`)
	lines[last] = sum.ReplaceAllString(lines[last], fmt.Sprintf(`"sha256":"%x"`, sha256.Sum256([]byte(strings.Join(lines[:last], "")))))
	for name, data := range map[string][]byte{"as it is written": file.Bytes(), "as it was written": zipped(t, strings.Join(lines, ""))} {
		to, _ := storetest.Own(t)
		_, err := backup.Restore(t.Context(), to.DB(), bytes.NewReader(data))
		require.NoError(t, err, name)
		assert.Equal(t, contents(t, from.DB(), "log_entries"), contents(t, to.DB(), "log_entries"), name)
	}
}

// What was backed up before a table was there is restored, and brought to the newest version. The file is one of today,
// less what that version did not know.
func TestABackupOfAnEarlierVersionIsRestored(t *testing.T) {
	from := storetest.Open(t)
	sc := newSchool(t, from, "earlier")
	var file bytes.Buffer
	_, err := backup.Write(t.Context(), from.DB(), &file, time.Now())
	require.NoError(t, err)
	zip, err := gzip.NewReader(&file)
	require.NoError(t, err)
	text, err := io.ReadAll(zip)
	require.NoError(t, err)
	var earlier strings.Builder
	gone, column := false, -1 // the table, and the column of classes, that it did not know
	for line := range strings.Lines(string(text)) {
		var head struct {
			Table  string           `json:"table"`
			Schema int64            `json:"schema"`
			Rows   map[string]int64 `json:"rows"`
		}
		less := func(list []any) string {
			data, err := json.Marshal(slices.Delete(list, column, column+1))
			require.NoError(t, err)
			return string(data)
		}
		if strings.HasPrefix(line, "{") {
			require.NoError(t, json.Unmarshal([]byte(line), &head))
			gone, column = head.Table == "takes", -1
		}
		if head.Table == "classes" {
			var whole map[string]any
			require.NoError(t, json.Unmarshal([]byte(line), &whole))
			columns := whole["columns"].([]any)
			column = slices.Index(columns, any("phone_takes"))
			was, err := json.Marshal(columns)
			require.NoError(t, err)
			line = strings.Replace(line, string(was), less(columns), 1)
		} else if column >= 0 {
			var row []any
			require.NoError(t, json.Unmarshal([]byte(line), &row))
			line = less(row) + "\n"
		}
		switch {
		case gone:
		case head.Schema > 0:
			fmt.Fprintf(&earlier, `{"arplin_backup":1,"schema":32,"at":"2026-11-30T10:00:00Z"}`+"\n")
		case head.Rows != nil:
			delete(head.Rows, "takes")
			rows, err := json.Marshal(head.Rows)
			require.NoError(t, err)
			fmt.Fprintf(&earlier, `{"end":true,"rows":%s,"sha256":"%x"}`+"\n", rows, sha256.Sum256([]byte(earlier.String())))
		default:
			earlier.WriteString(line)
		}
	}
	to, _ := storetest.Own(t)
	b, err := backup.Restore(t.Context(), to.DB(), bytes.NewReader(zipped(t, earlier.String())))
	require.NoError(t, err)
	assert.EqualValues(t, 32, b.Schema)
	_, err = to.Ladder(t.Context(), sc.teacher, sc.ladder)
	require.NoError(t, err)
	require.NoError(t, to.KeepTake(t.Context(), sc.teacher, store.Take{StudentID: sc.students[0], Tempo: 60, At: time.Now()}, []byte("fLaC")), "of the newest version")
}

func zipped(t *testing.T, text string) []byte {
	t.Helper()
	var file bytes.Buffer
	zip := gzip.NewWriter(&file)
	_, err := zip.Write([]byte(text))
	require.NoError(t, errors.Join(err, zip.Close()))
	return file.Bytes()
}

func contents(t *testing.T, db *database.DB, table string) (sum string) {
	t.Helper()
	var name string
	require.NoError(t, db.QueryRow("CHECKSUM TABLE "+table).Scan(&name, &sum))
	return sum
}
