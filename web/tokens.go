package web

import (
	"context"
	"crypto/rand"
	"strings"
	"sync"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/extractors"
	"github.com/gofiber/fiber/v3/middleware/csrf"
	"github.com/gorilla/securecookie"

	"arplin/store/keyvalue"
)

// signer signs what is given to a browser and comes back: form tokens, and the
// mark of a browser that has signed in before. Nothing of it is stored. The key is
// the database's, so that every copy of the program knows what another signed.
type signer struct {
	kept  *keyvalue.Table
	mu    sync.Mutex
	codec *securecookie.SecureCookie
}

// ready reads the key once.
func (s *signer) ready(ctx context.Context) (*securecookie.SecureCookie, error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.codec != nil {
		return s.codec, nil
	}
	key, err := s.kept.Secret(ctx)
	if err != nil {
		return nil, err
	}
	s.codec = securecookie.New(key, nil).MaxAge(0).SetSerializer(securecookie.JSONEncoder{})
	return s.codec, nil
}

// sign packs a value; empty while the key cannot be read.
func (s *signer) sign(ctx context.Context, name, value string) string {
	codec, err := s.ready(ctx)
	if err != nil {
		return ""
	}
	text, err := codec.Encode(name, value)
	if err != nil {
		return ""
	}
	return text
}

// read unpacks what was signed; ok tells whether it was, and was by us.
func (s *signer) read(ctx context.Context, name, text string) (value string, ok bool, err error) {
	codec, err := s.ready(ctx)
	if err != nil || text == "" {
		return "", false, err
	}
	return value, codec.Decode(name, text, &value) == nil && value != "", nil
}

const (
	tokenName   = "form"
	tokenCookie = "arplin_csrf"
)

// tokens is the storage that Fiber's middleware asks about a form token: a token
// proves itself, so there is nothing to keep, and it lasts as long as its cookie.
type tokens struct{ *server }

func (t tokens) GetWithContext(ctx context.Context, token string) ([]byte, error) {
	value, ok, err := t.read(deadlineOf(ctx), tokenName, token)
	c, isRequest := ctx.(fiber.Ctx)
	if err != nil || !ok || isRequest && !isBound(value, t.binding(c)) {
		return nil, err
	}
	return []byte(token), nil
}

func (t tokens) read(ctx context.Context, name, text string) (string, bool, error) {
	return t.signer.read(ctx, name, text)
}

func (t tokens) Get(token string) ([]byte, error) {
	return t.GetWithContext(context.Background(), token)
}

func (tokens) SetWithContext(context.Context, string, []byte, time.Duration) error { return nil }
func (tokens) Set(string, []byte, time.Duration) error                             { return nil }
func (tokens) DeleteWithContext(context.Context, string) error                     { return nil }
func (tokens) Delete(string) error                                                 { return nil }
func (tokens) ResetWithContext(context.Context) error                              { return nil }
func (tokens) Reset() error                                                        { return nil }
func (tokens) Close() error                                                        { return nil }

// ownForms lets only forms of Arplin's own pages do anything.
func (s *server) ownForms() fiber.Handler {
	return csrf.New(csrf.Config{
		Storage:      tokens{s},
		KeyGenerator: func() string { return s.signer.sign(context.Background(), tokenName, rand.Text()) },
		IdleTimeout:  idle, // a page left open over a lesson, and over a holiday, still works after it
		Extractor:    extractors.Chain(extractors.FromCustom("_csrf", sentToken), extractors.FromHeader(csrf.HeaderName)),
		CookieName:   s.cookie(tokenCookie), CookieSecure: s.SecureCookies, CookieHTTPOnly: true, CookieSameSite: "Lax",
		ErrorHandler: s.formError,
	})
}

// sentToken is the token of a form's body. One in an address does not count: addresses are handed
// on, and written down.
func sentToken(c fiber.Ctx) (string, error) {
	if form, err := c.MultipartForm(); err == nil {
		if list := form.Value["_csrf"]; len(list) > 0 && list[0] != "" {
			return list[0], nil
		}
	}
	if token := c.Request().PostArgs().Peek("_csrf"); len(token) > 0 {
		return string(token), nil
	}
	return "", extractors.ErrNotFound
}

// binding ties a form's token to the session of its browser: what was signed for one is nothing to
// another.
func (s *server) binding(c fiber.Ctx) string { return digest(c.Cookies(s.cookie(sessionCookie))) }

// boundToken is a fresh token for the session of a request; empty while the key cannot be read.
func (s *server) boundToken(c fiber.Ctx) string {
	return s.signer.sign(c.Context(), tokenName, rand.Text()+"."+s.binding(c))
}

func isBound(value, to string) bool {
	_, bound, ok := strings.Cut(value, ".")
	return ok && bound == to
}

// bindForms gives a browser whose token is of another session, or that has none, one of its own:
// Fiber's middleware makes tokens without knowing for whom.
func (s *server) bindForms(c fiber.Ctx) error {
	if m := c.Method(); m != fiber.MethodGet && m != fiber.MethodHead {
		return c.Next()
	}
	name := s.cookie(tokenCookie)
	if value, ok, err := s.signer.read(c.Context(), tokenName, c.Cookies(name)); err == nil && (!ok || !isBound(value, s.binding(c))) {
		if fresh := s.boundToken(c); fresh != "" {
			c.Request().Header.SetCookie(name, fresh)
		}
	}
	return c.Next()
}

// formToken is the token for the forms of a page. An error page may come before or instead of the
// middleware's, and a session may have begun or ended meanwhile: then the browser gets a new one.
func (s *server) formToken(c fiber.Ctx) string {
	token := csrf.TokenFromContext(c)
	if token == "" {
		token = c.Cookies(s.cookie(tokenCookie))
	}
	if value, ok, err := s.signer.read(c.Context(), tokenName, token); ok && isBound(value, s.binding(c)) || err != nil {
		return token
	}
	token = s.boundToken(c)
	c.Cookie(&fiber.Cookie{
		Name: s.cookie(tokenCookie), Value: token, Path: "/", Expires: time.Now().Add(idle),
		Secure: s.SecureCookies, HTTPOnly: true, SameSite: "Lax",
	})
	return token
}

// freshToken answers with a token for whoever is signed in by now: a page that was kept through a
// sign-in in another tab has one of the session before.
func (s *server) freshToken(c fiber.Ctx) error {
	c.Set(fiber.HeaderCacheControl, "no-store")
	return c.Type("txt", "utf-8").SendString(s.formToken(c))
}
