package fretboard

import (
	"fmt"
	"strconv"
	"strings"

	"arplin/core/theory"
)

// Fret is where a string is pressed: 0 is open, Muted does not sound.
type Fret int8

// Muted is a string that is not to sound.
const Muted Fret = -1

// MaxFret is the highest fret that shapes use.
const MaxFret = 24

// Shape gives each string a fret or mutes it. Shapes are comparable; the zero
// value has no strings.
type Shape struct {
	n     int8
	frets [MaxStrings]Fret // thickest position first
}

// NewShape builds a shape from frets, thickest position first.
func NewShape(frets ...Fret) (Shape, error) {
	if len(frets) < 3 || len(frets) > MaxStrings {
		return Shape{}, fmt.Errorf("a shape has 3 to %d strings, not %d", MaxStrings, len(frets))
	}
	sh := Shape{n: int8(len(frets))}
	sounding := 0
	for i, f := range frets {
		if f < Muted || f > MaxFret {
			return Shape{}, fmt.Errorf("fret %d does not exist", f)
		}
		if f != Muted {
			sounding++
		}
		sh.frets[i] = f
	}
	if sounding == 0 {
		return Shape{}, fmt.Errorf("a shape needs a string that sounds")
	}
	return sh, nil
}

// ParseShape reads a shape as it is written in the trade, thickest position
// first: "x32010". Where a fret has two digits, signs are parted by hyphens or
// commas: "x-10-12-12-10-x".
func ParseShape(s string) (Shape, error) {
	signs := strings.FieldsFunc(s, func(r rune) bool { return r == '-' || r == ',' || r == ' ' })
	if len(signs) == 1 {
		signs = strings.Split(s, "")
	}
	var frets []Fret
	for i, sign := range signs {
		if sign == "x" || sign == "X" {
			frets = append(frets, Muted)
			continue
		}
		f, err := strconv.Atoi(sign)
		if err != nil || f < 0 || f > MaxFret {
			return Shape{}, fmt.Errorf("shape %q, string %d from the left: %q is not a fret from 0 to %d or x", s, i+1, sign, MaxFret)
		}
		frets = append(frets, Fret(f))
	}
	sh, err := NewShape(frets...)
	if err != nil {
		return Shape{}, fmt.Errorf("shape %q: %w", s, err)
	}
	return sh, nil
}

// MustShape is ParseShape for constants.
func MustShape(s string) Shape {
	sh, err := ParseShape(s)
	if err != nil {
		panic(err)
	}
	return sh
}

// String prints the shape as ParseShape reads it.
func (sh Shape) String() string {
	var b strings.Builder
	sep := ""
	for _, f := range sh.Frets() {
		if f > 9 {
			sep = "-"
		}
	}
	for i, f := range sh.Frets() {
		if i > 0 {
			b.WriteString(sep)
		}
		if f == Muted {
			b.WriteByte('x')
		} else {
			b.WriteString(strconv.Itoa(int(f)))
		}
	}
	return b.String()
}

// Strings is how many strings the shape is for.
func (sh Shape) Strings() int { return int(sh.n) }

// Frets lists the frets, thickest position first.
func (sh Shape) Frets() []Fret { return append([]Fret(nil), sh.frets[:sh.n]...) }

// At is the fret of a string, Muted for a string that the shape does not have.
func (sh Shape) At(s String) Fret {
	if s < 1 || int8(s) > sh.n {
		return Muted
	}
	return sh.frets[sh.n-int8(s)]
}

// Sounds reports whether the string sounds.
func (sh Shape) Sounds(s String) bool { return sh.At(s) != Muted }

// With returns the shape with one string changed.
func (sh Shape) With(s String, f Fret) Shape {
	sh.frets[sh.n-int8(s)] = f
	return sh
}

// Span is the lowest and highest pressed fret, 0 and 0 when none is pressed.
func (sh Shape) Span() (low, high Fret) {
	for _, f := range sh.frets[:sh.n] {
		if f > 0 && (low == 0 || f < low) {
			low = f
		}
		high = max(high, f)
	}
	return low, high
}

// Pitch is what a string of the shape sounds on the instrument, spelled as the
// chord spells it. The string must sound.
func (sh Shape) Pitch(ins Instrument, c theory.Chord, s String) theory.Pitch {
	return SpellFret(ins, c, s, sh.At(s))
}

// SpellFret names the pitch at a fret as the chord would spell it.
func SpellFret(ins Instrument, c theory.Chord, s String, f Fret) theory.Pitch {
	midi := ins.Open(s).MIDI() + int(f)
	return theory.PitchOf(midi, c.Spell(midi%12))
}

// RootString is the string with which the right hand begins on this shape: of
// the lower half of the strings (6 5 4 on six, 4 3 on four) that sound the
// chord's bass note the lowest; where none does, the lowest that sounds. On a
// ukulele it is always string 4.
func RootString(ins Instrument, c theory.Chord, sh Shape) String {
	n := String(ins.Strings())
	if ins.ThumbStays() {
		return n
	}
	for s := n; s > n/2; s-- {
		if soundsBass(ins, c, sh, s) {
			return s
		}
	}
	for s := n; s >= 1; s-- {
		if sh.Sounds(s) {
			return s
		}
	}
	return n
}

// BassString is the thickest string of a shape that sounds the chord's bass note;
// on a ukulele it need not be the one on which the right hand begins. 0 when the
// shape leaves the note out.
func BassString(ins Instrument, c theory.Chord, sh Shape) String {
	for s := String(ins.Strings()); s >= 1; s-- {
		if soundsBass(ins, c, sh, s) {
			return s
		}
	}
	return 0
}

func soundsBass(ins Instrument, c theory.Chord, sh Shape, s String) bool {
	return sh.Sounds(s) && (ins.Open(s).MIDI()+int(sh.At(s)))%12 == c.Bass.Class()
}
