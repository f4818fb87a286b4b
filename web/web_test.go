package web_test

import (
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"net/url"
	"regexp"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/alexedwards/argon2id"
	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/demo"
	"arplin/store"
	"arplin/store/keyvalue"
	"arplin/store/storetest"
	"arplin/teach/people"
	"arplin/web"
)

func TestMain(m *testing.M) {
	people.Hashing = &argon2id.Params{Memory: 64, Iterations: 1, Parallelism: 1, SaltLength: 16, KeyLength: 32}
	storetest.Main(m)
}

var demoOnce sync.Once

// browser keeps cookies and the form token between requests, as a browser does.
type browser struct {
	t       testing.TB
	app     *fiber.App
	cookies map[string]string
	jar     *sync.Mutex // of the cookies, which tabs share
	token   string
	version string // of the song or ladder on the page that was seen last
}

var quiet = slog.New(slog.NewTextHandler(io.Discard, nil))

func newBrowser(t testing.TB, s *store.Store) *browser {
	t.Helper()
	return browserWith(t, s, 4)
}

// browserWith is one whose program bears so many sign-ins that fail: tests come from one address, and
// those that run beside each other would shut each other out.
func browserWith(t testing.TB, s *store.Store, tries int) *browser {
	t.Helper()
	app, err := web.New(web.Config{Store: s, Log: quiet, SignInTries: tries, Patience: time.Minute}) // under the race detector on two cores a password takes seconds
	require.NoError(t, err)
	return browserOf(t, app)
}

func browserOf(t testing.TB, app *fiber.App) *browser {
	return &browser{t: t, app: app, cookies: map[string]string{}, jar: &sync.Mutex{}}
}

// newPatient is the same browser at a program whose pages may take so long.
func newPatient(t testing.TB, b *browser, patience time.Duration) *browser {
	t.Helper()
	app, err := web.New(web.Config{Store: storetest.Open(t), Log: quiet, SignInTries: 4, Patience: patience})
	require.NoError(t, err)
	other := *b
	other.app = app
	return &other
}

