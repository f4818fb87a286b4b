package store_test

import (
	"database/sql"
	"database/sql/driver"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/store"
	"arplin/store/database"
	"arplin/store/keyvalue"
	"arplin/store/ref"
	"arplin/store/schema"
	"arplin/store/storetest"
)

// grow gives a school 30 students, 300 songs, 100 ladders, and 11,000 lines of a
// log of three years, by copying what it has.
func grow(t *testing.T, s *store.Store, sc school) {
	t.Helper()
	for _, statement := range []string{
		`INSERT INTO students (teacher_id, class_id, name, instrument, left_handed) SELECT ?, class_id, CONCAT('More ', seq), instrument, FALSE FROM students, seq_1_to_28 WHERE id = ?`,
		`INSERT INTO songs (teacher_id, title, meter, tempo, body, version, next_id, created_at, archived) SELECT ?, CONCAT('Song ', seq), meter, tempo, body, 1, next_id, created_at, seq % 7 = 0 FROM songs, seq_1_to_300 WHERE id = ?`,
		`INSERT INTO ladders (teacher_id, class_id, song_id, pattern_name, target, body, next_id, step_count, created_at, archived) SELECT ?, class_id, song_id, pattern_name, target, body, next_id, step_count, created_at + INTERVAL seq DAY, seq % 7 = 0 FROM ladders, seq_1_to_100 WHERE id = ?`,
		`INSERT INTO log_entries (teacher_id, student_id, ladder_id, step_id, played_id, tempo, client_id, at) SELECT e.teacher_id, t.id, l.id, e.step_id, e.played_id, 40 + seq % 80, CONCAT('grown-', t.id, '-', seq, '-', l.id), NOW() - INTERVAL seq * 3 DAY
			FROM log_entries e JOIN students t ON t.teacher_id = e.teacher_id JOIN seq_1_to_367 JOIN ladders l ON l.teacher_id = e.teacher_id AND l.id % 100 = seq % 100 WHERE e.teacher_id = ? AND e.id = ?`,
	} {
		id := map[string]int64{"students": int64(sc.students[0]), "songs": int64(sc.song), "ladders": int64(sc.ladder)}[strings.Fields(statement)[2]]
		if id == 0 {
			require.NoError(t, s.DB().QueryRow("SELECT MIN(id) FROM log_entries WHERE teacher_id = ?", sc.teacher).Scan(&id))
		}
		_, err := s.DB().Exec(statement, sc.teacher, id)
		require.NoError(t, err, statement)
	}
	_, err := s.DB().Exec("ANALYZE TABLE students, songs, ladders, log_entries, placements, played_steps, week_drills")
	require.NoError(t, err)
}

