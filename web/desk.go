package web

import (
	"crypto/rand"
	"errors"
	"fmt"
	"html/template"
	"strconv"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/core/practice"
	"arplin/core/vary"
	"arplin/draw"
	"arplin/store"
)

// historyWeeks is how far back the desk looks for clean tempos.
const historyWeeks = 12

type deskData struct {
	Page
	NoClass    bool
	Class      store.Class
	Players    string // "4 guitars, 3 ukuleles"
	NoStudents bool
	Ladder     *ladderSummary
	Lines      []deskLine
	ClientID   string // makes a line that is sent twice one entry
	Typed      string // a log line that could not be read, kept
	Problem    string
	ProblemFor int64 // the student whose tempo could not be read; 0 for the log line
	Care       []string
}

// ladderSummary is the ladder that the class is on.
type ladderSummary struct {
	store.Ladder
	Song   store.Song
	Tempos vary.Tempos
	Beat   string
	Target template.HTML
	Apart  string // how the song has moved away from it
}

type deskLine struct {
	store.Student
	InstrumentName string
	Placed         bool
	Step           int // from 1
	Adds           string
	Lane           template.HTML
	Last           int
	History        template.HTML
	Ready          bool // the last clean tempo is the goal or more
	Drills         []drillLine
}

func (s *server) desk(c fiber.Ctx) error {
	if err := s.chooseClass(c); err != nil {
		return err
	}
	return s.renderDesk(c, deskData{})
}

func (s *server) renderDesk(c fiber.Ctx, data deskData) error {
	note := data.Note
	data.Page = page(c, "Desk", "desk")
	if note.Text != "" {
		data.Note = note
	}
	data.ClientID = rand.Text()
	data.Care = practice.Care
	cur, err := s.currentClass(c)
	if errors.Is(err, errNoClass) {
		data.NoClass = true
		return c.Render("desk", data)
	}
	if err != nil {
		return err
	}
	data.Class, data.Players, data.NoStudents = cur.class, players(cur), len(cur.students) == 0
	if err := s.fillDesk(c, &data, cur); err != nil {
		return err
	}
	if data.Problem != "" {
		c.Status(fiber.StatusUnprocessableEntity)
	}
	if wantsFragment(c) {
		return c.Render("desk_log", data, "")
	}
	return c.Render("desk", data)
}

// fillDesk adds the newest ladder and a line for each student.
func (s *server) fillDesk(c fiber.Ctx, data *deskData, cur current) error {
	ladders, err := s.Store.Ladders(c.Context(), teacherID(c), cur.class.ID)
	if err != nil || len(ladders) == 0 {
		return err
	}
	l := ladders[0]
	sg, err := s.Store.Song(c.Context(), teacherID(c), l.SongID)
	if err != nil {
		return err
	}
	data.Ladder = &ladderSummary{
		Ladder: l, Song: sg, Tempos: vary.TemposFor(sg.Tempo), Beat: sg.Meter.BeatName(),
		Target: template.HTML(draw.Lane(l.Target, nil, "target: "+l.Target.String())),
		Apart:  apart(l, sg.Song),
	}
	places, err := s.Store.Placements(c.Context(), teacherID(c), l.ID)
	if err != nil {
		return err
	}
	entries, err := s.Store.Entries(c.Context(), teacherID(c), cur.class.ID, time.Now().AddDate(0, 0, -7*historyWeeks))
	if err != nil {
		return err
	}
	tempos := map[int64][]int{}
	for _, e := range entries {
		if e.LadderID == l.ID {
			tempos[e.StudentID] = append(tempos[e.StudentID], e.Tempo)
		}
	}
	drills, err := s.drillsOfWeek(c, cur.class.ID)
	if err != nil {
		return err
	}
	for _, st := range cur.students {
		step, placed := places[st.ID]
		line := makeDeskLine(l, st, step, placed && step < len(l.Steps), tempos[st.ID], sg.Tempo)
		line.Drills = drills[st.ID]
		data.Lines = append(data.Lines, line)
	}
	return nil
}

