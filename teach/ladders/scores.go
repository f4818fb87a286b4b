package ladders

import (
	"fmt"
	"maps"
	"net/url"
	"slices"

	"arplin/core/difficulty"
	"arplin/core/drill"
	"arplin/core/fretboard"
	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/core/played"
	"arplin/core/song"
	"arplin/core/theory"
	"arplin/store"
	"arplin/teach/answer"
	"arplin/teach/people"
	"arplin/teach/songs"
)

// Score is an exercise of the drill, counted from 1.
func (d Drill) Score(number int, ask songs.ScoreAsk) (songs.Score, error) {
	if number < 1 || number > len(d.Exercises) {
		return songs.Score{}, store.ErrNotFound
	}
	e := d.Exercises[number-1].Exercise
	bars := slices.Clone(e.Bars)
	view := songs.NewView(d.Song.Song, d.Instrument, d.class)
	var over []string // what the bars are on, where that is no chord
	if len(bars) == 0 {
		bars, over, view.Shapes = d.barsOver(e)
	} else {
		view.Shapes = d.shapesOf(bars)
	}
	view.Song.Sections = []song.Section{{Name: e.Title, Bars: bars}}
	out := view.Score(view.LineOf(view.Song, songs.Always(ask.Feel.In(e.Pattern))), difficulty.OnStrings, e.Title, song.TemposFor(e.Tempo), ask)
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
func (l Ladder) StepScore(id ladder.StepID, ask songs.ScoreAsk) (songs.Score, error) {
	at := ladder.Find(l.Steps, id)
	if at < 0 {
		return songs.Score{}, store.ErrNotFound
	}
	step, written := l.Steps[at], l.Fingered()
	l, ins, own := l.heldBy(ask.Student)
	if i, err := fretboard.ByID(ask.Instrument); err == nil && !own {
		ins = i
	}
	v, line := l.stepLine(step, ins, written, songs.TuneFeel(step.Station, l.Song.Swing, ask.Feel))
	out := v.Score(line, step.Play, l.SongTitle, step.Tempos(l.Song.Tempo), ask)
	if step.Station != "" {
		out = asStages(out, PartOf(step), l.WrittenBars())
	}
	return out, nil
}

// Fingered is the ladder's part of the song as its own instrument fingers it: the stages of its
// steps are written so.
func (l Ladder) Fingered() song.Song { return l.Song.Part(l.Sections).Fingering(l.Instrument) }

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

// heldBy is the ladder as one of its class plays it: with the own instrument, capo and shapes.
func (l Ladder) heldBy(id store.StudentID) (Ladder, fretboard.Instrument, bool) {
	st, ok := l.Class.Student(id)
	if !ok {
		return l, l.Instrument, false
	}
	l.Song.Song, l.Class = people.Held(st, l.Song.Song), l.Class.For(st)
	return l, l.Class.Instrument(st.Instrument), true
}

// stepLine is a step of the ladder on its part of the song, and the view that it is seen in: where
// chords are sung that are not of its stage it rests.
func (l Ladder) stepLine(step ladder.Step, ins fretboard.Instrument, written song.Song, feel songs.Feel) (songs.View, played.Line) {
	part := l.Song.Part(l.Sections)
	v := songs.NewView(part, ins, l.Class)
	if step.Station != "" {
		return v, v.StationLine(part, stationOf(step), feel)
	}
	return v, v.LineOf(part, feel.On(figuresOf(step))).Resting(heldStage(step.Stage(l.Task), written, v.Song))
}

// StepLine is a step of a ladder on its part of the song.
func (l Ladder) StepLine(id ladder.StepID, instrument string) (played.Line, error) {
	at := ladder.Find(l.Steps, id)
	if at < 0 {
		return played.Line{}, store.ErrNotFound
	}
	step, ins := l.Steps[at], l.Instrument
	if step.BeforeStrings() {
		return played.Line{}, answer.Refuse("step %d is not on strings yet: there is nothing to write down", at+1)
	}
	if step.Station == "" && l.Target.Meter != l.Song.Meter { // it can be heard, but its bars do not add up on paper
		return played.Line{}, answer.Refuse("%s", l.Apart())
	}
	if i, err := fretboard.ByID(instrument); err == nil {
		ins = i
	}
	_, p := l.stepLine(step, ins, l.Fingered(), "")
	return p, nil
}
