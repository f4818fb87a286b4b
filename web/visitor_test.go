package web_test

import (
	"bytes"
	"cmp"
	"encoding/json"
	"fmt"
	"log/slog"
	"net"
	"net/http/httptest"
	"net/url"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/store"
	"arplin/store/keyvalue"
	"arplin/store/storetest"
	"arplin/web"
)

// fresh is a browser in which nobody has signed in, on a server of its own.
func fresh(t testing.TB, cfg web.Config) *browser {
	t.Helper()
	if cfg.Store == nil {
		cfg.Store = storetest.Open(t)
	}
	if cfg.Log == nil {
		cfg.Log = quiet
	}
	cfg.Patience = cmp.Or(cfg.Patience, time.Minute) // as newBrowser has it
	app, err := web.New(cfg)
	require.NoError(t, err)
	return browserOf(t, app)
}

func (b *browser) signIn(email, password string) int {
	b.t.Helper()
	b.get("/signin")
	res, _ := b.post("/signin", url.Values{"email": {email}, "password": {password}})
	b.get("/account") // whose form token is of the session
	return res.StatusCode
}

// However an address is written, it is one account, and its tries are counted
// together; a browser that is known keeps a count of its own, so that strangers do
// not lock the teacher out. Source: RFC 8265, UsernameCaseMapped.
func TestAnAccountIsOneHoweverItIsWritten(t *testing.T) {
	ownSchool(t, "canon")
	cfg := web.Config{SignInTries: 4}
	require.NoError(t, keyvalue.Limits(storetest.Open(t).DB()).Reset())
	defer keyvalue.Limits(storetest.Open(t).DB()).Reset() //nolint:errcheck // the other tests come from this address, too
	home := fresh(t, cfg)
	require.Equal(t, fiber.StatusSeeOther, home.signIn("canon@arplin.test", "nonsense all over"))
	home.post("/signout", url.Values{})
	written := []string{"canon@arplin.test", "CANON@arplin.test", " canon@ARPLIN.test ", "\uff43anon@arplin.test", "canon@arplin\uff0etest", "Canon@Arplin.Test"}
	var codes []int
	for _, email := range written {
		codes = append(codes, fresh(t, cfg).signIn(email, "wrong"))
	}
	assert.Equal(t, []int{401, 401, 401, 401, 429, 429}, codes)
	for _, email := range []string{"can\u200bon@arplin.test", "c\u00e0non@arplin.test", "not an address"} {
		assert.NotEqual(t, fiber.StatusSeeOther, fresh(t, cfg).signIn(email, "nonsense all over"), email)
	}
	assert.Equal(t, fiber.StatusTooManyRequests, fresh(t, cfg).signIn("canon@arplin.test", "nonsense all over"), "a stranger's browser waits")
	assert.Equal(t, fiber.StatusSeeOther, home.signIn("canon@arplin.test", "nonsense all over"), "the known one does not")
	home.post("/signout", url.Values{})
	codes = nil
	for range 5 {
		codes = append(codes, home.signIn("canon@arplin.test", "wrong"))
	}
	assert.Equal(t, []int{401, 401, 401, 401, 429}, codes, "and has its own count")

	require.NoError(t, keyvalue.Limits(storetest.Open(t).DB()).Reset())
	last := 0
	for i := range 5*cfg.SignInTries + 1 {
		last = fresh(t, cfg).signIn(fmt.Sprintf("nobody-%d@arplin.test", i), "wrong")
	}
	assert.Equal(t, fiber.StatusTooManyRequests, last, "one network has a bound over all accounts")
}

