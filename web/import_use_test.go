package web_test

import (
	"encoding/json"
	"fmt"
	"net/url"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/pattern"
	"arplin/core/practice"
	"arplin/store"
	"arplin/store/storetest"
)

// Whatever a teacher does with what an import brought, the import is not undone over it: it is
// refused with what was used, and all of it stands.
func TestUndoOfAnImportLeavesLaterWorkAlone(t *testing.T) {
	_, _, data := ownBundle(t, "later-from")
	for i, later := range []struct {
		what string
		does func(t *testing.T, b *browser, s *store.Store, in ids)
	}{
		{"students", func(t *testing.T, b *browser, s *store.Store, in ids) {
			st, err := s.Student(t.Context(), in.teacher, in.student)
			require.NoError(t, err)
			res, body := b.post(in.in("/students/%[4]d/note"), url.Values{"note": {"plays softly"}, "version": {fmt.Sprint(st.Version)}})
			require.Equal(t, fiber.StatusSeeOther, res.StatusCode, body)
		}},
		{"the term", func(t *testing.T, b *browser, s *store.Store, in ids) {
			term, err := s.TermOf(t.Context(), in.teacher, in.class)
			require.NoError(t, err)
			term.Name = "summer"
			require.NoError(t, s.SetTerm(t.Context(), in.teacher, term))
		}},
		{"who plays what", func(t *testing.T, b *browser, s *store.Store, in ids) {
			a, err := s.ArrangementOf(t.Context(), in.teacher, in.ladder)
			require.NoError(t, err)
			a.Body = strings.Replace(a.Body, "rest", "chords", 1)
			require.NoError(t, s.SetArrangement(t.Context(), in.teacher, a))
		}},
		{"lessons", func(t *testing.T, b *browser, s *store.Store, in ids) {
			_, body := b.get("/lesson")
			res, body := b.post("/lesson/move", url.Values{"class": {fmt.Sprint(in.class)}, "version": {version(t, body)}, "do": {"begin"}})
			require.Equal(t, fiber.StatusSeeOther, res.StatusCode, body)
		}},
		{"attendance", func(t *testing.T, b *browser, s *store.Store, in ids) {
			res, body := b.post("/lesson/register?away=yes", url.Values{"class": {fmt.Sprint(in.class)}, "student": {fmt.Sprint(in.student)}, "version": {"0"}})
			require.Equal(t, fiber.StatusSeeOther, res.StatusCode, body)
		}},
		{"drills", func(t *testing.T, b *browser, s *store.Store, in ids) {
			sg, err := s.Song(t.Context(), in.teacher, in.song)
			require.NoError(t, err)
			_, err = s.AddDrill(t.Context(), in.teacher, store.WeekDrill{StudentID: in.student, SongID: in.song, Week: time.Now(), Kind: "bar", Bar: sg.Bars()[0].ID, Pattern: pattern.MustParse("4/4: p . . ."), PatternName: "Thumb", Minutes: 5})
			require.NoError(t, err)
		}},
		{"the settings of a class", func(t *testing.T, b *browser, s *store.Store, in ids) {
			_, err := database(t).Exec("UPDATE classes SET name = 'Renamed', version = version + 1 WHERE id = ?", in.class)
			require.NoError(t, err)
		}},
		{"decisions", func(t *testing.T, b *browser, s *store.Store, in ids) {
			l, err := s.Ladder(t.Context(), in.teacher, in.ladder)
			require.NoError(t, err)
			_, err = database(t).Exec("INSERT INTO decisions (teacher_id, student_id, ladder_id, kind, step_id, to_step, why, at, n) VALUES (?, ?, ?, ?, ?, ?, '', UTC_TIMESTAMP(), 0)", in.teacher, in.student, in.ladder, string(practice.Stay), l.Steps[0].ID, l.Steps[0].ID)
			require.NoError(t, err)
		}},
		{"log entries", func(t *testing.T, b *browser, s *store.Store, in ids) {
			l, err := s.Ladder(t.Context(), in.teacher, in.ladder)
			require.NoError(t, err)
			_, err = s.AddEntry(t.Context(), in.teacher, store.Entry{StudentID: in.student, LadderID: in.ladder, Step: l.Steps[0], Tempo: 70, At: time.Now()}, "later-entry-0001")
			require.NoError(t, err)
		}},
		{"places on steps", func(t *testing.T, b *browser, s *store.Store, in ids) {
			_, _, err := s.Place(t.Context(), in.teacher, in.ladder, store.Places{in.student: in.steps[1]})
			require.NoError(t, err)
		}},
	} {
		t.Run(later.what, func(t *testing.T) {
			name := fmt.Sprintf("later-%d", i)
			b, own := ownSchool(t, name)
			s, ctx := storetest.Open(t), t.Context()
			body := b.take(data)
			undo := nth(t, body, `name="import" value="(\d+)"`, 1)
			classes, err := s.Classes(ctx, own.teacher)
			require.NoError(t, err)
			in := ids{teacher: own.teacher, class: classes[len(classes)-1].ID}
			students, err := s.Students(ctx, in.teacher, in.class)
			require.NoError(t, err)
			in.student = students[0].ID
			ladders, err := s.LadderIDs(ctx, in.teacher, in.class)
			require.NoError(t, err)
			l, err := s.Ladder(ctx, in.teacher, ladders[0])
			require.NoError(t, err)
			in.ladder, in.song = l.ID, l.SongID
			for _, step := range l.Steps {
				in.steps = append(in.steps, step.ID)
			}
			b.post("/class/choose", url.Values{"class": {fmt.Sprint(in.class)}})
			later.does(t, b, s, in)
			b.get("/files")
			res, body := b.post("/files/undo", url.Values{"import": {undo}})
			assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
			assert.Contains(t, body, later.what)
			left, err := s.Students(ctx, in.teacher, in.class)
			require.NoError(t, err)
			assert.Len(t, left, len(students), "nobody is gone")
		})
	}
}

