package bind

import (
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/played"
	"arplin/core/theory"
)

// Lean is the shape with only what the pattern strikes: other pressed strings
// are let go and stay silent. Open strings stay as they are. A pattern that
// strums takes the whole shape.
func Lean(events []played.Event, sh fretboard.Shape) fretboard.Shape {
	struck := map[fretboard.String]bool{}
	for _, e := range events {
		for _, s := range e.Strings {
			struck[s] = true
		}
	}
	for s := fretboard.String(1); int(s) <= sh.Strings(); s++ {
		if sh.At(s) > 0 && !struck[s] {
			sh = sh.With(s, fretboard.Muted)
		}
	}
	return sh
}

// Needed is a chord's shape with only the fingers that some figures need; those that are left stay
// on their strings. Without figures it is whole.
func Needed(ins fretboard.Instrument, school School, c theory.Chord, v fretboard.Voicing, figures ...pattern.Pattern) fretboard.Voicing {
	var events []played.Event
	for _, p := range figures {
		events = append(events, Pattern(ins, school, p, c, v.Shape).Events...)
	}
	if len(events) == 0 {
		return v
	}
	return v.Only(ins, c, Lean(events, v.Shape))
}

// Displaced counts the strokes of figures that go elsewhere on a shape than they are written: a finger
// whose string is muted takes its neighbour's.
func Displaced(ins fretboard.Instrument, school School, c theory.Chord, sh fretboard.Shape, figures ...pattern.Pattern) (n int) {
	for _, p := range figures {
		n += len(Pattern(ins, school, p, c, sh).Notices)
	}
	return n
}

// Late is the finger that may come down last, because the pattern needs its
// string last.
type Late struct {
	Finger int8
	String fretboard.String
	Slot   int // of the first bar, from 0: by then it must be down
}

// Stay is a part of a bar in which a chord is held, in ticks of the bar.
type Stay struct{ From, To int }

// LateFinger finds it where a chord is held for a part of the bar: of the fingers that press one
// string, the one whose string is struck last for the first time. ok is false when everything is
// needed at once, or when only one finger presses.
func LateFinger(p pattern.Pattern, events []played.Event, v fretboard.Voicing, stay Stay) (late Late, ok bool) {
	first := map[fretboard.String]int{}
	at := -1 // the chord's first stroke
	for _, e := range events {
		if e.Bar != 0 || e.Tick < stay.From || e.Tick >= stay.To {
			continue
		}
		if at < 0 {
			at = e.Slot
		}
		for _, s := range e.Strings {
			if _, seen := first[s]; !seen {
				first[s] = e.Slot
			}
		}
	}
	if v.Fingering.Count() < 2 {
		return Late{}, false
	}
	late.Slot = at
	for s := fretboard.String(1); int(s) <= v.Strings(); s++ {
		finger := v.Fingering.At(s)
		slot, struck := first[s]
		if finger == 0 || finger == v.Fingering.Barre.Finger || !struck || slot <= late.Slot {
			continue
		}
		late, ok = Late{finger, s, slot}, true
	}
	return late, ok
}
