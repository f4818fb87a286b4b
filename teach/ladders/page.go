package ladders

import (
	"context"
	"fmt"
	"slices"
	"time"

	"arplin/core/bind"
	"arplin/core/bpm"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/ladder"
	"arplin/core/ladder/station"
	"arplin/core/pattern"
	"arplin/core/played"
	"arplin/core/song"
	"arplin/core/theory"
	"arplin/draw"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/patterns"
	"arplin/teach/people"
	"arplin/teach/songs"
)

// Step is a step as its row on the staircase shows it.
type Step struct {
	ID       ladder.StepID
	Index    int // from 0, the easiest
	Number   int
	Name     string
	Says     string
	Over     string // the chords, and the chord where it is one; the way of playing before the strings
	Level    string
	LevelBar int // of a hundred
	Pinned   bool
	Notation string
	First    bool
	Last     bool
	Tempos   bpm.Tempos
	Lane     draw.SVG   // none at a station
	Beside   []Word     // the chords or the count beside it
	Faster   bool       // the goal tempo is what is new
	Remark   string     // of the teacher
	Home     bool       // cannot be played together with the class
	Station  station.ID // of a tune's ladder
	Bar      int        // of the song, that shows what is new at a station
	Students []store.Student
}

// PartLane is the figure of a part of the song in a step.
type PartLane struct {
	Name string
	Lane draw.SVG
}

// Word is something said beside a figure; what is new in it is amber.
type Word struct {
	Text string
	New  bool
}

// Opened is the step beside the staircase: its strips, and why and how it is practised.
type Opened struct {
	Step
	Strips []InstrumentStrip // for the instruments in the room, one a family
	Parts  []PartLane        // the figures of parts that have one of their own
	StepAdvice
}

// InstrumentStrip is a strip with the instrument and the chord that it is on.
type InstrumentStrip struct {
	Instrument, On string // On is the chord, or the bar of a tune
	SVG            draw.SVG
}

// LadderPage is a ladder as it is shown.
type LadderPage struct {
	Shown    fretboard.Instrument // for which the levels are shown
	Chords   []string
	Tempos   bpm.Tempos
	Steps    []Step // the hardest first, as they stand on the page
	Open     Opened
	Waiting  []store.Student
	Proposed []Proposal
	Heard    bool // some of those who wait have played something clean
}

// Show computes the page, with the levels of an instrument that is asked for or of the one that the
// ladder was built for, and one step open beside the staircase. What lies beyond is computed when it
// is opened.
func (t *Room) Show(ctx context.Context, teacher ref.Teacher, l Ladder, instrument string, open ladder.StepID, now time.Time) (LadderPage, error) {
	l = t.levelsFor(l, instrument)
	page := answer.Keep(t.From, "ladder page "+l.Instrument.ID, l.Loaded, func() LadderPage { return Draw(l) })
	page.Steps = slices.Clone(page.Steps)
	page.place(l)
	var err error
	if page.Open, err = t.open(l, page.opens(open)); err != nil {
		return page, err
	}
	proposed, err := t.propose(ctx, teacher, l, page.Waiting, now)
	if err != nil {
		return page, err
	}
	page.Proposed = proposed
	page.Heard = slices.ContainsFunc(proposed, func(p Proposal) bool { return p.Heard })
	return page, nil
}

// levelsFor is a ladder with its levels measured for another instrument: to look at, not to edit.
func (t *Room) levelsFor(l Ladder, instrument string) Ladder {
	ins, err := fretboard.ByID(instrument)
	if err != nil || ins.ID == l.Instrument.ID {
		return l
	}
	if l.OfTune() {
		l.Instrument = ins
		l.Steps = slices.Clone(l.Steps)
		l.stations = t.stations(l, l.Steps)
		return l
	}
	measured := answer.Keep(t.From, "ladder for "+ins.ID, l.Loaded, func() measuredLadder {
		task := LadderTask(l.Target, PartsOf(l.Steps), l.Begin, l.Song.Song, l.Sections, ins, l.Class)
		return measuredLadder{task, ladder.Measured(l.Steps, task, l.Class.Weigh())}
	})
	l.Instrument, l.Task, l.Steps = ins, measured.task, measured.steps
	return l
}

// opens is the step that is open: the one asked for while it is there, else the one that most are
// on, else the lowest.
func (p LadderPage) opens(asked ladder.StepID) ladder.StepID {
	most := p.Steps[len(p.Steps)-1]
	for _, step := range slices.Backward(p.Steps) {
		if step.ID == asked {
			return asked
		}
		if len(step.Students) > len(most.Students) {
			most = step
		}
	}
	return most.ID
}