// Four who send the same form at once import the file once.
func TestAFileIsTakenInOnce(t *testing.T) {
	t.Parallel()
	_, _, data := ownBundle(t, "once-from")
	b, own := ownSchool(t, "once-into")
	b.get("/files")
	_, body := b.sendFile("/files/look", "home.arplin.zip", data, nil)
	token := nth(t, body, `name="token" value="([A-Z0-9]+)"`, 1)
	var wait sync.WaitGroup
	taken := make(chan bool, 4)
	for i := range 4 {
		tab := b.tab()
		wait.Go(func() {
			res, _ := tab.post("/files/take", url.Values{"token": {token}, "name": {"home.zip"}, "form_key": {fmt.Sprint("key", i)}})
			taken <- res.Header.Get("Location") == "/files"
		})
	}
	wait.Wait()
	close(taken)
	n := 0
	for ok := range taken {
		if ok {
			n++
		}
	}
	assert.Equal(t, 1, n)
	classes, err := storetest.Open(t).Classes(t.Context(), own.teacher)
	require.NoError(t, err)
	assert.Len(t, classes, 2, "its own, and the file's once")
}

// A file keeps to what the forms allow: what does not is listed and left, the rest comes.
func TestAFileObeysTheRulesOfTheForms(t *testing.T) {
	t.Parallel()
	_, _, data := ownBundle(t, "rules-from")
	spoil := func(change func(b map[string]any)) string {
		var b map[string]any
		require.NoError(t, json.Unmarshal(bundleJSON(t, data), &b))
		change(b)
		text, err := json.Marshal(b)
		require.NoError(t, err)
		into, _ := ownSchool(t, fmt.Sprintf("rules-%x", time.Now().UnixNano()))
		into.get("/files")
		res, body := into.sendFile("/files/look", "home.json", text, nil)
		require.Equal(t, fiber.StatusOK, res.StatusCode, body)
		return body
	}
	first := func(b map[string]any, kind string) map[string]any { return b[kind].([]any)[0].(map[string]any) }
	assert.Contains(t, spoil(func(b map[string]any) { first(b, "students")["day_minutes"] = 600 }), "a day has 5 to 120 minutes of practice, not 600")
	assert.Contains(t, spoil(func(b map[string]any) { first(b, "classes")["minutes"] = 500 }), "a lesson has 5 to 240 minutes")
	assert.Contains(t, spoil(func(b map[string]any) { first(b, "terms")["concert"] = "2075-01-01" }), "a term has 2 to 26 weeks")
	assert.Contains(t, spoil(func(b map[string]any) { first(b, "terms")["begins"] = "0002-01-01" }), "a term is between the years")
	assert.Contains(t, spoil(func(b map[string]any) { first(b, "log")["at"] = "0001-01-01T00:00:00Z" }), "it is of the year 1")
	assert.Contains(t, spoil(func(b map[string]any) {
		a := first(b, "arrangements")
		group := a["groups"].([]any)[0].([]any)
		for range 200 {
			group = append(group, group[0])
		}
		a["groups"].([]any)[0] = group
	}), "a student is in it twice")
}

// An import that takes longer than a page may still has its note and its undo.
func TestASlowImportKeepsItsNote(t *testing.T) {
	_, _, data := ownBundle(t, "slow-from")
	b, own := ownSchool(t, "slow-into")
	quickly := newPatient(t, b, 700*time.Millisecond)
	quickly.get("/files")
	_, body := quickly.sendFile("/files/look", "home.arplin.zip", data, nil)
	token := nth(t, body, `name="token" value="([A-Z0-9]+)"`, 1)
	tx, err := database(t).Begin()
	require.NoError(t, err)
	_, err = tx.Exec("SELECT id FROM teachers WHERE id = ? FOR UPDATE", own.teacher)
	require.NoError(t, err)
	time.AfterFunc(1500*time.Millisecond, func() { _ = tx.Rollback() })
	res, body := quickly.post("/files/take", url.Values{"token": {token}, "name": {"home.zip"}})
	require.Equal(t, "/files", res.Header.Get("Location"), body)
	_, body = quickly.get("/files")
	assert.Contains(t, body, "Imported.")
	assert.Contains(t, body, "/files/undo?import=")
}
