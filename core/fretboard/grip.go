package fretboard

import (
	"fmt"
	"strings"

	"arplin/core/theory"
)

// Grip is a shape as somebody wants it held. Grips are comparable.
type Grip struct {
	Shape
	// The fingers that were given; without strings where they are the usual ones.
	Fingers Fingering
}

// ParseGrip reads a shape and, after a slash, the fingers that hold it, one sign a
// string from the thickest: "x32010/x32010". A string that no finger presses has x,
// 0 or a hyphen there.
func ParseGrip(s string) (Grip, error) {
	frets, fingers, given := strings.Cut(s, "/")
	sh, err := ParseShape(frets)
	if err != nil {
		return Grip{}, err
	}
	g := Grip{Shape: sh}
	if given {
		g.Fingers, err = parseFingers(strings.Join(strings.FieldsFunc(fingers, func(r rune) bool { return r == ' ' || r == ',' }), ""), sh)
	}
	return g, err
}

// parseFingers reads the fingers of a shape: each pressed string has one of four,
// and no finger is on two frets.
func parseFingers(s string, sh Shape) (f Fingering, err error) {
	signs := []rune(s)
	if len(signs) != sh.Strings() {
		return f, fmt.Errorf("fingers %q: %s has %d strings, so it takes %d signs", s, sh, sh.Strings(), sh.Strings())
	}
	f.n = sh.n
	var on [5]Fret
	for i, sign := range signs {
		fret, at := sh.frets[i], String(len(signs)-i)
		finger := int8(strings.IndexRune("01234", sign))
		if strings.ContainsRune("xX-.", sign) {
			finger = 0
		}
		switch {
		case finger < 0:
			return f, fmt.Errorf("fingers %q, string %d: %q is not a finger from 1, the index, to 4, the little finger", s, at, sign)
		case fret > 0 && finger == 0:
			return f, fmt.Errorf("fingers %q: string %d is pressed at fret %d and has no finger", s, at, fret)
		case fret <= 0 && finger > 0:
			return f, fmt.Errorf("fingers %q: string %d is not pressed in %s and has a finger", s, at, sh)
		case finger > 0 && on[finger] > 0 && on[finger] != fret:
			return f, fmt.Errorf("fingers %q: the %s finger cannot be on fret %d and on fret %d", s, FingerName(finger), on[finger], fret)
		}
		f.fingers[i] = finger
		if finger > 0 {
			on[finger] = fret
		}
	}
	f.Barre = barreOf(f, sh)
	return f, nil
}

// barreOf is the index where it lies across several strings.
func barreOf(f Fingering, sh Shape) Barre {
	b := Barre{Finger: 1}
	for at := String(sh.n); at >= 1; at-- {
		if f.At(at) == 1 {
			if b.From == 0 {
				b.Fret, b.From = sh.At(at), at
			}
			b.To = at
		}
	}
	if b.From == b.To {
		return Barre{}
	}
	return b
}

// String prints the grip as ParseGrip reads it.
func (g Grip) String() string {
	if g.Fingers.n == 0 {
		return g.Shape.String()
	}
	return g.Shape.String() + "/" + g.Fingers.String()
}

// String is one digit a string, thickest position first; 0 where nothing is pressed.
func (f Fingering) String() string {
	var b strings.Builder
	for _, finger := range f.fingers[:f.n] {
		b.WriteByte('0' + byte(finger))
	}
	return b.String()
}

// Read is the grip as a voicing of a chord; without fingers of its own it has the
// usual ones.
func (g Grip) Read(ins Instrument, c theory.Chord) Voicing {
	if g.Fingers.n == 0 {
		return Read(ins, c, g.Shape)
	}
	return readHeld(ins, c, g.Shape, g.Fingers)
}