// Open is a step as it stands beside the staircase.
func (t *Room) Open(l Ladder, instrument string, id ladder.StepID) (Opened, error) {
	return t.open(t.levelsFor(l, instrument), id)
}

func (t *Room) open(l Ladder, id ladder.StepID) (Opened, error) {
	i := ladder.Find(l.Steps, id)
	if i < 0 {
		return Opened{}, store.ErrNotFound
	}
	return answer.Keep(t.From, fmt.Sprintf("open step %d %s", id, l.Instrument.ID), l.Loaded, func() Opened {
		v := Opened{Step: l.row(i), Parts: l.parts(i)}
		for _, st := range l.Class.Students {
			if l.Places[st.ID] == id {
				v.Students = append(v.Students, st)
			}
		}
		v.Strips = l.way(i).strips(append([]fretboard.Instrument{l.Instrument}, beside(l.Instrument, l.Class.Instruments(), l.Target)...))
		v.StepAdvice = l.advice(i)
		return v
	}), nil
}

// Draw is the staircase: a row a step, the hardest first.
func Draw(l Ladder) LadderPage {
	page := LadderPage{Shown: l.Instrument, Tempos: bpm.Of(l.Song.Tempo)}
	for _, ch := range l.Song.Part(l.Sections).Chords() {
		page.Chords = append(page.Chords, ch.String())
	}
	page.Steps = make([]Step, len(l.Steps))
	for i := range l.Steps {
		page.Steps[len(l.Steps)-1-i] = l.row(i)
	}
	return page
}

// shownOn is the chord on which the steps are shown on an instrument.
type shownOn struct {
	ins    fretboard.Instrument
	chord  theory.Chord
	shape  fretboard.Voicing
	ok     bool // the instrument has a shape of it
	target []played.Event
}

// shown finds the chord on which the steps are shown, as an instrument fingers it
// and with the shape that the song has for it: the one of a stage of one chord, else the song's
// first.
func (l Ladder) shown(ins fretboard.Instrument, stage []string) shownOn {
	part := l.Song.Part(l.Sections)
	first, mine := part.Fingering(l.Instrument), part.Fingering(ins)
	v := shownOn{ins: ins, chord: patterns.FirstChord(mine)}
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
	if v.ok {
		v.target = bind.Pattern(ins, l.Class.School(), l.Target, v.chord, v.shape.Shape).Events
	}
	return v
}

// firstStage is the chords of the lowest step that is not on all of them.
func (l Ladder) firstStage() []string {
	for _, step := range l.Steps {
		if stage := step.Stage(l.Task); len(stage) > 0 {
			return stage
		}
	}
	return nil
}

