package fretboard

import (
	"cmp"
	"slices"

	"arplin/core/theory"
)

const (
	maxReach    = 125.0 // mm between the outer pressed frets: a wide adult stretch, from memory
	maxPosition = 12    // the search stops at the octave
)

// Find searches the neck for playable shapes of a chord and returns at most max
// of them, the least effort first. Every shape sounds only notes of the chord,
// has at least all tones that make the chord what it is, and can be held with
// four fingers.
func Find(ins Instrument, c theory.Chord, max int) []Voicing {
	f := &finder{ins: ins, chord: c, max: max, n: ins.Strings()}
	f.setTones()
	for base := Fret(1); base <= maxPosition; base++ {
		f.window(base)
	}
	return f.found
}

// Easiest is the first shape of Find; ok is false when the chord has none.
func Easiest(ins Instrument, c theory.Chord) (Voicing, bool) {
	found := Find(ins, c, 1)
	if len(found) == 0 {
		return Voicing{}, false
	}
	return found[0], true
}

// finder enumerates the shapes whose lowest pressed fret is base, string by
// string from the thickest, and keeps the best.
type finder struct {
	ins      Instrument
	chord    theory.Chord
	max, n   int
	allowed  [12]bool
	required uint16 // pitch classes that must sound
	base     Fret
	choices  [MaxStrings][]Fret
	sh       Shape
	found    []Voicing
}

// setTones decides what must sound: everything but a perfect fifth in a chord
// of four notes or more; where the chord has more notes than the instrument has
// strings, the root goes next, then the ninth and eleventh.
func (f *finder) setTones() {
	degrees := f.chord.Degrees()
	root := f.chord.Root
	for _, d := range degrees {
		class := root.Above(d).Class()
		f.allowed[class] = true
		if d == (theory.Degree{Number: 5}) && len(degrees) >= 4 {
			continue
		}
		f.required |= 1 << class
	}
	f.allowed[f.chord.Bass.Class()] = true
	f.required |= 1 << f.chord.Bass.Class()
	for _, number := range []int8{1, 9, 11} {
		if bitCount(f.required) <= f.n {
			break
		}
		for _, d := range degrees {
			if d.Number == number {
				f.required &^= 1 << root.Above(d).Class()
			}
		}
	}
}

func bitCount(x uint16) (n int) {
	for ; x != 0; x &= x - 1 {
		n++
	}
	return n
}

func (f *finder) window(base Fret) {
	f.base = base
	for i := range f.n {
		open := f.ins.Tuning[i].MIDI()
		choices := f.choices[i][:0]
		choices = append(choices, Muted)
		if f.allowed[open%12] {
			choices = append(choices, 0)
		}
		for fret := base; f.ins.FretMM(int(fret))-f.ins.FretMM(int(base)) <= maxReach && fret <= base+4; fret++ {
			if f.allowed[(open+int(fret))%12] {
				choices = append(choices, fret)
			}
		}
		f.choices[i] = choices
	}
	f.sh = Shape{n: int8(f.n)}
	f.place(0, 0, false, 0, 0)
}

// place chooses the fret of string i, counted from the thickest. sounded is the
// set of classes so far; gaps counts muted strings between sounding ones.
func (f *finder) place(i int, sounded uint16, atBase bool, pressed, gaps int) {
	if i == f.n {
		// All-open shapes belong to no window; the first one takes them.
		if (atBase || pressed == 0 && f.base == 1) && sounded&f.required == f.required {
			f.keep()
		}
		return
	}
	if bitCount(f.required&^sounded) > f.n-i {
		return
	}
	for _, fret := range f.choices[i] {
		f.sh.frets[i] = fret
		switch {
		case fret == Muted:
			gap := gaps
			if sounded != 0 {
				gap++
			}
			if gap-trailing(f.sh, i) > 1 {
				continue
			}
			f.place(i+1, sounded, atBase, pressed, gap)
		default:
			class := uint16(1) << ((f.ins.Tuning[i].MIDI() + int(fret)) % 12)
			p := pressed
			if fret > 0 {
				p++
			}
			f.place(i+1, sounded|class, atBase || fret == f.base, p, gaps)
		}
	}
	f.sh.frets[i] = 0
}

// trailing counts the muted strings that end at string i: they are gaps only
// once a string sounds after them.
func trailing(sh Shape, i int) (n int) {
	for ; i >= 0 && sh.frets[i] == Muted; i-- {
		n++
	}
	return n
}

func (f *finder) keep() {
	if _, ok := Finger(f.sh); !ok {
		return
	}
	v := Read(f.ins, f.chord, f.sh)
	at, _ := slices.BinarySearchFunc(f.found, v, func(a, b Voicing) int { return cmp.Compare(a.Effort, b.Effort) })
	if at >= f.max {
		return
	}
	f.found = slices.Insert(f.found, at, v)
	if len(f.found) > f.max {
		f.found = f.found[:f.max]
	}
}
