package store_test

import (
	"database/sql"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/pattern"
	"arplin/core/say"
	"arplin/store"
	"arplin/store/ref"
	"arplin/store/storetest"
)

// everyText is every value of every row of every table, as text, by table; and
// how often a number stands in a column of a name.
func everyText(t *testing.T, column string, number int64) (texts map[string]string, rows int) {
	t.Helper()
	db, err := sql.Open("mysql", storetest.DSN)
	require.NoError(t, err)
	defer db.Close()
	var tables []string
	list, err := db.Query("SHOW TABLES")
	require.NoError(t, err)
	for list.Next() {
		var name string
		require.NoError(t, list.Scan(&name))
		tables = append(tables, name)
	}
	require.NoError(t, list.Close())
	require.Greater(t, len(tables), 10)
	texts = map[string]string{}
	for _, table := range tables {
		r, err := db.Query("SELECT * FROM `" + table + "`")
		require.NoError(t, err)
		columns, err := r.Columns()
		require.NoError(t, err)
		var all strings.Builder
		for r.Next() {
			values := make([]sql.NullString, len(columns))
			into := make([]any, len(columns))
			for i := range values {
				into[i] = &values[i]
			}
			require.NoError(t, r.Scan(into...))
			for i, v := range values {
				all.WriteString(v.String + "\n")
				if columns[i] == column && v.String == fmt.Sprint(number) {
					rows++
				}
			}
		}
		require.NoError(t, r.Close())
		texts[table] = all.String()
	}
	return texts, rows
}

// A student who is erased leaves no row and no word, in any table.
func TestAnErasedStudentLeavesNoRow(t *testing.T) {
	s := storetest.Open(t)
	sc := newSchool(t, s, "erase")
	ctx := t.Context()
	name := "Zzyzzyx"
	id, err := s.AddStudent(ctx, sc.teacher, store.Student{ClassID: sc.class, Name: name, Instrument: "guitar"})
	require.NoError(t, err)
	l, err := s.Ladder(ctx, sc.teacher, sc.ladder)
	require.NoError(t, err)
	entry, err := s.AddEntry(ctx, sc.teacher, store.Entry{StudentID: id, LadderID: sc.ladder, Step: l.Steps[1], Tempo: 60, At: time.Now()}, "erase-entry-0001")
	require.NoError(t, err)
	require.NoError(t, s.Withdraw(ctx, sc.teacher, entry, time.Now()))
	_, _, err = s.Place(ctx, sc.teacher, sc.ladder, store.Places{id: l.Steps[2].ID})
	require.NoError(t, err)
	l, err = s.Ladder(ctx, sc.teacher, sc.ladder)
	require.NoError(t, err)
	l.Steps = l.Steps[1:]
	require.NoError(t, s.SaveLadder(ctx, sc.teacher, l, say.Of("dropped", 1)))
	d := aDrill(sc)
	d.StudentID = id
	_, err = s.AddDrill(ctx, sc.teacher, d)
	require.NoError(t, err)
	lesson, err := s.NextLesson(ctx, sc.teacher, sc.class, time.Now())
	require.NoError(t, err)
	require.NoError(t, s.SetAway(ctx, sc.teacher, lesson.ID, id, true))
	require.NoError(t, s.KeepTake(ctx, sc.teacher, store.Take{StudentID: id, LadderID: sc.ladder, Tempo: 60, Says: name, At: time.Now()}, []byte("fLaC")))
	_, before := everyText(t, "student_id", int64(id))
	require.Greater(t, before, 4, "the student is in many tables")

	assert.ErrorIs(t, s.Delete(ctx, sc.teacher, ref.AStudent, int64(id)), store.ErrNotFound, "what is not archived cannot be deleted by a slip")
	require.NoError(t, s.Archive(ctx, sc.teacher, ref.AStudent, int64(id), true))
	list, _, err := s.ArchivedOf(ctx, sc.teacher, store.Find{})
	require.NoError(t, err)
	assert.Equal(t, []store.Archived{{Kind: ref.AStudent, ID: int64(id), Name: name, Entries: 2}}, list)
	students, err := s.Students(ctx, sc.teacher, sc.class)
	require.NoError(t, err)
	assert.Len(t, students, 2, "archived is off the list")
	places, err := s.Placements(ctx, sc.teacher, sc.ladder)
	require.NoError(t, err)
	assert.NotContains(t, places, id)

	require.NoError(t, s.Delete(ctx, sc.teacher, ref.AStudent, int64(id)))
	texts, rows := everyText(t, "student_id", int64(id))
	assert.Zero(t, rows)
	for table, text := range texts {
		assert.NotContains(t, text, name, table)
	}
	_, err = s.Student(ctx, sc.teacher, id)
	assert.ErrorIs(t, err, store.ErrNotFound)
	moved, err := s.MoveLadder(ctx, sc.teacher, sc.ladder, l.Version+1, -1)
	require.NoError(t, err, "undo goes on without the student")
	assert.NotContains(t, moved.Now, id)
}