// The address of a visitor is the right-most one that no trusted proxy added; what
// a visitor wrote is not believed. Source: RFC 7239, 8.1.
func TestTheAddressBehindProxies(t *testing.T) {
	const proxy = "0.0.0.0" // where tests come from
	for _, c := range []struct {
		trusted []string
		header  []string
		want    string
	}{
		{nil, []string{"203.0.113.7"}, proxy},
		{[]string{proxy}, []string{"203.0.113.7"}, "203.0.113.7"},
		{[]string{proxy}, []string{"198.51.100.1, 203.0.113.7"}, "203.0.113.7"},
		{[]string{proxy}, []string{"198.51.100.1", "203.0.113.7"}, "203.0.113.7"},
		{[]string{proxy, "10.0.0.0/8"}, []string{"198.51.100.1, 203.0.113.7, 10.1.2.3"}, "203.0.113.7"},
		{[]string{proxy}, []string{"2001:db8::1"}, "2001:db8::1"},
		{[]string{proxy}, []string{"203.0.113.7, junk"}, proxy},
		{[]string{proxy}, []string{"<script>"}, proxy},
		{[]string{proxy}, nil, proxy},
		{[]string{"192.0.2.1"}, []string{"203.0.113.7"}, proxy},
	} {
		var log bytes.Buffer
		b := fresh(t, web.Config{TrustedProxies: c.trusted, Log: slog.New(slog.NewJSONHandler(&log, nil))})
		req := httptest.NewRequest("GET", "/signin", nil)
		for _, h := range c.header {
			req.Header.Add("X-Forwarded-For", h)
		}
		b.send(req)
		var line struct{ IP string }
		require.NoError(t, json.Unmarshal(log.Bytes(), &line))
		assert.Equal(t, c.want, line.IP, "%v", c)
	}
	_, err := web.New(web.Config{Store: storetest.Open(t), Log: quiet, TrustedProxies: []string{"the proxy"}})
	assert.ErrorContains(t, err, "trusted proxies")
}

// Where TLS ends at a proxy, the program must know: else a form of https is refused
// with a sentence about it; a form of another site is refused with another. Source:
// RFC 6797; OWASP, Cross-Site Request Forgery Prevention Cheat Sheet.
func TestFormsThroughAProxy(t *testing.T) {
	b := fresh(t, web.Config{})
	b.get("/signin")
	send := func(b *browser, origin string, header ...string) (int, string, string) {
		fields := url.Values{"_csrf": {b.token}, "email": {"nobody@arplin.test"}, "password": {"wrong"}}
		req := httptest.NewRequest("POST", "/signin", strings.NewReader(fields.Encode()))
		req.Header.Set("Content-Type", "application/x-www-form-urlencoded")
		req.Header.Set("Origin", origin)
		for i := 0; i+1 < len(header); i += 2 {
			req.Header.Set(header[i], header[i+1])
		}
		res, body := b.send(req)
		return res.StatusCode, body, res.Header.Get("Strict-Transport-Security")
	}
	code, body, _ := send(b, "http://example.com")
	assert.Equal(t, fiber.StatusUnauthorized, code, body)
	code, body, hsts := send(b, "https://example.com")
	assert.Equal(t, fiber.StatusForbidden, code)
	assert.Contains(t, body, "ARPLIN_TRUSTED_PROXIES")
	assert.Empty(t, hsts)
	code, body, _ = send(b, "https://elsewhere.test")
	assert.Equal(t, fiber.StatusForbidden, code)
	assert.Contains(t, body, "came from another site")
	assert.NotContains(t, body, "Send it again", "and is not offered to be sent")

	behind := fresh(t, web.Config{TrustedProxies: []string{"0.0.0.0"}, SecureCookies: true})
	behind.get("/signin")
	code, body, hsts = send(behind, "https://example.com", "X-Forwarded-Proto", "https")
	assert.Equal(t, fiber.StatusUnauthorized, code, body)
	assert.Contains(t, hsts, "max-age=31536000")
}

// A visitor leaves nothing behind, and a session that was ended stays so, whatever
// was running at that moment.
func TestSessionsBeginAndEnd(t *testing.T) {
	rows := func() int { return count(t, "SELECT COUNT(*) FROM keyvalues") }
	fresh(t, web.Config{}).get("/signin") // the first form of a database makes the program's secret
	before := rows()
	for range 20 {
		visitor := fresh(t, web.Config{})
		visitor.get("/signin")
		visitor.get("/songs")
		visitor.post("/log", url.Values{"line": {"momo 60"}})
	}
	assert.Equal(t, before, rows())

	_, id := ownSchool(t, "ends")
	for range 6 {
		b := fresh(t, web.Config{})
		require.Equal(t, fiber.StatusSeeOther, b.signIn("ends@arplin.test", "nonsense all over"))
		session, csrf := b.cookies["arplin_session"], b.cookies["arplin_csrf"]
		require.NotEmpty(t, csrf)
		var wait sync.WaitGroup
		for range 8 {
			tab := b.tab()
			tab.cookies = map[string]string{"arplin_csrf": csrf, "arplin_session": session}
			wait.Go(func() { tab.post("/stage", url.Values{"stage": {"yes"}, "back": {"/"}}) }) // changes the session
		}
		wait.Go(func() { b.tab().post("/signout", url.Values{}) })
		wait.Wait()
		b.cookies = map[string]string{"arplin_session": session}
		res, _ := b.get(id.in("/songs/%[1]d"))
		assert.Equal(t, "/signin", res.Header.Get("Location"))
	}
}

