package teach

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/theory"
	"arplin/draw"
	"arplin/store"
)

// historyWeeks is how far back clean tempos are looked for.
const historyWeeks = 12

func since(now time.Time) time.Time { return now.AddDate(0, 0, -7*historyWeeks) }

// Ladder is a ladder with its song, its own class, and where everybody stands.
type Ladder struct {
	store.Ladder
	Song       store.Song
	Class      Class
	Places     store.Places
	Instrument fretboard.Instrument // for which the levels are measured

	task difficulty.Task
	rows Rows
}

// LoadLadder reads a ladder. The class is the ladder's own; at is the one that
// the teacher works with, which mostly is the same.
func (t *Teach) LoadLadder(ctx context.Context, teacher store.TeacherID, at Class, id store.LadderID) (Ladder, error) {
	l, err := t.Store.Ladder(ctx, teacher, id)
	if err != nil {
		return Ladder{}, err
	}
	return t.withSong(ctx, teacher, at, l)
}

func (t *Teach) withSong(ctx context.Context, teacher store.TeacherID, at Class, l store.Ladder) (Ladder, error) {
	on := Ladder{Ladder: l}
	var err error
	if on.Class, err = t.classOf(ctx, teacher, l.ClassID, at); err != nil {
		return on, err
	}
	if on.Song, err = t.Store.Song(ctx, teacher, l.SongID); err != nil {
		return on, err
	}
	if on.Places, err = t.Store.Placements(ctx, teacher, l.ID); err != nil {
		return on, err
	}
	on.Instrument = on.Class.Instrument(l.Instrument)
	on.rows = rowsOf(l.ID, l.Version, l.Moves, l.Archived, on.Song.Version, on.Class.Class, on.Class.Students, on.Places)
	measured := keep(t, "ladder", on.rows, func() measuredLadder {
		task := ladderTask(l.Target, on.Song.Song, l.Sections, on.Instrument, on.Class)
		return measuredLadder{task, ladder.Measured(l.Steps, task, on.Class.Weigh())}
	})
	on.task, on.Steps = measured.task, measured.steps
	return on, nil
}

type measuredLadder struct {
	task  difficulty.Task
	steps []ladder.Step
}

// ladderTask is a target on its part of the song, for the instrument by which the
// levels are measured.
func ladderTask(target pattern.Pattern, sg song.Song, sections []song.SectionID, ins fretboard.Instrument, c Class) difficulty.Task {
	return difficulty.NewTask(target, sg.Part(sections), ins, c.School(), sg.Tempo)
}

// Part is the names of the sections that a ladder is for; empty for the whole song.
func (l Ladder) Part() string { return partName(l.Song.Song, l.Sections) }

func partName(sg song.Song, ids []song.SectionID) string {
	var names []string
	for _, sec := range sg.Sections {
		if slices.Contains(ids, sec.ID) && !slices.Contains(names, sec.Name) {
			names = append(names, sec.Name)
		}
	}
	return strings.Join(names, ", ")
}

// Apart says how the song has moved away from a ladder that was made for it;
// empty while they fit.
func (l Ladder) Apart() string {
	switch {
	case l.Target.Meter != l.Song.Meter:
		return fmt.Sprintf("The song is in %s now, and this ladder in %s. Put the song back, or make a ladder of a figure in %s.", l.Song.Meter, l.Target.Meter, l.Song.Meter)
	case len(l.Sections) > 0 && l.Part() == "":
		return "The section that this ladder was for is not in the song any more; the ladder goes over the whole of it."
	}
	return ""
}

// Rows is what the page of a ladder was loaded from.
func (l Ladder) Rows(more ...any) Rows { return rowsOf(append([]any{l.rows}, more...)...) }

// Step is a step as it is shown.
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
	Tempos   song.Tempos
	Lane     draw.SVG   // instead of strips where the figure is not new, or not on strings yet
	Beside   []Word     // the chords or the count beside it
	Faster   bool       // the goal tempo is what is new
	Strips   []draw.SVG // on one instrument, or on two kinds side by side
	Students []store.Student
}

