package songs

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"

	"arplin/core/bind"
	"arplin/core/bpm"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
	"arplin/core/song"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/patterns"
	"arplin/teach/people"
)

// PatternScore is a pattern of the catalogue or the teacher's own over the chords of its
// page.
func (t *Room) PatternScore(ctx context.Context, teacher ref.Teacher, c people.Class, ref string, ask ScoreAsk) (Score, error) {
	p, err := t.Patterns.Pattern(ctx, teacher, ref)
	if err != nil {
		return Score{}, err
	}
	return figureScore(p.Name, p.Entry.Pattern, tempoOf(p.Entry), c, ask)
}

// tempoOf is the middle of the tempos at which a pattern is played, or the usual one.
func tempoOf(e catalogue.Entry) int {
	if e.Tempo[1] > 0 {
		return (e.Tempo[0] + e.Tempo[1]) / 2
	}
	return UsualTempo
}

// UsualTempo is the goal of a figure that is on no song, in beats a minute.
const UsualTempo = 80

// NotationScore is a figure that stands nowhere yet.
func (t *Room) NotationScore(c people.Class, notation string, ask ScoreAsk) (Score, error) {
	p, err := pattern.Parse(notation)
	if err != nil {
		return Score{}, answer.Refused(err)
	}
	if ask.Over == "" {
		return figureScore("A figure", p, UsualTempo, c, ask)
	}
	bars, err := song.ParseChords(ask.Over, p.Meter)
	if err == nil && len(bars) > song.MaxBars {
		err = fmt.Errorf("chords: %d bars are the most", song.MaxBars)
	}
	if err != nil {
		return Score{}, answer.Refused(err)
	}
	return FigureOn("A figure", p, bars, UsualTempo, c.Instrument(ask.Instrument), c, ask), nil
}

// figureScore plays a figure on the chords of the bench and the first of them again,
// once each.
func figureScore(title string, p pattern.Pattern, goal int, c people.Class, ask ScoreAsk) (Score, error) {
	bars, err := benchBars(p)
	if err != nil {
		return Score{}, answer.Refused(err)
	}
	return FigureOn(title, p, bars, goal, c.Instrument(ask.Instrument), c, ask), nil
}

// benchBars are the chords of the bench and the first of them again, once each for a figure.
func benchBars(p pattern.Pattern) ([]song.Bar, error) {
	var chords []string
	for _, chord := range append(slices.Clone(patterns.BenchChords), patterns.BenchChords[0]) {
		for range p.Bars {
			chords = append(chords, chord)
		}
	}
	return song.ParseChords(strings.Join(chords, " | "), p.Meter)
}

// FigureOn plays a figure on bars of chords, with the easiest shapes of an instrument.
func FigureOn(title string, p pattern.Pattern, bars []song.Bar, goal int, ins fretboard.Instrument, c people.Class, ask ScoreAsk) Score {
	sg := song.Song{Title: title, Meter: p.Meter, Tempo: goal, Sections: []song.Section{{Bars: bars}}}
	v := NewView(sg, ins, c)
	return v.Score(v.Heard(sg, Figures(bind.Always(p)), ask.Feel), difficulty.OnStrings, title, bpm.Of(goal), ask)
}

// Score is a song with a pattern on all of it, or with each section's own.
func (t *Room) Score(ctx context.Context, teacher ref.Teacher, c people.Class, id ref.Song, ref string, ask ScoreAsk) (Score, error) {
	sg, err := t.Store.Song(ctx, teacher, id)
	if err != nil {
		return Score{}, err
	}
	p, err := t.plays(ctx, teacher, sg, ref)
	if err != nil {
		return Score{}, err
	}
	if sg.Swing {
		ask.Feel = cmp.Or(ask.Feel, Swung)
	}
	ins := c.Instrument(ask.Instrument)
	v := NewView(sg.Song, ins, c)
	return v.Score(v.Heard(sg.Song, p, ask.Feel), difficulty.OnStrings, sg.Title, bpm.Of(sg.Tempo), ask), nil
}
