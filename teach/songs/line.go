package songs

import (
	"context"
	"fmt"
	"slices"

	"arplin/core/arrange"
	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/core/played"
	"arplin/core/say"
	"arplin/core/song"
	"arplin/draw"
	"arplin/store"
	"arplin/teach/answer"
	"arplin/teach/people"
)

// What is played is a line, whatever it comes from: the figures of a song's parts, a station of its
// tune, a step, an exercise. What is heard of it is in score.go, what is written down in piece.go.

// figureOf is what each part of a song is played with, where it has a figure.
type figureOf func(song.Section) (pattern.Pattern, bool)

func Always(p pattern.Pattern) figureOf {
	return func(song.Section) (pattern.Pattern, bool) { return p, true }
}

// ownFigures is what the parts of a song are written with.
func ownFigures(m pattern.Meter) figureOf {
	return func(sec song.Section) (pattern.Pattern, bool) { return sec.Figure(m) }
}

// in leaves out what is in another meter: a bar of it would not add up.
func (f figureOf) in(m pattern.Meter) figureOf {
	return func(sec song.Section) (pattern.Pattern, bool) {
		p, has := f(sec)
		return p, has && p.Meter == m
	}
}

// LineOf is a song with a figure on each of its parts.
func (v View) LineOf(sg song.Song, figure figureOf) played.Line {
	l := v.bareLine(sg)
	for _, sec := range v.Song.Sections {
		p, has := figure(sec)
		if !has {
			for _, bar := range sec.Bars {
				l.Bars = append(l.Bars, played.Bar{Held: v.heldIn(bar)})
			}
			continue
		}
		for _, sb := range bind.Section(v.Ins, v.School, p, sec, v.Shapes) {
			grid, events := inCount(p, sb, v.Song.MeterOf(sb.Bar))
			l.Bars = append(l.Bars, played.Bar{
				Grid: grid, Figure: p, FigureBar: sb.PatternBar, Held: v.heldIn(sb.Bar), Events: events,
			})
		}
	}
	return l
}

// inCount puts the strokes of a figure into slots of a bar's own meter, where the figure's are none:
// the coarsest on which all begin, and the finest for what is swung.
func inCount(p pattern.Pattern, sb bind.SongBar, m pattern.Meter) (grid int, events []played.Event) {
	if fit := p.In(m); fit.Meter == m {
		return fit.Grid(), sb.Events
	}
	late := 0 // what is left out of the count before a pickup
	if sb.Role == song.Pickup {
		late = max(0, m.BarTicks()-sb.Ticks())
	}
	for _, grid = range m.Grids() {
		slot := m.BarTicks() / grid
		if !slices.ContainsFunc(sb.Events, func(e played.Event) bool { return (late+e.Tick)%slot != 0 }) {
			break
		}
	}
	events = slices.Clone(sb.Events)
	for i, e := range events {
		events[i].Slot = (late + e.Tick) * grid / m.BarTicks()
	}
	return grid, events
}

// bareLine is a song on which nothing is played yet.
func (v View) bareLine(sg song.Song) played.Line {
	return played.Line{Song: sg, Fingered: v.Song, Instrument: v.Ins, Capo: sg.Capo[v.Ins.ID]}
}

func (v View) heldIn(bar song.Bar) (list []played.Held) {
	shapes := bar.In(v.Ins, v.Shapes)
	for _, h := range bind.HeldIn(v.Ins, bar, v.Shapes) {
		list = append(list, played.Held{From: h.From, Voicing: shapes[h.Chord]})
	}
	return list
}

