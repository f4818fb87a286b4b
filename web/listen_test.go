package web_test

import (
	"encoding/json"
	"net/url"
	"strings"
	"testing"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/listen"
	"arplin/store"
	"arplin/store/storetest"
)

// The worker that judges takes may compile WebAssembly, and no page may. Source: W3C, Content Security Policy Level 3.
func TestOnlyTheEarCompiles(t *testing.T) {
	b := signedIn(t)
	policyOf := func(path string) string {
		res, _ := b.get(path)
		require.Equal(t, fiber.StatusOK, res.StatusCode, path)
		return res.Header.Get("Content-Security-Policy")
	}
	assert.Contains(t, policyOf("/static/js/ear-worker.js"), "'wasm-unsafe-eval'")
	for _, path := range []string{"/", "/songs", "/static/js/listen.js"} {
		assert.NotContains(t, policyOf(path), "wasm", path)
	}
	assert.Contains(t, policyOf("/"), "media-src 'self' blob:;", "a take is played from the page's own memory, or from where it is kept")
}

// What a take proposes stands in the field, as text, and is logged by nobody but the teacher.
func TestALineIsProposed(t *testing.T) {
	b, id := ownSchool(t, "proposed")
	before := count(t, "SELECT COUNT(*) FROM log_entries WHERE teacher_id = ?", id.teacher)
	_, body := b.get(id.in("/?ladder=%[2]d") + "&line=" + url.QueryEscape(`momo 61 x ru"><script>`))
	assert.Contains(t, body, `value="momo 61 x ru&#34;&gt;&lt;script&gt;"`)
	_, body = b.get("/?line=" + strings.Repeat("a", 4000))
	assert.NotContains(t, body, `name="line" autocomplete="off" placeholder="pia 72, wim 66 x" value="`+strings.Repeat("a", 200))
	assert.Equal(t, before, count(t, "SELECT COUNT(*) FROM log_entries WHERE teacher_id = ?", id.teacher))
}

// What is logged as Listen proposed it is a take, also with a name put in front of it; what a teacher
// has changed is the teacher's own.
func TestATakeIsLoggedAsATake(t *testing.T) {
	b, id := ownSchool(t, "taken")
	_, _, err := storetest.Open(t).Place(t.Context(), id.teacher, id.ladder, store.Places{id.student: id.steps[0]})
	require.NoError(t, err)
	_, body := b.get("/?take=80&line=" + url.QueryEscape("Momo 80"))
	assert.Contains(t, body, `name="take" value="80"`)
	taken := func() int {
		return count(t, "SELECT COUNT(*) FROM log_entries WHERE teacher_id = ? AND taken", id.teacher)
	}
	for _, c := range []struct {
		line, take string
		want       int
	}{{"Momo 80", "80", 1}, {"Momo 80", "", 1}, {"Momo 82", "80", 1}, {"Momo 80 x", "80", 1}, {"Momo 80, Momo 80", "80", 1}, {"momo 76 x ru", "76 x ru", 2}} {
		res, body := b.post("/log", url.Values{"line": {c.line}, "take": {c.take}, "ladder": {id.in("%[2]d")}})
		require.Equal(t, fiber.StatusSeeOther, res.StatusCode, body)
		assert.Equal(t, c.want, taken(), "%q after %q", c.line, c.take)
	}
	_, body = b.get("/log/read?ladder=" + id.in("%[2]d") + "&take=80&line=" + url.QueryEscape("Momo 80"))
	assert.Contains(t, body, "as Listen heard it")
	_, body = b.get(id.in("/students/%[4]d"))
	assert.Contains(t, body, "as Listen heard it")
}

// What the play bar is given is enough to listen for: the ear's score has the bar's strokes and shapes.
func TestTheScoreOfAPlayBarCanBeListenedFor(t *testing.T) {
	b := signedIn(t)
	_, body := b.get("/patterns/thumb-two-between/score")
	var sung listen.Sung
	require.NoError(t, json.Unmarshal([]byte(body), &sung))
	score, err := sung.Score(72, 0, len(sung.Bars)-1, 8)
	require.NoError(t, err)
	assert.Equal(t, 8*7, len(score.Strokes), "a pinch is a stroke of each hand")
	for _, st := range score.Strokes {
		require.NotEmpty(t, st.Shape)
		found := false
		for _, p := range st.Shape {
			found = found || p.MIDI == st.Sounds[0].MIDI && p.String == st.Sounds[0].String
		}
		assert.True(t, found, "%s: what is struck is a string of the shape", st.Chord)
	}
}