// Word is something said beside a figure; what is new in it is amber.
type Word struct {
	Text string
	New  bool
}

// LadderPage is a ladder as it is shown.
type LadderPage struct {
	Shown    fretboard.Instrument // of the strips
	Beside   []fretboard.Instrument
	Chord    theory.Chord
	Chords   []string
	Tempos   song.Tempos
	Steps    []Step // the hardest first, as they stand on the page
	Low      []Step // steps below everybody, folded
	Waiting  []store.Student
	Proposed []Proposal
	Heard    bool // some of those who wait have played something clean
}

// ShowLadder computes the page, on an instrument that is asked for or the one of
// the levels. Why and how, and what lies beyond, are computed when they are opened.
func (t *Teach) ShowLadder(ctx context.Context, teacher store.TeacherID, l Ladder, instrument string, now time.Time) (LadderPage, error) {
	page := keep(t, "ladder page "+instrument, l.rows, func() LadderPage { return drawLadder(l, instrument) })
	page.Steps = slices.Clone(page.Steps)
	page.place(l)
	proposed, err := t.propose(ctx, teacher, l, page.Waiting, now)
	if err != nil {
		return page, err
	}
	page.Proposed = proposed
	page.Heard = slices.ContainsFunc(proposed, func(p Proposal) bool { return p.Heard })
	return page, nil
}

func drawLadder(l Ladder, instrument string) LadderPage {
	shown := l.Instrument
	if ins, err := fretboard.ByID(instrument); err == nil {
		shown = ins
	}
	page := LadderPage{Shown: shown, Beside: beside(shown, l.Class.Instruments(), l.Target), Tempos: song.TemposFor(l.Song.Tempo)}
	for _, ch := range l.Song.Part(l.Sections).Chords() {
		page.Chords = append(page.Chords, ch.String())
	}
	on := []shownOn{l.shown(shown)}
	for _, ins := range page.Beside {
		on = append(on, l.shown(ins))
	}
	page.Chord = on[0].chord
	page.Steps = make([]Step, len(l.Steps))
	for i := range l.Steps {
		page.Steps[len(l.Steps)-1-i] = l.draw(i, on)
	}
	return page
}

// shownOn is the chord on which the steps are shown on an instrument.
type shownOn struct {
	ins    fretboard.Instrument
	chord  theory.Chord
	shape  fretboard.Voicing
	ok     bool // the instrument has a shape of it
	target []bind.Event
}

