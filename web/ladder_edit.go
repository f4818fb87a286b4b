package web

import (
	"errors"
	"fmt"
	"strconv"

	"github.com/gofiber/fiber/v3"

	"arplin/core/bpm"
	"arplin/core/ladder"
	"arplin/core/ladder/edit"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/ladders"
)

// ladderEdits read what a teacher does to a step.
var ladderEdits = map[string]func(ladder.StepID) edit.Edit{
	"pin":   func(id ladder.StepID) edit.Edit { return edit.Pin{Step: id} },
	"drop":  func(id ladder.StepID) edit.Edit { return edit.Drop{Step: id} },
	"join":  func(id ladder.StepID) edit.Edit { return edit.Join{Step: id} },
	"split": func(id ladder.StepID) edit.Edit { return edit.Split{Step: id} },
	"raise": func(id ladder.StepID) edit.Edit { return edit.Raise{Step: id} },
	"lower": func(id ladder.StepID) edit.Edit { return edit.Lower{Step: id} },
}

func readLadderEdit(c fiber.Ctx, l ladders.Ladder) (edit.Edit, error) {
	op, id := c.FormValue("op"), formID[ladder.StepID](c, "step")
	switch op {
	case "rebuild":
		choice, err := ladderChoice(c)
		if err != nil {
			return nil, err
		}
		return edit.Rebuild{Choice: choice}, nil
	case "begin":
		return edit.Choose{Beginning: beginning(c)}, nil
	case "thin":
		var steps []ladder.StepID
		for _, id := range c.Request().PostArgs().PeekMulti("pick") {
			if n, err := strconv.Atoi(string(id)); err == nil {
				steps = append(steps, ladder.StepID(n))
			}
		}
		return edit.Thin{Steps: steps}, nil
	case "note":
		return edit.Note{Step: id, Text: text(c)}, nil
	case "write", "insert":
		p, err := readFigure(c, text(c))
		if err != nil {
			return nil, refuse(err.Error())
		}
		if op == "insert" {
			pace := map[string]int{"slow": bpm.SlowPercent, "medium": bpm.MediumPercent}[c.FormValue("pace")]
			return edit.Insert{Pattern: p, After: formID[ladder.StepID](c, "after"), Over: ladder.Over(c.FormValue("over")), Pace: pace}, nil
		}
		return edit.Write{Step: id, Pattern: p}, nil
	}
	edit, ok := ladderEdits[op]
	if !ok {
		return nil, refuse(fmt.Sprintf("%q cannot be done to a ladder", op))
	}
	return edit(id), nil
}

// editLadder carries out one change of the teacher's on the staircase.
func (s *server) editLadder(c fiber.Ctx) error {
	l, err := s.loadLadder(c)
	if err != nil {
		return err
	}
	version, err := formVersion(c)
	if err != nil {
		return err
	}
	edit, err := readLadderEdit(c, l)
	if err != nil {
		return err
	}
	says, err := s.Ladders.Edit(c.Context(), who(c), l, version, edit)
	var changed *ladders.Changed
	if errors.As(err, &changed) {
		return s.changedLadder(c, changed)
	}
	if err != nil {
		return err
	}
	return s.afterLadder(c, Note{says + ".", fmt.Sprintf("/ladders/%d/undo?%s", l.ID, query(c)), version + 1})
}

// changedLadder shows a ladder as it is now to somebody who had an older page.
func (s *server) changedLadder(c fiber.Ctx, changed *ladders.Changed) error {
	l, err := s.loadLadder(c)
	if err != nil {
		return err
	}
	p := ladderPage{Page: page(c, l.SongTitle, "ladders")}
	p.Problem = answer.Sentence(changed.Error())
	c.Status(fiber.StatusConflict)
	return s.showLadder(c, l, p)
}

// moveLadder takes the last change back, or does it again, students included.
func (s *server) moveLadder(by int) fiber.Handler {
	return func(c fiber.Ctx) error {
		l, err := s.loadLadder(c)
		if err != nil {
			return err
		}
		version, err := formVersion(c)
		if err != nil {
			return err
		}
		onDesk := c.Query("back") == "desk"
		says, err := s.Ladders.Move(c.Context(), who(c), l, version, by)
		var changed *ladders.Changed
		if errors.As(err, &changed) && onDesk {
			p := deskPage{Page: page(c, "Desk", "desk")}
			p.Problem = answer.Sentence(changed.Error())
			c.Status(fiber.StatusConflict)
			return s.showDesk(c, l.Class, p)
		}
		if changed != nil {
			return s.changedLadder(c, changed)
		}
		if err != nil {
			return err
		}
		if onDesk {
			return s.afterLog(c, l.Class, Note{Text: says + "."})
		}
		return s.afterLadder(c, Note{Text: says + "."})
	}
}

type reusePage struct {
	Page
	Ladder ladders.Ladder
	Songs  []store.SongLine
}

// reusePage offers the songs for which the ladder can be used again.
func (s *server) reusePage(c fiber.Ctx) error {
	l, err := s.loadLadder(c)
	if err != nil {
		return err
	}
	songs, err := s.Ladders.SongsInMeter(c.Context(), who(c), l)
	if err != nil {
		return err
	}
	return c.Render("reuse", reusePage{page(c, "Use a ladder again", "ladders"), l, songs})
}

// reuseLadder makes the same ladder for another song.
func (s *server) reuseLadder(c fiber.Ctx) error {
	l, err := s.loadLadder(c)
	if err != nil {
		return err
	}
	id, err := s.Ladders.Reuse(c.Context(), who(c), l, formID[ref.Song](c, "song"))
	if err != nil {
		return err
	}
	return goTo(c, fmt.Sprintf("/ladders/%d", id))
}