// signedIn is a browser in which the demo teacher has signed in.
func signedIn(t testing.TB) *browser {
	t.Helper()
	s := storetest.Open(t)
	demoOnce.Do(func() {
		_, err := demo.LoadPlain(t.Context(), s, time.Now())
		require.NoError(t, err)
	})
	school, err := demo.ReadPlain()
	require.NoError(t, err)
	b := browserWith(t, s, 1000)
	b.get("/signin")
	res, _ := b.post("/signin", url.Values{"email": {school.Teacher.Email}, "password": {school.Teacher.Password}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	b.get("/account") // whose form token is of the session
	return b
}

func (b *browser) send(req *http.Request) (*http.Response, string) {
	b.t.Helper()
	b.jar.Lock()
	for name, value := range b.cookies {
		req.AddCookie(&http.Cookie{Name: name, Value: value})
	}
	b.jar.Unlock()
	res, err := b.app.Test(req, fiber.TestConfig{Timeout: 2 * time.Minute})
	require.NoError(b.t, err)
	b.jar.Lock()
	for _, c := range res.Cookies() {
		b.cookies[c.Name] = c.Value
	}
	b.jar.Unlock()
	body, err := io.ReadAll(res.Body)
	require.NoError(b.t, err)
	if m := regexp.MustCompile(`name="_csrf" value="([^"]+)"`).FindSubmatch(body); m != nil {
		b.token = string(m[1])
	}
	if m := regexp.MustCompile(`data-version="(\d+)"`).FindSubmatch(body); m != nil {
		b.version = string(m[1])
	}
	if !strings.HasPrefix(res.Header.Get("Content-Type"), "text/html") {
		return res, string(body)
	}
	return res, unbroken(string(body))
}

// unbroken has each tag on one line: where a template breaks between two attributes is nothing to a page.
func unbroken(body string) string {
	var b strings.Builder
	inTag := false
	for line := range strings.Lines(body) {
		if inTag {
			line = strings.TrimLeft(line, " ")
		}
		if opens, closes := strings.LastIndexByte(line, '<'), strings.LastIndexByte(line, '>'); opens != closes {
			inTag = opens > closes
		}
		if inTag {
			line = strings.TrimRight(line, "\n") + " "
		}
		b.WriteString(line)
	}
	return b.String()
}

// move takes back the last change of a song or ladder, or does it again, as the
// page's button does.
func (b *browser) move(path, way string) (*http.Response, string) {
	b.t.Helper()
	return b.fragment(path+"/"+way, url.Values{"version": {b.version}})
}

func (b *browser) get(path string) (*http.Response, string) {
	b.t.Helper()
	return b.send(httptest.NewRequest("GET", path, nil))
}

func (b *browser) post(path string, fields url.Values) (*http.Response, string) {
	b.t.Helper()
	fields.Set("_csrf", b.token)
	req := httptest.NewRequest("POST", path, strings.NewReader(fields.Encode()))
	req.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	return b.send(req)
}

func TestNobodySeesPagesUnsigned(t *testing.T) {
	b := newBrowser(t, storetest.Open(t))
	for _, path := range []string{"/", "/songs", "/songs/1", "/ladders/1", "/ladders/1/sheet", "/class"} {
		res, _ := b.get(path)
		assert.Equal(t, fiber.StatusSeeOther, res.StatusCode, path)
		assert.Equal(t, "/signin", res.Header.Get("Location"), path)
	}
}

func TestSignInFailsWithASentenceAndAtLastNotAtAll(t *testing.T) {
	s := storetest.Open(t)
	require.NoError(t, keyvalue.Limits(s.DB()).Reset()) // other tests come from this address, too
	hash, err := argon2id.CreateHash("the right password", people.Hashing)
	require.NoError(t, err)
	_, err = s.AddTeacher(t.Context(), "limits@arplin.test", "Limits", hash)
	require.NoError(t, err)
	b := newBrowser(t, s)
	b.get("/signin")
	for range 4 {
		res, body := b.post("/signin", url.Values{"email": {"limits@arplin.test"}, "password": {"wrong"}})
		assert.Equal(t, fiber.StatusUnauthorized, res.StatusCode)
		assert.Contains(t, body, "Wrong email or password.")
		assert.Contains(t, body, `value="limits@arplin.test"`, "what was typed is kept")
	}
	res, body := b.post("/signin", url.Values{"email": {"limits@arplin.test"}, "password": {"the right password"}})
	assert.Equal(t, fiber.StatusTooManyRequests, res.StatusCode)
	assert.Contains(t, body, "Too many tries")
	require.NoError(t, keyvalue.Limits(s.DB()).Reset()) // the other tests come from this address too
}

func TestHeaders(t *testing.T) {
	b := signedIn(t)
	res, body := b.get("/")
	csp := res.Header.Get("Content-Security-Policy")
	assert.Contains(t, csp, "script-src 'self'")
	assert.NotContains(t, csp, "unsafe")
	assert.Equal(t, "nosniff", res.Header.Get("X-Content-Type-Options"))
	assert.Equal(t, "private, no-cache", res.Header.Get("Cache-Control"))
	assert.NotRegexp(t, `<script>|<style|\sstyle="|\son[a-z]+="`, body, "nothing inline")
	assert.NotRegexp(t, `(src|href)="(https?:)?//`, body, "nothing from elsewhere")
}

func TestAFormWithoutItsTokenIsRefusedAndKept(t *testing.T) {
	b := signedIn(t)
	b.token = "made up"
	res, body := b.post("/log", url.Values{"line": {"pia <72>"}})
	assert.Equal(t, fiber.StatusForbidden, res.StatusCode)
	assert.Contains(t, body, "could not be sure")
	assert.Contains(t, body, "pia &lt;72&gt;", "what was sent comes back, escaped")
}

func TestWhatIsNotThere(t *testing.T) {
	b := signedIn(t)
	for _, path := range []string{"/nowhere", "/songs/99999", "/songs/x", "/songs/-1", "/ladders/99999", "/ladders/99999/sheet"} {
		res, body := b.get(path)
		assert.Equal(t, fiber.StatusNotFound, res.StatusCode, path)
		assert.Contains(t, body, "Page not found", path)
		assert.NotContains(t, body, "goroutine")
	}
}

func TestASheetThatCannotBeReadNamesItsLinesAndKeepsTheText(t *testing.T) {
	b := signedIn(t)
	b.get("/songs/new")
	sheet := "{title: Odd <one>}\n[C]Here [X7]there\n{dance: on}"
	res, body := b.post("/songs", url.Values{"text": {sheet}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "line 2: chord &#34;X7&#34;")
	assert.Contains(t, body, "line 3: the directive {dance} is not known")
	assert.Contains(t, body, "{title: Odd &lt;one&gt;}")
	res, _ = b.post("/songs", url.Values{"text": {sheet}, "keep": {"yes"}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	_, body = b.get(res.Header.Get("Location") + "?pattern=common-strum")
	assert.Contains(t, body, "is not a note from A to G", "the bar says what is open")
}

func TestLogLine(t *testing.T) {
	b := signedIn(t)
	b.get("/")
	res, body := b.post("/log", url.Values{"line": {"zoe 80"}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "There’s nobody called &#34;zoe&#34; in this class.")
	assert.Contains(t, body, `value="zoe 80"`)
	res, body = b.post("/log", url.Values{"line": {"jo 61"}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode, body)
	_, body = b.get("/")
	assert.Contains(t, body, "Jonas: 61, clean, on step 1.")
	undo := regexp.MustCompile(`action="(/log/\d+/withdraw\?class=\d+&amp;more=[\d.]*[^"]*)"`).FindStringSubmatch(body)
	require.NotNil(t, undo)
	assert.Contains(t, body, ">61</b>")
	b.post(strings.ReplaceAll(undo[1], "&amp;", "&"), url.Values{})
	_, body = b.get("/")
	assert.NotContains(t, body, ">61</b>")
}

func TestPatternsThatDoNotFitTheMeterAreNotOffered(t *testing.T) {
	b := signedIn(t)
	_, body := b.get("/songs/2") // 6/8
	assert.Contains(t, body, "six-to-a-bar")
	assert.NotContains(t, body, "common-strum")
	res, _ := b.post("/ladders", url.Values{"song": {"2"}, "pattern": {"common-strum"}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
}

func TestAnotherTeachersPagesAreNotThere(t *testing.T) {
	b := signedIn(t)
	s := storetest.Open(t)
	other := storetest.Teacher(t, s, "other")
	class, err := s.AddClass(t.Context(), other, store.Class{Name: "Other", LessonMinutes: 45, Fingers: "moving"})
	require.NoError(t, err)
	b.get("/class")
	res, _ := b.post(fmt.Sprintf("/class/%d/students", class), url.Values{"name": {"Eve"}, "instrument": {"guitar"}})
	assert.Equal(t, fiber.StatusNotFound, res.StatusCode)
}

// A database that is gone gives a sentence, keeps what was sent, and is seen by
// the health check.
func TestTheDatabaseIsGone(t *testing.T) {
	gone, err := store.Open("arplin:x@tcp(127.0.0.1:1)/arplin")
	require.NoError(t, err)
	defer gone.Close()
	b := newBrowser(t, gone)
	b.cookies["arplin_session"] = "some-session"
	res, body := b.get("/healthz")
	assert.Equal(t, fiber.StatusServiceUnavailable, res.StatusCode)
	assert.Contains(t, body, "does not answer")
	res, body = b.get("/")
	assert.Equal(t, fiber.StatusServiceUnavailable, res.StatusCode)
	assert.Contains(t, body, "The database isn’t responding")
	res, body = b.post("/songs", url.Values{"text": {"[C]a long evening’s work"}})
	assert.Equal(t, fiber.StatusServiceUnavailable, res.StatusCode)
	assert.Contains(t, body, "a long evening’s work")
	res, _ = b.get("/static/app.css")
	assert.Equal(t, fiber.StatusOK, res.StatusCode, "the error page keeps its clothes")
}

func TestHealth(t *testing.T) {
	b := newBrowser(t, storetest.Open(t))
	res, body := b.get("/healthz")
	assert.Equal(t, fiber.StatusOK, res.StatusCode)
	assert.JSONEq(t, `{"status":"ok"}`, body)
}

// A line of several tempos is logged whole or not at all.
func TestALineIsLoggedWholeOrNot(t *testing.T) {
	b, id, students := classOfThree(t, "whole-line")
	s, ctx := storetest.Open(t), t.Context()
	on, err := s.Ladder(ctx, id.teacher, id.ladder)
	require.NoError(t, err)
	_, err = s.AddEntry(ctx, id.teacher, store.Entry{StudentID: students[1], LadderID: id.ladder, Step: on.Steps[0], Tempo: 50, At: time.Now()}, "whole0line0whole0line.1")
	require.NoError(t, err)
	b.get("/")
	res, body := b.fragment("/log", url.Values{"line": {"momo 60, nele 61"}, "client_id": {"whole0line0whole0line"}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "This one wasn’t")
	assert.Equal(t, 0, count(t, "SELECT COUNT(*) FROM log_entries WHERE student_id = ?", students[0]), "nor is the first of the two")
}
