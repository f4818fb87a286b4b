package web

import (
	"errors"
	"fmt"
	"html/template"
	"net/url"
	"strconv"
	"strings"

	"github.com/gofiber/fiber/v3"

	"arplin/core/bind"
	"arplin/core/demand"
	"arplin/core/fretboard"
	"arplin/core/hand"
	"arplin/core/practice"
	"arplin/core/song"
	"arplin/core/theory"
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

type ladderData struct {
	Page
	Ladder      store.Ladder
	Song        store.Song
	Beat        string
	Tempos      vary.Tempos
	Chords      []string
	Instrument  fretboard.Instrument
	Instruments []fretboard.Instrument
	Beside      []fretboard.Instrument // shown next to it: another kind of the class's instruments
	Chord       theory.Chord
	Steps       []stepView // the hardest first, as the staircase stands on the page
	Waiting     []store.Student
	Orders      any
	Beyond      []beyondView // harder than the target, the easiest first
	Care        []string
	Songs       []store.SongLine // others in the meter, for which the ladder can be used again
	Focus       int64            // the student who has just been moved
}

type beyondView struct {
	Adds, Says, Level, Notation string
	Lane                        template.HTML
}

type stepView struct {
	Index    int // from 0, the easiest
	Number   int
	Adds     string
	Says     string
	Over     string
	Play     demand.Play
	Level    string
	LevelBar int // of a hundred
	Pinned   bool
	Notation string
	Last     bool
	Why      string
	How      string
	Ready    string
	FallBack string
	Tempos   vary.Tempos
	Lane     template.HTML   // instead of strips where the figure is not new, or not on strings yet
	Beside   string          // the chords or the count beside it
	Strips   []template.HTML // on one instrument, or on two kinds side by side
	Students []store.Student
	First    bool
}

func (s *server) ladderPage(c fiber.Ctx) error {
	return s.renderLadder(c, Note{}, 0)
}

func (s *server) renderLadder(c fiber.Ctx, note Note, focus int64) error {
	on, err := s.loadLadder(c)
	if err != nil {
		return err
	}
	l, sg, cur := on.Ladder, on.song, on.cur
	places, err := s.Store.Placements(c.Context(), teacherID(c), l.ID)
	if err != nil {
		return err
	}
	data := ladderData{
		Page: page(c, l.SongTitle+": "+l.PatternName, "ladders"), Ladder: l, Song: sg, Beat: sg.Meter.BeatName(), Care: practice.Care, Orders: vary.Orders,
		Tempos: vary.TemposFor(sg.Tempo), Instruments: cur.instruments(), Focus: focus,
	}
	if note.Text != "" {
		data.Note = note
	}
	for _, ch := range sg.Part(l.Part).Chords() {
		data.Chords = append(data.Chords, ch.String())
	}
	data.Instrument = chosenInstrument(c, data.Instruments)
	data.Chord = firstChord(sg.Part(l.Part))
	data.Beside = beside(data.Instrument, data.Instruments, l.Target)
	data.Steps = stepViews(on, append([]fretboard.Instrument{data.Instrument}, data.Beside...), data.Chord)
	data.Beyond = beyondViews(on)
	data.placeStudents(cur.students, places)
	songs, err := s.Store.Songs(c.Context(), teacherID(c))
	if err != nil {
		return err
	}
	for _, o := range songs {
		if o.ID != sg.ID && o.Meter == sg.Meter.String() {
			data.Songs = append(data.Songs, o)
		}
	}
	if wantsFragment(c) {
		return c.Render("ladder_stairs", data, "")
	}
	return c.Render("ladder", data)
}

// firstChord is the chord on which the steps are shown.
func firstChord(sg song.Song) theory.Chord {
	if chords := sg.Chords(); len(chords) > 0 {
		return chords[0]
	}
	return theory.MustChord("C")
}

// beside is the first instrument of another family in the class, since a mixed
// class reads a step twice; a long figure has room for one only.
func beside(shown fretboard.Instrument, all []fretboard.Instrument, target hand.Pattern) []fretboard.Instrument {
	if len(target.Bars) > 1 || target.Grid() > 8 {
		return nil
	}
	for _, ins := range all {
		if ins.Family != shown.Family {
			return []fretboard.Instrument{ins}
		}
	}
	return nil
}

// beyondViews are the harder variations for those who are ready.
func beyondViews(on onLadder) []beyondView {
	var views []beyondView
	for _, s := range vary.Beyond(on.task(), on.cur.weights()) {
		var fresh map[vary.Place]bool
		if s.Pattern.Grid() == on.Target.Grid() {
			fresh = vary.New(s.Pattern, on.Target)
		}
		views = append(views, beyondView{s.Adds, s.Says, fmt.Sprintf("%.1f", s.Level), s.Pattern.String(), template.HTML(draw.Lane(s.Pattern, fresh, s.Pattern.String()))})
	}
	return views[:min(shownBeyond, len(views))]
}

const shownBeyond = 8

// stepViews draws the staircase, the hardest step first.
func stepViews(onl onLadder, on []fretboard.Instrument, chord theory.Chord) []stepView {
	l, cur, task, w := onl.Ladder, onl.cur, onl.task(), onl.cur.weights()
	views := make([]stepView, len(l.Steps))
	for i, step := range l.Steps {
		goal := step.Goal(onl.song.Tempo)
		v := stepView{Why: vary.Why(l.Steps, i, task, w), How: step.How(), Ready: step.ReadyWhen(goal), FallBack: vary.FallBack(l.Steps, i), Tempos: vary.TemposFor(goal), Index: i, Number: i + 1, Adds: step.Adds, Says: step.Says, Over: step.Over, Play: step.Play, First: i == 0, Pinned: step.Pinned, Notation: step.Pattern.String(), Last: i == len(l.Steps)-1}
		if step.Level > 0 {
			v.Level, v.LevelBar = fmt.Sprintf("%.1f", step.Level), int(10*step.Level)
		}
		beforeStrings := step.Play == demand.Said || step.Play == demand.Tapped
		if beforeStrings || i > 0 && step.Pattern.Equal(l.Steps[i-1].Pattern) {
			v.Beside = step.Chords(task)
			if beforeStrings {
				v.Beside = strings.Join(step.Pattern.Counts(), " ")
			}
			v.Lane = template.HTML(draw.Lane(step.Pattern, nil, step.Pattern.String()))
			views[len(l.Steps)-1-i] = v
			continue // the figure is that of the step below, or nothing sounds on a string yet
		}
		for _, ins := range on {
			if shape, ok := fretboard.Easiest(ins, chord); ok {
				v.Strips = append(v.Strips, stepStrip(l, i, ins, cur, chord, shape, true))
			}
		}
		views[len(l.Steps)-1-i] = v
	}
	return views
}

// stepStrip draws one step on a chord: the new strokes marked, and, where asked
// for, what the target has beyond it as ghosts.
func stepStrip(l store.Ladder, i int, ins fretboard.Instrument, cur current, chord theory.Chord, v fretboard.Voicing, ghosts bool) template.HTML {
	step := l.Steps[i]
	strip := draw.Strip{
		Instrument: ins, Pattern: step.Pattern, New: freshStrokes(l.Steps, i), Frets: step.Play == demand.OnStrings, ThickOnTop: cur.class.ThickOnTop,
		Events: bind.Pattern(ins, cur.school(), step.Pattern, chord, v.Shape).Events,
		Label:  fmt.Sprintf("step %d on %s, %s: %s", i+1, chord, ins.Name, step.Pattern),
	}
	if ghosts {
		missing := vary.Missing(step.Pattern, l.Target)
		for _, e := range bind.Pattern(ins, cur.school(), l.Target, chord, v.Shape).Events {
			if missing[vary.Place{Bar: e.Bar, Slot: e.Slot, Sign: e.Stroke.Sign}] {
				strip.Ghosts = append(strip.Ghosts, e)
			}
		}
	}
	return template.HTML(strip.SVG())
}

// placeStudents puts the students on their steps; the others wait.
func (d *ladderData) placeStudents(students []store.Student, places map[int64]int) {
	for _, st := range students {
		step, ok := places[st.ID]
		if !ok || step >= len(d.Steps) {
			d.Waiting = append(d.Waiting, st)
			continue
		}
		view := &d.Steps[len(d.Steps)-1-step]
		view.Students = append(view.Students, st)
	}
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