func makeDeskLine(l store.Ladder, st store.Student, step int, placed bool, tempos []int, goal int) deskLine {
	line := deskLine{Student: st, InstrumentName: instrumentName(st.Instrument), Placed: placed}
	if placed {
		goal = l.Steps[step].Goal(goal)
		line.Step, line.Adds = step+1, l.Steps[step].Adds
		line.Lane = template.HTML(draw.Lane(l.Steps[step].Pattern, freshStrokes(l.Steps, step), l.Steps[step].Pattern.String()))
	}
	const shown = 6
	if n := len(tempos); n > 0 {
		line.Last = tempos[n-1]
		line.Ready = line.Last >= goal
		line.History = template.HTML(draw.TempoHistory(tempos[max(0, n-shown):], goal))
	}
	return line
}

func freshStrokes(steps []vary.Step, i int) map[vary.Place]bool {
	if i == 0 || steps[i].Play != steps[i-1].Play { // the way of playing is what is new
		return nil
	}
	return vary.New(steps[i].Pattern, steps[i-1].Pattern)
}

// players counts the class by kind of instrument.
func players(cur current) string {
	var parts []string
	for _, ins := range cur.instruments() {
		n := 0
		for _, st := range cur.students {
			if st.Instrument == ins.ID {
				n++
			}
		}
		if n > 0 {
			parts = append(parts, fmt.Sprintf("%d on %s", n, strings.ToLower(ins.Name[:1])+ins.Name[1:]))
		}
	}
	return strings.Join(parts, ", ")
}

// logTempo takes either the log line, "pia 72", or a student's own field.
func (s *server) logTempo(c fiber.Ctx) error {
	cur, err := s.currentClass(c)
	if err != nil {
		return err
	}
	line, field := c.FormValue("line"), c.FormValue("tempo")
	student, tempo, err := readLog(cur, line, field, c.FormValue("student"))
	if err != nil {
		return s.renderDesk(c, deskData{Typed: line + field, Problem: sentenceOf(err), ProblemFor: student.ID})
	}
	ladders, err := s.Store.Ladders(c.Context(), teacherID(c), cur.class.ID)
	if err != nil {
		return err
	}
	if len(ladders) == 0 {
		return s.renderDesk(c, deskData{Typed: line + field, Problem: "Make a ladder first; a tempo belongs to a step of it."})
	}
	places, err := s.Store.Placements(c.Context(), teacherID(c), ladders[0].ID)
	if err != nil {
		return err
	}
	step, placed := places[student.ID]
	if !placed {
		return s.renderDesk(c, deskData{Typed: line + field, ProblemFor: student.ID,
			Problem: fmt.Sprintf("%s stands on no step yet; put %s on one on the ladder page.", student.Name, student.Name)})
	}
	entry := store.Entry{StudentID: student.ID, LadderID: ladders[0].ID, Step: step, Tempo: tempo, At: time.Now()}
	id, err := s.Store.AddEntry(c.Context(), teacherID(c), entry, clientID(c))
	if err != nil {
		return err
	}
	note := Note{Text: fmt.Sprintf("%s: %d, clean, on step %d.", student.Name, tempo, step+1), Undo: fmt.Sprintf("/log/%d/withdraw", id)}
	return s.deskAfter(c, note)
}

// readLog finds whom a log entry is about; the student is known even when the
// tempo cannot be read.
func readLog(cur current, line, field, studentID string) (student store.Student, tempo int, err error) {
	if studentID == "" {
		names := make([]string, len(cur.students))
		for i, st := range cur.students {
			names[i] = st.Name
		}
		who, tempo, err := practice.ParseLine(line, names)
		if err != nil {
			return store.Student{}, 0, err
		}
		return cur.students[who], tempo, nil
	}
	for _, st := range cur.students {
		if strconv.FormatInt(st.ID, 10) == studentID {
			tempo, err := practice.ParseTempo(field)
			return st, tempo, err
		}
	}
	return store.Student{}, 0, errors.New("this student is not in the class any more")
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

// deskAfter shows the desk with a note: as a piece for the script, or by way of
// a redirect.
func (s *server) deskAfter(c fiber.Ctx, note Note) error {
	if wantsFragment(c) {
		return s.renderDesk(c, deskData{Page: Page{Note: note}})
	}
	leaveNote(c, note.Text, note.Undo)
	return seeOther(c, "/")
}

func (s *server) withdrawTempo(c fiber.Ctx) error {
	id, err := pathID(c)
	if err != nil {
		return err
	}
	if err := s.Store.Withdraw(c.Context(), teacherID(c), id, time.Now()); err != nil {
		return err
	}
	return s.deskAfter(c, Note{Text: "That tempo was taken back."})
}
