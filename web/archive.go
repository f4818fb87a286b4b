package web

import (
	"errors"
	"fmt"
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
)

type archivePage struct {
	Page
	List  []store.Archived
	Pages listPages
}

// archivePage lists what is archived, with the ways back and out.
func (s *server) archivePage(c fiber.Ctx) error {
	find := finding(c)
	list, more, err := s.Files.Archived(c.Context(), who(c), find)
	if err != nil {
		return err
	}
	return c.Render("archive", archivePage{page(c, "Archive", "archive"), list, pagesOf("/archive", "Find in the archive", find, more)})
}

// thing reads what an address of the archive is about.
func thing(c fiber.Ctx) (ref.Kind, int64, error) {
	id, err := pathID[int64](c)
	return ref.Kind(c.Params("kind")), id, err
}

// listOf is the page on whose list a kind stands.
func listOf(kind ref.Kind) string {
	switch kind {
	case ref.ASong:
		return "/songs"
	case ref.ALadder:
		return "/ladders"
	case ref.APattern:
		return "/patterns"
	}
	return "/class"
}

// archive takes something off its list; everything of it is kept.
func (s *server) archive(c fiber.Ctx) error {
	kind, id, err := thing(c)
	if err != nil {
		return err
	}
	if err := s.Files.Archive(c.Context(), who(c), kind, id, true); err != nil {
		return err
	}
	leaveNote(c, Note{fmt.Sprintf("The %s is archived, with everything in it.", kind), fmt.Sprintf("/archive/%s/%d/restore", kind, id), 0})
	return goTo(c, listOf(kind))
}

func (s *server) restore(c fiber.Ctx) error {
	kind, id, err := thing(c)
	if err != nil {
		return err
	}
	if err := s.Files.Archive(c.Context(), who(c), kind, id, false); err != nil {
		return err
	}
	leaveNote(c, Note{Text: fmt.Sprintf("The %s is back.", kind)})
	return goTo(c, listOf(kind))
}

// deleteForGood deletes something that is archived. It cannot be undone, so the
// name is typed.
func (s *server) deleteForGood(c fiber.Ctx) error {
	kind, id, err := thing(c)
	if err != nil {
		return err
	}
	if err := s.Files.Delete(c.Context(), who(c), kind, id, text(c)); err != nil {
		return err
	}
	leaveNote(c, Note{Text: fmt.Sprintf("“%s” is deleted.", text(c))})
	return goTo(c, "/archive")
}

// export gives one thing as a file.
func (s *server) export(c fiber.Ctx) error {
	kind, id, err := thing(c)
	if err != nil {
		return err
	}
	b, err := s.Files.Export(c.Context(), who(c), kind, id, time.Now())
	return sendBundle(c, b, fmt.Sprintf("Arplin %s", kind), err)
}

type accountPage struct {
	Page
	Email    string
	Archived bool
	Runs     bool   // the school
	Link     string // to an account, made just now
}

func (s *server) account(c fiber.Ctx) error { return s.showAccount(c, accountPage{}) }

func (s *server) showAccount(c fiber.Ctx, p accountPage) error {
	t := visitOf(c).teacher
	problem := p.Problem
	p.Page, p.Email, p.Archived, p.Runs = page(c, "Account", "account"), t.Email, t.Archived, t.Runs
	p.Problem = problem
	return render(c, "account", "account", p.Page, p)
}

// archiveAccount closes an account, or opens it again.
func (s *server) archiveAccount(archived bool) fiber.Handler {
	return func(c fiber.Ctx) error {
		if err := s.People.CloseAccount(c.Context(), who(c), archived); err != nil {
			return err
		}
		return goTo(c, "/account")
	}
}

// deleteAccount deletes an archived account and everything in it.
func (s *server) deleteAccount(c fiber.Ctx) error {
	t := visitOf(c).teacher
	if err := s.People.DeleteAccount(c.Context(), t, text(c)); err != nil {
		return err
	}
	if err := visitOf(c).end(); err != nil {
		return err
	}
	c.Set("Clear-Site-Data", `"cache"`)
	return goTo(c, "/signin")
}

// changePassword stores another password. Every other browser is signed out.
func (s *server) changePassword(c fiber.Ctx) error {
	t := visitOf(c).teacher
	epoch, err := s.People.ChangePassword(c.Context(), t, c.FormValue("password"), c.FormValue("new_password"))
	var refusal *answer.Refusal
	if errors.As(err, &refusal) {
		return s.showAccount(c, accountPage{Page: Page{Problem: answer.Sentence(refusal.Clause)}})
	}
	if err != nil {
		return err
	}
	if err := s.begin(c, t, epoch); err != nil {
		return err
	}
	leaveNote(c, Note{Text: "Password changed. Other browsers are signed out."})
	return seeOther(c, "/account")
}