// beside is the first instrument of another family in the class, since a mixed
// class reads a step twice; a long figure has room for one only.
func beside(shown fretboard.Instrument, all []fretboard.Instrument, target pattern.Pattern) []fretboard.Instrument {
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

// Step is what is said of a step, without its pictures.
func (l Ladder) Step(i int) Step {
	s := l.Steps[i]
	words := ladder.Describe(l.Steps, i, l.Task)
	v := Step{
		ID: s.ID, Index: i, Number: i + 1, Name: words.Name, Says: words.Says, Over: l.over(s), Pinned: s.Pinned, Notation: s.Pattern.String(),
		First: i == 0, Last: i == len(l.Steps)-1, Tempos: s.Tempos(l.Song.Tempo), Remark: s.Remark, Home: s.Home, Station: s.Station,
	}
	if v.Last && s.Over == ladder.AllChords && len(l.Sections) == 0 && !l.closes() {
		v.Says += " Close it with one stroke on the last chord and let it ring."
	}
	if part, other := s.NewIn(); other {
		v.Name += ", in " + partName(l.Song.Song, part.Sections)
	}
	if s.Level > 0 {
		v.Level, v.LevelBar = patterns.Tenth(s.Level), int(10*s.Level)
	}
	return v
}

// closes reports a song that says itself how it ends.
func (l Ladder) closes() bool {
	bars := l.Song.Bars()
	return len(bars) > 0 && bars[len(bars)-1].Role == song.End
}

// over names what a step is on: the way of playing, or its chords, and the chord
// where it is one.
func (l Ladder) over(s ladder.Step) string {
	if s.Play != difficulty.OnStrings {
		return s.Play.String()
	}
	if stage := s.Stage(l.Task); len(stage) == 1 {
		return "on " + s.Over.String() + ", " + stage[0]
	}
	return "on " + s.Over.String()
}

// parts draws the figures of parts, with what is new in them.
func (l Ladder) parts(i int) (list []PartLane) {
	for k, part := range l.Steps[i].Parts {
		var fresh map[pattern.Place]bool
		if i > 0 && k < len(l.Steps[i-1].Parts) {
			fresh = pattern.New(part.Pattern, l.Steps[i-1].Parts[k].Pattern)
		}
		if name := partName(l.Song.Song, part.Sections); name != "" {
			list = append(list, PartLane{name, draw.Lane(part.Pattern, fresh, part.Pattern.Aloud())})
		}
	}
	return list
}

func (l Ladder) row(i int) Step {
	v := l.Step(i)
	l.way(i).row(&v)
	return v
}

// FreshStrokes are the strokes that a step has and the one below has not; where
// the way of playing is what is new, none.
func FreshStrokes(steps []ladder.Step, i int) map[pattern.Place]bool {
	if i <= 0 || steps[i].Play != steps[i-1].Play {
		return nil
	}
	return pattern.New(steps[i].Pattern, steps[i-1].Pattern)
}

// Strip draws one step on a chord: the new strokes marked, and, where the target
// is given, what it has beyond the step as ghosts.
func (l Ladder) Strip(i int, ins fretboard.Instrument, chord theory.Chord, v fretboard.Voicing, c people.Class, target []played.Event) draw.SVG {
	step := l.Steps[i]
	st := draw.OnShape(ins, c.School(), step.Pattern, chord, v.Shape)
	st.New, st.Frets, st.ThickOnTop = FreshStrokes(l.Steps, i), step.Play == difficulty.OnStrings, c.ThickOnTop
	if part, from, ok := step.PartOf(l.Target); ok {
		st.Ghosts = patterns.GhostsOf(barsFrom(target, from), pattern.Missing(step.Pattern, part))
	}
	st.Label = fmt.Sprintf("step %d on %s, %s: %s", i+1, chord, ins.Name, step.Pattern.Aloud())
	return st.SVG()
}

// barsFrom is what is played from a bar on, counted from that bar.
func barsFrom(events []played.Event, from int) (list []played.Event) {
	for _, e := range events {
		if e.Bar >= from {
			e.Bar -= from
			list = append(list, e)
		}
	}
	return list
}

// place puts the students on their steps; the others wait.
func (p *LadderPage) place(l Ladder) {
	for _, st := range l.Class.Students {
		at := ladder.Find(l.Steps, l.Places[st.ID])
		if at < 0 {
			p.Waiting = append(p.Waiting, st)
			continue
		}
		view := &p.Steps[len(p.Steps)-1-at]
		view.Students = append(view.Students, st)
	}
}

// PartStrips draws the figures of parts that have one of their own, each on every chord of its part where
// the step is on all chords, else on the first; before the strings as a lane with its count.
func (l Ladder) PartStrips(i int, v songs.View, c people.Class) (list []PartLane) {
	step := l.Steps[i]
	for k, part := range step.Parts {
		name, chords := partName(l.Song.Song, part.Sections), v.Song.Part(part.Sections).Chords()
		if name == "" || len(chords) == 0 {
			continue
		}
		var fresh map[pattern.Place]bool
		if i > 0 && k < len(l.Steps[i-1].Parts) {
			fresh = pattern.New(part.Pattern, l.Steps[i-1].Parts[k].Pattern)
		}
		if step.Over != ladder.AllChords {
			chords = chords[:1]
		}
		for _, on := range chords {
			if step.Play != difficulty.OnStrings { // there is no chord yet
				list = append(list, PartLane{name, draw.CountedLane(part.Pattern, part.Pattern.Aloud())})
				break
			}
			voicing, ok := v.Shapes[on]
			if !ok {
				list = append(list, PartLane{fmt.Sprintf("%s, on %s, which has no shape", name, on), draw.CountedLane(part.Pattern, part.Pattern.Aloud())})
				continue
			}
			st := draw.OnShape(v.Ins, c.School(), part.Pattern, on, voicing.Shape)
			st.New, st.ThickOnTop, st.Label = fresh, v.ThickOnTop, fmt.Sprintf("%s on %s: %s", name, on, part.Pattern)
			list = append(list, PartLane{name + ", on " + on.String(), st.SVG()})
		}
	}
	return list
}
