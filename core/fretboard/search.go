package fretboard

import (
	"cmp"
	"math"
	"math/bits"
	"slices"

	"arplin/core/theory"
)

const (
	maxReach      = 125.0 // mm between the outer pressed frets: a wide adult stretch, from memory
	maxSpan       = 4     // frets above the lowest pressed one
	maxPosition   = 12    // the search stops at the octave
	maxInnerMutes = 1     // silent strings between sounding ones
)

// Find searches the neck for playable shapes of a chord and returns at most max
// of them, the one that is taught first where there is one, then the least effort
// first. Every shape sounds only notes of the chord,
// has at least all tones that make the chord what it is, and can be held with
// four fingers.
func Find(ins Instrument, c theory.Chord, max int) []Voicing {
	f := newFinder(ins, c, max)
	for base := Fret(1); base <= maxPosition; base++ {
		if points[position]*float64(base-1) >= f.worst() {
			break // nothing further up can be easier than what is there
		}
		f.window(base)
	}
	var found []Voicing
	if sh, ok := taughtFirst(ins, c); ok && max > 0 {
		found = append(found, Read(ins, c, sh))
	}
	for _, cand := range f.found {
		if len(found) < max && (len(found) == 0 || found[0].Shape != cand.shape) {
			found = append(found, Read(ins, c, cand.shape))
		}
	}
	return found
}

// Easiest is the first shape of Find; ok is false when the chord has none.
func Easiest(ins Instrument, c theory.Chord) (Voicing, bool) {
	found := Find(ins, c, 1)
	if len(found) == 0 {
		return Voicing{}, false
	}
	return found[0], true
}

// candidate is a shape that the search keeps.
type candidate struct {
	shape  Shape
	effort float64
}

// finder enumerates the shapes whose lowest pressed fret is base, string by
// string from the thickest, and keeps the best. Nothing in it grows beyond max
// candidates and a few choices a string, whatever the tuning.
type finder struct {
	meter    effortMeter
	max, n   int
	allowed  [12]bool
	required uint16 // pitch classes that must sound
	base     Fret
	choices  [MaxStrings][]Fret
	sh       Shape
	found    []candidate
}

func newFinder(ins Instrument, c theory.Chord, max int) *finder {
	f := &finder{meter: newEffortMeter(ins, c), max: max, n: ins.Strings()}
	f.setTones(c)
	return f
}

// worst is the effort that a new shape must undercut.
func (f *finder) worst() float64 {
	if f.max <= 0 {
		return 0
	}
	if len(f.found) < f.max {
		return math.Inf(1)
	}
	return f.found[len(f.found)-1].effort
}

// setTones decides what may sound and what must. A perfect fifth may be left
// out of a chord of four notes or more; the root where others play it, in a
// chord of five notes or more and on a ukulele of four; the ninth under an
// eleventh or thirteenth. A chord with more notes than the instrument has
// strings loses the ninth, the eleventh and at last the third. What the chord's
// stack holds but its players leave out may sound too. Source: common practice.
func (f *finder) setTones(c theory.Chord) {
	degrees := c.Degrees()
	tall := false
	for _, d := range degrees {
		tall = tall || d.Number >= 11
	}
	for _, d := range degrees {
		class := c.Root.Above(d).Class()
		f.allowed[class] = true
		optional := false
		switch {
		case d == (theory.Degree{Number: 5}):
			optional = len(degrees) >= 4
		case d.Number == 1:
			optional = c.Bass == c.Root && (len(degrees) >= 5 || len(degrees) == 4 && f.meter.ins.ThumbStays())
		case d.Number == 9:
			optional = tall
		}
		if !optional {
			f.required |= 1 << class
		}
	}
	for _, d := range c.LeftOut() {
		f.allowed[c.Root.Above(d).Class()] = true
	}
	if f.allowed[c.Bass.Class()] = true; c.Bass != c.Root {
		f.required |= 1 << c.Bass.Class()
	}
	for _, number := range []int8{9, 11, 3} {
		if bits.OnesCount16(f.required) <= f.n {
			break
		}
		for _, d := range degrees {
			if d.Number == number {
				f.required &^= 1 << c.Root.Above(d).Class()
			}
		}
	}
}

