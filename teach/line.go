package teach

import (
	"fmt"
	"slices"

	"arplin/core/arrange"
	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/core/played"
	"arplin/core/song"
	"arplin/draw"
)

// What is played is a line, whatever it comes from: the figures of a song's parts, a station of its
// tune, a step, an exercise. What is heard of it is in score.go, what is written down in piece.go.

// figureOf is what each part of a song is played with, where it has a figure.
type figureOf func(song.Section) (pattern.Pattern, bool)

func always(p pattern.Pattern) figureOf {
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

// lineOf is a song with a figure on each of its parts.
func (v songView) lineOf(sg song.Song, figure figureOf) played.Line {
	l := v.bareLine(sg)
	for _, sec := range v.song.Sections {
		p, has := figure(sec)
		if !has {
			for _, bar := range sec.Bars {
				l.Bars = append(l.Bars, played.Bar{Held: v.heldIn(bar)})
			}
			continue
		}
		for _, sb := range bind.Section(v.ins, v.school, p, sec, v.shapes) {
			grid, events := inCount(p, sb, v.song.MeterOf(sb.Bar))
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
func (v songView) bareLine(sg song.Song) played.Line {
	return played.Line{Song: sg, Fingered: v.song, Instrument: v.ins, Capo: sg.Capo[v.ins.ID]}
}

func (v songView) heldIn(bar song.Bar) (list []played.Held) {
	shapes := bar.In(v.ins, v.shapes)
	for _, h := range bind.HeldIn(v.ins, bar, v.shapes) {
		list = append(list, played.Held{From: h.From, Voicing: shapes[h.Chord]})
	}
	return list
}

// stationLine is a station of the tune, with the chords as it plays them. A station has no figure
// that goes round: the one of its bars is the grid on which they lie.
func (v songView) stationLine(sg song.Song, st arrange.Station, feel Feel) played.Line {
	l, k := v.bareLine(sg), tuneTask(v)
	on := st.Play(k)
	grid := feel.in(pattern.Pattern{Meter: v.song.Meter, Bars: []pattern.Bar{make(pattern.Bar, on.Grid)}})
	if grid.Swing {
		on = on.Swung(v.song.Meter)
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

// stepLine is a step of the ladder on its part of the song, and the view that it is seen in: where
// chords are sung that are not of its stage it rests.
func (l Ladder) stepLine(step ladder.Step, ins fretboard.Instrument, written song.Song, feel Feel) (songView, played.Line) {
	part := l.Song.Part(l.Sections)
	v := newSongView(part, ins, l.Class)
	if step.Station != "" {
		return v, v.stationLine(part, stationOf(step), feel)
	}
	return v, v.lineOf(part, feel.on(figuresOf(step))).Resting(heldStage(step.Stage(l.task), written, v.song))
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

// stationBar draws a bar of a station, counted from 1.
func stationBar(v songView, bar song.Bar, number, grid int, p arrange.PlayedBar, name string) draw.SVG {
	one := pattern.Pattern{Meter: v.song.Meter, Bars: []pattern.Bar{make(pattern.Bar, grid)}}.In(v.song.MeterOf(bar))
	return barStrip(v.ins, one, p.Events, slotWidth(grid), v.thickOnTop, fmt.Sprintf("bar %d: %s", number, name))
}
