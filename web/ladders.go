package web

import (
	"fmt"
	"html/template"
	"net/url"
	"strconv"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/core/ladder"
	"arplin/core/ladder/order"
	"arplin/core/song"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/ladders"
	"arplin/teach/people"
)

type ladderList struct {
	Page
	Ladders []ladders.Line
	Pages   listPages
}

func (s *server) ladderList(c fiber.Ctx) error {
	p := ladderList{Page: page(c, "Ladders", "ladders")}
	find := finding(c)
	ladders, more, err := s.Ladders.List(c.Context(), who(c), p.Class, find)
	if err != nil {
		return err
	}
	p.Ladders, p.Pages = ladders, pagesOf("/ladders", "Find a ladder", find, more)
	if unchanged(c, p.Page, p.Ladders, p.Pages) {
		return nil
	}
	return c.Render("ladders", p)
}

// addLadder takes a pattern apart for a song and the current class.
func (s *server) addLadder(c fiber.Ctx) error {
	if !class(c).Has {
		return seeOther(c, "/class")
	}
	if c.FormValue("tune") == "yes" {
		id, err := s.Ladders.MakeTuneLadder(c.Context(), who(c), class(c), formID[ref.Song](c, "song"), c.FormValue("instrument"))
		if err != nil {
			return err
		}
		return goTo(c, fmt.Sprintf("/ladders/%d", id))
	}
	n, err := newLadder(c)
	if err != nil {
		return err
	}
	id, err := s.Ladders.Make(c.Context(), who(c), class(c), n)
	if err != nil {
		return err
	}
	return goTo(c, fmt.Sprintf("/ladders/%d", id))
}

// newLadder reads what a ladder is to be made of.
func newLadder(c fiber.Ctx) (ladders.NewLadder, error) {
	choice, err := ladderChoice(c)
	return ladders.NewLadder{
		Song: formID[ref.Song](c, "song"), Pattern: c.FormValue("pattern"), Section: formID[song.SectionID](c, "section"),
		Instrument: c.FormValue("instrument"), Choice: choice, Begin: beginning(c),
	}, err
}

// ladderChoice reads how a ladder is built: as the class has it where a form leaves it open.
func ladderChoice(c fiber.Ctx) (order.Choice, error) {
	mine := class(c).Choice()
	choice, err := order.Parse(c.FormValue("order", string(mine.Order)), c.FormValue("size", string(mine.Size)), c.FormValue("chords", string(mine.Chords)), c.FormValue("parts"))
	if err != nil {
		return choice, refuse(err.Error())
	}
	return choice.Whole(), nil
}

func beginning(c fiber.Ctx) ladder.Beginning {
	return ladder.Beginning{First: c.FormValue("first"), Second: c.FormValue("second")}
}

type choicesPage struct {
	Page
	ladders.Offer
	Ask ladders.NewLadder
}

// ladderChoices asks how a ladder is built, with what is proposed filled in.
func (s *server) ladderChoices(c fiber.Ctx) error {
	if !class(c).Has {
		return seeOther(c, "/class")
	}
	n, err := newLadder(c)
	if err != nil {
		return err
	}
	offer, err := s.Ladders.Offer(c.Context(), who(c), class(c), n)
	if err != nil {
		return err
	}
	p := choicesPage{page(c, "Ladder choices", "songs"), offer, n}
	return render(c, "ladder_choices", "choices", p.Page, p)
}

type ladderPage struct {
	Page
	Ladder ladders.Ladder
	ladders.LadderPage
	Care []string
}

// Query keeps what is shown: the instrument of the levels, and the step that is open.
func (p ladderPage) Query() template.URL {
	return ladderQuery(p.Shown.ID, p.Open.ID)
}

// Instrument is the one for which the levels are shown.
func (p ladderPage) Instrument() string { return p.Shown.ID }

func ladderQuery(instrument string, open ladder.StepID) template.URL {
	return template.URL(fmt.Sprintf("instrument=%s&open=%d", url.QueryEscape(instrument), open))
}

// Places are the proposed places as the form sends them: "12 3" for student 12 on
// the step with id 3.
func (p ladderPage) Places() (list []string) {
	for _, pr := range p.Proposed {
		list = append(list, fmt.Sprintf("%d %d", pr.ID, pr.Step))
	}
	return list
}

func (s *server) loadLadder(c fiber.Ctx) (ladders.Ladder, error) {
	id, err := pathID[ref.Ladder](c)
	if err != nil {
		return ladders.Ladder{}, err
	}
	return s.Ladders.Load(c.Context(), who(c), class(c), id)
}

func (s *server) ladderPage(c fiber.Ctx) error {
	l, err := s.loadLadder(c)
	if err != nil {
		return err
	}
	return s.showLadder(c, l, ladderPage{Page: page(c, l.SongTitle, "ladders")})
}

