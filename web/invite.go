package web

import (
	"errors"
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/store"
	"arplin/teach/answer"
)

// invitePage is a link to an account: a new one, or one whose password was forgotten.
type invitePage struct {
	Page
	Of          store.Teacher // whose password it is; nobody's for a new account
	Email, Name string        // as typed
}

// invited shows what a link allows. A link that was used or has run out is a page that is not there.
func (s *server) invited(c fiber.Ctx) error {
	p := invitePage{Page: page(c, "Your account", "")}
	var err error
	if p.Of, err = s.People.Invited(c.Context(), c.Params("secret"), time.Now()); err != nil {
		return err
	}
	return c.Render("invite", p)
}

// acceptInvitation makes the account, or sets the password, and signs in.
func (s *server) acceptInvitation(c fiber.Ctx) error {
	t, err := s.People.Accept(c.Context(), c.Params("secret"), c.FormValue("email"), c.FormValue("name"), c.FormValue("password"), time.Now())
	var refusal *answer.Refusal
	if errors.As(err, &refusal) {
		p := invitePage{Page: page(c, "Your account", ""), Email: c.FormValue("email"), Name: c.FormValue("name")}
		p.Problem = answer.Sentence(refusal.Clause)
		if p.Of, err = s.People.Invited(c.Context(), c.Params("secret"), time.Now()); err != nil {
			return err
		}
		return c.Status(fiber.StatusUnprocessableEntity).Render("invite", p)
	}
	if err != nil {
		return err
	}
	if err := s.begin(c, t, t.Epoch); err != nil {
		return err
	}
	return seeOther(c, "/")
}

// invite makes a link, for the one who runs the school; it is shown once.
func (s *server) invite(c fiber.Ctx) error {
	if !visitOf(c).teacher.Runs {
		return fiber.ErrNotFound
	}
	var secret string
	var err error
	if email := c.FormValue("email"); email != "" {
		secret, err = s.People.InviteBack(c.Context(), email, time.Now())
	} else {
		secret, err = s.People.Invite(c.Context(), 0, time.Now())
	}
	if err != nil {
		return err
	}
	return s.showAccount(c, accountPage{Link: c.BaseURL() + "/invite/" + secret})
}

// addSample brings in a class to look around in.
func (s *server) addSample(c fiber.Ctx) error {
	if s.sample == nil {
		return fiber.ErrNotFound
	}
	id, err := s.sample(c.Context(), s.Store, who(c), time.Now())
	if err != nil {
		return err
	}
	visitOf(c).set(keyClass, int64(id))
	leaveNote(c, Note{Text: "The sample class is here. Remove it from the Class page when you’re done."})
	return goTo(c, "/")
}

// removeSample takes it out again, with its songs.
func (s *server) removeSample(c fiber.Ctx) error {
	if err := s.People.RemoveSample(c.Context(), who(c)); err != nil {
		return err
	}
	leaveNote(c, Note{Text: "The sample class has been removed."})
	return goTo(c, "/")
}
