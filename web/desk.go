package web

import (
	"crypto/rand"
	"errors"
	"fmt"
	"strconv"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/core/practice/fault"
	"arplin/letters"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/desk"
	"arplin/teach/ladders"
	"arplin/teach/people"
)

type deskPage struct {
	Page
	desk.Desk
	ClientID   string // makes a line that is sent twice one entry
	Typed      string // a log line that could not be read, kept
	Take       string // what Listen proposed of it
	ProblemFor ref.Student
	Asks       *answer.Question // about the line, or a student's own field
	Own        string           // the tempo of that field
	Care       []string
}

// IsProblem tells whether the problem is about a student's own field on a ladder.
func (p deskPage) IsProblem(st ref.Student, on ref.Ladder) bool {
	return p.ProblemFor == st && p.Ladder.ID == on
}

// Faults are what can fail, with their keys.
func (p deskPage) Faults() (list []fault.Line) {
	on := ladders.PlayingOf(p.Ladder.Target, 0)
	for _, f := range fault.All {
		f.Remedy = f.RemedyFor(on)
		list = append(list, f)
	}
	return list
}

// longestLine bounds a line that comes with an address.
const longestLine = 120

func (s *server) desk(c fiber.Ctx) error {
	// A line that a take proposes is in the field, and is the teacher's to send.
	return s.showDesk(c, class(c), deskPage{Page: page(c, "Desk", "desk"), Typed: letters.Cut(c.Query("line"), longestLine), Take: letters.Cut(c.Query("take"), longestLine)})
}

func (s *server) showDesk(c fiber.Ctx, of people.Class, p deskPage) error {
	desk, rows, err := s.Desk.Load(c.Context(), who(c), of, deskView(c), time.Now())
	if err != nil {
		return err
	}
	if desk.Ladder == nil && isPiece(c) { // there is nothing to show the sentence on
		return fiber.NewError(fiber.StatusUnprocessableEntity, p.Problem)
	}
	// Ids of lines are used once: a page from before the last line is not the same.
	if c.Method() == fiber.MethodGet && unchanged(c, p.Page, rows, visitOf(c).get(keyLogged)) {
		return nil
	}
	p.Desk, p.ClientID, p.Care = desk, rand.Text(), people.Care
	return render(c, "desk", "desk_log", p.Page, p)
}

// deskView is what the page of a desk shows, and its forms with it.
func deskView(c fiber.Ctx) desk.DeskView {
	return desk.DeskView{Front: formID[ref.Ladder](c, "ladder"), Beside: c.FormValue("beside") == "yes"}
}

// viewQuery keeps a view in an address.
func viewQuery(view desk.DeskView) string {
	if view.Beside {
		return fmt.Sprintf("ladder=%d&beside=yes", view.Front)
	}
	return fmt.Sprintf("ladder=%d", view.Front)
}

// deskAt is the address of a view.
func deskAt(view desk.DeskView) string {
	if view == (desk.DeskView{}) {
		return "/"
	}
	return "/?" + viewQuery(view)
}

// logTempo takes either the log line, "pia 72", or a student's own field. It is for
// the class and the ladder of the page that sent it, whatever another tab has
// chosen since.
func (s *server) logTempo(c fiber.Ctx) error {
	of, err := s.deskClass(c)
	if err != nil {
		return err
	}
	l := desk.Log{Line: c.FormValue("line"), Student: c.FormValue("student"), Tempo: c.FormValue("tempo"), Take: c.FormValue("take"), Ladder: formID[ref.Ladder](c, "ladder"), ClientID: clientID(c), Anyway: c.FormValue("sure") == "yes"}
	logged, err := s.Desk.LogTempo(c.Context(), who(c), of, l, time.Now())
	var refusal *answer.Refusal
	if errors.As(err, &refusal) && c.FormValue("back") == "live" {
		return s.showLive(c, of, lessonPage{Page: Page{Problem: answer.Sentence(refusal.Clause)}, Typed: l.Line})
	}
	var asks *answer.Question
	if errors.As(err, &asks) && c.FormValue("back") == "live" {
		return s.showLive(c, of, lessonPage{Asks: asks, Typed: l.Line})
	}
	if errors.As(err, &asks) {
		p := deskPage{Page: page(c, "Desk", "desk"), Typed: l.Line, Asks: asks, Take: l.Take}
		if l.Student != "" { // it was typed into the student's own field
			p.Typed, p.Own, p.ProblemFor = l.Tempo, l.Tempo, logged.Student.ID
		}
		return s.showDesk(c, of, p)
	}
	if errors.As(err, &refusal) {
		p := deskPage{Page: page(c, "Desk", "desk"), Typed: l.Line + l.Tempo, ProblemFor: logged.Student.ID, Take: l.Take}
		p.Problem = answer.Sentence(refusal.Clause)
		return s.showDesk(c, of, p)
	}
	if err != nil {
		return err
	}
	return s.afterLog(c, of, Note{logged.Says, fmt.Sprintf("/log/%d/withdraw?class=%d&more=%s&%s", logged.Entries[0], of.ID, idList(logged.Entries[1:]), viewQuery(deskView(c))), 0})
}

