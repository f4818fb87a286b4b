package web

import (
	"fmt"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/core/vary"
	"arplin/store"
)

// clean is the hardest thing that a student has played clean.
type clean struct {
	Level float64
	Tempo int
	Adds  string // the step
	Song  string
}

// proposed is where a waiting student could begin, and why.
type proposed struct {
	store.Student
	Step int // from 0
	Why  string
}

const notHeard = "not heard yet"

// hardestClean finds what each student of a class has played, at the tempo that
// was clean.
func (s *server) hardestClean(c fiber.Ctx, cur current) (map[int64]clean, error) {
	entries, err := s.Store.Entries(c.Context(), teacherID(c), cur.class.ID, time.Now().AddDate(0, 0, -7*historyWeeks))
	if err != nil {
		return nil, err
	}
	type played struct {
		ladder      int64
		step, tempo int
	}
	best := map[int64]clean{}
	ladders, known := map[int64]onLadder{}, map[played]clean{}
	for _, e := range entries {
		on, ok := ladders[e.LadderID]
		if !ok {
			if on, err = s.ladderOf(c, e.LadderID, cur); err != nil {
				return nil, err
			}
			ladders[e.LadderID] = on
		}
		if e.Step >= len(on.Steps) {
			continue // the ladder has become shorter since
		}
		key := played{e.LadderID, e.Step, e.Tempo}
		heard, ok := known[key]
		if !ok {
			step := on.Steps[e.Step]
			heard = clean{step.LevelAt(e.Tempo, on.task(), cur.weights()), e.Tempo, step.Adds, on.SongTitle}
			known[key] = heard
		}
		if heard.Level > best[e.StudentID].Level {
			best[e.StudentID] = heard
		}
	}
	return best, nil
}

// propose finds a step for everybody who waits beside a ladder.
func (s *server) propose(c fiber.Ctx, on onLadder, waiting []store.Student) ([]proposed, error) {
	if len(waiting) == 0 {
		return nil, nil
	}
	heard, err := s.hardestClean(c, on.cur)
	if err != nil {
		return nil, err
	}
	var list []proposed
	for _, st := range waiting {
		p := proposed{Student: st, Why: notHeard}
		if h, ok := heard[st.ID]; ok {
			p.Step = vary.Reach(on.Steps, h.Level)
			p.Why = fmt.Sprintf("has played level %.1f clean: “%s” of %s at %d", h.Level, h.Adds, h.Song, h.Tempo)
		}
		list = append(list, p)
	}
	return list, nil
}

// placesText writes places as a form sends them: "6:4 7:0", steps from 0.
func placesText(places map[int64]int) string {
	var list []string
	for student, step := range places {
		list = append(list, fmt.Sprintf("%d:%d", student, step))
	}
	slices.Sort(list)
	return strings.Join(list, " ")
}

// mostPlaced is more than any class has.
const mostPlaced = 200

func parsePlaces(text string, steps int) (map[int64]int, error) {
	places := map[int64]int{}
	fields := strings.Fields(text)
	if len(fields) == 0 || len(fields) > mostPlaced {
		return nil, fiber.NewError(fiber.StatusUnprocessableEntity, "Choose the students to move.")
	}
	for _, field := range fields {
		who, where, _ := strings.Cut(field, ":")
		student, err := strconv.ParseInt(who, 10, 64)
		if err != nil {
			return nil, fiber.NewError(fiber.StatusUnprocessableEntity, "Choose the students to move.")
		}
		step, err := strconv.Atoi(where)
		if err != nil || step < -1 || step >= steps {
			return nil, fiber.NewError(fiber.StatusUnprocessableEntity, fmt.Sprintf("This ladder has steps 1 to %d.", steps))
		}
		places[student] = step
	}
	return places, nil
}

// placeStudents puts several students on steps at once.
func (s *server) placeStudents(c fiber.Ctx) error {
	on, err := s.loadLadder(c)
	if err != nil {
		return err
	}
	places, err := parsePlaces(c.FormValue("places"), len(on.Steps))
	if err != nil {
		return err
	}
	was, err := s.Store.PlaceAll(c.Context(), teacherID(c), on.ID, places)
	if err != nil {
		return err
	}
	var said []string
	for _, st := range on.cur.students {
		if step, ok := places[st.ID]; ok && step >= 0 {
			said = append(said, fmt.Sprintf("%s %d", st.Name, step+1))
		}
	}
	note := Note{
		Text: "On steps now: " + strings.Join(said, ", ") + ".",
		Undo: fmt.Sprintf("/ladders/%d/places?instrument=%s", on.ID, url.QueryEscape(c.Query("instrument"))), Args: map[string]string{"places": placesText(was)},
	}
	if len(said) == 0 {
		note = Note{Text: "They wait beside the ladder again."}
	}
	if wantsFragment(c) {
		return s.renderLadder(c, note, 0)
	}
	leaveNote(c, note.Text, "")
	return seeOther(c, fmt.Sprintf("/ladders/%d", on.ID))
}
