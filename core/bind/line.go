package bind

import (
	"slices"

	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/played"
	"arplin/core/song"
)

// On is a song on an instrument, to be played.
type On struct {
	Song       song.Song // as it sounds
	Fingered   song.Song // as the hand sees it above the capo: the same bars
	Instrument fretboard.Instrument
	School     School
	Shapes     Shapes
}

// Figure is what each part of a song is played with, where it has a figure.
type Figure func(song.Section) (pattern.Pattern, bool)

// Always is one figure on all parts.
func Always(p pattern.Pattern) Figure {
	return func(song.Section) (pattern.Pattern, bool) { return p, true }
}

// Own is what the parts of a song are written with.
func Own(m pattern.Meter) Figure {
	return func(sec song.Section) (pattern.Pattern, bool) { return sec.Figure(m) }
}

// In leaves out what is in another meter: a bar of it would not add up.
func (f Figure) In(m pattern.Meter) Figure {
	return func(sec song.Section) (pattern.Pattern, bool) {
		p, has := f(sec)
		return p, has && p.Meter == m
	}
}

// Each is the figures with something done to each.
func (f Figure) Each(do func(pattern.Pattern) pattern.Pattern) Figure {
	return func(sec song.Section) (pattern.Pattern, bool) {
		p, has := f(sec)
		if has {
			p = do(p)
		}
		return p, has
	}
}

// Line is the song with a figure on each of its parts.
func (o On) Line(figure Figure) played.Line {
	l := o.Bare()
	for _, sec := range o.Fingered.Sections {
		p, has := figure(sec)
		if !has {
			for _, bar := range sec.Bars {
				l.Bars = append(l.Bars, played.Bar{Held: o.heldIn(bar)})
			}
			continue
		}
		for _, sb := range Section(o.Instrument, o.School, p, sec, o.Shapes) {
			grid, events := inCount(p, sb, o.Fingered.MeterOf(sb.Bar))
			l.Bars = append(l.Bars, played.Bar{Grid: grid, Figure: p, FigureBar: sb.PatternBar, Held: o.heldIn(sb.Bar), Events: events})
		}
	}
	return l
}

// Bare is the song on which nothing is played yet: its line has no bars.
func (o On) Bare() played.Line {
	return played.Line{Song: o.Song, Fingered: o.Fingered, Instrument: o.Instrument, Capo: o.Song.Capo[o.Instrument.ID]}
}

func (o On) heldIn(bar song.Bar) (list []played.Held) {
	shapes := bar.In(o.Instrument, o.Shapes)
	for _, h := range HeldIn(o.Instrument, bar, o.Shapes) {
		list = append(list, played.Held{From: h.From, Voicing: shapes[h.Chord]})
	}
	return list
}

// inCount puts the strokes of a figure into slots of a bar's own meter, where the figure's are none:
// the coarsest on which all begin, and the finest for what is swung.
func inCount(p pattern.Pattern, sb SongBar, m pattern.Meter) (grid int, events []played.Event) {
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