// Everything that can be archived comes off its list, is found on the list of
// what is archived, comes back, and goes for good; so does a whole account.
func TestArchiveAndDelete(t *testing.T) {
	s := storetest.Open(t)
	sc := newSchool(t, s, "archive")
	ctx := t.Context()
	own, err := s.AddPattern(ctx, sc.teacher, "Own", pattern.MustParse("4/4: p . . ."))
	require.NoError(t, err)
	for _, c := range []struct {
		kind ref.Kind
		id   int64
		list func() (int, error)
	}{
		{ref.APattern, int64(own), func() (int, error) { l, err := s.Patterns(ctx, sc.teacher); return len(l), err }},
		{ref.ALadder, int64(sc.ladder), func() (int, error) {
			l, _, err := s.Ladders(ctx, sc.teacher, sc.class, store.Find{})
			return len(l), err
		}},
		{ref.ASong, int64(sc.song), func() (int, error) { l, _, err := s.Songs(ctx, sc.teacher, store.Find{}); return len(l), err }},
		{ref.AClass, int64(sc.class), func() (int, error) { l, err := s.Classes(ctx, sc.teacher); return len(l), err }},
	} {
		count := func() int { n, err := c.list(); require.NoError(t, err); return n }
		require.NoError(t, s.Archive(ctx, sc.teacher, c.kind, c.id, true))
		assert.Equal(t, 0, count(), c.kind)
		archived, _, err := s.ArchivedOf(ctx, sc.teacher, store.Find{})
		require.NoError(t, err)
		require.Len(t, archived, 1)
		assert.Equal(t, c.kind, archived[0].Kind)
		require.NoError(t, s.Archive(ctx, sc.teacher, c.kind, c.id, false))
		assert.Equal(t, 1, count(), c.kind)
		require.NoError(t, s.Archive(ctx, sc.teacher, c.kind, c.id, true))
		require.NoError(t, s.Delete(ctx, sc.teacher, c.kind, c.id))
		assert.Equal(t, 0, count(), c.kind)
		assert.ErrorIs(t, s.Archive(ctx, sc.teacher, c.kind, c.id, false), store.ErrNotFound)
	}
	assert.ErrorIs(t, s.Archive(ctx, sc.teacher, "teachers", 1, true), store.ErrNotFound, "no other table")

	assert.ErrorIs(t, s.DeleteTeacher(ctx, sc.teacher), store.ErrNotFound, "an account is archived first")
	require.NoError(t, s.ArchiveTeacher(ctx, sc.teacher, true))
	teacher, err := s.Teacher(ctx, sc.teacher)
	require.NoError(t, err)
	assert.True(t, teacher.Archived)
	require.NoError(t, s.DeleteTeacher(ctx, sc.teacher))
	_, rows := everyText(t, "teacher_id", int64(sc.teacher))
	assert.Zero(t, rows)
}

// The keys of the tables keep one teacher's rows from hanging on another's, even
// where a query forgets to ask.
func TestRowsAreBoundToTheirOwner(t *testing.T) {
	s := storetest.Open(t)
	mine, theirs := newSchool(t, s, "bound-mine"), newSchool(t, s, "bound-theirs")
	db, err := sql.Open("mysql", storetest.DSN)
	require.NoError(t, err)
	defer db.Close()
	for _, query := range []string{
		fmt.Sprintf("INSERT INTO placements (teacher_id, ladder_id, student_id, step_id) VALUES (%d, %d, %d, 1)", mine.teacher, mine.ladder, theirs.students[0]),
		fmt.Sprintf("UPDATE students SET class_id = %d, name = 'Moved' WHERE id = %d", theirs.class, mine.students[0]),
		fmt.Sprintf("UPDATE ladders SET song_id = %d WHERE id = %d", theirs.song, mine.ladder),
		fmt.Sprintf("INSERT INTO song_revisions (teacher_id, document_id, n, done, body) VALUES (%d, %d, 9, '{}', '')", mine.teacher, theirs.song),
	} {
		_, err := db.Exec(query)
		assert.ErrorContains(t, err, "foreign key", query)
	}
}
