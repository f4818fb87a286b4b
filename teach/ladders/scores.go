package ladders

import (
	"fmt"
	"net/url"
	"slices"

	"arplin/core/bind"
	"arplin/core/bpm"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/core/played"
	"arplin/core/song"
	"arplin/core/theory"
	"arplin/store"
	"arplin/store/ref"
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
	v := songs.NewView(d.Song.Song, d.Instrument, d.class)
	v.Shapes = d.task.Shapes
	on, over := e.On(v.On(v.Song))
	v.Song, v.Shapes = on.Fingered, on.Shapes
	out := v.Score(on.Line(bind.Always(ask.Feel.In(e.Pattern))), difficulty.OnStrings, e.Title, bpm.Of(e.Tempo), ask)
	out.Start = e.Tempo
	for i, shape := range over {
		out.Bars[i].Chords, out.Bars[i].Changes = shape, nil
	}
	return out, nil
}

// StepScoreAt is the address of a step's score as a student plays it; for nobody, on the
// ladder's own instrument.
func StepScoreAt(id ref.Ladder, step ladder.StepID, student ref.Student) string {
	return fmt.Sprintf("/ladders/%d/step/%d/score?student=%d", id, step, student)
}

// scoreOn is the address of a step's score on an instrument.
func scoreOn(id ref.Ladder, step ladder.StepID, instrument string) string {
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
	part := l.Song.Part(l.Sections)
	v, way := songs.NewView(part, ins, l.Class), l.way(at)
	line := v.Heard(part, way.plays(), ask.Feel).Resting(heldStage(step.Stage(l.Task), written, v.Song))
	return way.inRoom(v.Score(line, step.Play, l.SongTitle, step.Tempos(l.Song.Tempo), ask)), nil
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

// Needed is a chord's shape with only the fingers that a step and the whole pattern need, where the
// class wants it so: the left hand has the same to do on each step.
func (l Ladder) Needed(v songs.View, at int, ch theory.Chord, whole fretboard.Voicing) (fretboard.Voicing, bool) {
	figures := v.FiguresOn(ch, figuresOf(l.Steps[at]))
	figures = append(figures, v.FiguresOn(ch, figuresOf(l.Steps[len(l.Steps)-1]))...)
	return v.Needed(ch, whole, figures...)
}

// heldBy is the ladder as one of its class plays it: with the own instrument, capo and shapes.
func (l Ladder) heldBy(id ref.Student) (Ladder, fretboard.Instrument, bool) {
	st, ok := l.Class.Student(id)
	if !ok {
		return l, l.Instrument, false
	}
	l.Song.Song, l.Class = people.Held(st, l.Song.Song), l.Class.For(st)
	return l, l.Class.Instrument(st.Instrument), true
}

// StepLine is a step of a ladder on its part of the song: where chords are sung that are not of its
// stage it rests.
func (l Ladder) StepLine(id ladder.StepID, instrument string) (played.Line, error) {
	at := ladder.Find(l.Steps, id)
	if at < 0 {
		return played.Line{}, store.ErrNotFound
	}
	step, way, ins := l.Steps[at], l.way(at), l.Instrument
	if step.BeforeStrings() {
		return played.Line{}, answer.Refuse("step %d is not on strings yet: there is nothing to write down", at+1)
	}
	if says := way.apart(); says != "" { // it can be heard, but its bars do not add up on paper
		return played.Line{}, answer.Refuse("%s", says)
	}
	if i, err := fretboard.ByID(instrument); err == nil {
		ins = i
	}
	part := l.Song.Part(l.Sections)
	v := songs.NewView(part, ins, l.Class)
	return v.Line(part, way.plays()).Resting(heldStage(step.Stage(l.Task), l.Fingered(), v.Song)), nil
}
