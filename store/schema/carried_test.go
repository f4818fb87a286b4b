package schema_test

import (
	"database/sql"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/ladder"
	"arplin/core/song"
	"arplin/store"
	"arplin/store/localdb"
	"arplin/store/ref"
	"arplin/store/schema"
	"arplin/store/storetest"
)

// The database of version 7 with the demo in it, after an evening of edits and
// logs: testdata/version7.sql is a dump of it, made with the program of that day.
func TestIdentitiesAreCarriedOver(t *testing.T) {
	server, err := localdb.Start(t.Context(), t.TempDir())
	require.NoError(t, err)
	t.Cleanup(func() { server.Stop() }) //nolint:errcheck // the folder goes anyway
	loadDump(t, server.DSN, "testdata/version7.sql")
	s, err := store.Open(server.DSN)
	require.NoError(t, err)
	t.Cleanup(func() { s.Close() })
	_, err = schema.Migrate(t.Context(), s.DB())
	require.NoError(t, err)
	ctx := t.Context()
	teacher, err := s.TeacherByEmail(ctx, "teacher@arplin.test")
	require.NoError(t, err)
	classes, err := s.Classes(ctx, teacher.ID)
	require.NoError(t, err)
	students, err := s.Students(ctx, teacher.ID, classes[0].ID)
	require.NoError(t, err)
	id := map[string]ref.Student{}
	for _, st := range students {
		id[st.Name] = st.ID
	}
	l, err := s.Ladder(ctx, teacher.ID, 1)
	require.NoError(t, err)
	places, err := s.Placements(ctx, teacher.ID, 1)
	require.NoError(t, err)
	require.Len(t, places, 9)

	// Pia was logged at 78 on the fifth step, at 80 after a step below was dropped:
	// both belong to the step on which she stands.
	entries, err := s.Entries(ctx, teacher.ID, classes[0].ID, time.Time{}.AddDate(2000, 0, 0))
	require.NoError(t, err)
	heard := map[string]map[int]ladder.Step{}
	for name, student := range id {
		heard[name] = map[int]ladder.Step{}
		for _, e := range entries {
			if e.StudentID == student {
				heard[name][e.Tempo] = e.Step
			}
		}
	}
	for name, tempos := range map[string][]int{"Pia": {78, 80}, "Tomas": {70}, "Ilse": {82}, "Oskar": {66}, "Lotte": {66}} {
		for _, tempo := range tempos {
			step := heard[name][tempo]
			assert.Equal(t, places[id[name]], step.ID, "%s at %d", name, tempo)
			at := ladder.Find(l.Steps, step.ID)
			require.GreaterOrEqual(t, at, 0, "%s at %d", name, tempo)
			assert.Equal(t, l.Steps[at].Pattern, step.Pattern, "the figure is the one that was played")
		}
	}

	// Undo names the same steps and brings everybody along.
	for range 5 {
		l, err = s.Ladder(ctx, teacher.ID, 1)
		require.NoError(t, err)
		_, err = s.MoveLadder(ctx, teacher.ID, 1, l.Version, -1)
		require.NoError(t, err)
	}
	first, err := s.Ladder(ctx, teacher.ID, 1)
	require.NoError(t, err)
	back, err := s.Placements(ctx, teacher.ID, 1)
	require.NoError(t, err)
	for name, step := range map[string]string{"Pia": "4/4: p+m . p' i p . p' .", "Ilse": "4/4: p+m . p' i p m p' .", "Tomas": "4/4: p+m . p' . p . p' ."} {
		at := ladder.Find(first.Steps, back[id[name]])
		require.GreaterOrEqual(t, at, 0, name)
		assert.Equal(t, step, first.Steps[at].Pattern.String(), name)
	}

	// The song: a bar that was put in, one that was changed, a section that was renamed.
	sg, err := s.Song(ctx, teacher.ID, 1)
	require.NoError(t, err)
	assert.Equal(t, "Strophe", sg.Sections[0].Name)
	was := map[string]song.SectionID{"Strophe": sg.Sections[0].ID, "Chorus": sg.Sections[1].ID}
	inserted := sg.Sections[0].Bars[2].ID
	for range 4 {
		_, err = s.MoveSong(ctx, teacher.ID, 1, sg.Version, -1)
		require.NoError(t, err)
		sg.Version++
	}
	sg, err = s.Song(ctx, teacher.ID, 1)
	require.NoError(t, err)
	assert.Equal(t, "Verse", sg.Sections[0].Name)
	assert.Equal(t, was["Strophe"], sg.Sections[0].ID, "a renamed section is the same")
	assert.Equal(t, was["Chorus"], sg.Sections[1].ID)
	section, _ := sg.BarAt(inserted)
	assert.Negative(t, section, "the bar was not there yet")
	_, err = s.MoveSong(ctx, teacher.ID, 1, sg.Version, +1)
	require.NoError(t, err)

	// The ladder of a part, and the drills.
	part, err := s.Ladder(ctx, teacher.ID, 2)
	require.NoError(t, err)
	third, err := s.Song(ctx, teacher.ID, 3)
	require.NoError(t, err)
	assert.Equal(t, third.Named("Chorus"), part.Sections)
	drill, err := s.Drill(ctx, teacher.ID, 1)
	require.NoError(t, err)
	assert.Equal(t, inserted, drill.Bar, "bar 3 when it was made")
}

