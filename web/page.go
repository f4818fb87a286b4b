package web

import (
	"strconv"

	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/middleware/csrf"
	"github.com/gofiber/fiber/v3/middleware/session"

	"arplin/store"
)

// Page is what every page has.
type Page struct {
	Title   string
	Active  string // the place in the navigation
	Teacher string // name; empty when nobody is signed in
	CSRF    string
	Note    Note
}

// Note is one sentence about what was just done, with a way back.
type Note struct {
	Text string
	Undo string // path to post to; empty when there is nothing to undo
	Args map[string]string
}

const (
	keyTeacher  = "teacher"
	keyName     = "name"
	keyNoteText = "note"
	keyNoteUndo = "note_undo"
)

func csrfToken(c fiber.Ctx) string { return csrf.TokenFromContext(c) }

// page begins a page; a note left by the request before is shown once.
func page(c fiber.Ctx, title, active string) Page {
	p := Page{Title: title, Active: active, CSRF: csrfToken(c)}
	sess := session.FromContext(c)
	if sess == nil {
		return p
	}
	p.Teacher, _ = sess.Get(keyName).(string)
	if text, ok := sess.Get(keyNoteText).(string); ok {
		p.Note.Text = text
		p.Note.Undo, _ = sess.Get(keyNoteUndo).(string)
		sess.Delete(keyNoteText)
		sess.Delete(keyNoteUndo)
	}
	return p
}

// leaveNote has the next page say what was done.
func leaveNote(c fiber.Ctx, text, undo string) {
	sess := session.FromContext(c)
	sess.Set(keyNoteText, text)
	sess.Set(keyNoteUndo, undo)
}

// wantsFragment reports a request by Arplin's own script for a piece of a page.
func wantsFragment(c fiber.Ctx) bool { return c.Get("X-Fragment") != "" }

// teacherID is the signed-in teacher; requireTeacher has seen to it.
func teacherID(c fiber.Ctx) int64 { return fiber.Locals[int64](c, keyTeacher) }

// pathID reads an id from the path; anything else is not found.
func pathID(c fiber.Ctx) (int64, error) {
	id, err := strconv.ParseInt(c.Params("id"), 10, 64)
	if err != nil || id < 1 {
		return 0, store.ErrNotFound
	}
	return id, nil
}

func (s *server) requireTeacher(c fiber.Ctx) error {
	id, ok := session.FromContext(c).Get(keyTeacher).(int64)
	if !ok {
		if wantsFragment(c) {
			return fiber.NewError(fiber.StatusUnauthorized, "You are signed out. Sign in again in another tab; what you typed stays here.")
		}
		return c.Redirect().Status(fiber.StatusSeeOther).To("/signin")
	}
	fiber.Locals[int64](c, keyTeacher, id)
	c.Set(fiber.HeaderCacheControl, "no-store") // pages hold names
	return c.Next()
}

func seeOther(c fiber.Ctx, path string) error {
	return c.Redirect().Status(fiber.StatusSeeOther).To(path)
}
