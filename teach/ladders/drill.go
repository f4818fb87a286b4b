package ladders

import (
	"cmp"
	"context"
	"fmt"
	"strings"
	"time"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/drill"
	"arplin/core/fretboard"
	"arplin/core/pattern/catalogue"
	"arplin/core/say"
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

// The kinds of drill.
const (
	BarDrill    = "bar"    // the figure of a bar
	ChangeDrill = "change" // the change into a bar
)

// DrillAsk is what a drill is made of. What is not said is the hardest spot, the
// pattern of the song, the class's first instrument, and half of the student's day.
type DrillAsk struct {
	Pattern, Instrument, Kind string
	Bar                       int        // counted from 1; 0 for the hardest
	BarID                     song.BarID // instead of it
	Minutes                   int        // 0 for what fits the day
	Over                      string     // chords or degrees under the figure; empty for the easiest
	Student                   ref.Student
}

// Drill is exercises for a trouble spot.
type Drill struct {
	Song        store.Song
	Pattern     catalogue.Entry
	Patterns    []catalogue.Entry
	Own         string // the name of the pattern that the song is written with
	Instrument  fretboard.Instrument
	Instruments []fretboard.Instrument
	Students    []store.Student
	For         store.Student // zero for everybody
	Bar         int           // from 1
	BarID       song.BarID
	Bars        int
	Kind        string
	Minutes     int
	Over        string   // the progression under the figure, as it was asked for; then as it is
	Progression string   // the same as chords
	Overs       []string // what it could be besides: the song's chords, and practice progressions
	Typed       bool     // the minutes were asked for; else they are those of the day
	Clean       int      // the student's last clean tempo on the song, which the drill keeps below
	Hardest     difficulty.Place
	Exercises   []Exercise
	Problem     string
	Heard       []store.DrillTry // on the week's drill, the newest first
	OnWeek      *store.WeekDrill // shown as it stands on a student's week

	Failed  string // what failed in this bar, by the log
	Remedy  string
	written bool // no pattern was chosen: each bar has the figure of its part
	class   people.Class
	task    difficulty.Task
}

// Exercise is one stage with its pictures.
type Exercise struct {
	drill.Exercise
	Number  int
	Minutes string
	Strips  []ChordPicture // and shapes, where the right hand is silent
	Shapes  []ChordPicture // of every chord of the song's bars that are played
}

// ChordPicture is a strip or a shape with the chord that it shows, which is said
// where there are several; empty on open strings and a shape that moves.
type ChordPicture struct {
	Chord string
	SVG   draw.SVG
}

// LoadDrill makes exercises of a bar or a change of a song.
func (t *Room) LoadDrill(ctx context.Context, teacher ref.Teacher, c people.Class, id ref.Song, ask DrillAsk, now time.Time) (Drill, error) {
	s, _, err := t.Songs.Load(ctx, teacher, c, id, songs.Ask{Instrument: ask.Instrument, Pattern: ask.Pattern})
	if err != nil {
		return Drill{}, err
	}
	d := Drill{Song: s.Song, Patterns: s.Patterns, Pattern: s.Pattern, Kind: ask.Kind, Bar: ask.Bar, BarID: ask.BarID, Minutes: ask.Minutes, Over: ask.Over}
	if own, has := songs.WrittenOn(s.Song.Song); has {
		d.Own, d.written = own.Name, !s.Chosen
	} else if !s.Chosen && len(s.Patterns) > 0 {
		d.Pattern = s.Patterns[0]
	}
	d.For, _ = c.Student(ask.Student)
	failed, err := t.Store.FailedMost(ctx, teacher, c.ID, d.For.ID, id, Since(now))
	if err != nil {
		return Drill{}, err
	}
	d.takeFailed(failed)
	return t.makeDrill(ctx, teacher, c, d, c.Instrument(ask.Instrument), now)
}

// WeekDrill shows a drill as it stands on a student's week, for the student's own
// class.
func (t *Room) WeekDrill(ctx context.Context, teacher ref.Teacher, at people.Class, id ref.Drill, now time.Time) (Drill, error) {
	w, err := t.Store.Drill(ctx, teacher, id)
	if err != nil {
		return Drill{}, err
	}
	sg, err := t.Store.Song(ctx, teacher, w.SongID)
	if err != nil {
		return Drill{}, err
	}
	st, err := t.Store.Student(ctx, teacher, w.StudentID)
	if err != nil {
		return Drill{}, err
	}
	c, err := t.People.ClassOf(ctx, teacher, st.ClassID, at)
	if err != nil {
		return Drill{}, err
	}
	heard, err := t.Store.DrillTries(ctx, teacher, id)
	if err != nil {
		return Drill{}, err
	}
	d := Drill{
		Heard: heard,
		Song:  sg, Kind: w.Kind, BarID: w.Bar, Minutes: w.Minutes, Over: w.Over, OnWeek: &w, For: st,
		Pattern: catalogue.Entry{Name: w.PatternName, Notation: w.Pattern.String(), Pattern: w.Pattern},
	}
	return t.makeDrill(ctx, teacher, c, d, c.Instruments()[0], now)
}

// usualDrill is how long a drill for everybody takes, in minutes.
const usualDrill = 10

func (t *Room) makeDrill(ctx context.Context, teacher ref.Teacher, c people.Class, d Drill, ins fretboard.Instrument, now time.Time) (Drill, error) {
	sg := d.Song
	d.Bars, d.Instruments, d.Students, d.Instrument = len(sg.Bars()), c.Instruments(), c.Students, ins
	if d.For.ID != 0 {
		d.Instrument, c = c.Instrument(d.For.Instrument), c.For(d.For)
		cleans, err := t.Store.LastCleans(ctx, teacher, d.For.ClassID, d.For.ID, Since(now))
		if err != nil {
			return d, err
		}
		d.Clean = cleans[store.OnSong{Student: d.For.ID, Song: sg.ID}]
	}
	if d.Pattern.Name == "" {
		d.Problem = fmt.Sprintf("There’s no pattern in %s yet. Build one on the Bench.", sg.Meter)
		return d, nil
	}
	if d.Typed = d.Minutes != 0; !d.Typed {
		d.Minutes = drill.MinutesOf(cmp.Or(d.For.DayMinutes, 2*usualDrill))
	}
	d.Minutes = min(60, max(3, d.Minutes))
	c = c.On(sg.Song)
	played := people.Held(d.For, sg.Song)
	task := difficulty.NewTask(d.Pattern.Pattern, played, d.Instrument, c.School(), sg.Tempo)
	if d.OnWeek == nil {
		whole := task
		if _, others, own := difficulty.FiguresOf(played); own && d.written {
			whole = task.Split(played, others)
		}
		d.Hardest = difficulty.Of(whole, c.Weigh()).Hardest
	}
	d.takeBar()
	if d.Bar == 0 {
		d.Problem = "This drill’s bar isn’t in the song any more."
		return d, nil
	}
	if own, has := d.writtenAt(); d.written && has {
		d.Pattern = own
		task.Pattern = own.Pattern
	}
	task.Shapes = played.ShapesOn(d.Instrument) // the hand is told which fingers stay
	d.class, d.task = c, task
	day := drill.Day{Minutes: float64(d.Minutes), Clean: d.Clean}
	over, err := d.takeOver(played.Fingering(d.Instrument))
	if err != nil {
		d.Problem = answer.Sentence(err.Error())
	}
	day.Over = over
	exercises, err := exercisesOf(task, d.Kind, d.Bar, day)
	if err != nil {
		d.Problem = answer.Sentence(err.Error())
	}
	for _, e := range exercises {
		if e.ID == "easy-progression" || e.ID == "chosen-progression" {
			d.Progression = e.Over
		}
	}
	for i, e := range exercises {
		d.Exercises = append(d.Exercises, Exercise{Exercise: e, Number: i + 1, Minutes: patterns.Tenth(e.Minutes), Strips: d.pictures(e, c, task), Shapes: d.shapes(e, c, task)})
	}
	return d, nil
}

// writtenAt is the figure with which the part of the drill's bar is written.
func (d Drill) writtenAt() (catalogue.Entry, bool) {
	i, _ := d.Song.BarAt(d.BarID)
	if i < 0 {
		return catalogue.Entry{}, false
	}
	part := d.Song.Song
	part.Sections = part.Sections[i : i+1]
	return songs.WrittenOn(part)
}

// takeFailed begins where the log says that it fails most, unless a bar was chosen,
// and says what failed there.
func (d *Drill) takeFailed(failed []store.Failed) {
	chosen := d.Kind != "" || d.Bar != 0 || d.BarID != 0
	for _, f := range failed {
		n := d.Song.NumberOf(f.Bar)
		if n == 0 || chosen && n != d.Bar && f.Bar != d.BarID {
			continue // the bar is gone, or another
		}
		if !chosen {
			d.BarID = f.Bar
			d.Kind = drillOf(f.Fault, n, len(d.Song.Chords()))
		}
		d.Failed = fmt.Sprintf("Bar %d failed %s in the log", n, say.Count(f.Times, "time", "times"))
		if fault, ok := f.Fault.Line(); ok {
			d.Failed, d.Remedy = d.Failed+": "+fault.Name, fault.RemedyFor(PlayingOf(d.Pattern.Pattern, len(d.Song.Chords())))
		}
		d.Failed += "."
		return
	}
}

// takeBar fills in what was not chosen: the hardest bar, and there the change or
// the figure, whichever is hard; a bar that is known by its id has a number.
func (d *Drill) takeBar() {
	if d.OnWeek != nil || d.BarID != 0 {
		d.Kind, d.Bar = cmp.Or(d.Kind, BarDrill), d.Song.NumberOf(d.BarID)
		return
	}
	if d.Kind == "" && d.Bar == 0 && d.Hardest.Change {
		d.Kind = ChangeDrill
	}
	d.Kind = cmp.Or(d.Kind, BarDrill)
	d.Bar = cmp.Or(d.Bar, d.Hardest.Bar+1)
	if bars := d.Song.Bars(); d.Bar >= 1 && d.Bar <= len(bars) {
		d.BarID = bars[d.Bar-1].ID
	}
}

// takeOver reads the progression that was asked for, and lists what it could be: the chords of the
// song in their order, and the practice progressions of its key.
func (d *Drill) takeOver(fingered song.Song) (over drill.Over, err error) {
	key := fingered.KeyGuess().Key
	var own []string
	for _, c := range fingered.ChordSteps() {
		if len(own) < offeredChords {
			own = append(own, c.String())
		}
	}
	d.Overs = append([]string{strings.Join(own, " ")}, drill.Progressions(key)...)
	if strings.TrimSpace(d.Over) == "" {
		return drill.Over{}, nil
	}
	return drill.ParseOver(d.Over, key)
}

// offeredChords is how many chords of a song are offered as a progression, from its beginning.
const offeredChords = 8

func exercisesOf(task difficulty.Task, kind string, bar int, day drill.Day) ([]drill.Exercise, error) {
	if kind == ChangeDrill {
		return drill.ChangeTo(task, bar-1, day)
	}
	return drill.Bar(task, bar-1, day)
}

// shownChords is how many chords of a change drill are drawn.
const shownChords = 2

// pictures draws an exercise: a figure on its first chord, a change on both of its
// chords, and the shapes alone where the right hand is silent.
func (d Drill) pictures(e drill.Exercise, c people.Class, task difficulty.Task) (list []ChordPicture) {
	strip := func(name string, ch theory.Chord, sh fretboard.Shape) {
		events := bind.Pattern(d.Instrument, c.School(), e.Pattern, ch, sh).Events
		if len(e.Bars) == 1 { // the bar as it is, with its changes
			events = bind.Section(d.Instrument, c.School(), e.Pattern, song.Section{Bars: e.Bars}, task.Shapes)[0].Events
		}
		st := draw.OfBars(d.Instrument, e.Pattern, events)
		st.SlotWidth, st.ThickOnTop, st.Label = 30, c.ThickOnTop, e.Title+": "+e.Pattern.String()
		list = append(list, ChordPicture{name, st.SVG()})
	}
	shown := 1
	if d.Kind == ChangeDrill {
		shown = shownChords
	}
	for _, bar := range e.Bars {
		for _, change := range bar.Changes {
			ch, v, ok := d.held(bar, change, task)
			switch {
			case !ok || len(list) == shown:
			case e.Pattern.Count() == 0:
				shape := draw.Shape{Instrument: d.Instrument, Chord: ch, Voicing: d.needed(ch, v), LeftHanded: d.For.LeftHanded, ThickOnTop: c.ThickOnTop}
				list = append(list, ChordPicture{ch.String(), shape.SVG()})
			default:
				strip(ch.String(), ch, v.Shape)
			}
		}
	}
	if len(list) == 0 {
		strip("", theory.MustChord(patterns.BenchChord), drill.ShapeOver(d.Instrument, e.Over))
	}
	return list
}

// shapes are the chords of an exercise that is on bars, each once; none where the
// strips show them.
func (d Drill) shapes(e drill.Exercise, c people.Class, task difficulty.Task) (list []ChordPicture) {
	if e.Pattern.Count() == 0 {
		return nil
	}
	seen := map[string]bool{}
	for _, bar := range e.Bars {
		for _, change := range bar.Changes {
			ch, v, ok := d.held(bar, change, task)
			if key := ch.String() + v.String(); ok && !seen[key] {
				seen[key] = true
				list = append(list, ChordPicture{ch.String(), draw.Shape{Instrument: d.Instrument, Chord: ch, Voicing: d.needed(ch, v), LeftHanded: d.For.LeftHanded, ThickOnTop: c.ThickOnTop}.SVG()})
			}
		}
	}
	return list
}

// held is what a chord of an exercise is held with: as in the song, or the easiest for one of the
// practice progression.
func (d Drill) held(bar song.Bar, change song.Change, task difficulty.Task) (theory.Chord, fretboard.Voicing, bool) {
	ch, err := change.Chord()
	if err != nil {
		return ch, fretboard.Voicing{}, false
	}
	v, ok := bar.In(d.Instrument, task.Shapes)[ch]
	if !ok {
		v, ok = fretboard.Easiest(d.Instrument, ch)
	}
	return ch, v, ok
}

// needed is a shape with the fingers that the figure needs, where the class wants no others.
func (d Drill) needed(ch theory.Chord, v fretboard.Voicing) fretboard.Voicing {
	if !d.class.Lean {
		return v
	}
	return bind.Needed(d.Instrument, d.class.School(), ch, v, d.task.Pattern)
}
