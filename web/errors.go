package web

import (
	"context"
	"errors"
	"net/url"
	"slices"
	"sort"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/middleware/csrf"

	"arplin/letters"
	"arplin/store"
	"arplin/store/database"
	"arplin/teach/answer"
)

var (
	errExpiredForm = errors.New("the form's token is not the browser's")
	errOtherSite   = errors.New("the form came from another site")
	errNoTLS       = errors.New("the form came over TLS, of which the program knows nothing")
	errSignedOut   = errors.New("nobody is signed in")
)

// formError tells why a form was not taken.
func (s *server) formError(c fiber.Ctx, err error) error {
	if _, unknown := s.signer.ready(c.Context()); unknown != nil {
		return unknown // the key of the tokens is not to be had: it is the database
	}
	if sent, e := sentToken(c); e == nil && c.Cookies(s.cookie(sessionCookie)) == "" { // a form of a session that has ended in this browser
		if value, ok, _ := s.signer.read(c.Context(), tokenName, sent); ok && !isBound(value, s.binding(c)) {
			return errSignedOut
		}
	}
	switch {
	case database.Unavailable(err):
		return err
	case errors.Is(err, csrf.ErrOriginNoMatch):
		if from, err := url.Parse(c.Get(fiber.HeaderOrigin)); err == nil && from.Scheme == "https" && c.Scheme() == "http" && from.Host == c.Host() {
			return errNoTLS
		}
		return errOtherSite
	case errors.Is(err, csrf.ErrOriginInvalid), errors.Is(err, csrf.ErrRefererInvalid), errors.Is(err, csrf.ErrRefererNoMatch), errors.Is(err, csrf.ErrRefererNotFound),
		c.Get(fiber.HeaderSecFetchSite) == "cross-site":
		return errOtherSite
	}
	return errExpiredForm
}

// sentence is what a person reads of an error. Status codes and causes stay in
// the log.
type sentence struct {
	status      int
	head, tells string
	again       bool // sending the same again may succeed
}

const notWorked = "That didn’t work"

func (s *server) explain(err error) sentence {
	var fe *fiber.Error
	var refusal *answer.Refusal
	var stale *store.StaleError
	var failing *answer.Failing
	switch {
	case errors.As(err, &failing):
		return sentence{fiber.StatusInternalServerError, "Arplin can’t work out this ladder", failing.Says(), false}
	case errors.As(err, &refusal):
		return sentence{fiber.StatusUnprocessableEntity, notWorked, answer.Sentence(refusal.Clause), false}
	case errors.As(err, &stale):
		return sentence{fiber.StatusConflict, notWorked, "This was changed, perhaps in another window. Check the page, then try again.", false}
	case errors.Is(err, errExpiredForm):
		return sentence{fiber.StatusForbidden, "Please send it again", "Arplin could not be sure that the form came from this browser; it may have been open for weeks. What you sent is kept below.", true}
	case errors.Is(err, errOtherSite):
		return sentence{fiber.StatusForbidden, "That came from another site", "Nothing was done. Forms count only when they are sent from Arplin’s own pages.", false}
	case errors.Is(err, errNoTLS):
		return sentence{fiber.StatusForbidden, "Arplin does not know that it is behind https", "Whoever runs it names the proxy in ARPLIN_TRUSTED_PROXIES and sets ARPLIN_SECURE_COOKIES=true; the README says how. What you sent is kept below.", true}
	case errors.Is(err, errSignedOut):
		return sentence{fiber.StatusUnauthorized, "You are signed out", "What you sent is kept below. Sign in in another tab, come back here, and send it again.", true}
	case errors.Is(err, store.ErrNotFound):
		return sentence{fiber.StatusNotFound, "Page not found", "It may have been removed, or the address is mistyped.", false}
	case database.DiskFull(err):
		return sentence{fiber.StatusServiceUnavailable, "The disk is full", "Nothing that was saved is lost, but nothing new can be saved. Whoever runs Arplin has to make room; then send this again.", true}
	case (errors.Is(err, context.DeadlineExceeded) || errors.Is(err, context.Canceled)) && s.answers():
		return sentence{fiber.StatusServiceUnavailable, "This took too long", "Arplin stopped waiting. Nothing that was saved is lost. Try again in a moment.", true}
	case database.Unavailable(err):
		return sentence{fiber.StatusServiceUnavailable, "The database isn’t responding", s.databaseSays(), true}
	case errors.As(err, &fe):
		return explainStatus(fe)
	}
	return sentence{fiber.StatusInternalServerError, "Something went wrong here", "It’s Arplin’s fault, not yours, and it’s been recorded. Go back and try again.", true}
}

