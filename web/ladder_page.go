package web

import (
	"fmt"
	"html/template"
	"slices"

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
	Low         []stepView // steps below everybody, folded
	Nobody      bool       // in the class
	Waiting     []store.Student
	Proposed    []proposed // where those who wait could begin
	Heard       bool       // some of them have played something clean
	Places      string     // the same as the form sends it
	Orders      any
	Beyond      []beyondView // harder than the target, the easiest first
	Care        []string
	Songs       []store.SongLine // others in the meter, for which the ladder can be used again
	Focus       int64            // the student who has just been moved
	Apart       string           // how the song has moved away from the ladder
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
	Parts    levelView
	How      string
	Ready    string
	FallBack string
	Tempos   vary.Tempos
	Lane     template.HTML   // instead of strips where the figure is not new, or not on strings yet
	Beside   []word          // the chords or the count beside it
	Faster   bool            // the goal tempo is what is new
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
		Tempos: vary.TemposFor(sg.Tempo), Instruments: cur.instruments(), Focus: focus, Apart: apart(l, sg.Song), Nobody: len(cur.students) == 0,
	}
	if note.Text != "" {
		data.Note = note
	}
	for _, ch := range sg.Part(l.Part).Chords() {
		data.Chords = append(data.Chords, ch.String())
	}
	data.Instrument = chosenInstrument(c, data.Instruments)
	data.Beside = beside(data.Instrument, data.Instruments, l.Target)
	shown := []shownOn{on.shown(data.Instrument)}
	for _, ins := range data.Beside {
		shown = append(shown, on.shown(ins))
	}
	data.Chord = shown[0].chord
	data.Steps = stepViews(on, shown)
	data.Beyond = beyondViews(on)
	data.placeStudents(cur.students, places)
	if data.Proposed, err = s.propose(c, on, data.Waiting); err != nil {
		return err
	}
	proposals := map[int64]int{}
	for _, p := range data.Proposed {
		proposals[p.ID] = p.Step
		data.Heard = data.Heard || p.Why != notHeard
	}
	data.Places = placesText(proposals)
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

// shownOn is the chord on which the steps are shown on an instrument.
type shownOn struct {
	ins   fretboard.Instrument
	chord theory.Chord
	shape fretboard.Voicing
	ok    bool // the instrument has a shape of it
}

// shown finds the chord on which the steps are shown, as an instrument fingers it
// and with the shape that the song has for it: the one that the lowest steps are
// on, else the song's first.
func (on onLadder) shown(ins fretboard.Instrument) shownOn {
	part := on.song.Part(on.Part)
	first, mine := part.Fingering(on.cur.instruments()[0]), part.Fingering(ins)
	v := shownOn{ins: ins, chord: firstChord(mine)}
	stage := on.firstStage()
	for i, sec := range first.Sections {
		for j, bar := range sec.Bars {
			for k, ch := range bar.Changes {
				if c, err := mine.Sections[i].Bars[j].Changes[k].Chord(); err == nil && len(stage) > 0 && ch.Symbol == stage[0] {
					v.chord = c
				}
			}
		}
	}
	if v.shape, v.ok = part.ShapesOn(ins)[v.chord]; !v.ok {
		v.shape, v.ok = fretboard.Easiest(ins, v.chord)
	}
	return v
}

// firstStage is the chords of the lowest step that is not on all of them.
func (on onLadder) firstStage() []string {
	task := on.task()
	for _, step := range on.Steps {
		if stage := step.Stage(task); len(stage) > 0 {
			return stage
		}
	}
	return nil
}

// firstChord is the first chord of a song that can be read.
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
		fresh := vary.New(s.Pattern, on.Target)
		views = append(views, beyondView{s.Adds, s.Says, fmt.Sprintf("%.1f", s.Level), s.Pattern.String(), template.HTML(draw.Lane(s.Pattern, fresh, s.Pattern.String()))})
	}
	return views[:min(shownBeyond, len(views))]
}

const shownBeyond = 8