func (s *server) showLadder(c fiber.Ctx, l ladders.Ladder, p ladderPage) error {
	now := time.Now()
	p.Ladder = l
	instrument := c.Query("instrument")
	open, _ := strconv.Atoi(c.Query("open"))       // none is on no ladder
	waits := len(l.Places) < len(l.Class.Students) // what is proposed to them depends on the log
	if c.Method() == fiber.MethodGet && !waits && unchanged(c, p.Page, l.Rows(instrument, open)) {
		return nil
	}
	var err error
	if p.LadderPage, err = s.Ladders.Show(c.Context(), who(c), l, instrument, ladder.StepID(open), now); err != nil {
		return err
	}
	p.Care = people.Care
	return render(c, "ladder", "ladder_stairs", p.Page, p)
}

// openPage is a step beside the staircase.
type openPage struct {
	Page
	Ladder     ladders.Ladder
	Instrument string
	Open       ladders.Opened
}

// Query keeps what is shown, as on the page of the ladder.
func (p openPage) Query() template.URL { return ladderQuery(p.Instrument, p.Open.ID) }

// openStep is what stands beside the staircase, for the step that has the focus.
func (s *server) openStep(c fiber.Ctx) error {
	l, err := s.loadLadder(c)
	if err != nil {
		return err
	}
	id, _ := strconv.Atoi(c.Params("step")) // none is on no ladder
	p := openPage{Page: page(c, l.SongTitle, "ladders"), Ladder: l, Instrument: c.Query("instrument")}
	if unchanged(c, p.Page, l.Rows(id, p.Instrument)) {
		return nil
	}
	if p.Open, err = s.Ladders.Open(l, p.Instrument, ladder.StepID(id)); err != nil {
		return err
	}
	return render(c, "ladder_open", "ladder_open", p.Page, p)
}

type beyondPage struct {
	Page
	Ladder ladders.Ladder
	List   []ladders.Beyond
}

// beyond is what lies beyond the target, loaded when it is opened.
func (s *server) beyond(c fiber.Ctx) error {
	l, err := s.loadLadder(c)
	if err != nil {
		return err
	}
	p := beyondPage{Page: page(c, l.SongTitle, "ladders"), Ladder: l}
	if unchanged(c, p.Page, l.Rows()) {
		return nil
	}
	p.List = s.Ladders.Beyond(l)
	return render(c, "beyond", "beyond", p.Page, p)
}

// place puts students on steps: one that was moved, or all that were proposed.
func (s *server) place(c fiber.Ctx) error {
	l, err := s.loadLadder(c)
	if err != nil {
		return err
	}
	places := store.Places{}
	for _, f := range sentFields(c) {
		if f.Name != "place" {
			continue
		}
		student, step, _ := strings.Cut(f.Value, " ")
		id, errStudent := strconv.ParseInt(student, 10, 64)
		at, errStep := strconv.Atoi(step)
		if errStudent != nil || errStep != nil || at < 0 {
			return refuse("choose a student and a step")
		}
		places[ref.Student(id)] = ladder.StepID(at)
	}
	if len(places) == 0 {
		return refuse("choose a student to move")
	}
	says, version, err := s.Ladders.Place(c.Context(), who(c), l, places)
	if err != nil {
		return err
	}
	note := Note{says, fmt.Sprintf("/ladders/%d/undo?%s", l.ID, query(c)), version}
	if c.Query("back") == "desk" {
		return s.afterLog(c, l.Class, note)
	}
	return s.afterLadder(c, note)
}

// setProgress puts a ladder on the desk, sets it aside or finishes it.
func (s *server) setProgress(c fiber.Ctx) error {
	id, err := pathID[ref.Ladder](c)
	if err != nil {
		return err
	}
	says, was, err := s.Ladders.SetProgress(c.Context(), who(c), id, c.FormValue("to"))
	if err != nil {
		return err
	}
	leaveNote(c, Note{Text: says, Undo: fmt.Sprintf("/ladders/%d/progress?to=%s", id, was)})
	if c.FormValue("back") != "" {
		return goTo(c, backTo(c))
	}
	return goTo(c, fmt.Sprintf("/ladders/%d", id))
}

// renameLadder gives a ladder another name.
func (s *server) renameLadder(c fiber.Ctx) error {
	id, err := pathID[ref.Ladder](c)
	if err != nil {
		return err
	}
	if err := s.Ladders.Rename(c.Context(), who(c), id, c.FormValue("name")); err != nil {
		return err
	}
	leaveNote(c, Note{Text: "Name saved."})
	return goTo(c, fmt.Sprintf("/ladders/%d", id))
}

func query(c fiber.Ctx) string { return string(c.Request().URI().QueryString()) }

// afterLadder shows the staircase as it is now.
func (s *server) afterLadder(c fiber.Ctx, note Note) error {
	if back := c.FormValue("back"); strings.HasPrefix(back, fmt.Sprintf("/ladders/%s/sheet", c.Params("id"))) { // where the line was written
		leaveNote(c, note)
		return goTo(c, back)
	}
	return after(c, note, fmt.Sprintf("/ladders/%s?%s", c.Params("id"), query(c)), func(note Note) error {
		l, err := s.loadLadder(c)
		if err != nil {
			return err
		}
		p := ladderPage{Page: page(c, l.SongTitle, "ladders")}
		p.Note = note
		return s.showLadder(c, l, p)
	})
}