// Change password signs every other browser out, and needs the one of now.
func TestAnotherPassword(t *testing.T) {
	b, id := ownSchool(t, "password")
	require.NoError(t, keyvalue.Limits(storetest.Open(t).DB()).Reset())
	require.Equal(t, fiber.StatusSeeOther, b.signIn("password@arplin.test", "nonsense all over"))
	other := fresh(t, web.Config{})
	require.Equal(t, fiber.StatusSeeOther, other.signIn("password@arplin.test", "nonsense all over"))
	b.get("/account")
	for _, wrong := range []url.Values{
		{"password": {"not it at all"}, "new_password": {"a longer one now"}},
		{"password": {"nonsense all over"}, "new_password": {"short"}},
	} {
		res, _ := b.post("/account/password", wrong)
		assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	}
	res, body := b.post("/account/password", url.Values{"password": {"nonsense all over"}, "new_password": {"a longer one now"}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode, body)
	res, _ = b.get(id.in("/songs/%[1]d"))
	assert.Equal(t, fiber.StatusOK, res.StatusCode)
	res, _ = other.get(id.in("/songs/%[1]d"))
	assert.Equal(t, "/signin", res.Header.Get("Location"))
	assert.Equal(t, fiber.StatusUnauthorized, fresh(t, web.Config{}).signIn("password@arplin.test", "nonsense all over"))
	assert.Equal(t, fiber.StatusSeeOther, fresh(t, web.Config{}).signIn("password@arplin.test", "a longer one now"))
}

// A head that is too long has a sentence and takes nothing from the browser.
func TestAHeadThatIsTooLong(t *testing.T) {
	app, err := web.New(web.Config{Store: storetest.Open(t), Log: quiet})
	require.NoError(t, err)
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	go app.Listener(l, fiber.ListenConfig{DisableStartupMessage: true}) //nolint:errcheck // it ends with the test
	t.Cleanup(func() { _ = app.Shutdown() })
	for _, c := range []struct {
		long int
		want string
	}{{20_000, "303"}, {40_000, "431"}} {
		conn, err := net.Dial("tcp", l.Addr().String())
		require.NoError(t, err)
		require.NoError(t, conn.SetDeadline(time.Now().Add(10*time.Second)))
		_, err = fmt.Fprintf(conn, "GET /patterns?notation=%s HTTP/1.1\r\nHost: here\r\nConnection: close\r\n\r\n", strings.Repeat("p", c.long))
		require.NoError(t, err)
		var answer bytes.Buffer
		_, _ = answer.ReadFrom(conn) // the server may close before it has read it all
		assert.Contains(t, answer.String(), "HTTP/1.1 "+c.want)
		if c.want == "431" {
			assert.Contains(t, answer.String(), "That address is too long")
			assert.NotContains(t, answer.String(), "Set-Cookie", "the forms of open tabs stay good")
		}
		conn.Close()
	}
}

// Whatever keeps the database from serving is said in one way: it is not the
// teacher's fault, nor the program's. Source: MariaDB Error Code Reference.
func TestADatabaseThatCannotServe(t *testing.T) {
	gone, err := store.Open("arplin:x@tcp(127.0.0.1:1)/arplin")
	require.NoError(t, err)
	defer gone.Close()
	b := fresh(t, web.Config{Store: gone, Database: func() string { return "It is being started again." }})
	b.cookies["arplin_session"] = "some-session"
	for _, path := range []string{"/", "/songs", "/signin"} {
		res, body := b.get(path)
		assert.Equal(t, fiber.StatusServiceUnavailable, res.StatusCode, path)
		assert.Contains(t, body, "It is being started again. Nothing that was saved is lost.", path)
		assert.NotContains(t, body, "our fault", path)
	}
}
