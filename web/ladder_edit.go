package web

import (
	"errors"
	"fmt"
	"strconv"

	"github.com/gofiber/fiber/v3"

	"arplin/core/vary"
	"arplin/store"
)

// editLadder carries out one change of the teacher's on the staircase.
func (s *server) editLadder(c fiber.Ctx) error {
	on, err := s.loadLadder(c)
	if err != nil {
		return err
	}
	l := on.Ladder
	at, _ := strconv.Atoi(c.FormValue("at")) // what is no number is the first step
	version, err := strconv.Atoi(c.FormValue("version"))
	if err != nil {
		return fiber.NewError(fiber.StatusUnprocessableEntity, "The page is not whole; load it again.")
	}
	order := l.Order
	if c.FormValue("order") != "" {
		if order, err = vary.ParseOrder(c.FormValue("order")); err != nil {
			return fiber.NewError(fiber.StatusUnprocessableEntity, sentenceOf(err))
		}
	}
	change := vary.Change{Op: c.FormValue("op"), At: at, Text: c.FormValue("text"), Order: order}
	steps, says, err := vary.Apply(l.Steps, on.task(), on.cur.weights(), change)
	if err != nil {
		return fiber.NewError(fiber.StatusUnprocessableEntity, sentenceOf(err))
	}
	var stale *store.StaleLadderError
	err = s.Store.SaveSteps(c.Context(), teacherID(c), l.ID, version, order, steps, says)
	if errors.As(err, &stale) {
		return fiber.NewError(fiber.StatusConflict, "Somebody changed this ladder in the meantime. Load the page and look; nothing was overwritten.")
	}
	if err != nil {
		return err
	}
	return s.ladderAfter(c, l.ID, Note{Text: says + ".", Undo: fmt.Sprintf("/ladders/%d/undo", l.ID)})
}

func (s *server) undoLadder(c fiber.Ctx) error {
	id, err := pathID(c)
	if err != nil {
		return err
	}
	says, err := s.Store.UndoSteps(c.Context(), teacherID(c), id)
	if errors.Is(err, store.ErrNoHistory) {
		return s.ladderAfter(c, id, Note{Text: "There is nothing more to undo."})
	}
	if err != nil {
		return err
	}
	return s.ladderAfter(c, id, Note{Text: "Taken back: " + says + "."})
}

func (s *server) ladderAfter(c fiber.Ctx, id int64, note Note) error {
	if wantsFragment(c) {
		return s.renderLadder(c, note, 0)
	}
	leaveNote(c, note.Text, note.Undo)
	return seeOther(c, fmt.Sprintf("/ladders/%d", id))
}

// reuseLadder makes the same staircase for another song.
func (s *server) reuseLadder(c fiber.Ctx) error {
	on, err := s.loadLadder(c)
	if err != nil {
		return err
	}
	id, _ := strconv.ParseInt(c.FormValue("song"), 10, 64) // none is not found
	sg, err := s.Store.Song(c.Context(), teacherID(c), id)
	if err != nil {
		return err
	}
	if sg.Meter != on.Target.Meter {
		return fiber.NewError(fiber.StatusUnprocessableEntity, fmt.Sprintf("This ladder is in %s, %s in %s.", on.Target.Meter, sg.Title, sg.Meter))
	}
	steps, err := vary.Rebind(on.Steps, ladderTask(on.Target, sg.Song, "", on.cur), on.cur.weights())
	if err != nil {
		return fiber.NewError(fiber.StatusUnprocessableEntity, sentenceOf(err))
	}
	fresh, err := s.Store.AddLadder(c.Context(), teacherID(c), store.Ladder{
		ClassID: on.ClassID, SongID: sg.ID, Order: on.Order, PatternName: on.PatternName, Target: on.Target, Steps: steps,
	})
	if err != nil {
		return err
	}
	return seeOther(c, fmt.Sprintf("/ladders/%d", fresh))
}
