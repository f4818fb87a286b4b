package bind

import (
	"slices"

	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/played"
	"arplin/core/song"
	"arplin/core/theory"
)

// Shapes chooses the shape that holds each chord.
type Shapes map[theory.Chord]fretboard.Voicing

// SongBar is a bar of a song with the pattern on it.
type SongBar struct {
	song.Bar
	PatternBar int // which bar of the pattern is played
	Held       []Held
	Result
}

// Section binds a pattern to a section of a song. The pattern begins again with the section and
// goes on as it is sung (song.Section.Counts). Chords that cannot be read, or have no shape, leave
// silence.
func Section(ins fretboard.Instrument, school School, p pattern.Pattern, sec song.Section, shapes Shapes) []SongBar {
	b := New(ins, school, p)
	bars, counts := make([]SongBar, len(sec.Bars)), sec.Counts()
	for i, bar := range sec.Bars {
		bars[i] = b.songBar(bar, counts[i]%len(p.Bars), shapes)
	}
	return bars
}

// HeldIn are the chords of a bar that have a shape, from where each begins.
func HeldIn(ins fretboard.Instrument, bar song.Bar, shapes Shapes) (held []Held) {
	shapes = bar.In(ins, shapes)
	tick := 0
	for _, ch := range bar.Changes {
		if c, err := ch.Chord(); err == nil {
			if v, ok := shapes[c]; ok {
				held = append(held, Held{tick, c, v.Shape})
			}
		}
		tick += ch.Ticks
	}
	return held
}

// songBar binds one bar and does what its role asks for: a stop is struck once,
// an ending closes with one strum, a short bar is cut.
func (b *Binder) songBar(bar song.Bar, patternBar int, shapes Shapes) SongBar {
	sb := SongBar{Bar: bar, PatternBar: patternBar}
	sb.Held = HeldIn(b.ins, bar, shapes)
	tick := bar.Ticks()
	switch bar.Role {
	case song.End:
		sb.Result = b.closing(patternBar, sb.Held)
		return sb
	case song.Stop:
		sb.Result = b.Bar(patternBar, sb.Held)
		sb.Events = before(sb.Events, 1)
		return sb
	}
	if bar.Role == song.Pickup {
		return b.pickup(sb, tick)
	}
	sb.Result = b.Bar(patternBar, sb.Held)
	if bar.Role == song.Short {
		sb.Events = before(sb.Events, tick)
	}
	if own := bar.Meter; own != (pattern.Meter{}) {
		sb.Events = b.inMeter(sb.Events, own)
	}
	sb.Events = sounding(sb.Events, bar.Changes)
	return sb
}

// pickup binds the end of a bar: one beat in 3/4 is "3 and". The strokes keep the
// slots of the bar's count; the ticks are those of the short bar.
func (b *Binder) pickup(sb SongBar, length int) SongBar {
	late := max(0, b.p.Meter.BarTicks()-length)
	for i := range sb.Held {
		sb.Held[i].From += late
	}
	if len(sb.Held) > 0 {
		sb.Held[0].From = 0 // the hand is there before
	}
	sb.Result = b.Bar(sb.PatternBar, sb.Held)
	var kept []played.Event
	for _, e := range sb.Events {
		if e.Tick >= late {
			e.Tick -= late
			kept = append(kept, e)
		}
	}
	sb.Events = sounding(kept, sb.Changes)
	return sb
}

// inMeter has a figure fill a bar of another meter: it is cut where the bar is
// shorter, and begins again where it is longer.
func (b *Binder) inMeter(events []played.Event, m pattern.Meter) []played.Event {
	whole := slices.Clone(events)
	for at := b.p.Meter.BarTicks(); at < m.BarTicks(); at += b.p.Meter.BarTicks() {
		for _, e := range whole {
			e.Tick, e.Slot = e.Tick+at, e.Slot+at/b.p.SlotTicks()
			events = append(events, e)
		}
	}
	return before(events, m.BarTicks())
}

// sounding leaves out what would be struck where nothing is played.
func sounding(events []played.Event, changes []song.Change) []played.Event {
	if !slices.ContainsFunc(changes, song.Change.Silent) {
		return events
	}
	silent := func(e played.Event) bool {
		tick := 0
		for _, ch := range changes {
			if tick += ch.Ticks; e.Tick < tick {
				return ch.Silent()
			}
		}
		return false
	}
	return slices.DeleteFunc(slices.Clone(events), silent)
}

// before keeps what sounds before a tick of the bar.
func before(events []played.Event, tick int) []played.Event {
	for i, e := range events {
		if e.Tick >= tick {
			return events[:i]
		}
	}
	return events
}

// closing is one down stroke across the whole shape.
func (b *Binder) closing(patternBar int, held []Held) Result {
	p := pattern.Pattern{Meter: b.p.Meter, Bars: []pattern.Bar{make(pattern.Bar, b.p.Grid())}}
	p.Bars[0][0].Strokes = []pattern.Stroke{{Sign: pattern.Down}}
	r := New(b.ins, b.school, p).Bar(0, held)
	for i := range r.Events {
		r.Events[i].Bar = patternBar
	}
	return r
}
