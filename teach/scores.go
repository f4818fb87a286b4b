package teach

import (
	"cmp"
	"context"
	"fmt"
	"maps"
	"net/url"
	"slices"
	"strings"

	"arplin/core/difficulty"
	"arplin/core/drill"
	"arplin/core/fretboard"
	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/theory"
	"arplin/store"
)

// PatternScore is a pattern of the catalogue or the teacher's own over the chords of its
// page.
func (t *Teach) PatternScore(ctx context.Context, teacher store.TeacherID, c Class, ref string, ask ScoreAsk) (Score, error) {
	p, err := t.Pattern(ctx, teacher, ref)
	if err != nil {
		return Score{}, err
	}
	return figureScore(p.Name, p.Entry.Pattern, tempoOf(p.Entry), c, ask)
}

// tempoOf is the middle of the tempos at which a pattern is played, or the usual one.
func tempoOf(e pattern.Entry) int {
	if e.Tempo[1] > 0 {
		return (e.Tempo[0] + e.Tempo[1]) / 2
	}
	return usualTempo
}

// usualTempo is the goal of a figure that is on no song, in beats a minute.
const usualTempo = 80

// NotationScore is a figure that stands nowhere yet.
func (t *Teach) NotationScore(c Class, notation string, ask ScoreAsk) (Score, error) {
	p, err := pattern.Parse(notation)
	if err != nil {
		return Score{}, refused(err)
	}
	if ask.Over == "" {
		return figureScore("A figure", p, usualTempo, c, ask)
	}
	bars, err := song.ParseChords(ask.Over, p.Meter)
	if err == nil && len(bars) > song.MaxBars {
		err = fmt.Errorf("chords: %d bars are the most", song.MaxBars)
	}
	if err != nil {
		return Score{}, refused(err)
	}
	return FigureOn("A figure", p, bars, usualTempo, c.Instrument(ask.Instrument), c, ask), nil
}

// figureScore plays a figure on the chords of the bench and the first of them again,
// once each.
func figureScore(title string, p pattern.Pattern, goal int, c Class, ask ScoreAsk) (Score, error) {
	bars, err := benchBars(p)
	if err != nil {
		return Score{}, refused(err)
	}
	return FigureOn(title, p, bars, goal, c.Instrument(ask.Instrument), c, ask), nil
}

// benchBars are the chords of the bench and the first of them again, once each for a figure.
func benchBars(p pattern.Pattern) ([]song.Bar, error) {
	var chords []string
	for _, chord := range append(slices.Clone(benchChords), benchChords[0]) {
		for range p.Bars {
			chords = append(chords, chord)
		}
	}
	return song.ParseChords(strings.Join(chords, " | "), p.Meter)
}

// FigureOn plays a figure on bars of chords, with the easiest shapes of an instrument.
func FigureOn(title string, p pattern.Pattern, bars []song.Bar, goal int, ins fretboard.Instrument, c Class, ask ScoreAsk) Score {
	sg := song.Song{Title: title, Meter: p.Meter, Tempo: goal, Sections: []song.Section{{Bars: bars}}}
	v := newSongView(sg, ins, c)
	return v.score(v.lineOf(sg, always(ask.Feel.in(p))), difficulty.OnStrings, title, song.TemposFor(goal), ask)
}

// Score is an exercise of the drill, counted from 1.
func (d Drill) Score(number int, ask ScoreAsk) (Score, error) {
	if number < 1 || number > len(d.Exercises) {
		return Score{}, store.ErrNotFound
	}
	e := d.Exercises[number-1].Exercise
	bars := slices.Clone(e.Bars)
	view := newSongView(d.Song.Song, d.Instrument, d.class)
	var over []string // what the bars are on, where that is no chord
	if len(bars) == 0 {
		bars, over, view.shapes = d.barsOver(e)
	} else {
		view.shapes = d.shapesOf(bars)
	}
	view.song.Sections = []song.Section{{Name: e.Title, Bars: bars}}
	out := view.score(view.lineOf(view.song, always(ask.Feel.in(e.Pattern))), difficulty.OnStrings, e.Title, song.TemposFor(e.Tempo), ask)
	out.Start = e.Tempo
	for i, shape := range over {
		out.Bars[i].Chords, out.Bars[i].Changes = shape, nil
	}
	return out, nil
}

// barsOver are the bars of an exercise that is on no chord: the figure once on open strings,
// or on a shape that moves up a fret each time. Each shape stands under a chord of its own.
func (d Drill) barsOver(e drill.Exercise) (bars []song.Bar, over []string, shapes map[theory.Chord]fretboard.Voicing) {
	shapes = map[theory.Chord]fretboard.Voicing{}
	sh, times := shapeOver(d.Instrument, e.Over), 1
	if low, _ := sh.Span(); low > 0 {
		times = 4
	}
	for _, symbol := range []string{"C", "C#", "D", "D#"}[:times] {
		shapes[theory.MustChord(symbol)] = fretboard.Voicing{Shape: sh}
		for range e.Pattern.Bars {
			bars = append(bars, song.Bar{Changes: []song.Change{{Symbol: symbol, Ticks: e.Pattern.Meter.BarTicks()}}})
			over = append(over, sh.String())
		}
		for s := fretboard.String(1); int(s) <= sh.Strings(); s++ {
			if f := sh.At(s); f > 0 {
				sh = sh.With(s, f+1)
			}
		}
	}
	return bars, over, shapes
}

