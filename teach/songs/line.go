package songs

import (
	"context"
	"fmt"
	"slices"

	"arplin/core/arrange"
	"arplin/core/bind"
	"arplin/core/bpm"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/ladder/station"
	"arplin/core/pattern"
	"arplin/core/played"
	"arplin/core/say"
	"arplin/core/song"
	"arplin/draw"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/people"
)

// Plays is what is played of a song: the figures of its parts, or a station of its tune. All that
// draws, sounds or writes it takes the line that comes of it.
type Plays struct {
	line  func(v View, sg song.Song, feel Feel) played.Line
	heard func(swing bool, asked Feel) Feel // the feel in which it is heard
}

// Figures plays a figure on each part that has one. It says itself how it is played, where no feel
// is asked for.
func Figures(f bind.Figure) Plays {
	return Plays{
		func(v View, sg song.Song, feel Feel) played.Line { return v.On(sg).Line(f.Each(feel.In)) },
		func(_ bool, asked Feel) Feel { return asked },
	}
}

// AsWritten plays what the parts of a song are written with.
func AsWritten(m pattern.Meter) Plays { return Figures(bind.Own(m).In(m)) }

// Tune plays a station of the tune, as the song is sung, where no feel is asked for.
func Tune(id station.ID) Plays {
	return Plays{
		func(v View, sg song.Song, feel Feel) played.Line {
			k := TuneTask(v)
			return k.Station(id).Line(k, v.On(sg), feel.In)
		},
		func(swing bool, asked Feel) Feel {
			if asked != "" || !swing {
				return asked
			}
			return Swung
		},
	}
}

// On is a song in this view, to be played.
func (v View) On(sg song.Song) bind.On {
	return bind.On{Song: sg, Fingered: v.Song, Instrument: v.Ins, School: v.School, Shapes: v.Shapes}
}

// Line is a song with what is played on it, as it is written down.
func (v View) Line(sg song.Song, p Plays) played.Line { return p.line(v, sg, "") }

// Heard is the same as it is heard.
func (v View) Heard(sg song.Song, p Plays, asked Feel) played.Line {
	return p.line(v, sg, p.heard(v.Song.Swing, asked))
}

// LineOf is a song with what is played on it, on an instrument of a class.
func LineOf(sg song.Song, ins fretboard.Instrument, c people.Class, p Plays) played.Line {
	return NewView(sg, ins, c).Line(sg, p)
}

// ScoreOf is the same as it is heard.
func ScoreOf(sg song.Song, ins fretboard.Instrument, c people.Class, p Plays) Score {
	v := NewView(sg, ins, c)
	return v.Score(v.Heard(sg, p, ""), difficulty.OnStrings, sg.Title, bpm.Of(sg.Tempo), ScoreAsk{})
}

// Line is one of the teacher's songs with what its parts are written with, a pattern on all of
// it, or a station of its tune.
func (t *Room) Line(ctx context.Context, teacher ref.Teacher, c people.Class, id ref.Song, instrument, ref string, station station.ID) (played.Line, error) {
	sg, err := t.Store.Song(ctx, teacher, id)
	if err != nil {
		return played.Line{}, err
	}
	if station != "" {
		return LineOf(sg.Song, c.Instrument(instrument), c, Tune(station)), nil
	}
	p, err := t.plays(ctx, teacher, sg, ref)
	if err != nil {
		return played.Line{}, err
	}
	return LineOf(sg.Song, c.Instrument(instrument), c, p), nil
}

// plays is a pattern on all of a song, or what it is written with where none is named.
func (t *Room) plays(ctx context.Context, teacher ref.Teacher, sg store.Song, ref string) (Plays, error) {
	if ref == "" {
		return AsWritten(sg.Meter), nil
	}
	p, err := t.Patterns.Pattern(ctx, teacher, ref)
	if err != nil {
		return Plays{}, err
	}
	if p.Entry.Pattern.Meter != sg.Meter {
		return Plays{}, answer.Refuse("this pattern is in %s, the song in %s", p.Entry.Pattern.Meter, sg.Meter)
	}
	return Figures(bind.Always(p.Entry.Pattern)), nil
}