func (f *finder) window(base Fret) {
	f.base = base
	ins := f.meter.ins
	for i := range f.n {
		open := f.meter.open[i]
		choices := append(f.choices[i][:0], Muted)
		if f.allowed[open%12] {
			choices = append(choices, 0)
		}
		for fret := base; fret <= base+maxSpan && ins.FretMM(int(fret))-ins.FretMM(int(base)) <= maxReach; fret++ {
			if f.allowed[(open+int(fret))%12] {
				choices = append(choices, fret)
			}
		}
		f.choices[i] = choices
	}
	f.sh = Shape{n: int8(f.n)}
	f.place(0, partial{})
}

// partial is what is known of the strings placed so far.
type partial struct {
	sounded uint16 // pitch classes
	atBase  bool   // a string is pressed at the window's lowest fret
	high    Fret   // the highest pressed fret, 0 for none
	open    bool
	inner   int8    // muted strings between sounding ones
	silent  int8    // muted strings since the last sounding one
	effort  float64 // a lower bound: muted strings, stretch, extra tones, open strings beside high frets
}

// place chooses the fret of string i, counted from the thickest.
func (f *finder) place(i int, p partial) {
	if i == f.n {
		// All-open shapes belong to no window; the first one takes them.
		if (p.atBase || p.high == 0 && f.base == 1) && p.sounded&f.required == f.required {
			f.keep()
		}
		return
	}
	if bits.OnesCount16(f.required&^p.sounded) > f.n-i {
		return
	}
	if points[position]*float64(f.base-1)+p.effort >= f.worst() {
		return
	}
	for _, fret := range f.choices[i] {
		f.sh.frets[i] = fret
		q := p
		switch {
		case fret == Muted && p.sounded == 0:
			q.effort += points[thickMute] * f.meter.thick
		case fret == Muted:
			q.silent++
		default:
			if q.inner += p.silent; q.inner > maxInnerMutes {
				continue
			}
			q.effort += points[innerMute] * float64(p.silent)
			q.silent = 0
			class := (f.meter.open[i] + int(fret)) % 12
			if f.meter.tones[class] == 0 {
				q.effort += points[extra]
			}
			q.sounded |= 1 << class
			q.atBase = p.atBase || fret == f.base
			q.effort += f.bound(max(p.high, fret), p.open || fret == 0) - f.bound(p.high, p.open)
			q.high, q.open = max(p.high, fret), p.open || fret == 0
		}
		f.place(i+1, q)
	}
	f.sh.frets[i] = 0
}

// bound is what the frets of a window cost at least, given the highest one.
func (f *finder) bound(high Fret, open bool) (e float64) {
	if high > 0 {
		e = points[stretch] * max(0, f.meter.fretMM[high]-f.meter.fretMM[f.base]-easyReach)
		if open && f.base >= highFret {
			e += points[mixed]
		}
	}
	return e
}

// keep measures a complete shape; first by ear, which is cheap, then in the hand.
func (f *finder) keep() {
	var st strains
	f.meter.reach(f.sh, &st)
	f.meter.listen(f.sh, &st)
	if st.effort() >= f.worst() {
		return
	}
	fingering, ok := Finger(f.sh)
	if !ok {
		return
	}
	st.hands(f.sh, fingering)
	effort := st.effort()
	if effort >= f.worst() {
		return
	}
	at, _ := slices.BinarySearchFunc(f.found, effort, func(c candidate, e float64) int { return cmp.Compare(c.effort, e) })
	f.found = slices.Insert(f.found, at, candidate{f.sh, effort})
	if len(f.found) > f.max {
		f.found = f.found[:f.max]
	}
}
