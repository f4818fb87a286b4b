package musicxml

import (
	"arplin/core/pattern"
)

// length is a note value.
type length struct {
	ticks  int
	name   string
	dots   int
	triple bool
}

// lengths are the note values, the longest first.
var lengths = func() (list []length) {
	const q = pattern.TicksPerQuarter
	for _, n := range []struct {
		ticks int
		name  string
	}{{4 * q, "whole"}, {2 * q, "half"}, {q, "quarter"}, {q / 2, "eighth"}, {q / 4, "16th"}, {q / 8, "32nd"}} {
		list = append(list, length{n.ticks * 3 / 2, n.name, 1, false}, length{n.ticks, n.name, 0, false}, length{n.ticks * 2 / 3, n.name, 0, true})
	}
	return list
}()

// split writes a length as note values: one where there is one, else the longest that fits and
// so on. What no value has is one length without a name.
func split(ticks int) (list []length) {
	for _, l := range lengths {
		if l.ticks == ticks {
			return []length{l}
		}
	}
	for _, l := range lengths {
		if l.ticks < ticks && !l.triple {
			return append([]length{l}, split(ticks-l.ticks)...)
		}
	}
	return []length{{ticks: ticks}}
}

// staffWriter writes the notes and chord symbols of a bar in time.
type staffWriter struct {
	ticks     int
	notes     []placedNote
	harmonies []placedHarmony
	out       []any
	at        int
}

func (w *staffWriter) write() []any {
	if len(w.notes) == 0 {
		w.chordsBefore(w.ticks)
		if w.ticks > 0 {
			w.out = append(w.out, note{Rest: &rest{"yes"}, Duration: w.ticks, Voice: "1"})
		}
		return w.out
	}
	for _, n := range w.notes {
		w.rest(n.tick - w.at)
		w.chordsBefore(n.tick + n.ticks)
		w.note(n)
	}
	w.rest(w.ticks - w.at)
	w.chordsBefore(w.ticks + 1)
	return w.out
}

// chordsBefore writes the chords that begin before a tick, each from where the bar has come to.
func (w *staffWriter) chordsBefore(tick int) {
	for len(w.harmonies) > 0 && w.harmonies[0].tick < tick {
		h := w.harmonies[0]
		h.Offset = h.tick - w.at
		w.out, w.harmonies = append(w.out, h.harmony), w.harmonies[1:]
	}
}

func (w *staffWriter) rest(ticks int) {
	if ticks <= 0 {
		return
	}
	w.chordsBefore(w.at + ticks)
	for _, l := range split(ticks) {
		w.out = append(w.out, valued(note{Rest: &rest{}, Voice: "1"}, l))
	}
	w.at += ticks
}

// note writes what is struck together; what no single value has is tied on.
func (w *staffWriter) note(n placedNote) {
	values := split(n.ticks)
	for i, l := range values {
		for k, one := range n.notes {
			if k > 0 {
				one.Chord = &empty{}
			}
			if i > 0 {
				one = tiedOn(one, "stop")
			}
			if i < len(values)-1 {
				one = goesOn(one)
			}
			w.out = append(w.out, valued(one, l))
		}
	}
	w.at += n.ticks
}

// goesOn ties a note to the one after it; what it led to is led to from there.
func goesOn(n note) note {
	n.Ties = withoutStart(n.Ties)
	n.Ties = append(n.Ties, tie{"start"})
	what := notations{}
	if n.Notations != nil {
		what = *n.Notations
	}
	what.Tied = append(withoutStart(what.Tied), tie{"start"})
	what.Slides = only(what.Slides, "stop")
	if what.Technical != nil {
		t := *what.Technical
		t.Hammers = only(t.Hammers, "stop")
		what.Technical = &t
	}
	n.Notations = &what
	return n
}

// tiedOn is a note that goes on from itself: it is not sung or struck again.
func tiedOn(n note, _ string) note {
	n.Lyrics = nil
	start := false
	for _, t := range n.Ties {
		start = start || t.Type == "start"
	}
	n.Ties = []tie{{"stop"}}
	what := notations{}
	if n.Notations != nil {
		what = *n.Notations
	}
	what.Tied, what.Arpeggio, what.Accents = []tie{{"stop"}}, nil, nil
	what.Slides = only(what.Slides, "start")
	if what.Technical != nil {
		t := *what.Technical
		t.Hammers, t.Pluck, t.Up, t.Down = only(t.Hammers, "start"), "", nil, nil
		what.Technical = &t
	}
	if start {
		n.Ties, what.Tied = append(n.Ties, tie{"start"}), append(what.Tied, tie{"start"})
	}
	n.Notations = &what
	return n
}

func withoutStart(list []tie) (out []tie) {
	for _, t := range list {
		if t.Type != "start" {
			out = append(out, t)
		}
	}
	return out
}

func only(list []spanner, end string) (out []spanner) {
	for _, s := range list {
		if s.Type == end {
			out = append(out, s)
		}
	}
	return out
}

func valued(n note, l length) note {
	n.Duration, n.Type = l.ticks, l.name
	for range l.dots {
		n.Dots = append(n.Dots, empty{})
	}
	if l.triple {
		n.Tuplet = &tuplet{3, 2}
	}
	return n
}
