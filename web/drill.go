package web

import (
	"crypto/rand"
	"fmt"
	"net/url"
	"strconv"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/letters"
	"arplin/store/ref"
	"arplin/teach/ladders"
	"arplin/teach/people"
)

type drillPage struct {
	Page
	ladders.Drill
	Care     []string
	Asked    string // the pattern that was asked for
	ClientID string // of what is logged on it
	Typed    string // what could not be read, kept
}

// ScoreAt is the address of an exercise's score.
func (p drillPage) ScoreAt(exercise int) string {
	if p.OnWeek != nil {
		return fmt.Sprintf("/drills/%d/score?exercise=%d", p.OnWeek.ID, exercise)
	}
	ask := url.Values{"pattern": {p.Asked}, "instrument": {p.Instrument.ID}, "kind": {p.Kind}, "bar": {strconv.Itoa(p.Bar)}, "exercise": {strconv.Itoa(exercise)}}
	if p.For.ID != 0 {
		ask.Set("student", fmt.Sprint(p.For.ID))
	}
	if p.Over != "" {
		ask.Set("over", p.Over)
	}
	return fmt.Sprintf("/songs/%d/drill/score?%s", p.Song.ID, ask.Encode())
}

// FirstHeard is the number of the first exercise whose right hand sounds, 0 for none.
func (p drillPage) FirstHeard() int {
	for _, e := range p.Exercises {
		if e.Pattern.Count() > 0 {
			return e.Number
		}
	}
	return 0
}

// drillPage makes exercises of a bar or a change of a song.
func (s *server) drillPage(c fiber.Ctx) error {
	id, err := pathID[ref.Song](c)
	if err != nil {
		return err
	}
	d, err := s.Ladders.LoadDrill(c.Context(), who(c), class(c), id, drillAsk(c), time.Now())
	return s.showDrill(c, d, err)
}

// drillAsk is what a drill is made of, by its address.
func drillAsk(c fiber.Ctx) ladders.DrillAsk {
	return ladders.DrillAsk{
		Pattern: c.Query("pattern"), Instrument: c.Query("instrument"), Kind: c.Query("kind"), Bar: fiber.Query[int](c, "bar"),
		Minutes: fiber.Query[int](c, "minutes"), Student: formID[ref.Student](c, "student"), Over: letters.Cut(c.Query("over"), longestOver),
	}
}

func (s *server) showDrill(c fiber.Ctx, d ladders.Drill, err error) error {
	if err != nil {
		return err
	}
	return c.Render("drill", drillPage{Page: page(c, "Drill: "+d.Song.Title, "songs"), Drill: d, Asked: c.Query("pattern"), Care: people.Care, ClientID: rand.Text()})
}

// logDrill logs a tempo on a drill of a student's week.
func (s *server) logDrill(c fiber.Ctx) error {
	id, err := pathID[ref.Drill](c)
	if err != nil {
		return err
	}
	says, err := s.Ladders.LogDrill(c.Context(), who(c), id, c.FormValue("tempo"), clientID(c), time.Now())
	if problem, ok := refusal(err); ok {
		d, err := s.Ladders.WeekDrill(c.Context(), who(c), class(c), id, time.Now())
		if err != nil {
			return err
		}
		p := drillPage{Page: page(c, "Drill: "+d.Song.Title, "songs"), Drill: d, Care: people.Care, ClientID: rand.Text(), Typed: c.FormValue("tempo")}
		p.Page.Problem = problem
		return render(c, "drill", "drill", p.Page, p)
	}
	if err != nil {
		return err
	}
	leaveNote(c, Note{Text: says})
	return goTo(c, fmt.Sprintf("/drills/%d", id))
}

// addDrill puts a drill on a student's week.
func (s *server) addDrill(c fiber.Ctx) error {
	id, err := pathID[ref.Song](c)
	if err != nil {
		return err
	}
	f, err := pattern.Parse(c.FormValue("notation"))
	if err != nil {
		return refuse(err.Error())
	}
	name := letters.Cut(strings.TrimSpace(c.FormValue("pattern_name")), song.MaxPatternName)
	if name == "" {
		return refuse("the pattern needs a name")
	}
	drill, says, err := s.Ladders.PutOnWeek(c.Context(), who(c), class(c), id, ladders.PutDrill{
		Student: formID[ref.Student](c, "student"), Kind: c.FormValue("kind"), Bar: formID[song.BarID](c, "bar"), Minutes: formID[int](c, "minutes"),
		Pattern: f, PatternName: name, Over: letters.Cut(c.FormValue("over"), longestOver),
	}, time.Now())
	if err != nil {
		return err
	}
	leaveNote(c, Note{says, fmt.Sprintf("/drills/%d/withdraw", drill), 0})
	return goTo(c, fmt.Sprintf("/drills/%d", drill))
}

// weekDrill shows a drill as it stands on a student's week.
func (s *server) weekDrill(c fiber.Ctx) error {
	id, err := pathID[ref.Drill](c)
	if err != nil {
		return err
	}
	d, err := s.Ladders.WeekDrill(c.Context(), who(c), class(c), id, time.Now())
	return s.showDrill(c, d, err)
}

func (s *server) withdrawDrill(c fiber.Ctx) error {
	id, err := pathID[ref.Drill](c)
	if err != nil {
		return err
	}
	if err := s.Ladders.TakeDrillOff(c.Context(), who(c), id); err != nil {
		return err
	}
	leaveNote(c, Note{"Removed from the week.", fmt.Sprintf("/drills/%d/restore", id), 0})
	return goTo(c, "/")
}

func (s *server) finishDrill(c fiber.Ctx) error {
	id, err := pathID[ref.Drill](c)
	if err != nil {
		return err
	}
	if err := s.Ladders.FinishDrill(c.Context(), who(c), id, time.Now()); err != nil {
		return err
	}
	leaveNote(c, Note{"Marked as done.", fmt.Sprintf("/drills/%d/restore", id), 0})
	return goTo(c, "/")
}

// restoreDrill puts a drill back that was done or taken off.
func (s *server) restoreDrill(c fiber.Ctx) error {
	id, err := pathID[ref.Drill](c)
	if err != nil {
		return err
	}
	if err := s.Ladders.RestoreDrill(c.Context(), who(c), id); err != nil {
		return err
	}
	return goTo(c, fmt.Sprintf("/drills/%d", id))
}
