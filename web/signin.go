package web

import (
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"strings"
	"time"

	"github.com/alexedwards/argon2id"
	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/middleware/limiter"
	"github.com/gofiber/fiber/v3/middleware/session"

	"arplin/store"
)

type signInData struct {
	Page
	Email string
}

func (s *server) signInPage(c fiber.Ctx) error {
	return c.Render("signin", signInData{Page: page(c, "Sign in", "")})
}

// nobodysHash makes an unknown address take as long as a wrong password.
var nobodysHash = mustHash("nobody has this password")

func mustHash(password string) string {
	hash, err := argon2id.CreateHash(password, argon2id.DefaultParams)
	if err != nil {
		panic(err)
	}
	return hash
}

func (s *server) signIn(c fiber.Ctx) error {
	email := formEmail(c)
	t, err := s.Store.TeacherByEmail(c.Context(), email)
	known := !errors.Is(err, store.ErrNotFound)
	if known && err != nil {
		return err
	}
	hash := nobodysHash
	if known {
		hash = t.PasswordHash
	}
	matches, err := argon2id.ComparePasswordAndHash(c.FormValue("password"), hash)
	if err != nil {
		return err
	}
	if !known || !matches {
		data := signInData{page(c, "Sign in", ""), c.FormValue("email")}
		data.Problem = "Wrong email or password."
		return c.Status(fiber.StatusUnauthorized).Render("signin", data)
	}
	sess := session.FromContext(c)
	if err := sess.Regenerate(); err != nil { // a session begun by another hand is worth nothing
		return err
	}
	sess.Set(keyTeacher, int64(t.ID))
	return seeOther(c, "/")
}

func (s *server) signOut(c fiber.Ctx) error {
	if err := session.FromContext(c).Destroy(); err != nil {
		return err
	}
	c.Set("Clear-Site-Data", `"cache"`) // pages with names stay in no browser
	return seeOther(c, "/signin")
}

func formEmail(c fiber.Ctx) string { return strings.ToLower(strings.TrimSpace(c.FormValue("email"))) }

const usualSignInTries = 10

func (s *server) limitByAddress() fiber.Handler {
	return s.limit(func(c fiber.Ctx) string { return "signin-address-" + digest(c.IP()) })
}

func (s *server) limitByAccount() fiber.Handler {
	return s.limit(func(c fiber.Ctx) string { return "signin-account-" + digest(formEmail(c)) })
}

// limit counts failed tries; signing in properly costs nothing.
func (s *server) limit(key func(fiber.Ctx) string) fiber.Handler {
	tries := s.SignInTries
	if tries == 0 {
		tries = usualSignInTries
	}
	return limiter.New(limiter.Config{
		Storage:                s.Store.KeyValues(),
		Max:                    tries,
		Expiration:             15 * time.Minute,
		KeyGenerator:           key,
		SkipSuccessfulRequests: true,
		LimitReached:           func(fiber.Ctx) error { return fiber.ErrTooManyRequests },
	})
}

func digest(s string) string {
	sum := sha256.Sum256([]byte(s))
	return hex.EncodeToString(sum[:12])
}
