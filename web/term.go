package web

import (
	"errors"
	"strconv"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/core/drill"
	"arplin/letters"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/lesson"
	"arplin/teach/patterns"
	"arplin/teach/people"
)

type termPage struct {
	Page
	lesson.Term
	Typed termForm
	Care  []string
}

// termForm is the term as typed, kept after a problem.
type termForm struct {
	Name, Begins, Concert string
	At, Off               string
	Ladder                ref.Ladder
	More                  []ref.Ladder
}

func (s *server) term(c fiber.Ctx) error { return s.showTerm(c, class(c), termPage{}) }

func (s *server) showTerm(c fiber.Ctx, of people.Class, p termPage) error {
	if !of.Has {
		return goTo(c, "/class")
	}
	says := p.Problem
	p.Page = page(c, "Term", "term")
	p.Problem = says
	var err error
	if p.Term, err = s.Lesson.LoadTerm(c.Context(), who(c), of, time.Now()); err != nil {
		return err
	}
	if p.Typed.Begins == "" && p.Typed.Concert == "" {
		p.Typed = termForm{p.Name, p.Begins.Format(time.DateOnly), p.Concert.Format(time.DateOnly), p.At, p.OffText(), p.LadderID, p.More}
	}
	p.Care = people.Care
	return render(c, "term", "term", p.Page, p)
}

// setTerm stores the days of the term, its song and what the concert is called.
func (s *server) setTerm(c fiber.Ctx) error {
	of, err := s.deskClass(c)
	if err != nil {
		return err
	}
	typed := termForm{
		strings.TrimSpace(c.FormValue("name")), strings.TrimSpace(c.FormValue("begins")), strings.TrimSpace(c.FormValue("concert")),
		strings.TrimSpace(c.FormValue("at")), strings.TrimSpace(c.FormValue("off")), formID[ref.Ladder](c, "ladder"), nil,
	}
	for _, f := range sentFields(c) {
		if id, err := strconv.ParseInt(f.Value, 10, 64); f.Name == "more" && err == nil && ref.Ladder(id) != typed.Ladder {
			typed.More = append(typed.More, ref.Ladder(id))
		}
	}
	version, err := formVersion(c)
	if err != nil {
		return err
	}
	term := store.Term{ClassID: of.ID, LadderID: typed.Ladder, Name: typed.Name, At: typed.At, More: typed.More, Version: version}
	if term.Begins, err = time.Parse(time.DateOnly, typed.Begins); err == nil {
		term.Concert, err = time.Parse(time.DateOnly, typed.Concert)
	}
	for _, day := range strings.FieldsFunc(typed.Off, func(r rune) bool { return r == ',' || r == ' ' || r == ';' }) {
		off, bad := time.Parse(time.DateOnly, day)
		term.Off, err = append(term.Off, off), errors.Join(err, bad)
	}
	if err != nil {
		err = refuse("write the days as 2026-12-01, or choose them from the calendar")
	} else {
		err = s.Lesson.SetTerm(c.Context(), who(c), term)
	}
	if says, ok := refusal(err); ok {
		return s.showTerm(c, of, termPage{Page: Page{Problem: says}, Typed: typed})
	}
	if err != nil {
		return err
	}
	leaveNote(c, Note{Text: "The term has been planned again."})
	return seeOther(c, "/term")
}

type seriesPage struct {
	Page
	patterns.SeriesView
	Care []string
}

// series is one figure a week over a progression: proposed, or the teacher's own.
func (s *server) series(c fiber.Ctx) error {
	ask := patterns.SeriesAsk{
		Pattern: c.Query("pattern"), Key: c.Query("key"), Over: letters.Cut(c.Query("over"), longestOver),
		Instrument: c.Query("instrument"), Colour: drill.ParseColour(c.Query("colour")), Weeks: formID[int](c, "weeks"),
	}
	if ask.Pattern == "" { // another figure up to which it goes is another series
		for _, id := range c.Request().URI().QueryArgs().PeekMulti("figure") {
			ask.Figures = append(ask.Figures, string(id))
		}
	}
	v, err := s.Patterns.Series(c.Context(), who(c), class(c), ask, time.Now())
	if err != nil {
		return err
	}
	if isPiece(c) {
		return c.Render("series_own", v, "")
	}
	return c.Render("series", seriesPage{page(c, "A series", "term"), v, people.Care})
}

// putSeries puts a series on the term of the class.
func (s *server) putSeries(c fiber.Ctx) error {
	of, err := s.deskClass(c)
	if err != nil {
		return err
	}
	ask := patterns.SeriesAsk{Key: c.FormValue("key"), Over: letters.Cut(c.FormValue("over"), longestOver), Instrument: c.FormValue("instrument"), Colour: drill.ParseColour(c.FormValue("colour"))}
	for _, id := range c.Request().PostArgs().PeekMulti("figure") {
		ask.Figures = append(ask.Figures, string(id))
	}
	if len(ask.Figures) == 0 {
		return refuse("choose the patterns of the series first")
	}
	if err := s.Patterns.PutSeries(c.Context(), who(c), of, ask, time.Now()); err != nil {
		return err
	}
	leaveNote(c, Note{Text: "The series is on the term.", Undo: "/term/series/back"})
	return seeOther(c, "/term")
}

// dropSeries takes the series off the term; with back, the one before it comes back.
func (s *server) dropSeries(back bool) fiber.Handler {
	return func(c fiber.Ctx) error {
		of, err := s.deskClass(c)
		if err != nil {
			return err
		}
		had, err := s.Patterns.DropSeries(c.Context(), who(c), of, back)
		if err != nil {
			return err
		}
		note := Note{Text: "The series has been taken off the term."}
		if had {
			note.Text = "The term has the series it had before."
		}
		leaveNote(c, note)
		return seeOther(c, "/term")
	}
}

// longestOver is how much of a progression is read, in letters; more is more chords than a figure goes over.
const longestOver = 250

type triedPage struct {
	Page
	lesson.Tried
}

// tryTerm tries the term on simulated classes; it is asked for when it is opened.
func (s *server) tryTerm(c fiber.Ctx) error {
	tried, err := s.Lesson.TryTerm(c.Context(), who(c), class(c), time.Now())
	if err != nil {
		return err
	}
	p := triedPage{page(c, "Tried on simulated classes", "term"), tried}
	return render(c, "term_tried", "term_tried", p.Page, p)
}

// calendar is the term as iCalendar.
func (s *server) calendar(c fiber.Ctx) error {
	if !class(c).Has {
		return seeOther(c, "/class")
	}
	text, err := s.Lesson.Calendar(c.Context(), who(c), class(c), time.Now())
	if err != nil {
		return err
	}
	c.Attachment("term.ics")
	c.Set(fiber.HeaderContentType, "text/calendar; charset=utf-8") // after it: it sets one of its own
	return c.SendString(text)
}
