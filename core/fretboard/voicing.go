package fretboard

import (
	"arplin/core/theory"
)

// Voicing is a shape read as a chord on an instrument: what it holds, who holds
// it and how hard that is.
type Voicing struct {
	Shape
	Fingering Fingering
	Root      String       // the right hand's root string
	Bass      theory.Pitch // the lowest sounding pitch
	Missing   []theory.Degree
	Doubled   []theory.Degree
	Inverted  bool    // the lowest sounding note is not the chord's bass
	Effort    float64 // points that order shapes as a beginner's chart would; an open shape has one to three
	Hold      float64 // how hard it is to hold: about one for each finger in an easy place
}

// Read names what a shape does for a chord. Notes foreign to the chord are an
// error of the caller's: the search never makes them, a teacher's own shape may
// hold them on purpose.
func Read(ins Instrument, c theory.Chord, sh Shape) Voicing {
	f, _ := Finger(sh)
	return readHeld(ins, c, sh, f)
}

func readHeld(ins Instrument, c theory.Chord, sh Shape, f Fingering) Voicing {
	v := Voicing{Shape: sh, Fingering: f, Root: RootString(ins, c, sh)}
	lowest := String(0)
	var count [12]int
	for s := String(sh.n); s >= 1; s-- {
		if !sh.Sounds(s) {
			continue
		}
		midi := ins.Open(s).MIDI() + int(sh.At(s))
		count[midi%12]++
		if lowest == 0 || midi < ins.Open(lowest).MIDI()+int(sh.At(lowest)) {
			lowest = s
		}
	}
	if lowest == 0 {
		return v
	}
	v.Bass = sh.Pitch(ins, c, lowest)
	v.Inverted = v.Bass.Class() != c.Bass.Class()
	for _, d := range c.Degrees() {
		switch n := count[c.Root.Above(d).Class()]; {
		case n == 0:
			v.Missing = append(v.Missing, d)
		case n > 1:
			v.Doubled = append(v.Doubled, d)
		}
	}
	m := newEffortMeter(ins, c)
	st := m.strains(sh, f)
	v.Effort, v.Hold = st.effort(), st.hold()
	return v
}

// Only is the voicing with some of its strings let go: the fingers that are left stay where they are.
func (v Voicing) Only(ins Instrument, c theory.Chord, sh Shape) Voicing {
	if sh == v.Shape {
		return v
	}
	f := v.Fingering
	for i, fret := range sh.frets[:sh.n] {
		if fret <= 0 {
			f.fingers[i] = 0
		}
	}
	f.Barre = barreOf(f, sh)
	return readHeld(ins, c, sh, f)
}

// Foreign are the notes of a shape that are none of the chord's, from the thickest
// string on, each once.
func Foreign(ins Instrument, c theory.Chord, sh Shape) (notes []theory.Note) {
	own := map[int]bool{c.Bass.Class(): true}
	for _, n := range c.Notes() {
		own[n.Class()] = true
	}
	for _, n := range NotesOf(ins, c, sh) {
		if !own[n.Class()] {
			notes = append(notes, n)
		}
	}
	return notes
}

// NotesOf are the notes that sound in a shape, from the thickest string on, each
// once, spelled as the chord would.
func NotesOf(ins Instrument, c theory.Chord, sh Shape) (notes []theory.Note) {
	seen := map[int]bool{}
	for s := String(sh.n); s >= 1; s-- {
		if !sh.Sounds(s) {
			continue
		}
		n := sh.Pitch(ins, c, s).Note
		if !seen[n.Class()] {
			seen[n.Class()] = true
			notes = append(notes, n)
		}
	}
	return notes
}
