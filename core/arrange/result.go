package arrange

import (
	"cmp"
	"fmt"
	"slices"

	"arplin/core/fretboard"
	"arplin/core/theory"
)

// placed reads the way that was found.
func (s *search) placed() Placed {
	out := Placed{Bars: make([]Bar, len(s.Bars))}
	var last *Stroke
	for i, m := range s.line {
		bar := &out.Bars[m.bar]
		if s.way[i] < 0 {
			if m.note != nil && !m.held {
				out.Left = append(out.Left, Left{m.bar, m.tick, m.note.MIDI, s.why(m)})
			}
			continue
		}
		g := m.grips[s.way[i]]
		if n := len(bar.Grips); n == 0 || bar.Grips[n-1].Voicing.Shape != g.Shape || bar.Grips[n-1].Melody != g.melody || bar.Grips[n-1].Chord != m.chord {
			bar.Grips = append(bar.Grips, Grip{m.tick, m.chord, g.Voicing, g.melody, s.becomes(m, g)})
		}
		switch {
		case m.note == nil || m.held:
		case g.lost:
			out.Left = append(out.Left, Left{m.bar, m.tick, m.note.MIDI, s.why(m)})
			last = nil
		default:
			bar.Strokes = append(bar.Strokes, Stroke{m.tick, g.melody, g.At(g.melody), m.note.MIDI, true, m.note.Mark, m.note.Word})
			last = &bar.Strokes[len(bar.Strokes)-1]
		}
		if m.held && last != nil && last.String != g.melody {
			out.Left = append(out.Left, Left{m.bar, m.tick, m.note.MIDI, fmt.Sprintf("%s can’t ring on through the change to %s", theory.PlainPitch(m.note.MIDI), m.chord)})
		}
		waited := false
		for _, b := range m.bass {
			k := 0
			if b.alternate {
				k = 1
			}
			if g.waits[k] {
				if !waited && m.note != nil {
					out.Left = append(out.Left, Left{m.bar, m.tick, m.note.MIDI, fmt.Sprintf("nobody’s hand can hold %s with the bass of %s, so the thumb waits here", theory.PlainPitch(m.note.MIDI), m.chord)})
				}
				waited = true
				continue
			}
			if str := g.thumb.strings[k]; str != 0 && g.Sounds(str) {
				bar.Strokes = append(bar.Strokes, Stroke{Tick: b.tick, String: str, Fret: g.At(str), MIDI: s.midi(str, g.At(str))})
			}
		}
	}
	for i := range out.Bars {
		slices.SortStableFunc(out.Bars[i].Strokes, func(a, b Stroke) int {
			return cmp.Or(cmp.Compare(a.Tick, b.Tick), cmp.Compare(b.String, a.String))
		})
	}
	return out
}

// why says why a note is nowhere, and the nearest way.
func (s *search) why(m moment) string {
	lowest, highest := 127, 0
	for str := fretboard.String(1); int(str) <= s.Instrument.Strings(); str++ {
		open := s.Instrument.Open(str).MIDI()
		lowest, highest = min(lowest, open), max(highest, open+highestFret)
	}
	name := theory.PlainPitch(m.note.MIDI)
	switch pin := s.Pins[At{m.bar, m.tick}]; {
	case pin != 0:
		return fmt.Sprintf("%s can’t be held on string %d, where you put it", name, pin)
	case m.note.MIDI < lowest:
		return fmt.Sprintf("%s is below the strings, but there’s a place an octave higher", name)
	case m.note.MIDI > highest:
		return fmt.Sprintf("%s is above the 12th fret, but there’s a place an octave lower", name)
	}
	return fmt.Sprintf("there’s no free string for %s", name)
}

// becomes names what a chord is with the note of the tune in it; empty where it is the
// chord's own.
func (s *search) becomes(m moment, g grip) string {
	if m.note == nil || !m.hasChord {
		return ""
	}
	class := m.note.MIDI % 12
	for _, n := range m.chord.Notes() {
		if n.Class() == class {
			return ""
		}
	}
	sounds := map[int]bool{}
	for _, n := range fretboard.NotesOf(s.Instrument, m.chord, g.Shape) {
		sounds[n.Class()] = true
	}
	for _, n := range m.chord.Notes() { // what the hand leaves out is meant all the same
		if !sounds[n.Class()] && !replaced(m.chord, n, class) {
			sounds[n.Class()] = true
		}
	}
	if name, ok := theory.Named(m.chord, sounds); ok {
		return name
	}
	return fmt.Sprintf("%s with %s", m.chord, theory.PlainNote(class))
}

// replaced reports a third or a fifth that has moved to a note beside it: a suspended fourth, a
// raised fifth.
func replaced(c theory.Chord, n theory.Note, by int) bool {
	number := c.Root.DegreeOf(n).Number
	way := (by - n.Class() + 12) % 12
	return (number == 3 || number == 5) && (way <= 2 || way >= 10)
}
