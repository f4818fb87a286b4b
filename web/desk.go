package web

import (
	"crypto/rand"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/middleware/session"

	"arplin/store"
	"arplin/teach"
)

type deskPage struct {
	Page
	teach.Desk
	ClientID   string // makes a line that is sent twice one entry
	Typed      string // a log line that could not be read, kept
	ProblemFor store.StudentID
	Care       []string
}

func (s *server) desk(c fiber.Ctx) error {
	return s.showDesk(c, deskPage{Page: page(c, "Desk", "desk")})
}

func (s *server) showDesk(c fiber.Ctx, p deskPage) error {
	now := time.Now()
	desk, rows, err := s.LoadDesk(c.Context(), who(c), class(c), now)
	if err != nil {
		return err
	}
	// Ids of lines are used once: a page from before the last line is not the same.
	if c.Method() == fiber.MethodGet && unchanged(c, p.Page, rows, session.FromContext(c).Get(keyLogged)) {
		return nil
	}
	p.Desk, p.ClientID, p.Care = desk, rand.Text(), teach.Care
	return render(c, "desk", "desk_log", p.Page, p)
}

// logTempo takes either the log line, "pia 72", or a student's own field.
func (s *server) logTempo(c fiber.Ctx) error {
	l := teach.Log{Line: c.FormValue("line"), Student: c.FormValue("student"), Tempo: c.FormValue("tempo"), ClientID: clientID(c)}
	logged, err := s.LogTempo(c.Context(), who(c), class(c), l, time.Now())
	var refusal *teach.Refusal
	if errors.As(err, &refusal) {
		p := deskPage{Page: page(c, "Desk", "desk"), Typed: l.Line + l.Tempo, ProblemFor: logged.Student.ID}
		p.Problem = teach.Sentence(refusal.Clause)
		return s.showDesk(c, p)
	}
	if err != nil {
		return err
	}
	return s.afterLog(c, Note{logged.Says, fmt.Sprintf("/log/%d/withdraw", logged.Entry)})
}

// clientID is the form's own id, so that a line sent twice is one entry; an odd
// one is replaced.
func clientID(c fiber.Ctx) string {
	id := c.FormValue("client_id")
	if len(id) < 16 || len(id) > 40 || strings.Contains(id, "-") {
		return rand.Text()
	}
	return id
}

func (s *server) withdrawTempo(c fiber.Ctx) error {
	id, err := pathID[store.EntryID](c)
	if err != nil {
		return err
	}
	if err := s.Store.Withdraw(c.Context(), who(c), id, time.Now()); err != nil {
		return err
	}
	return s.afterLog(c, Note{Text: "That tempo was taken back."})
}

func (s *server) afterLog(c fiber.Ctx, note Note) error {
	sess := session.FromContext(c)
	n, _ := sess.Get(keyLogged).(int)
	sess.Set(keyLogged, n+1)
	return after(c, note, "/", func(note Note) error {
		p := deskPage{Page: page(c, "Desk", "desk")}
		p.Note = note
		return s.showDesk(c, p)
	})
}

// setStage turns the dark theme of the projector on or off.
func (s *server) setStage(c fiber.Ctx) error {
	session.FromContext(c).Set(keyStage, c.FormValue("stage") == "yes")
	return seeOther(c, backTo(c))
}

// backTo is the page from which a choice in its head came.
func backTo(c fiber.Ctx) string {
	back := c.FormValue("back")
	if !strings.HasPrefix(back, "/") || strings.HasPrefix(back, "//") || strings.ContainsAny(back, "\\\r\n") {
		return "/"
	}
	return back
}