func explainStatus(fe *fiber.Error) sentence {
	switch {
	case fe.Code == fiber.StatusNotFound:
		return sentence{fe.Code, "Page not found", "It may have been removed, or the address is mistyped.", false}
	case fe.Code == fiber.StatusMethodNotAllowed:
		return sentence{fe.Code, "That page cannot be asked for like this", "Go back and use the buttons of the page.", false}
	case fe.Code == fiber.StatusRequestEntityTooLarge:
		return sentence{fe.Code, "That is too long", "Arplin reads chord sheets of up to 64 thousand characters, and files of up to 12 MB where a file is imported, half a megabyte elsewhere. Send a longer log in parts.", false}
	case fe.Code == fiber.StatusRequestHeaderFieldsTooLarge:
		return sentence{fe.Code, "That address is too long", "Open the page from Arplin’s own pages, which keep what is long.", false}
	case fe.Code == fiber.StatusTooManyRequests:
		return sentence{fe.Code, "Too many tries", "Wait 15 minutes and try again.", false}
	case fe.Code < 500:
		return sentence{fe.Code, notWorked, fe.Message, false}
	}
	return sentence{fe.Code, "Something went wrong here", "It’s been recorded. Go back and try again.", true}
}

// databaseSays is a sentence about a database that does not answer.
func (s *server) databaseSays() string {
	const kept = " Nothing that was saved is lost."
	if s.Database != nil {
		if says := s.Database(); says != "" {
			return says + kept
		}
	}
	return "Wait a moment and try again." + kept
}

// answers asks the database for a sign of life: what took long may have been something else.
func (s *server) answers() bool {
	ctx, cancel := context.WithTimeout(context.Background(), time.Second)
	defer cancel()
	return s.visits.Ping(ctx) == nil
}

func isNotFound(err error) bool { return errors.Is(err, store.ErrNotFound) }

// sentField is a field of the request, given back so that nothing is lost.
type sentField struct{ Name, Value string }

// typedFields are those in which somebody types, with what they are called on the
// page that gives them back; the others go along unseen.
var typedFields = map[string]string{
	"line": "The line", "tempo": "Tempo", "text": "Text", "words": "Words", "title": "Title", "name": "Name", "tuning": "Tuning", "minutes": "Minutes",
	"day_minutes": "Minutes a day", "sing_low": "Sings from", "sing_high": "up to", "notation": "Pattern", "pattern_name": "Name of the pattern", "email": "Email",
}

// Label is what a field is called that somebody typed in; empty for the others.
func (f sentField) Label() string {
	if f.Value == "" {
		return ""
	}
	return typedFields[f.Name]
}

// Rows is how high its box is.
func (f sentField) Rows() int { return min(20, 1+strings.Count(f.Value, "\n")+len(f.Value)/80) }

// anyTyped reports whether there is something to show.
func anyTyped(fields []sentField) bool {
	return slices.ContainsFunc(fields, func(f sentField) bool { return f.Label() != "" })
}

type errorPage struct {
	Page
	Head, Tells string
	Again       bool
	SignIn      bool // sending it again needs a sign-in first
	Sent        []sentField
	Typed       bool // some of it was typed
}

// renderError shows any error in Arplin's own words. A form's fields come back
// on the page; a fragment request gets the sentence alone.
func (s *server) renderError(c fiber.Ctx, err error) error {
	said := s.explain(err)
	if said.status >= 500 {
		s.Log.Error("request failed", "path", c.Path(), "error", err)
	}
	c.Status(said.status)
	if said.status == fiber.StatusRequestHeaderFieldsTooLarge {
		c.Response().Header.DelAllCookies() // its own were not read: new ones would take the place of good ones
	}
	if isPiece(c) {
		if errors.Is(err, errExpiredForm) { // what was sent is still on the page
			said.tells = "What you typed is still here."
			c.Set(csrf.HeaderName, s.formToken(c))
		}
		if said.head == notWorked {
			return c.Type("txt", "utf-8").SendString(said.tells)
		}
		return c.Type("txt", "utf-8").SendString(said.head + ". " + said.tells)
	}
	page := errorPage{Page: Page{Title: said.head, Path: c.OriginalURL(), Stage: visitOf(c).stage}, Head: said.head, Tells: said.tells, Again: said.again, SignIn: errors.Is(err, errSignedOut)}
	if c.Method() == fiber.MethodPost {
		page.Sent, page.CSRF = sentFields(c), s.formToken(c)
		page.Typed = anyTyped(page.Sent)
	}
	if renderErr := c.Render("error", page); renderErr != nil {
		return c.Type("txt", "utf-8").SendString(said.head + ". " + said.tells)
	}
	return nil
}

// sentFields lists what a form sent, without passwords and tokens. A file comes
// back as the text that it holds.
func sentFields(c fiber.Ctx) []sentField {
	var fields []sentField
	add := func(name, value string) {
		if name != "_csrf" && !strings.Contains(name, "password") {
			fields = append(fields, sentField{name, value})
		}
	}
	if form, err := c.MultipartForm(); err == nil {
		file := ""
		if text, err := sentText(c); err == nil { // one that is no text cannot be shown in a field
			file = letters.Clean(text)
		}
		for name, values := range form.Value {
			for _, value := range values {
				if name == "text" && file != "" {
					continue // the file counts
				}
				add(name, value)
			}
		}
		if file != "" {
			add("text", file)
		}
	} else {
		for key, value := range c.Request().PostArgs().All() {
			add(string(key), string(value))
		}
	}
	sort.SliceStable(fields, func(i, j int) bool { return fields[i].Name < fields[j].Name })
	return fields
}

// refusal is the sentence of an error that a person can act on.
func refusal(err error) (says string, ok bool) {
	var r *answer.Refusal
	if !errors.As(err, &r) {
		return "", false
	}
	return answer.Sentence(r.Clause), true
}