// shown finds the chord on which the steps are shown, as an instrument fingers it
// and with the shape that the song has for it: the one that the lowest steps are
// on, else the song's first.
func (l Ladder) shown(ins fretboard.Instrument) shownOn {
	part := l.Song.Part(l.Sections)
	first, mine := part.Fingering(l.Instrument), part.Fingering(ins)
	v := shownOn{ins: ins, chord: firstChord(mine)}
	stage := l.firstStage()
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
		if stage := step.Stage(l.task); len(stage) > 0 {
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

// step is what is said of a step, without its pictures.
func (l Ladder) step(i int) Step {
	s := l.Steps[i]
	words := ladder.Describe(l.Steps, i, l.task)
	v := Step{
		ID: s.ID, Index: i, Number: i + 1, Name: words.Name, Says: words.Says, Over: l.over(s), Pinned: s.Pinned, Notation: s.Pattern.String(),
		First: i == 0, Last: i == len(l.Steps)-1, Tempos: song.TemposFor(s.Goal(l.Song.Tempo)),
	}
	if s.Level > 0 {
		v.Level, v.LevelBar = tenth(s.Level), int(10*s.Level)
	}
	return v
}

// over names what a step is on: the way of playing, or its chords, and the chord
// where it is one.
func (l Ladder) over(s ladder.Step) string {
	if s.Play != difficulty.OnStrings {
		return s.Play.String()
	}
	if stage := s.Stage(l.task); len(stage) == 1 {
		return "on " + s.Over.String() + ", " + stage[0]
	}
	return "on " + s.Over.String()
}

func (l Ladder) draw(i int, on []shownOn) Step {
	v, step := l.step(i), l.Steps[i]
	if step.BeforeStrings() {
		v.Lane = draw.CountedLane(step.Pattern, step.Pattern.String())
		return v
	}
	if i > 0 && step.Pattern.Equal(l.Steps[i-1].Pattern) { // the figure is that of the step below
		below := l.Steps[i-1]
		v.Lane = draw.Lane(step.Pattern, nil, step.Pattern.String())
		names := below.ChordNames(l.task)
		for _, name := range step.ChordNames(l.task) {
			v.Beside = append(v.Beside, Word{name, !slices.Contains(names, name)})
		}
		v.Faster = step.Over == below.Over && step.Pace != below.Pace
		return v
	}
	for _, o := range on {
		if o.ok {
			v.Strips = append(v.Strips, l.strip(i, o.ins, o.chord, o.shape, l.Class, o.target))
		}
	}
	return v
}

// freshStrokes are the strokes that a step has and the one below has not; where
// the way of playing is what is new, none.
func freshStrokes(steps []ladder.Step, i int) map[pattern.Place]bool {
	if i <= 0 || steps[i].Play != steps[i-1].Play {
		return nil
	}
	return pattern.New(steps[i].Pattern, steps[i-1].Pattern)
}

// strip draws one step on a chord: the new strokes marked, and, where the target
// is given, what it has beyond the step as ghosts.
func (l Ladder) strip(i int, ins fretboard.Instrument, chord theory.Chord, v fretboard.Voicing, c Class, target []bind.Event) draw.SVG {
	step := l.Steps[i]
	return draw.Strip{
		Instrument: ins, Pattern: step.Pattern, New: freshStrokes(l.Steps, i), Frets: step.Play == difficulty.OnStrings, ThickOnTop: c.ThickOnTop,
		Events: bind.Pattern(ins, c.School(), step.Pattern, chord, v.Shape).Events,
		Ghosts: ghostsOf(target, pattern.Missing(step.Pattern, l.Target)),
		Label:  fmt.Sprintf("step %d on %s, %s: %s", i+1, chord, ins.Name, step.Pattern),
	}.SVG()
}

// place puts the students on their steps; the others wait. When nobody waits, the
// page begins one step below the least practised.
func (p *LadderPage) place(l Ladder) {
	lowest := len(p.Steps)
	for _, st := range l.Class.Students {
		at := ladder.Find(l.Steps, l.Places[st.ID])
		if at < 0 {
			p.Waiting = append(p.Waiting, st)
			continue
		}
		lowest = min(lowest, at)
		view := &p.Steps[len(p.Steps)-1-at]
		view.Students = append(view.Students, st)
	}
	if below := lowest - 1; below > 1 && len(p.Waiting) == 0 && len(l.Class.Students) > 0 {
		p.Steps, p.Low = p.Steps[:len(p.Steps)-below], p.Steps[len(p.Steps)-below:]
	}
}

// StepAdvice is why a step stands where it does and how it is practised.
type StepAdvice struct {
	Number              int
	Why, How            string
	Ready, FallBack     string
	Level               Level
	Notation, PlaceHold string
}

// Advice explains one step.
func (l Ladder) Advice(id ladder.StepID) (StepAdvice, error) {
	i := ladder.Find(l.Steps, id)
	if i < 0 {
		return StepAdvice{}, store.ErrNotFound
	}
	w, step := l.Class.Weigh(), l.Steps[i]
	here := difficulty.Of(step.Task(l.task), w)
	below := here
	if i > 0 {
		below = difficulty.Of(l.Steps[i-1].Task(l.task), w)
	}
	goal := step.Goal(l.Song.Tempo)
	return StepAdvice{
		Number: i + 1, Why: why(here, below, i == 0), How: step.How(), Ready: ReadyWhen(step, goal), FallBack: FallBack(l.Steps, i, l.task),
		Level: levelOf(here, step.Pattern, l.Instrument.Name), Notation: step.Pattern.String(),
	}, nil
}

// Beyond is a harder variation for those who are ready.
type Beyond struct {
	Adds, Says, Level, Notation string
	Lane                        draw.SVG
}

const shownBeyond = 8

// Beyond lists what lies beyond the target.
func (t *Teach) Beyond(l Ladder) []Beyond {
	return keep(t, "beyond", l.rows, func() (views []Beyond) {
		for _, v := range ladder.Beyond(l.task, l.Class.Weigh()) {
			if len(views) < shownBeyond {
				views = append(views, Beyond{v.Name(), v.Says(), tenth(v.Level), v.Pattern.String(), draw.Lane(v.Pattern, pattern.New(v.Pattern, l.Target), v.Pattern.String())})
			}
		}
		return views
	})
}

// EditLadder carries out one edit of a version of a ladder and says what was done.
func (t *Teach) EditLadder(ctx context.Context, teacher store.TeacherID, l Ladder, version int, e ladder.Edit) (says string, err error) {
	edited, d, err := l.Ladder.Ladder.Apply(e, l.task, l.Class.Weigh())
	if err != nil {
		return "", refused(err)
	}
	saved := l.Ladder
	saved.Ladder, saved.Version = edited, version
	var stale *store.StaleError
	if err := t.Store.SaveLadder(ctx, teacher, saved, d); errors.As(err, &stale) {
		return "", &Changed{}
	} else if err != nil {
		return "", err
	}
	return ladder.DoneWords.Say(d), nil
}

// Changed refuses what was asked of a page that is not the newest any more.
type Changed struct{}

func (*Changed) Error() string {
	return "somebody changed this ladder in the meantime, in another window perhaps; look at it as it is now, nothing was overwritten"
}

// MoveLadder takes the last change of a ladder's version back (-1) or does it
// again (+1), students included, and says what that was.
func (t *Teach) MoveLadder(ctx context.Context, teacher store.TeacherID, l Ladder, version, by int) (says string, err error) {
	m, err := t.Store.MoveLadder(ctx, teacher, l.ID, version, by)
	if err != nil {
		return movedWords("", by, err)
	}
	words := ladder.DoneWords.Say(m.Done)
	if m.Done.ID == ladder.Placed().ID {
		words = l.placesText(m.Before, m.Now)
	}
	return movedWords(words, by, nil)
}

// placesText says who stands elsewhere than before.
func (l Ladder) placesText(before, now store.Places) string {
	var said []string
	for _, st := range l.Class.Students {
		at := ladder.Find(l.Steps, now[st.ID])
		switch {
		case before[st.ID] == now[st.ID]:
		case at < 0:
			said = append(said, st.Name+" waits")
		default:
			said = append(said, fmt.Sprintf("%s on step %d", st.Name, at+1))
		}
	}
	if len(said) == 0 {
		return "nobody has moved"
	}
	return strings.Join(said, ", ")
}

// NewLadder is what a ladder is made of.
type NewLadder struct {
	Song       store.SongID
	Pattern    string // a pattern's name; empty for what the song is written with
	Section    song.SectionID
	Instrument string
	Order      ladder.Order
}

// MakeLadder takes a pattern apart for a song and a class.
func (t *Teach) MakeLadder(ctx context.Context, teacher store.TeacherID, c Class, n NewLadder) (store.LadderID, error) {
	sg, err := t.Store.Song(ctx, teacher, n.Song)
	if err != nil {
		return 0, err
	}
	var sections []song.SectionID
	if n.Section != 0 {
		i := sg.SectionAt(n.Section)
		if i < 0 {
			return 0, refuse("that section is not in the song any more; load its page again")
		}
		sections = sg.Named(sg.Sections[i].Name)
	}
	target, err := t.targetOn(ctx, teacher, sg, sections, n.Pattern)
	if err != nil {
		return 0, err
	}
	ins := c.Instrument(n.Instrument)
	return t.Store.AddLadder(ctx, teacher, store.Ladder{
		ClassID: c.ID, SongID: sg.ID, Sections: sections, Instrument: ins.ID, PatternName: target.Name, Target: target.Pattern,
		Ladder: ladder.Ladder{Order: n.Order, Steps: ladder.Build(n.Order, ladderTask(target.Pattern, sg.Song, sections, ins, c), c.Weigh(), 0)},
	})
}

// targetOn is the pattern that is named; without a name the one that the section,
// or the first section that has one, is written with.
func (t *Teach) targetOn(ctx context.Context, teacher store.TeacherID, sg store.Song, sections []song.SectionID, ref string) (pattern.Entry, error) {
	p, err := t.Pattern(ctx, teacher, ref)
	if ok, err := found(err); err != nil {
		return pattern.Entry{}, err
	} else if ok && p.Entry.Pattern.Meter == sg.Meter {
		return p.Entry, nil
	}
	if own, ok := writtenOn(sg.Part(sections)); ok && ref == "" {
		return own, nil
	}
	return pattern.Entry{}, refuse("choose a pattern in %s for this song", sg.Meter)
}

// ReuseLadder makes the same ladder for another song.
func (t *Teach) ReuseLadder(ctx context.Context, teacher store.TeacherID, l Ladder, id store.SongID) (store.LadderID, error) {
	sg, err := t.Store.Song(ctx, teacher, id)
	if err != nil {
		return 0, err
	}
	if sg.Meter != l.Target.Meter {
		return 0, refuse("this ladder is in %s, %s in %s", l.Target.Meter, sg.Title, sg.Meter)
	}
	steps, err := ladder.Reuse(l.Steps, ladderTask(l.Target, sg.Song, nil, l.Instrument, l.Class), l.Class.Weigh())
	if err != nil {
		return 0, refused(err)
	}
	return t.Store.AddLadder(ctx, teacher, store.Ladder{
		ClassID: l.ClassID, SongID: sg.ID, Instrument: l.Instrument.ID, PatternName: l.PatternName, Target: l.Target, Ladder: ladder.Ladder{Order: l.Order, Steps: steps},
	})
}

// LadderLine is a ladder in a list.
type LadderLine struct {
	store.LadderLine
	Part string
	Lane draw.SVG
}

// Ladders lists a class's ladders.
func (t *Teach) Ladders(ctx context.Context, teacher store.TeacherID, c Class) ([]LadderLine, error) {
	list, err := t.Store.Ladders(ctx, teacher, c.ID)
	if err != nil {
		return nil, err
	}
	var parts []store.SongID // of ladders that are for a part of their song
	for _, l := range list {
		if len(l.Sections) > 0 {
			parts = append(parts, l.SongID)
		}
	}
	songs, err := t.Store.SongsOf(ctx, teacher, parts)
	var lines []LadderLine
	for _, l := range list {
		notation := l.Target.String()
		lane := keep(t, "lane", Rows(notation), func() draw.SVG { return draw.Lane(l.Target, nil, notation) })
		lines = append(lines, LadderLine{l, partName(songs[l.SongID].Song, l.Sections), lane})
	}
	return lines, err
}

// SongsInMeter lists the other songs for which a ladder can be used again.
func (t *Teach) SongsInMeter(ctx context.Context, teacher store.TeacherID, l Ladder) (list []store.SongLine, err error) {
	songs, err := t.Store.Songs(ctx, teacher)
	for _, sg := range songs {
		if sg.ID != l.Song.ID && sg.Meter == l.Song.Meter.String() {
			list = append(list, sg)
		}
	}
	return list, err
}
