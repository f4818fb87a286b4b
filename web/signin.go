package web

import (
	"crypto/rand"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/middleware/limiter"

	"arplin/teach/people"
)

type signInData struct {
	Page
	Email string
}

func (s *server) signInPage(c fiber.Ctx) error {
	return c.Render("signin", signInData{Page: page(c, "Sign in", "")})
}

func (s *server) signIn(c fiber.Ctx) error {
	t, err := s.People.SignIn(c.Context(), c.FormValue("email"), c.FormValue("password"))
	if errors.Is(err, people.ErrWrong) {
		data := signInData{page(c, "Sign in", ""), c.FormValue("email")}
		data.Problem = "Wrong email or password."
		return c.Status(fiber.StatusUnauthorized).Render("signin", data)
	}
	if err != nil {
		return err
	}
	if err := s.begin(c, t, t.Epoch); err != nil { // a session begun by another hand is worth nothing
		return err
	}
	s.markKnown(c, t.Email)
	return seeOther(c, "/")
}

func (s *server) signOut(c fiber.Ctx) error {
	if err := visitOf(c).end(); err != nil {
		return err
	}
	c.Set("Clear-Site-Data", `"cache"`) // pages with names stay in no browser
	return seeOther(c, "/signin")
}

// A browser in which a teacher has signed in keeps a count of wrong passwords of
// its own: what strangers try on the account does not lock it out.
const (
	knownName   = "known"
	knownCookie = "arplin_known"
	knownFor    = 365 * 24 * time.Hour
)

func (s *server) markKnown(c fiber.Ctx, address string) {
	if s.knownAs(c, address) != "" {
		return
	}
	c.Cookie(&fiber.Cookie{
		Name: s.known(), Value: s.signer.sign(c.Context(), knownName, digest(address)+" "+rand.Text()), Path: "/signin",
		Expires: time.Now().Add(knownFor), Secure: s.SecureCookies, HTTPOnly: true, SameSite: "Lax",
	})
}

// knownAs is the mark of a browser that is known for an address; empty for another.
func (s *server) knownAs(c fiber.Ctx, address string) string {
	mark, ok, err := s.signer.read(c.Context(), knownName, c.Cookies(s.known()))
	if account, _, _ := strings.Cut(mark, " "); err != nil || !ok || account != digest(address) {
		return ""
	}
	return digest(mark)
}

// account is the address of a sign-in as it is kept; what is none is one of its own.
func account(c fiber.Ctx) string {
	address, err := people.Address(c.FormValue("email"))
	if err != nil {
		return "none"
	}
	return address
}

// known is what the mark of a browser is called: it is only for the page of the sign-in, so that its
// name cannot say that it is for all of the site.
func (s *server) known() string {
	if s.SecureCookies {
		return "__Secure-" + knownCookie
	}
	return knownCookie
}

const usualSignInTries = 10

// networkTries is how many times the tries of an account a network has: a school
// shares one.
const networkTries = 5

func (s *server) tries() int {
	if s.SignInTries == 0 {
		return usualSignInTries
	}
	return s.SignInTries
}

// limitByNetwork bounds what comes from one network, but for browsers that are
// known.
func (s *server) limitByNetwork() fiber.Handler {
	return s.limit(networkTries*s.tries(), func(c fiber.Ctx) string {
		if known := s.knownAs(c, account(c)); known != "" {
			return "signin-known-network-" + known
		}
		return "signin-network-" + digest(network(s.proxies.address(c)))
	})
}

// limitByAccount bounds what is tried on one account.
func (s *server) limitByAccount() fiber.Handler {
	return s.limit(s.tries(), func(c fiber.Ctx) string {
		address := account(c)
		if known := s.knownAs(c, address); known != "" {
			return "signin-known-" + known
		}
		return "signin-account-" + digest(address)
	})
}

// limitPassword bounds how often the password of now can be guessed on the page
// where it is changed.
func (s *server) limitPassword() fiber.Handler {
	return s.limit(s.tries(), func(c fiber.Ctx) string { return fmt.Sprintf("password-%d", who(c)) })
}

// limit counts failed tries in a quarter of an hour; what succeeds costs nothing.
func (s *server) limit(tries int, key func(fiber.Ctx) string) fiber.Handler {
	return limiter.New(limiter.Config{
		Storage:                timely{s.limits},
		Max:                    tries,
		Expiration:             15 * time.Minute,
		KeyGenerator:           key,
		SkipSuccessfulRequests: true,
		LimitReached:           func(fiber.Ctx) error { return fiber.ErrTooManyRequests },
	})
}