// readPage is a line of the log as it is understood so far.
type readPage struct {
	Page
	List   []desk.Read
	Unread string // what is not understood yet, and why
}

// readLine says how the line of the log is understood while it is typed.
func (s *server) readLine(c fiber.Ctx) error {
	of, err := s.deskClass(c)
	if err != nil {
		return err
	}
	p := readPage{Page: page(c, "Log", "desk")}
	if line := c.Query("line"); strings.TrimSpace(line) != "" {
		if p.List, p.Unread, err = s.Desk.ReadLine(c.Context(), who(c), of, desk.Log{Line: line, Take: c.Query("take"), Ladder: formID[ref.Ladder](c, "ladder")}, time.Now()); err != nil {
			return err
		}
	}
	return render(c, "desk_read", "desk_read", p.Page, p)
}

// deskClass is the class of the desk that a form stood on.
func (s *server) deskClass(c fiber.Ctx) (people.Class, error) {
	id := formID[ref.Class](c, "class")
	if id == 0 {
		return class(c), nil
	}
	return s.People.ClassOf(c.Context(), who(c), id, class(c))
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
	id, err := pathID[ref.Entry](c)
	if err != nil {
		return err
	}
	if err := s.Desk.Withdraw(c.Context(), who(c), append([]ref.Entry{id}, readIDs[ref.Entry](c.Query("more"))...), time.Now()); err != nil {
		return err
	}
	of, err := s.deskClass(c)
	if err != nil {
		return err
	}
	return s.afterLog(c, of, Note{Text: "Undone: that log entry is gone."})
}

func (s *server) afterLog(c fiber.Ctx, of people.Class, note Note) error {
	v := visitOf(c)
	n, _ := v.get(keyLogged).(int)
	v.set(keyLogged, n+1)
	if c.FormValue("back") == "live" {
		return after(c, note, "/lesson/live", func(note Note) error { return s.showLive(c, of, lessonPage{Page: Page{Note: note}}) })
	}
	return after(c, note, deskAt(deskView(c)), func(note Note) error {
		p := deskPage{Page: page(c, "Desk", "desk")}
		p.Note = note
		return s.showDesk(c, of, p)
	})
}

// idList writes ids for an address, parted by dots.
func idList[T ~int64](ids []T) string {
	var parts []string
	for _, id := range ids {
		parts = append(parts, fmt.Sprint(int64(id)))
	}
	return strings.Join(parts, ".")
}

// readIDs reads them; what is none is left out.
func readIDs[T ~int64](text string) (ids []T) {
	for _, part := range strings.Split(text, ".") {
		if n, err := strconv.ParseInt(part, 10, 64); err == nil {
			ids = append(ids, T(n))
		}
	}
	return ids
}

// decide carries out what is proposed to one student, or to all that are ready, on the
// ladder of the desk that sent it.
func (s *server) decide(c fiber.Ctx) error {
	of, err := s.deskClass(c)
	if err != nil {
		return err
	}
	l, err := s.Ladders.Load(c.Context(), who(c), of, formID[ref.Ladder](c, "ladder"))
	if err != nil {
		return err
	}
	sent := map[ref.Student]desk.Deciding{}
	for _, f := range sentFields(c) {
		var student ref.Student
		var d desk.Deciding
		if _, err := fmt.Sscan(f.Value, &student, &d.Kind, &d.Step); f.Name == "decision" && err == nil {
			sent[student] = d
		}
	}
	if len(sent) == 0 && c.FormValue("all") == "yes" {
		return s.nobodyMoves(c, l)
	}
	says, version, err := s.Desk.Decide(c.Context(), who(c), l, sent, time.Now())
	if err != nil {
		return err
	}
	note := Note{Text: says}
	if c.FormValue("back") == "/lesson" { // a whole group
		if version > 0 {
			note.Undo, note.Version = fmt.Sprintf("/ladders/%d/undo?back=desk", l.ID), version
		}
		leaveNote(c, note)
		return seeOther(c, "/lesson")
	}
	if version > 0 { // somebody was moved
		note = Note{says, fmt.Sprintf("/ladders/%d/undo?back=desk&%s", l.ID, viewQuery(deskView(c))), version}
	}
	return s.afterLog(c, of, note)
}

// nobodyMoves says why nobody moves on who could have been.
func (s *server) nobodyMoves(c fiber.Ctx, l ladders.Ladder) error {
	says, err := s.Desk.WhyNobody(c.Context(), who(c), l, time.Now())
	if err != nil {
		return err
	}
	return refuse(says)
}

// setStage turns the dark theme of the projector on or off.
func (s *server) setStage(c fiber.Ctx) error {
	visitOf(c).set(keyStage, c.FormValue("stage") == "yes")
	return seeOther(c, backTo(c))
}

// backTo is the page from which a choice in its head came.
func backTo(c fiber.Ctx) string {
	back := c.FormValue("back")
	odd := func(r rune) bool { return r < ' ' || r == 0x7f || r == '\\' } // browsers leave some of these out, and "/\t/" would be another site
	if !strings.HasPrefix(back, "/") || strings.HasPrefix(back, "//") || strings.ContainsFunc(back, odd) {
		return "/"
	}
	return back
}
