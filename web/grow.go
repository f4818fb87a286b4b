package web

import (
	"fmt"
	"net/url"
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/store/ref"
	"arplin/teach/lesson"
	"arplin/teach/people"
)

type growPage struct {
	Page
	lesson.Grow
	Care []string
}

// loadGrow reads the arrangement of the ladder in the address.
func (s *server) loadGrow(c fiber.Ctx) (lesson.Grow, error) {
	l, err := s.loadLadder(c)
	if err != nil {
		return lesson.Grow{}, err
	}
	return s.Lesson.LoadGrow(c.Context(), who(c), l, time.Now())
}

// grow is the conductor's page: who plays what in which part of the song.
func (s *server) grow(c fiber.Ctx) error { return s.showGrow(c, Note{}, "") }

func (s *server) showGrow(c fiber.Ctx, note Note, problem string) error {
	g, err := s.loadGrow(c)
	if err != nil {
		return err
	}
	p := growPage{Page: page(c, g.Ladder.SongTitle+": who plays what", "ladders"), Grow: g, Care: people.Care}
	if p.Page.Problem = problem; note.Text != "" {
		p.Note = note
	}
	return render(c, "grow", "grow_body", p.Page, p)
}

// changeGrow gives a group another part, or lets the song be proposed anew; both can be undone.
func (s *server) changeGrow(c fiber.Ctx) error {
	l, err := s.loadLadder(c)
	if err != nil {
		return err
	}
	path, version := fmt.Sprintf("/ladders/%d/grow", l.ID), formID[int](c, "version")
	note, now := Note{Version: version + 1}, time.Now()
	switch c.FormValue("do") {
	case "anew":
		err = s.Lesson.ProposeGrow(c.Context(), who(c), l, version, now)
		note.Text, note.Undo = "Suggested again.", path+"?do=restore"
	case "move":
		note.Text, err = s.Lesson.MoveGrow(c.Context(), who(c), l, version, formID[ref.Student](c, "student"), formID[int](c, "to"), now)
		note.Text, note.Undo = note.Text+".", path+"?do=restore"
	case "turns":
		note.Text, err = s.Lesson.TurnsGrow(c.Context(), who(c), l, version, formID[int](c, "group"), formID[int](c, "to"), now)
		note.Text, note.Undo = note.Text+".", path+"?do=restore"
	case "restore":
		err = s.Lesson.RestoreGrow(c.Context(), who(c), l, version, now)
		note = Note{Text: "Your arrangement is back."}
	default:
		change := lesson.GrowChange{Version: version, Pass: formID[int](c, "pass"), Group: formID[int](c, "group"), Part: c.FormValue("part")}
		var was string
		note.Text, was, err = s.Lesson.ChangeGrow(c.Context(), who(c), l, change, now)
		note.Text += "."
		note.Undo = path + "?" + url.Values{"pass": {fmt.Sprint(change.Pass)}, "group": {fmt.Sprint(change.Group)}, "part": {was}}.Encode()
	}
	if says, ok := refusal(err); ok {
		return s.showGrow(c, Note{}, says)
	}
	if err != nil {
		return err
	}
	return after(c, note, path, func(note Note) error { return s.showGrow(c, note, "") })
}

// growScore is what a group plays.
func (s *server) growScore(c fiber.Ctx) error {
	g, err := s.loadGrow(c)
	if err != nil {
		return err
	}
	score, err := g.Score(fiber.Query[int](c, "group"), c.Query("instrument"))
	return sendScore(c, score, err)
}

type growSheetPage struct {
	Page
	lesson.GrowSheet
	Care []string
}

// growSheet is a group's way through the song, for paper.
func (s *server) growSheet(c fiber.Ctx) error {
	g, err := s.loadGrow(c)
	if err != nil {
		return err
	}
	sheet, err := g.Sheet(fiber.Query[int](c, "group"))
	if err != nil {
		return err
	}
	return c.Render("grow_sheet", growSheetPage{page(c, g.Ladder.SongTitle+": a group's part", "ladders"), sheet, people.Care})
}