// overWhat names a step's stage, and its chord where it is one.
func overWhat(step vary.Step, t demand.Task) string {
	if stage := step.Stage(t); len(stage) == 1 {
		return step.Over + ", " + stage[0]
	}
	return step.Over
}

// stepViews draws the staircase, the hardest step first.
func stepViews(on onLadder, shown []shownOn) []stepView {
	l, cur, task, w := on.Ladder, on.cur, on.task(), on.cur.weights()
	views := make([]stepView, len(l.Steps))
	for i, step := range l.Steps {
		goal := step.Goal(on.song.Tempo)
		v := stepView{Parts: viewOf(demand.Of(step.Task(task), w), step.Pattern, ""), Why: vary.Why(l.Steps, i, task, w), How: step.How(), Ready: step.ReadyWhen(goal), FallBack: vary.FallBack(l.Steps, i), Tempos: vary.TemposFor(goal), Index: i, Number: i + 1, Adds: step.Adds, Says: step.Says, Over: overWhat(step, task), Play: step.Play, First: i == 0, Pinned: step.Pinned, Notation: step.Pattern.String(), Last: i == len(l.Steps)-1}
		if step.Level > 0 {
			v.Level, v.LevelBar = fmt.Sprintf("%.1f", step.Level), int(10*step.Level)
		}
		if step.BeforeStrings() || i > 0 && step.Pattern.Equal(l.Steps[i-1].Pattern) {
			below := l.Steps[max(0, i-1)]
			v.Lane = template.HTML(draw.Lane(step.Pattern, nil, step.Pattern.String()))
			if step.BeforeStrings() {
				v.Lane = template.HTML(draw.CountedLane(step.Pattern, step.Pattern.String()))
			} else {
				v.Beside = wordsOf(step.ChordNames(task), below.ChordNames(task))
			}
			v.Faster = i > 0 && step.Over == below.Over && step.Pace != below.Pace
			views[len(l.Steps)-1-i] = v
			continue // the figure is that of the step below, or nothing sounds on a string yet
		}
		for _, sh := range shown {
			if sh.ok {
				v.Strips = append(v.Strips, stepStrip(l, i, sh.ins, cur, sh.chord, sh.shape, true))
			}
		}
		views[len(l.Steps)-1-i] = v
	}
	return views
}

// word is something said beside a figure; what is new in it is amber.
type word struct {
	Text string
	New  bool
}

// wordsOf marks the words that the step below does not have; without a step
// below nothing is new.
func wordsOf(words, below []string) (list []word) {
	for _, w := range words {
		list = append(list, word{w, below != nil && !slices.Contains(below, w)})
	}
	return list
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
		strip.Ghosts = ghostsOf(bind.Pattern(ins, cur.school(), l.Target, chord, v.Shape).Events, vary.Missing(step.Pattern, l.Target))
	}
	return template.HTML(strip.SVG())
}

// placeStudents puts the students on their steps; the others wait. When nobody
// waits, the ladder begins one step below the least practised.
func (d *ladderData) placeStudents(students []store.Student, places map[int64]int) {
	lowest := len(d.Steps)
	for _, st := range students {
		step, ok := places[st.ID]
		if !ok || step >= len(d.Steps) {
			d.Waiting = append(d.Waiting, st)
			continue
		}
		lowest = min(lowest, step)
		view := &d.Steps[len(d.Steps)-1-step]
		view.Students = append(view.Students, st)
	}
	if below := lowest - 1; below > 1 && len(d.Waiting) == 0 && len(students) > 0 {
		d.Steps, d.Low = d.Steps[:len(d.Steps)-below], d.Steps[len(d.Steps)-below:]
	}
}

// ghostsOf are the events that a figure leaves out.
func ghostsOf(events []bind.Event, missing map[vary.Place]bool) (ghosts []bind.Event) {
	for _, e := range events {
		if missing[vary.Place{Bar: e.Bar, Slot: e.Slot, Sign: e.Stroke.Sign}] {
			ghosts = append(ghosts, e)
		}
	}
	return ghosts
}
