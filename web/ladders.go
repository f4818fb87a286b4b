package web

import (
	"errors"
	"fmt"
	"html/template"
	"net/url"
	"slices"
	"strconv"
	"unicode/utf8"

	"github.com/gofiber/fiber/v3"

	"arplin/core/hand"
	"arplin/core/song"
	"arplin/core/vary"
	"arplin/draw"
	"arplin/store"
)

type ladderListData struct {
	Page
	NoClass bool
	Class   store.Class
	Ladders []ladderLine
}

type ladderLine struct {
	store.Ladder
	Lane template.HTML
}

func (s *server) ladderList(c fiber.Ctx) error {
	data := ladderListData{Page: page(c, "Ladders", "ladders")}
	cur, err := s.currentClass(c)
	if errors.Is(err, errNoClass) {
		data.NoClass = true
		return c.Render("ladders", data)
	}
	if err != nil {
		return err
	}
	data.Class = cur.class
	ladders, err := s.Store.Ladders(c.Context(), teacherID(c), cur.class.ID)
	for _, l := range ladders {
		data.Ladders = append(data.Ladders, ladderLine{l, template.HTML(draw.Lane(l.Target, nil, l.Target.String()))})
	}
	if err != nil {
		return err
	}
	return c.Render("ladders", data)
}

// addLadder takes a pattern apart for a song and the current class.
func (s *server) addLadder(c fiber.Ctx) error {
	cur, err := s.currentClass(c)
	if errors.Is(err, errNoClass) {
		return seeOther(c, "/class")
	}
	if err != nil {
		return err
	}
	songID, _ := strconv.ParseInt(c.FormValue("song"), 10, 64)
	sg, err := s.Store.Song(c.Context(), teacherID(c), songID)
	if err != nil {
		return err
	}
	order, err := vary.ParseOrder(c.FormValue("order"))
	if err != nil {
		return fiber.NewError(fiber.StatusUnprocessableEntity, sentenceOf(err))
	}
	part := c.FormValue("part")
	if !slices.ContainsFunc(sg.Sections, func(sec song.Section) bool { return part == "" || sec.Name == part }) || utf8.RuneCountInString(part) > maxPartName {
		return fiber.NewError(fiber.StatusUnprocessableEntity, "The song has no part of that name any more; load its page again.")
	}
	entry, err := s.targetOn(c, sg, part)
	if err != nil {
		return err
	}
	id, err := s.Store.AddLadder(c.Context(), teacherID(c), store.Ladder{
		ClassID: cur.class.ID, SongID: sg.ID, Part: part, Order: order, PatternName: entry.Name, Target: entry.Pattern,
		Steps: vary.Steps(order, ladderTask(entry.Pattern, sg.Song, part, cur), cur.weights()),
	})
	if err != nil {
		return err
	}
	return seeOther(c, fmt.Sprintf("/ladders/%d", id))
}

// maxPartName is what a ladder can keep; parts of sheets are shorter.
const maxPartName = 200

// targetOn is the pattern that the form names; without a name the one that the
// part, or the first part that has one, is written with.
func (s *server) targetOn(c fiber.Ctx, sg store.Song, part string) (hand.Entry, error) {
	entry, err := s.findPattern(c, c.FormValue("pattern"))
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return entry.Entry, err
	}
	if err == nil && entry.Pattern.Meter == sg.Meter {
		return entry.Entry, nil
	}
	if own, ok := writtenOn(sg.Part(part)); ok && c.FormValue("pattern") == "" {
		return own, nil
	}
	return hand.Entry{}, fiber.NewError(fiber.StatusUnprocessableEntity, fmt.Sprintf("Choose a pattern in %s for this song.", sg.Meter))
}

// writtenOn is the first pattern that a song is written with.
func writtenOn(sg song.Song) (hand.Entry, bool) {
	for _, sec := range sg.Sections {
		if p, ok := sec.Hand(sg.Meter); ok {
			return hand.Entry{Name: sec.PatternName, Notation: p.String(), Pattern: p}, true
		}
	}
	return hand.Entry{}, false
}

// placeStudent moves a student to a step; -1 takes the student off the ladder.
func (s *server) placeStudent(c fiber.Ctx) error {
	on, err := s.loadLadder(c)
	if err != nil {
		return err
	}
	l, id := on.Ladder, on.ID
	student, err := strconv.ParseInt(c.FormValue("student"), 10, 64)
	if err != nil {
		return fiber.NewError(fiber.StatusUnprocessableEntity, "Choose a student to move.")
	}
	step, err := strconv.Atoi(c.FormValue("step"))
	if err != nil || step < -1 || step >= len(l.Steps) {
		return fiber.NewError(fiber.StatusUnprocessableEntity, fmt.Sprintf("This ladder has steps 1 to %d.", len(l.Steps)))
	}
	was, err := s.Store.Place(c.Context(), teacherID(c), id, student, step)
	if err != nil {
		return err
	}
	note := movedNote(c, on, student, was, step)
	if wantsFragment(c) {
		return s.renderLadder(c, note, student)
	}
	leaveNote(c, note.Text, "")
	return seeOther(c, fmt.Sprintf("/ladders/%d", id))
}

func movedNote(c fiber.Ctx, on onLadder, student int64, was, step int) Note {
	name := "The student"
	for _, st := range on.cur.students {
		if st.ID == student {
			name = st.Name
		}
	}
	text := fmt.Sprintf("%s stands on step %d now.", name, step+1)
	if step < 0 {
		text = fmt.Sprintf("%s waits beside the ladder.", name)
	}
	return Note{Text: text, Undo: fmt.Sprintf("/ladders/%d/place?instrument=%s", on.ID, url.QueryEscape(c.Query("instrument"))), Args: map[string]string{
		"student": strconv.FormatInt(student, 10), "step": strconv.Itoa(was),
	}}
}

func (s *server) archiveLadder(c fiber.Ctx) error {
	id, err := pathID(c)
	if err != nil {
		return err
	}
	if err := s.Store.ArchiveLadder(c.Context(), teacherID(c), id, true); err != nil {
		return err
	}
	leaveNote(c, "The ladder is off the list.", fmt.Sprintf("/ladders/%d/restore", id))
	return seeOther(c, "/ladders")
}

func (s *server) restoreLadder(c fiber.Ctx) error {
	id, err := pathID(c)
	if err != nil {
		return err
	}
	if err := s.Store.ArchiveLadder(c.Context(), teacherID(c), id, false); err != nil {
		return err
	}
	return seeOther(c, fmt.Sprintf("/ladders/%d", id))
}