// StationLine is a station of the tune, with the chords as it plays them. A station has no figure
// that goes round: the one of its bars is the grid on which they lie.
func (v View) StationLine(sg song.Song, st arrange.Station, feel Feel) played.Line {
	l, k := v.bareLine(sg), TuneTask(v)
	on := st.Play(k)
	grid := feel.In(pattern.Pattern{Meter: v.Song.Meter, Bars: []pattern.Bar{make(pattern.Bar, on.Grid)}})
	if grid.Swing {
		on = on.Swung(v.Song.Meter)
	}
	l.Song, l.Fingered = l.Song.Clone(), l.Fingered.Clone()
	for s := range l.Fingered.Sections {
		for b := range l.Fingered.Sections[s].Bars {
			plays := on.Bars[len(l.Bars)]
			bar := played.Bar{Grid: on.Grid, Figure: grid, Events: plays.Events}
			for _, g := range plays.Grips {
				if !g.Chord.IsZero() {
					bar.Held = append(bar.Held, played.Held{From: g.Tick, Voicing: g.Voicing})
				}
			}
			l.Fingered.Sections[s].Bars[b].Changes = plays.Changes
			if l.Capo == 0 {
				l.Song.Sections[s].Bars[b].Changes = plays.Changes
			}
			l.Bars = append(l.Bars, bar)
		}
	}
	return l
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
func barStrip(ins fretboard.Instrument, one pattern.Pattern, events []played.Event, slot float64, thickOnTop bool, label string) draw.SVG {
	events = slices.Clone(events)
	for i := range events {
		events[i].Bar = 0
	}
	return draw.Strip{Instrument: ins, Pattern: one, Events: events, Frets: true, SlotWidth: slot, ThickOnTop: thickOnTop, Label: label}.SVG()
}

// StationBar draws a bar of a station, counted from 1.
func StationBar(v View, bar song.Bar, number, grid int, p arrange.PlayedBar, name string) draw.SVG {
	one := pattern.Pattern{Meter: v.Song.Meter, Bars: []pattern.Bar{make(pattern.Bar, grid)}}.In(v.Song.MeterOf(bar))
	return barStrip(v.Ins, one, p.Events, slotWidth(grid), v.ThickOnTop, fmt.Sprintf("bar %d: %s", number, name))
}

// What a song is written down as, whatever the format: the figure of each part, or one that is
// asked for on all of it, or a station of its tune, on an instrument.

// LineAsk says what of a song is written down.
type LineAsk struct {
	Figure  figureOf       // nil for what each part is written with
	Station ladder.Station // of the tune, instead
}

// LineOf binds a song as it is written.
func LineOf(sg song.Song, ins fretboard.Instrument, c people.Class, ask LineAsk) played.Line {
	_, l := pieceOf(sg, ins, c, ask, "")
	return l
}

func pieceOf(sg song.Song, ins fretboard.Instrument, c people.Class, ask LineAsk, feel Feel) (View, played.Line) {
	v := NewView(sg, ins, c)
	if ask.Station != "" {
		return v, v.StationLine(sg, TuneTask(v).Station(ask.Station), feel)
	}
	figure := ask.Figure
	if figure == nil {
		figure = ownFigures(sg.Meter)
	}
	return v, v.LineOf(sg, feel.On(figure.in(sg.Meter)))
}

// Line is one of the teacher's songs with what its parts are written with, a pattern on all of
// it, or a station of its tune.
func (t *Room) Line(ctx context.Context, teacher store.TeacherID, c people.Class, id store.SongID, instrument, ref string, ask LineAsk) (played.Line, error) {
	sg, err := t.Store.Song(ctx, teacher, id)
	if err != nil {
		return played.Line{}, err
	}
	if ref != "" && ask.Station == "" {
		p, err := t.Patterns.Pattern(ctx, teacher, ref)
		if err != nil {
			return played.Line{}, err
		}
		if p.Entry.Pattern.Meter != sg.Meter {
			return played.Line{}, answer.Refuse("this pattern is in %s, the song in %s", p.Entry.Pattern.Meter, sg.Meter)
		}
		ask.Figure = Always(p.Entry.Pattern)
	}
	return LineOf(sg.Song, c.Instrument(instrument), c, ask), nil
}

// PatternLine is a pattern of the catalogue or the teacher's own over the chords of its page.
func (t *Room) PatternLine(ctx context.Context, teacher store.TeacherID, c people.Class, ref, instrument string) (played.Line, error) {
	p, err := t.Patterns.Pattern(ctx, teacher, ref)
	if err != nil {
		return played.Line{}, err
	}
	bars, err := benchBars(p.Entry.Pattern)
	if err != nil {
		return played.Line{}, err
	}
	sg := song.Song{Title: p.Name, Meter: p.Entry.Pattern.Meter, Tempo: tempoOf(p.Entry), Swing: p.Entry.Pattern.Swing, Sections: []song.Section{{Name: p.Name, Bars: bars}}}
	return LineOf(sg.Numbered(), c.Instrument(instrument), c, LineAsk{Figure: Always(p.Entry.Pattern)}), nil
}

// ScoreOf is a song as it is heard, with what is written down of it.
func ScoreOf(sg song.Song, ins fretboard.Instrument, c people.Class, ask LineAsk) Score {
	v, l := pieceOf(sg, ins, c, ask, TuneFeel(ask.Station, sg.Swing, ""))
	return v.Score(l, difficulty.OnStrings, sg.Title, song.TemposFor(sg.Tempo), ScoreAsk{})
}

// BarStrip draws a bar of a piece, counted from 1, as a picture.
func BarStrip(p played.Line, number int) (draw.SVG, error) {
	bars := p.Fingered.Bars()
	if number < 1 || number > len(bars) {
		return "", answer.Refuse("bar %d: it has %s", number, say.Count(len(bars), "bar", "bars"))
	}
	bar, on := bars[number-1], p.Bars[number-1]
	if on.Grid == 0 {
		return "", answer.Refuse("nothing is played in bar %d: put a pattern on the song first", number)
	}
	one := pattern.Pattern{Meter: p.Fingered.MeterOf(bar), Bars: []pattern.Bar{make(pattern.Bar, on.Grid)}}
	return barStrip(p.Instrument, one, on.Events, narrowSlot, false, fmt.Sprintf("%s, bar %d", p.Song.Title, number)), nil
}
