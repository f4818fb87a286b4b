package web

import (
	"fmt"
	"strconv"
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/core/hand"
	"arplin/store"
)

// addDrill puts a drill on a student's week.
func (s *server) addDrill(c fiber.Ctx) error {
	on, err := s.loadSong(c)
	if err != nil {
		return err
	}
	student, _ := strconv.ParseInt(c.FormValue("student"), 10, 64) // none is found below
	d := store.WeekDrill{StudentID: student, SongID: on.ID, Week: store.WeekOf(time.Now()), Kind: c.FormValue("kind"), PatternName: c.FormValue("pattern_name")}
	if d.Kind != "change" {
		d.Kind = "bar"
	}
	name := ""
	for _, st := range on.cur.students {
		if st.ID == student {
			name = st.Name
		}
	}
	if name == "" {
		return fiber.NewError(fiber.StatusUnprocessableEntity, "Choose a student for the drill.")
	}
	var barErr, minutesErr error
	d.Bar, barErr = strconv.Atoi(c.FormValue("bar"))
	d.Minutes, minutesErr = strconv.Atoi(c.FormValue("minutes"))
	if barErr != nil || d.Bar < 1 || d.Bar > len(on.Bars()) || minutesErr != nil || d.Minutes < 3 || d.Minutes > 60 {
		return fiber.NewError(fiber.StatusUnprocessableEntity, fmt.Sprintf("The song has bars 1 to %d, and a drill takes 3 to 60 minutes.", len(on.Bars())))
	}
	if d.Pattern, err = hand.Parse(c.FormValue("notation")); err != nil {
		return fiber.NewError(fiber.StatusUnprocessableEntity, sentenceOf(err))
	}
	if d.PatternName, err = shortName(d.PatternName, "the pattern", 120); err != nil {
		return fiber.NewError(fiber.StatusUnprocessableEntity, sentenceOf(err))
	}
	id, err := s.Store.AddDrill(c.Context(), teacherID(c), d)
	if err != nil {
		return err
	}
	leaveNote(c, fmt.Sprintf("It is on %s’s week now, and on the sheets until Sunday.", name), fmt.Sprintf("/drills/%d/withdraw", id))
	return seeOther(c, fmt.Sprintf("/drills/%d", id))
}

// weekDrill shows a drill as it stands on a student's week.
func (s *server) weekDrill(c fiber.Ctx) error {
	id, err := pathID(c)
	if err != nil {
		return err
	}
	d, err := s.Store.Drill(c.Context(), teacherID(c), id)
	if err != nil {
		return err
	}
	sg, err := s.Store.Song(c.Context(), teacherID(c), d.SongID)
	if err != nil {
		return err
	}
	cur, err := s.classOf(c, d.StudentID)
	if err != nil {
		return err
	}
	data := drillData{
		Page: page(c, "Drill for "+sg.Title, "desk"), Song: sg, Kind: d.Kind, Bar: d.Bar, Minutes: d.Minutes, OnWeek: &d,
		Pattern: hand.Entry{Name: d.PatternName, Notation: d.Pattern.String(), Pattern: d.Pattern},
	}
	for _, st := range cur.students {
		if st.ID == d.StudentID {
			data.For = st
		}
	}
	return s.renderDrill(c, data, cur)
}

// classOf is the class of a student, which need not be the session's.
func (s *server) classOf(c fiber.Ctx, student int64) (current, error) {
	st, err := s.Store.Student(c.Context(), teacherID(c), student)
	if err != nil {
		return current{}, err
	}
	class, err := s.Store.Class(c.Context(), teacherID(c), st.ClassID)
	if err != nil {
		return current{}, err
	}
	students, err := s.Store.Students(c.Context(), teacherID(c), st.ClassID)
	return current{class, students}, err
}

func (s *server) withdrawDrill(c fiber.Ctx) error { return s.setWithdrawn(c, true) }
func (s *server) restoreDrill(c fiber.Ctx) error  { return s.setWithdrawn(c, false) }

func (s *server) setWithdrawn(c fiber.Ctx, withdrawn bool) error {
	id, err := pathID(c)
	if err != nil {
		return err
	}
	if err := s.Store.WithdrawDrill(c.Context(), teacherID(c), id, withdrawn); err != nil {
		return err
	}
	if withdrawn {
		leaveNote(c, "The drill is off the week.", fmt.Sprintf("/drills/%d/restore", id))
		return seeOther(c, "/")
	}
	return seeOther(c, fmt.Sprintf("/drills/%d", id))
}

// drillLine is a drill in a list.
type drillLine struct {
	store.WeekDrill
	What string // "bar 3" or "the change into bar 3"
}

// drillsOfWeek lists the drills of this week by student.
func (s *server) drillsOfWeek(c fiber.Ctx, class int64) (map[int64][]drillLine, error) {
	list, err := s.Store.Drills(c.Context(), teacherID(c), class, store.WeekOf(time.Now()))
	by := map[int64][]drillLine{}
	for _, d := range list {
		what := fmt.Sprintf("bar %d", d.Bar)
		if d.Kind == "change" {
			what = "the change into " + what
		}
		by[d.StudentID] = append(by[d.StudentID], drillLine{d, what})
	}
	return by, err
}
