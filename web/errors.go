package web

import (
	"errors"
	"sort"
	"strings"

	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/middleware/csrf"

	"arplin/store"
	"arplin/teach"
)

var errExpiredForm = errors.New("the form is too old")

// sentence is what a person reads of an error. Status codes and causes stay in
// the log.
type sentence struct {
	status      int
	head, tells string
	again       bool // sending the same again may succeed
}

const notWorked = "That did not work"

func explain(err error) sentence {
	var fe *fiber.Error
	var refusal *teach.Refusal
	switch {
	case errors.As(err, &refusal):
		return sentence{fiber.StatusUnprocessableEntity, notWorked, teach.Sentence(refusal.Clause), false}
	case errors.Is(err, errExpiredForm):
		return sentence{fiber.StatusForbidden, "This page has been open too long", "Arplin could not be sure that the form came from you. What you sent is kept below; send it again.", true}
	case errors.Is(err, store.ErrNotFound):
		return sentence{fiber.StatusNotFound, "That is not here", "It may have been removed, or the address has a slip in it.", false}
	case store.Gone(err):
		return sentence{fiber.StatusServiceUnavailable, "The database does not answer", "Nothing that was saved is lost. Wait a moment and try again.", true}
	case errors.As(err, &fe) && fe.Code == fiber.StatusNotFound:
		return sentence{fe.Code, "That is not here", "It may have been removed, or the address has a slip in it.", false}
	case errors.As(err, &fe) && fe.Code == fiber.StatusMethodNotAllowed:
		return sentence{fe.Code, "That page cannot be asked for like this", "Go back and use the buttons of the page.", false}
	case errors.As(err, &fe) && fe.Code == fiber.StatusRequestEntityTooLarge:
		return sentence{fe.Code, "That is too long", "Arplin reads chord sheets of up to 64 thousand characters.", false}
	case errors.As(err, &fe) && fe.Code == fiber.StatusTooManyRequests:
		return sentence{fe.Code, "Too many tries", "Wait a quarter of an hour and sign in again.", false}
	case errors.As(err, &fe) && fe.Code < 500:
		return sentence{fe.Code, notWorked, fe.Message, false}
	}
	return sentence{fiber.StatusInternalServerError, "Something went wrong here", "It is our fault, not yours, and it has been written down. Go back and try again.", true}
}

func isNotFound(err error) bool { return errors.Is(err, store.ErrNotFound) }

// sentField is a field of the request, given back so that nothing is lost.
type sentField struct{ Name, Value string }

type errorPage struct {
	Page
	Head, Tells string
	Again       bool
	Sent        []sentField
}

// renderError shows any error in Arplin's own words. A form's fields come back
// on the page; a fragment request gets the sentence alone.
func (s *server) renderError(c fiber.Ctx, err error) error {
	said := explain(err)
	if said.status >= 500 {
		s.Log.Error("request failed", "path", c.Path(), "error", err)
	}
	c.Status(said.status)
	if isPiece(c) {
		if errors.Is(err, errExpiredForm) { // what was sent is still on the page
			said.tells = "What you typed is still here: copy it, load the page again, and put it in."
		}
		if said.head == notWorked {
			return c.Type("txt", "utf-8").SendString(said.tells)
		}
		return c.Type("txt", "utf-8").SendString(said.head + ". " + said.tells)
	}
	page := errorPage{Page: Page{Title: said.head, CSRF: csrf.TokenFromContext(c), Path: c.OriginalURL()}, Head: said.head, Tells: said.tells, Again: said.again}
	if v := visitOf(c); v != nil {
		page.Stage = v.stage
	}
	if c.Method() == fiber.MethodPost {
		page.Sent = sentFields(c)
	}
	if renderErr := c.Render("error", page); renderErr != nil {
		return c.Type("txt", "utf-8").SendString(said.head + ". " + said.tells)
	}
	return nil
}

// sentFields lists what a form sent, without passwords and tokens.
func sentFields(c fiber.Ctx) []sentField {
	var fields []sentField
	for key, value := range c.Request().PostArgs().All() {
		name := string(key)
		if name == "_csrf" || strings.Contains(name, "password") {
			continue
		}
		fields = append(fields, sentField{name, string(value)})
	}
	sort.Slice(fields, func(i, j int) bool { return fields[i].Name < fields[j].Name })
	return fields
}