// Widths of a slot in the strip of one bar.
const narrowSlot, wideSlot = 29.0, 38.0

func slotWidth(grid int) float64 {
	if grid <= 6 {
		return wideSlot
	}
	return narrowSlot
}

// barStrip draws one bar of what is played, whichever of its figure it is.
func barStrip(ins fretboard.Instrument, one pattern.Pattern, events []played.Event, tune []draw.TuneNote, slot float64, thickOnTop bool, label string) draw.SVG {
	events = slices.Clone(events)
	for i := range events {
		events[i].Bar = 0
	}
	st := draw.OfBars(ins, one, events)
	st.SlotWidth, st.ThickOnTop, st.Label, st.Tune = slot, thickOnTop, label, tune
	return st.SVG()
}

// StationBar draws a bar of a station, counted from 1.
func StationBar(v View, bar song.Bar, number, grid int, p arrange.PlayedBar, name string) draw.SVG {
	one := pattern.Pattern{Meter: v.Song.Meter, Bars: []pattern.Bar{make(pattern.Bar, grid)}}.In(v.Song.MeterOf(bar))
	return barStrip(v.Ins, one, p.Events, tuneOver(bar, p.Events, v.Song.MeterOf(bar), grid), slotWidth(grid), v.ThickOnTop, fmt.Sprintf("bar %d: %s", number, name))
}

// tuneOver is the tune of a bar as it is drawn over its strings: the notes that are played of it, as long
// as they are written.
func tuneOver(bar song.Bar, events []played.Event, meter pattern.Meter, grid int) (list []draw.TuneNote) {
	slot := float64(meter.BarTicks()) / float64(grid)
	for _, e := range events {
		if !e.Melody || len(e.Pitches) == 0 {
			continue
		}
		long := slot
		if at := slices.IndexFunc(bar.Melody, func(n song.MelodyNote) bool { return n.Tick == e.Tick }); at >= 0 {
			long = float64(bar.Melody[at].Ticks)
		}
		pitch := e.Pitches[len(e.Pitches)-1]
		list = append(list, draw.TuneNote{From: float64(e.Tick) / slot, Long: long / slot, MIDI: pitch.MIDI(), Name: pitch.Note.String(), Word: e.Word})
	}
	return list
}

// PatternLine is a pattern of the catalogue or the teacher's own over the chords of its page.
func (t *Room) PatternLine(ctx context.Context, teacher ref.Teacher, c people.Class, ref, instrument string) (played.Line, error) {
	p, err := t.Patterns.Pattern(ctx, teacher, ref)
	if err != nil {
		return played.Line{}, err
	}
	bars, err := benchBars(p.Entry.Pattern)
	if err != nil {
		return played.Line{}, err
	}
	sg := song.Song{Title: p.Name, Meter: p.Entry.Pattern.Meter, Tempo: tempoOf(p.Entry), Swing: p.Entry.Pattern.Swing, Sections: []song.Section{{Name: p.Name, Bars: bars}}}
	return LineOf(sg.Numbered(), c.Instrument(instrument), c, Figures(bind.Always(p.Entry.Pattern))), nil
}

// BarStrip draws a bar of a piece, counted from 1, as a picture.
func BarStrip(p played.Line, number int) (draw.SVG, error) {
	bars := p.Fingered.Bars()
	if number < 1 || number > len(bars) {
		return "", answer.Refuse("bar %d: it has %s", number, say.Count(len(bars), "bar", "bars"))
	}
	bar, on := bars[number-1], p.Bars[number-1]
	if on.Grid == 0 {
		return "", answer.Refuse("nothing is played in bar %d. Choose a pattern for the song first", number)
	}
	one := pattern.Pattern{Meter: p.Fingered.MeterOf(bar), Bars: []pattern.Bar{make(pattern.Bar, on.Grid)}}
	return barStrip(p.Instrument, one, on.Events, tuneOver(bar, on.Events, one.Meter, on.Grid), narrowSlot, false, fmt.Sprintf("%s, bar %d", p.Song.Title, number)), nil
}
