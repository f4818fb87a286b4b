package web_test

import (
	"bytes"
	"fmt"
	"log/slog"
	"net/http/httptest"
	"net/url"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/format/bundle"
	"arplin/store"
	"arplin/store/storetest"
	"arplin/web"
)

// A visitor has no session; signing in makes one, and a session that was there
// before, perhaps by another hand, is worth nothing then. Source: OWASP, Session
// Management Cheat Sheet.
func TestSignInRenewsTheSession(t *testing.T) {
	b, id := ownSchool(t, "renewal")
	before := b.cookies["arplin_session"]
	require.NotEmpty(t, before)
	b.get("/signin")
	res, _ := b.post("/signin", url.Values{"email": {"renewal@arplin.test"}, "password": {"nonsense all over"}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	after := b.cookies["arplin_session"]
	assert.NotEqual(t, before, after)
	b.cookies["arplin_session"] = before
	res, _ = b.get(id.in("/songs/%[1]d"))
	assert.Equal(t, "/signin", res.Header.Get("Location"), "the old session is signed in nowhere")

	visitor := newBrowser(t, storetest.Open(t))
	visitor.cookies["arplin_session"] = "made-up"
	visitor.get("/signin")
	visitor.get("/")
	assert.Equal(t, "made-up", visitor.cookies["arplin_session"], "a visitor gets none")
	res, _ = visitor.send(httptest.NewRequest("HEAD", "/healthz", nil))
	assert.Equal(t, fiber.StatusOK, res.StatusCode)
	assert.Empty(t, res.Cookies())
}

// Over TLS the cookies say so and the browser is told to stay with it. Source:
// RFC 6265, Secure; RFC 6797.
func TestOverTLS(t *testing.T) {
	for _, secure := range []bool{true, false} {
		app, err := web.New(web.Config{Store: storetest.Open(t), Log: quiet, SecureCookies: secure})
		require.NoError(t, err)
		res, err := app.Test(httptest.NewRequest("GET", "/signin", nil), fiber.TestConfig{Timeout: 2 * time.Minute})
		require.NoError(t, err)
		require.GreaterOrEqual(t, len(res.Cookies()), 1)
		for _, c := range res.Cookies() {
			assert.Equal(t, secure, c.Secure, c.Name)
			assert.True(t, c.HttpOnly, c.Name)
		}
		if secure {
			assert.Contains(t, res.Header.Get("Strict-Transport-Security"), "max-age=31536000")
		} else {
			assert.Empty(t, res.Header.Get("Strict-Transport-Security"), "a browser without TLS could not come back")
		}
	}
}

// The log has no name, no mail address, no password, nothing that was typed.
func TestNothingTypedIsLogged(t *testing.T) {
	_, id := ownSchool(t, "log")
	var log bytes.Buffer
	app, err := web.New(web.Config{Store: storetest.Open(t), Log: slog.New(slog.NewTextHandler(&log, nil))})
	require.NoError(t, err)
	b := browserOf(t, app)
	b.get("/signin")
	b.post("/signin", url.Values{"email": {"log@arplin.test"}, "password": {"Wrong-Heron"}})
	b.post("/signin", url.Values{"email": {"log@arplin.test"}, "password": {"nonsense all over"}})
	b.get("/?line=Heron")
	b.post("/log", url.Values{"line": {"Heron 72"}})
	b.post(id.in("/students/%[4]d"), url.Values{"name": {"Heron"}, "instrument": {"guitar"}})
	b.get(id.in("/songs/%[1]d/edit?text=Heron"))
	require.Contains(t, log.String(), "path=/log")
	for _, typed := range []string{"Heron", "log@arplin.test", "nonsense"} {
		assert.NotContains(t, log.String(), typed)
	}
}

// A password is on no page, not even when its form comes back.
func TestAPasswordIsNeverEchoed(t *testing.T) {
	b := newBrowser(t, storetest.Open(t))
	b.get("/signin")
	_, wrong := b.post("/signin", url.Values{"email": {"nobody@arplin.test"}, "password": {"Sedge-Warbler"}})
	b.token = "made up"
	res, old := b.post("/signin", url.Values{"email": {"nobody@arplin.test"}, "password": {"Sedge-Warbler"}})
	require.Equal(t, fiber.StatusForbidden, res.StatusCode)
	for _, body := range []string{wrong, old} {
		assert.Contains(t, body, "nobody@arplin.test")
		assert.NotContains(t, body, "Sedge-Warbler")
	}
}

// At the goal is at the goal, and one beat a minute below it is not.
func TestAtGoal(t *testing.T) {
	b, id := ownSchool(t, "goals")
	s, ctx := storetest.Open(t), t.Context()
	last := id.steps[len(id.steps)-1]
	_, _, err := s.Place(ctx, id.teacher, id.ladder, store.Places{id.student: last})
	require.NoError(t, err)
	for _, c := range []struct {
		tempo int
		at    bool
	}{{79, false}, {80, true}, {81, true}} { // the song's goal is 80
		_, body := b.get("/")
		line := url.Values{"line": {fmt.Sprintf("momo %d", c.tempo)}, "client_id": {nth(t, body, `name="client_id" value="([A-Z0-9]+)"`, 1)}}
		res, body := b.fragment("/log", line)
		require.Equal(t, fiber.StatusOK, res.StatusCode, body)
		assert.Equal(t, c.at, strings.Contains(body, "at goal"), "%d", c.tempo)
	}
}

// A tempo belongs to the step on which it was played, whatever happens to the
// ladder afterwards.
func TestATempoStaysWithItsStep(t *testing.T) {
	b := signedIn(t)
	path := b.newLadder(b.newSong("Staying"), url.Values{"pattern": {"thumb-two-between"}})
	_, body := b.get(path)
	steps := stepsOf(body)
	b.fragment(path+"/place", url.Values{"place": {"1 " + steps[3]}})
	_, body = b.fragment("/log", url.Values{"line": {"ilse 71"}})
	require.Contains(t, body, "Ilse: 71, clean, on step 4.")
	_, page := b.get(path)
	b.fragment(path+"/edit", url.Values{"op": {"drop"}, "step": {steps[1]}, "version": {version(t, page)}})
	_, body = b.get("/")
	assert.Regexp(t, `(?s)id="who-1".*?<span class="stepno">3</span>.*?<b class="tempo-last[^"]*">71</b>`, body, "the step below was dropped: still hers")
	b.fragment(path+"/place", url.Values{"place": {"1 " + steps[4]}})
	_, body = b.get("/")
	row := regexp.MustCompile(`(?s)id="who-1".*?</tr>`).FindString(body)
	assert.Contains(t, row, "no tempo yet", "on another step nothing was heard yet")
}

// A student's own finger school is on that student's sheet.
func TestTheSheetHasTheStudentsOwnSchool(t *testing.T) {
	b, id := ownSchool(t, "fingers")
	sheet := id.in("/ladders/%[2]d/sheet?student=%[4]d&step=") + fmt.Sprint(id.steps[1])
	_, body := b.get(sheet)
	assert.Contains(t, body, "Index and middle follow the chord")
	b.post(id.in("/students/%[4]d"), url.Values{"name": {"Momo"}, "instrument": {"ukulele"}, "own_fingers": {"fixed"}, "version": {"1"}})
	_, body = b.get(sheet)
	assert.Contains(t, body, "Each finger stays on its string")
	_, everybody := b.get(id.in("/ladders/%[2]d/sheet?instrument=ukulele&step=") + fmt.Sprint(id.steps[1]))
	assert.Contains(t, everybody, "Index and middle follow the chord", "the class is as it was")
}

// At most four strips are on a sheet, fewer where there would not be room for them;
// every shape is.
func TestStripsOfASheet(t *testing.T) {
	b := signedIn(t)
	b.get("/songs/new")
	res, _ := b.post("/songs", url.Values{"text": {"{title: Many}\n{sov}\n[C]a [Am]b [F]c [G7]d [Dm]e [Em]f\n{eov}"}})
	_, body := b.get(b.newLadder(res.Header.Get("Location"), url.Values{"pattern": {"common-strum"}}) + "/sheet")
	assert.Equal(t, 2, strings.Count(body, `class="strip"`))
	assert.Equal(t, 6, strings.Count(body, `class="shape"`))
}

// A page that has not changed is not sent again; what it shows brings a new one.
func TestUnchangedPages(t *testing.T) {
	b, id := ownSchool(t, "tags")
	for _, path := range []string{"/", id.in("/songs/%[1]d"), "/songs", "/patterns", id.in("/ladders/%[2]d/sheet"), "/patterns/thumb-once"} {
		res, _ := b.get(path)
		tag := res.Header.Get("ETag")
		require.NotEmpty(t, tag, path)
		again := func() int {
			req := httptest.NewRequest("GET", path, nil)
			req.Header.Set("If-None-Match", tag)
			res, _ := b.send(req)
			return res.StatusCode
		}
		assert.Equal(t, fiber.StatusNotModified, again(), path)
		b.post("/stage", url.Values{"stage": {"yes"}, "back": {"/"}})
		assert.Equal(t, fiber.StatusOK, again(), "%s in another theme", path)
		b.post("/stage", url.Values{"back": {"/"}})
	}
	res, body := b.get(id.in("/songs/%[1]d"))
	tag := res.Header.Get("ETag")
	b.fragment(id.in("/songs/%[1]d/edit"), url.Values{"op": {"tempo"}, "text": {"99"}, "version": {version(t, body)}})
	req := httptest.NewRequest("GET", id.in("/songs/%[1]d"), nil)
	req.Header.Set("If-None-Match", tag)
	res, body = b.send(req)
	assert.Equal(t, fiber.StatusOK, res.StatusCode)
	assert.Contains(t, body, "99 BPM")
}

// What is archived is found again, exported, and deleted for good by its name; an
// archived account shows nothing but itself.
func TestArchiveAndAccount(t *testing.T) {
	t.Parallel()
	b, id := ownSchool(t, "archive")
	song := id.in("/archive/song/%[1]d")
	b.get("/songs")
	res, _ := b.post(song+"/delete", url.Values{"text": {"Upside"}})
	assert.Equal(t, fiber.StatusNotFound, res.StatusCode, "only what is archived can be deleted")
	b.post(song, url.Values{})
	_, body := b.get("/archive")
	assert.Contains(t, body, "Upside")
	res, body = b.get(song + "/export")
	assert.Contains(t, res.Header.Get("Content-Disposition"), "attachment")
	one, err := bundle.Read([]byte(body))
	require.NoError(t, err)
	require.Len(t, one.Songs, 1)
	assert.Contains(t, string(one.Songs[0].Song), `"title": "Upside"`)
	b.get("/archive")
	res, _ = b.post(song+"/delete", url.Values{"text": {"upside"}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	res, _ = b.post(song+"/delete", url.Values{"text": {"Upside"}})
	assert.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	res, _ = b.get(id.in("/songs/%[1]d"))
	assert.Equal(t, fiber.StatusNotFound, res.StatusCode)

	other, _ := ownSchool(t, "archive-other")
	other.get("/songs")
	res, _ = other.post(id.in("/archive/class/%[5]d"), url.Values{})
	assert.Equal(t, fiber.StatusNotFound, res.StatusCode, "another teacher's is not there")
	res, _ = other.get(id.in("/archive/class/%[5]d/export"))
	assert.Equal(t, fiber.StatusNotFound, res.StatusCode)

	_, body = b.get("/account/export")
	kept, err := bundle.Read([]byte(body))
	require.NoError(t, err)
	require.Len(t, kept.Students, 1)
	assert.Equal(t, "Momo", kept.Students[0].Name)
	b.get("/account")
	b.post("/account/archive", url.Values{})
	res, _ = b.get("/class")
	assert.Equal(t, "/account", res.Header.Get("Location"))
	res, _ = b.post("/account/delete", url.Values{"text": {"somebody"}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	b.get("/account")
	res, _ = b.post("/account/delete", url.Values{"text": {"archive@arplin.test"}})
	assert.Equal(t, "/signin", res.Header.Get("Location"))
	_, err = storetest.Open(t).Teacher(t.Context(), id.teacher)
	assert.ErrorIs(t, err, store.ErrNotFound)
}