func loadDump(t *testing.T, dsn, path string) {
	t.Helper()
	data, err := os.ReadFile(path)
	require.NoError(t, err)
	db, err := sql.Open("mysql", dsn)
	require.NoError(t, err)
	defer db.Close()
	conn, err := db.Conn(t.Context())
	require.NoError(t, err)
	defer conn.Close()
	_, err = conn.ExecContext(t.Context(), "SET FOREIGN_KEY_CHECKS = 0")
	require.NoError(t, err)
	for _, statement := range strings.Split(string(data), ";\n") {
		if statement = strings.TrimSpace(statement); statement == "" {
			continue
		}
		_, err := conn.ExecContext(t.Context(), statement)
		require.NoError(t, err, statement[:min(len(statement), 200)])
	}
}

// What was stored before names were kept gets the one under which it was exported then; what came
// from a file, the newest import's; a copy of the program that is older stores rows with a name, too.
func TestNamesAreCarriedOver(t *testing.T) {
	s, _ := storetest.Own(t)
	_, err := schema.MigrateTo(t.Context(), s.DB(), 20)
	require.NoError(t, err)
	for _, q := range []string{
		"INSERT INTO teachers (id, email, name, password_hash, created_at) VALUES (7, 'old@arplin.test', 'Old', 'x', '2026-03-01 10:00:00')",
		"INSERT INTO patterns (id, teacher_id, name, notation, version, created_at) VALUES (11, 7, 'Mine', '4/4: p . . .', 1, '2026-03-01'), (12, 7, 'First', '4/4: p . . .', 1, '2026-03-01'), (13, 7, 'Second', '4/4: p . . .', 1, '2026-03-01')",
		"INSERT INTO imports (id, teacher_id, name, says, at) VALUES (1, 7, 'a', '', '2026-03-02'), (2, 7, 'a', '', '2026-03-03')",
		"INSERT INTO imported (teacher_id, import_id, uid, kind, row_id, changed, version, was) VALUES (7, 1, 'there-pattern-5', 'pattern', 12, FALSE, 1, ''), (7, 2, 'there-pattern-5', 'pattern', 13, FALSE, 1, '')",
	} {
		_, err := s.DB().Exec(q)
		require.NoError(t, err, q)
	}
	_, err = schema.Migrate(t.Context(), s.DB())
	require.NoError(t, err)
	_, err = s.DB().Exec("INSERT INTO patterns (teacher_id, name, notation, version, created_at) VALUES (7, 'Of an older copy', '4/4: p . . .', 1, '2026-03-04')")
	require.NoError(t, err)
	named, err := s.NamedThings(t.Context(), 7)
	require.NoError(t, err)
	by := map[int64]string{}
	for _, n := range named {
		by[n.ID] = string(n.UID)
	}
	require.Len(t, by, 4)
	assert.Regexp(t, `^[0-9a-f]{16}-pattern-11$`, by[11])
	assert.Regexp(t, `^[0-9a-f]{16}-pattern-12$`, by[12])
	assert.Equal(t, "there-pattern-5", by[13])
	assert.Len(t, by[14], 36)
}
