package web

import (
	"context"
	"crypto/rand"
	"sync"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/extractors"
	"github.com/gofiber/fiber/v3/middleware/csrf"
	"github.com/gorilla/securecookie"

	"arplin/store"
)

// signer signs what is given to a browser and comes back: form tokens, and the
// mark of a browser that has signed in before. Nothing of it is stored. The key is
// the database's, so that every copy of the program knows what another signed.
type signer struct {
	store *store.Store
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
	key, err := s.store.Secret(ctx)
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
type tokens struct{ *signer }

func (t tokens) GetWithContext(ctx context.Context, token string) ([]byte, error) {
	_, ok, err := t.read(deadlineOf(ctx), tokenName, token)
	if err != nil || !ok {
		return nil, err
	}
	return []byte(token), nil
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
		Storage:      tokens{s.signer},
		KeyGenerator: func() string { return s.signer.sign(context.Background(), tokenName, rand.Text()) },
		IdleTimeout:  idle, // a page left open over a lesson, and over a holiday, still works after it
		Extractor:    extractors.Chain(extractors.FromForm("_csrf"), extractors.FromHeader(csrf.HeaderName)),
		CookieName:   tokenCookie, CookieSecure: s.SecureCookies, CookieHTTPOnly: true, CookieSameSite: "Lax",
		ErrorHandler: s.formError,
	})
}

// formToken is the token for the forms of a page. An error page may come before
// or instead of the middleware's: then the browser's own still counts, or it gets a
// new one.
func (s *server) formToken(c fiber.Ctx) string {
	if token := csrf.TokenFromContext(c); token != "" {
		return token
	}
	token := c.Cookies(tokenCookie)
	if _, ok, err := s.signer.read(c.Context(), tokenName, token); ok || err != nil {
		return token
	}
	token = s.signer.sign(c.Context(), tokenName, rand.Text())
	c.Cookie(&fiber.Cookie{
		Name: tokenCookie, Value: token, Path: "/", Expires: time.Now().Add(idle),
		Secure: s.SecureCookies, HTTPOnly: true, SameSite: "Lax",
	})
	return token
}
