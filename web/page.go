package web

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"strconv"
	"strings"

	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/middleware/csrf"

	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/people"
)

// Page is what every page has.
type Page struct {
	Title   string
	Active  string // the place in the navigation
	Teacher string // name; empty when nobody is signed in
	Class   people.Class
	Path    string // of this page, for the choices in its head
	Stage   bool   // the dark theme of the projector
	CSRF    string
	Note    Note
	Problem string // a sentence; what was asked for was not done
}

// Note is one sentence about what was just done, with a way back.
type Note struct {
	Text string
	Undo string // path to post to; empty when there is nothing to undo
	// Version is what the undo is of; 0 for what has none.
	Version int
}

// who is the signed-in teacher; requireTeacher has seen to it.
func who(c fiber.Ctx) ref.Teacher { return visitOf(c).teacher.ID }

// class is the class that the teacher works with.
func class(c fiber.Ctx) people.Class { return visitOf(c).class }

// requireTeacher finds the teacher and the class, or shows the way to sign in.
// An account that is archived sees nothing but itself.
func (s *server) requireTeacher(c fiber.Ctx) error {
	v := visitOf(c)
	id, ok := v.get(keyTeacher).(int64)
	if !ok {
		return signedOut(c)
	}
	v.stage, _ = v.get(keyStage).(bool)
	wanted, _ := v.get(keyClass).(int64)
	teacher, at, err := s.People.Visit(c.Context(), ref.Teacher(id), ref.Class(wanted))
	if epoch, _ := v.get(keyEpoch).(int); isNotFound(err) || err == nil && epoch != teacher.Epoch {
		_ = v.end() // the account is gone, or its password was changed elsewhere
		return signedOut(c)
	} else if err != nil {
		return err
	}
	v.teacher, v.class = teacher, at
	c.Set(fiber.HeaderCacheControl, "private, no-cache") // pages hold names: one browser may keep them, and asks each time
	if v.teacher.Archived && !strings.HasPrefix(c.Path(), "/account") {
		return seeOther(c, "/account")
	}
	return c.Next()
}

func signedOut(c fiber.Ctx) error {
	if isPiece(c) {
		return fiber.NewError(fiber.StatusUnauthorized, "You are signed out. Sign in again in another tab; what you typed stays here.")
	}
	if c.Method() == fiber.MethodPost {
		return errSignedOut
	}
	return seeOther(c, "/signin")
}

// page begins a page; a note left by the request before is shown once.
func page(c fiber.Ctx, title, active string) Page {
	v := visitOf(c)
	p := Page{
		Title: title, Active: active, CSRF: csrf.TokenFromContext(c), Path: c.OriginalURL(),
		Teacher: v.teacher.Name, Class: v.class, Stage: v.stage,
	}
	if text, ok := v.get(keyNoteText).(string); ok && !isPiece(c) {
		p.Note.Text = text
		p.Note.Undo, _ = v.get(keyNoteUndo).(string)
		p.Note.Version, _ = v.get(keyNoteVersion).(int)
		v.set(keyNoteText, nil)
	}
	return p
}

// leaveNote has the next page say what was done.
func leaveNote(c fiber.Ctx, note Note) {
	v := visitOf(c)
	v.set(keyNoteText, note.Text)
	v.set(keyNoteUndo, note.Undo)
	v.set(keyNoteVersion, note.Version)
}

// isPiece reports a request by the script for a piece of a page.
func isPiece(c fiber.Ctx) bool { return c.Get("HX-Request") != "" }

// render shows a piece of a page to the script, and the whole page otherwise. A
// problem on it is what was asked for and not done.
func render(c fiber.Ctx, whole, piece string, p Page, data any) error {
	if p.Problem != "" && c.Response().StatusCode() == fiber.StatusOK {
		c.Status(fiber.StatusUnprocessableEntity)
	}
	if isPiece(c) {
		return c.Render(piece, data, "")
	}
	return c.Render(whole, data)
}

// unchanged answers a browser that has the page of the same rows already. What
// else a page shows counts, too: its form token, theme, and a note.
func unchanged(c fiber.Ctx, p Page, rows ...any) bool {
	sum := sha256.Sum256(fmt.Appendf(nil, "%s %v %v %v %v %s %v", version, rows, p.Note, p.Class, p.Stage, p.CSRF, isPiece(c)))
	tag := `W/"` + hex.EncodeToString(sum[:16]) + `"`
	c.Set(fiber.HeaderETag, tag)
	c.Vary("HX-Request")
	if c.Get(fiber.HeaderIfNoneMatch) != tag {
		return false
	}
	c.Status(fiber.StatusNotModified)
	return true
}

// after shows what a form did: to the script the piece that it changed, else the
// page to which it goes back, with a note.
func after(c fiber.Ctx, note Note, path string, piece func(Note) error) error {
	if isPiece(c) && piece != nil {
		return piece(note)
	}
	leaveNote(c, note)
	return goTo(c, path)
}

// goTo sends the browser on.
func goTo(c fiber.Ctx, path string) error {
	if isPiece(c) {
		c.Set("HX-Redirect", path)
		return c.SendStatus(fiber.StatusNoContent)
	}
	return seeOther(c, path)
}

func seeOther(c fiber.Ctx, path string) error {
	return c.Redirect().Status(fiber.StatusSeeOther).To(path)
}

// pathID reads an id from the path; anything else is not found.
func pathID[T ~int64](c fiber.Ctx) (T, error) {
	id, err := strconv.ParseInt(c.Params("id"), 10, 64)
	if err != nil || id < 1 {
		return 0, store.ErrNotFound
	}
	return T(id), nil
}

// formID reads an id from the form or the address; 0, which nothing has, for
// what is none.
func formID[T ~int64 | ~int](c fiber.Ctx, name string) T {
	id, _ := strconv.ParseInt(c.FormValue(name), 10, 64)
	return T(id)
}

// formVersion is the version of the page on which a form stood.
func formVersion(c fiber.Ctx) (int, error) {
	n, err := strconv.Atoi(c.FormValue("version"))
	if err != nil {
		return 0, refuse("part of the page is missing. Reload it")
	}
	return n, nil
}

// FormKey is the field that makes a form that is sent twice one; see once.
func (Page) FormKey() string { return formKey() }

func refuse(clause string) error { return &answer.Refusal{Clause: clause} }
