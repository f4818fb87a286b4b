package web_test

import (
	"bytes"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/store/storetest"
	"arplin/web"
)

// A form's token is of its session: another's, put into this browser, opens nothing; one in an
// address does not count.
func TestAFormTokenIsOfItsSession(t *testing.T) {
	t.Parallel()
	b, id := ownSchool(t, "tokens-mine")
	other, _ := ownSchool(t, "tokens-other")
	fields := url.Values{"stage": {"yes"}, "back": {"/"}}
	res, _ := b.post("/stage", fields)
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)

	planted := b.tab()
	planted.cookies = map[string]string{"arplin_session": b.cookies["arplin_session"], "arplin_csrf": other.cookies["arplin_csrf"]}
	planted.token = other.token
	res, page := planted.post("/stage", fields)
	assert.Equal(t, fiber.StatusForbidden, res.StatusCode, page)

	req := httptest.NewRequest("POST", "/stage?_csrf="+url.QueryEscape(b.token), strings.NewReader("stage=yes"))
	req.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	res, _ = b.tab().send(req)
	assert.Equal(t, fiber.StatusForbidden, res.StatusCode, "a token in the address")
	res, _ = b.get(id.in("/songs/%[1]d"))
	assert.Equal(t, fiber.StatusOK, res.StatusCode)
}

// Over TLS cookies say by their names that no other host and no page without TLS set them. Source:
// RFC 6265bis, 4.1.3.
func TestCookiesOverTLS(t *testing.T) {
	app, err := web.New(web.Config{Store: storetest.Open(t), Log: quiet, SecureCookies: true})
	require.NoError(t, err)
	ownSchool(t, "tokens-tls")
	b := browserOf(t, app)
	require.Equal(t, fiber.StatusSeeOther, b.signIn("tokens-tls@arplin.test", "nonsense all over"))
	for name := range b.cookies {
		assert.Regexp(t, `^__(Host|Secure)-arplin_`, name)
	}
	assert.Contains(t, b.cookies, "__Host-arplin_session")
	assert.Contains(t, b.cookies, "__Host-arplin_csrf")
	res, _ := b.get("/")
	assert.Equal(t, fiber.StatusOK, res.StatusCode)
	assert.Contains(t, res.Header.Get("Permissions-Policy"), "camera=()")
	assert.Contains(t, res.Header.Get("Permissions-Policy"), "microphone=(self)")
}

// What a choice in the head leads back to is a page of Arplin's: nothing that a browser would read
// as another site. Source: WHATWG URL Standard, 4.4: tabs and line feeds are left out.
func TestBackIsAPageOfOurs(t *testing.T) {
	b := signedIn(t)
	for back, want := range map[string]string{"/songs": "/songs", "//evil.test": "/", "/\t/evil.test": "/", "/\\evil.test": "/", "https://evil.test": "/", "/\x7f/evil.test": "/", "/\n/evil.test": "/"} {
		res, _ := b.post("/stage", url.Values{"back": {back}})
		assert.Equal(t, want, res.Header.Get("Location"), "%q", back)
	}
}

// Files of text say their letters once, and a large body is only read where the session is good.
func TestHeadsOfFiles(t *testing.T) {
	b, id := ownSchool(t, "tokens-files")
	for _, path := range []string{"/term.ics", id.in("/class/%[5]d/log.csv"), id.in("/class/%[5]d/register.csv")} {
		res, _ := b.get(path)
		require.Equal(t, fiber.StatusOK, res.StatusCode, path)
		assert.Equal(t, 1, strings.Count(res.Header.Get("Content-Type"), "charset"), path)
	}
	large := make([]byte, 1<<20)
	res, _ := b.sendFile("/files/look", "large.zip", large, nil)
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode, "read, and no bundle")
	req := httptest.NewRequest("POST", "/files/look", bytes.NewReader(large))
	req.Header.Set("Cookie", "arplin_session=made-up")
	_, err := b.app.Test(req)
	assert.ErrorContains(t, err, "body size exceeds", "nobody is signed in: it is not read")
}

// A page that was kept through a sign-in in another tab gets a token of that session: a form asks
// for it before it is sent again, a piece of a page is told it and goes at the second press.
func TestAPageKeptThroughASignInGoesOn(t *testing.T) {
	b, _ := ownSchool(t, "tokens-kept")
	old := b.token
	b.post("/signout", url.Values{})
	require.Equal(t, fiber.StatusSeeOther, b.signIn("tokens-kept@arplin.test", "nonsense all over"))
	fields := url.Values{"stage": {"yes"}, "back": {"/"}}
	b.token = old
	res, said := b.fragment("/stage", fields)
	require.Equal(t, fiber.StatusForbidden, res.StatusCode)
	assert.Contains(t, said, "What you typed is still here.")
	b.token = res.Header.Get("X-Csrf-Token")
	res, said = b.post("/stage", fields)
	assert.Equal(t, fiber.StatusSeeOther, res.StatusCode, said)

	res, token := b.get("/token")
	assert.Equal(t, "no-store", res.Header.Get("Cache-Control"))
	b.token = token
	res, said = b.post("/stage", fields)
	assert.Equal(t, fiber.StatusSeeOther, res.StatusCode, said)
	assert.Empty(t, res.Header.Get("X-Csrf-Token"), "nobody who came with a good one is told another")
}