// Every list and page is read by an index: no query of a teacher looks through a
// whole table, and none sorts one. Source: MariaDB Server Documentation, EXPLAIN.
func TestEveryQueryHasAnIndex(t *testing.T) {
	ctx := t.Context()
	s, dsn := storetest.Own(t) // else backups would be of all this, where they come later
	_, err := schema.Migrate(ctx, s.DB())
	require.NoError(t, err)
	for _, name := range []string{"grown-a", "grown-b", "grown-c", "grown-d", "grown-e"} {
		sc := newSchool(t, s, name)
		l, err := s.Ladder(ctx, sc.teacher, sc.ladder)
		require.NoError(t, err)
		_, err = s.AddEntry(ctx, sc.teacher, store.Entry{StudentID: sc.students[0], LadderID: sc.ladder, Step: l.Steps[0], Tempo: 60, At: time.Now()}, "first-"+name)
		require.NoError(t, err)
		grow(t, s, sc)
	}
	var sc school
	var n int
	require.NoError(t, s.DB().QueryRow("SELECT COUNT(*), MAX(teacher_id) FROM log_entries").Scan(&n, &sc.teacher))
	require.Greater(t, n, 30_000)
	require.NoError(t, s.DB().QueryRow("SELECT MIN(class_id), MIN(id) FROM students WHERE teacher_id = ?", sc.teacher).Scan(&sc.class, &n))
	require.NoError(t, s.DB().QueryRow("SELECT MIN(id), MIN(song_id) FROM ladders WHERE teacher_id = ?", sc.teacher).Scan(&sc.ladder, &sc.song))
	student, since := ref.Student(n), time.Now().AddDate(0, -3, 0)

	type asked struct {
		query string
		args  []any
	}
	var queries []asked
	watched, err := store.Open(dsn)
	require.NoError(t, err)
	defer watched.Close()
	watched.DB().Watch(func(query string, args []driver.NamedValue) {
		q := asked{query: query}
		for _, a := range args {
			q.args = append(q.args, a.Value)
		}
		queries = append(queries, q)
	})
	f := store.Find{Words: "song 1"}
	for name, read := range map[string]func() error{
		"class":       func() error { _, err := watched.Class(ctx, sc.teacher, sc.class); return err },
		"classes":     func() error { _, err := watched.Classes(ctx, sc.teacher); return err },
		"students":    func() error { _, err := watched.Students(ctx, sc.teacher, sc.class); return err },
		"all":         func() error { _, err := watched.AllStudents(ctx, sc.teacher, sc.class); return err },
		"songs":       func() error { _, _, err := watched.Songs(ctx, sc.teacher, store.Find{}); return err },
		"songs found": func() error { _, _, err := watched.Songs(ctx, sc.teacher, f); return err },
		"songs in":    func() error { _, err := watched.SongsIn(ctx, sc.teacher, "4/4"); return err },
		"song":        func() error { _, err := watched.Song(ctx, sc.teacher, sc.song); return err },
		"songs of":    func() error { _, err := watched.SongsOf(ctx, sc.teacher, []ref.Song{sc.song}); return err },
		"ladders":     func() error { _, _, err := watched.Ladders(ctx, sc.teacher, sc.class, store.Find{}); return err },
		"ladders found": func() error {
			_, _, err := watched.Ladders(ctx, sc.teacher, sc.class, store.Find{Words: "waltz"})
			return err
		},
		"ladder":      func() error { _, err := watched.Ladder(ctx, sc.teacher, sc.ladder); return err },
		"ladders of":  func() error { _, err := watched.LaddersOf(ctx, sc.teacher, []ref.Ladder{sc.ladder}); return err },
		"on now":      func() error { _, err := watched.OnNow(ctx, sc.teacher, sc.class); return err },
		"places":      func() error { _, err := watched.Placements(ctx, sc.teacher, sc.ladder); return err },
		"tempos":      func() error { _, err := watched.TriesOn(ctx, sc.teacher, sc.ladder, since); return err },
		"entries":     func() error { _, err := watched.Entries(ctx, sc.teacher, sc.class, since); return err },
		"last clean":  func() error { _, err := watched.LastCleans(ctx, sc.teacher, sc.class, student, since); return err },
		"entries of":  func() error { _, err := watched.EntriesOf(ctx, sc.teacher, student, since); return err },
		"stands":      func() error { _, err := watched.Stands(ctx, sc.teacher, student); return err },
		"tense":       func() error { _, err := watched.Tense(ctx, sc.teacher, sc.class, since); return err },
		"log of":      func() error { _, err := watched.LogOf(ctx, sc.teacher, sc.class, since); return err },
		"ladders now": func() error { _, err := watched.LaddersNow(ctx, sc.teacher, sc.class); return err },
		"visit":       func() error { _, err := watched.Visit(ctx, sc.teacher, sc.class); return err },
		"heard now":   func() error { _, err := watched.HeardNow(ctx, sc.teacher, sc.class, since, since); return err },
		"decided":     func() error { _, err := watched.DecisionsOf(ctx, sc.teacher, sc.class, since); return err },
		"lessons":     func() error { _, err := watched.Lessons(ctx, sc.teacher, sc.class, 2, time.Now()); return err },
		"lesson":      func() error { _, err := watched.Lesson(ctx, sc.teacher, 1); return err },
		"away often":  func() error { _, err := watched.AwayOften(ctx, sc.teacher, sc.class); return err },
		"arrangement": func() error { _, err := watched.ArrangementOf(ctx, sc.teacher, sc.ladder); return err },
		"term":        func() error { _, err := watched.TermOf(ctx, sc.teacher, sc.class); return err },
		"decisions":   func() error { _, err := watched.Decisions(ctx, sc.teacher, student); return err },
		"failed": func() error {
			_, err := watched.FailedMost(ctx, sc.teacher, sc.class, student, sc.song, since)
			return err
		},
		"drills": func() error {
			_, err := watched.Drills(ctx, sc.teacher, sc.class)
			return err
		},
		"patterns": func() error { _, err := watched.Patterns(ctx, sc.teacher); return err },
		"archive":  func() error { _, _, err := watched.ArchivedOf(ctx, sc.teacher, store.Find{}); return err },
		"session":  func() error { _, err := keyvalue.Sessions(watched.DB()).Get("some-session"); return err },
		"teacher":  func() error { _, err := watched.TeacherByEmail(ctx, "nobody@arplin.test"); return err },
	} {
		queries = nil
		if err := read(); err != nil {
			require.ErrorIs(t, err, store.ErrNotFound, name)
		}
		require.NotEmpty(t, queries, name)
		for _, q := range queries {
			for _, step := range explain(t, s.DB(), q.query, q.args) {
				assert.False(t, step.kind == "ALL" && step.rows > 200, "%s looks through all of %s (%d rows): %s", name, step.table, step.rows, q.query)
				assert.False(t, step.kind == "index" && step.rows > 200, "%s looks through an index of %s (%d rows): %s", name, step.table, step.rows, q.query)
			}
		}
	}
}

type planStep struct {
	table, kind string
	rows        int64
}

func explain(t *testing.T, db *database.DB, query string, args []any) (steps []planStep) {
	t.Helper()
	rows, err := db.Query("EXPLAIN "+query, args...)
	require.NoError(t, err, query)
	defer rows.Close()
	names, err := rows.Columns()
	require.NoError(t, err)
	for rows.Next() {
		values := make([]sql.NullString, len(names))
		into := make([]any, len(names))
		for i := range values {
			into[i] = &values[i]
		}
		require.NoError(t, rows.Scan(into...))
		var step planStep
		for i, n := range names {
			switch n {
			case "table":
				step.table = values[i].String
			case "type":
				step.kind = values[i].String
			case "rows":
				for _, r := range values[i].String {
					step.rows = step.rows*10 + int64(r-'0')
				}
			}
		}
		if !strings.HasPrefix(step.table, "<") { // what is derived has been limited
			steps = append(steps, step)
		}
	}
	return steps
}