// shapesOf are the shapes of the drill's song, and the easiest of chords that are not in it.
func (d Drill) shapesOf(bars []song.Bar) map[theory.Chord]fretboard.Voicing {
	shapes := maps.Clone(d.task.Shapes)
	for _, bar := range bars {
		for _, change := range bar.Changes {
			ch, err := change.Chord()
			if _, ok := shapes[ch]; ok || err != nil {
				continue
			}
			if v, ok := fretboard.Easiest(d.Instrument, ch); ok {
				shapes[ch] = v
			}
		}
	}
	return shapes
}

// SongScore is a song with a pattern on all of it, or with each section's own.
func (t *Teach) SongScore(ctx context.Context, teacher store.TeacherID, c Class, id store.SongID, ref string, ask ScoreAsk) (Score, error) {
	sg, err := t.Store.Song(ctx, teacher, id)
	if err != nil {
		return Score{}, err
	}
	figure := ownFigures(sg.Meter)
	if ref != "" {
		p, err := t.Pattern(ctx, teacher, ref)
		if err != nil {
			return Score{}, err
		}
		if p.Entry.Pattern.Meter != sg.Meter {
			return Score{}, refuse("this pattern is in %s, the song in %s", p.Entry.Pattern.Meter, sg.Meter)
		}
		figure = always(p.Entry.Pattern)
	}
	if sg.Swing {
		ask.Feel = cmp.Or(ask.Feel, Swung)
	}
	ins := c.Instrument(ask.Instrument)
	v := newSongView(sg.Song, ins, c)
	return v.score(v.lineOf(sg.Song, ask.Feel.on(figure)), difficulty.OnStrings, sg.Title, song.TemposFor(sg.Tempo), ask), nil
}

// StepScoreAt is the address of a step's score as a student plays it; for nobody, on the
// ladder's own instrument.
func StepScoreAt(id store.LadderID, step ladder.StepID, student store.StudentID) string {
	return fmt.Sprintf("/ladders/%d/step/%d/score?student=%d", id, step, student)
}

// scoreOn is the address of a step's score on an instrument.
func scoreOn(id store.LadderID, step ladder.StepID, instrument string) string {
	return fmt.Sprintf("/ladders/%d/step/%d/score?instrument=%s", id, step, url.QueryEscape(instrument))
}

// StepScore is a step of a ladder on its song: the chords of its stage sound, where others
// are sung it rests.
func (l Ladder) StepScore(id ladder.StepID, ask ScoreAsk) (Score, error) {
	at := ladder.Find(l.Steps, id)
	if at < 0 {
		return Score{}, store.ErrNotFound
	}
	step, written := l.Steps[at], l.fingered()
	l, ins, own := l.heldBy(ask.Student)
	if i, err := fretboard.ByID(ask.Instrument); err == nil && !own {
		ins = i
	}
	v, line := l.stepLine(step, ins, written, tuneFeel(step.Station, l.Song.Swing, ask.Feel))
	out := v.score(line, step.Play, l.SongTitle, step.Tempos(l.Song.Tempo), ask)
	if step.Station != "" {
		out = asStages(out, partOf(step), l.writtenBars())
	}
	return out, nil
}

// fingered is the ladder's part of the song as its own instrument fingers it: the stages of its
// steps are written so.
func (l Ladder) fingered() song.Song { return l.Song.Part(l.Sections).Fingering(l.Instrument) }

// heldStage is the chords of a stage as somebody else fingers the same song, with a capo or on
// another instrument; nil where there is no stage.
func heldStage(stage []string, written, mine song.Song) (held []string) {
	if stage == nil {
		return nil
	}
	held = []string{}
	for i, sec := range written.Sections {
		for j, bar := range sec.Bars {
			for k, ch := range bar.Changes {
				if other := mine.Sections[i].Bars[j].Changes[k].Symbol; slices.Contains(stage, ch.Symbol) && !slices.Contains(held, other) {
					held = append(held, other)
				}
			}
		}
	}
	return held
}

// figuresOf is what a step plays in each part of the song.
func figuresOf(step ladder.Step) func(song.Section) (pattern.Pattern, bool) {
	return func(sec song.Section) (pattern.Pattern, bool) {
		for _, f := range step.Parts {
			if slices.Contains(f.Sections, sec.ID) {
				return f.Pattern, true
			}
		}
		return step.Pattern, true
	}
}

// FirstHeard is the address of the first score that the lesson has, "" for none.
func (l Lesson) FirstHeard() string {
	for _, p := range l.Pieces {
		if p.Hear != "" {
			return p.Hear
		}
		if len(p.Groups) > 0 {
			return p.Groups[0].Hear
		}
	}
	return ""
}

// FirstHeard is the address of the first score of the week, "" for none.
func (w StudentWeek) FirstHeard() string {
	for _, d := range w.Days {
		for _, task := range d.Tasks {
			if task.Hear != "" {
				return task.Hear
			}
		}
	}
	return ""
}

// heldBy is the ladder as one of its class plays it: with the own instrument, capo and shapes.
func (l Ladder) heldBy(id store.StudentID) (Ladder, fretboard.Instrument, bool) {
	st, ok := l.Class.Student(id)
	if !ok {
		return l, l.Instrument, false
	}
	l.Song.Song, l.Class = Held(st, l.Song.Song), l.Class.For(st)
	return l, l.Class.Instrument(st.Instrument), true
}
