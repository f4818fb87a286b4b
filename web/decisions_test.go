package web_test

import (
	"fmt"
	"net/url"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/store"
	"arplin/store/storetest"
)

// Several tempos in one line, one of them not clean, names without their accents; taking
// it back takes all of it back.
func TestSeveralTempos(t *testing.T) {
	b, id := ownSchool(t, "several")
	s, ctx := storetest.Open(t), t.Context()
	zoe, err := s.AddStudent(ctx, id.teacher, store.Student{ClassID: id.class, Name: "Zoë", Instrument: "guitar"})
	require.NoError(t, err)
	_, _, err = s.Place(ctx, id.teacher, id.ladder, store.Places{id.student: id.steps[0], zoe: id.steps[1]})
	require.NoError(t, err)
	b.get("/")
	res, body := b.post("/log", url.Values{"line": {"momo 60, zoe 55 x, max 3"}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode, body)
	res, _ = b.post("/log", url.Values{"line": {"momo 60, zoe 55 x 10m stiff"}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	_, body = b.get("/")
	assert.Contains(t, body, "Momo: 60, clean, on step 1; Zoë: 55, not clean, on step 2.")
	entries, err := s.Entries(ctx, id.teacher, id.class, time.Now().Add(-time.Hour))
	require.NoError(t, err)
	require.Len(t, entries, 2, "nothing of the line that could not be read")
	assert.True(t, entries[1].Failed)
	undo := regexp.MustCompile(`action="(/log/\d+/withdraw\?[^"]+)"`).FindStringSubmatch(body)
	require.NotNil(t, undo)
	b.post(strings.ReplaceAll(undo[1], "&amp;", "&"), url.Values{})
	entries, err = s.Entries(ctx, id.teacher, id.class, time.Now().Add(-time.Hour))
	require.NoError(t, err)
	assert.Empty(t, entries, "both are taken back")
}

// Three times clean at the goal on two days: the desk proposes the next step, one click
// takes it, and what was decided is kept with its reason.
func TestADecisionOnTheDesk(t *testing.T) {
	b, id := ownSchool(t, "decisions")
	s, ctx := storetest.Open(t), t.Context()
	_, _, err := s.Place(ctx, id.teacher, id.ladder, store.Places{id.student: id.steps[0]})
	require.NoError(t, err)
	l, err := s.Ladder(ctx, id.teacher, id.ladder)
	require.NoError(t, err)
	add := func(days, tempo int, failed bool) {
		_, err := s.AddEntry(ctx, id.teacher, store.Entry{StudentID: id.student, LadderID: id.ladder, Step: l.Steps[0], Tempo: tempo, Failed: failed, At: time.Now().AddDate(0, 0, -days)}, fmt.Sprintf("decided-%d-%d-%v", days, tempo, failed))
		require.NoError(t, err)
	}
	add(7, 84, false)
	add(7, 85, false)
	_, body := b.get("/")
	assert.Contains(t, body, "ready after 3 times on 2 days")
	assert.NotContains(t, body, "who is ready")
	add(0, 86, false)
	_, body = b.get("/")
	assert.Contains(t, body, "Move on Momo, who is ready")
	assert.Contains(t, body, "3 times clean at")
	form := url.Values{"class": {id.in("%[5]d")}, "ladder": {id.in("%[2]d")}, "decision": {id.in("%[4]d move-on")}}
	res, answer := b.post("/decisions", form)
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode, answer)
	places, err := s.Placements(ctx, id.teacher, id.ladder)
	require.NoError(t, err)
	assert.Equal(t, l.Steps[1].ID, places[id.student])
	kept, err := s.Decisions(ctx, id.teacher, id.student)
	require.NoError(t, err)
	require.Len(t, kept, 1)
	assert.Contains(t, kept[0].Why, "3 times clean")
	_, body = b.get("/")
	assert.Contains(t, body, "Momo is on step 2 now.")
	assert.NotContains(t, body, "at goal", "a new step starts without a tempo")
	undo := regexp.MustCompile(`action="(/ladders/\d+/undo\?back=desk)"[^>]*>.*?name="version" value="(\d+)"`).FindStringSubmatch(body)
	require.NotNil(t, undo)
	b.post(undo[1], url.Values{"version": {undo[2]}})
	places, err = s.Placements(ctx, id.teacher, id.ladder)
	require.NoError(t, err)
	assert.Equal(t, l.Steps[0].ID, places[id.student])
	res, answer = b.post("/decisions", url.Values{"class": {id.in("%[5]d")}, "ladder": {id.in("%[2]d")}, "decision": {id.in("%[4]d ease")}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, answer, "no step further that way")
	res, _ = b.post("/decisions", url.Values{"class": {id.in("%[5]d")}, "ladder": {"1"}, "decision": {id.in("%[4]d move-on")}})
	assert.Equal(t, fiber.StatusNotFound, res.StatusCode, "another teacher’s ladder")
}
