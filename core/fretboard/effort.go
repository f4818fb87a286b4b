package fretboard

import "arplin/core/theory"

// strain is one thing that makes a shape hard to hold or poor to hear.
type strain int

const (
	fingersDown  strain = iota // fingers pressed
	barre                      // the index lies flat
	barreStrings               // strings under the barre beyond the second
	stretch                    // mm beyond easyReach between the outer pressed frets
	position                   // frets away from the first position
	mixed                      // open strings beside frets from the fourth on
	innerMute                  // silent strings between sounding ones
	thickMute                  // silent strings at the thick edge
	thinMute                   // silent strings at the thin edge
	inverted                   // the lowest note is not the chord's bass
	missing                    // tones left out
	fewStrings                 // strings below four that sound
	thinRoot                   // the root lies above the bass strings
	muddy                      // a colour tone right above the bass
	unison                     // two strings on one pitch
	littleFinger               // the fourth finger is needed
	spread                     // strings between fingers on one fret, beyond two
	numStrains
)

// points is the effort of one unit of each strain. From memory, set so that the beginners' shapes come
// first (testdata/first_shapes.json).
var points = [numStrains]float64{
	fingersDown: 0.34, barre: 0.34, barreStrings: 0.01, stretch: 0.051, position: 0.6, mixed: 2.5,
	innerMute: 3.2, thickMute: 0.42, thinMute: 2.8, inverted: 3.0, missing: 0.7, fewStrings: 2.0,
	thinRoot: 2.5, muddy: 1.6, unison: 2.4, littleFinger: 0.62, spread: 0.67,
}

const easyReach = 36.0 // mm: two frets in the first position of a guitar

type strains [numStrains]float64

func (st *strains) effort() (sum float64) {
	for i, n := range st {
		sum += points[i] * n
	}
	return sum
}

func strainsOf(ins Instrument, c theory.Chord, sh Shape, f Fingering, isInverted bool, tonesMissing int) *strains {
	var st strains
	st[fingersDown] = float64(f.Count())
	if b := f.Barre; b.From != 0 {
		st[barre] = 1
		st[barreStrings] = float64(b.From - b.To - 1)
	}
	low, high := sh.Span()
	if low > 0 {
		st[stretch] = max(0, ins.FretMM(int(high))-ins.FretMM(int(low))-easyReach)
		st[position] = float64(low - 1)
	}
	st[mixed] = indicator(low >= 4 && hasOpen(sh))
	st[unison] = float64(unisons(ins, sh))
	st[missing] = float64(tonesMissing)
	first, last, sounding := soundingRange(sh)
	for s := String(sh.n); s >= 1; s-- {
		switch {
		case sh.Sounds(s):
		case s > first:
			st[thickMute]++
		case s < last:
			st[thinMute]++
		default:
			st[innerMute]++
		}
	}
	st[fewStrings] = float64(max(0, min(4, ins.Strings())-sounding))
	st[littleFinger] = indicator(f.uses(4))
	st[spread] = float64(spreadStrings(sh, f))
	if ins.Family == Ukulele {
		return &st // no bass strings: what lies lowest does not matter
	}
	st[inverted] = indicator(isInverted)
	st[thinRoot] = indicator(RootString(ins, c, sh) <= String(ins.Strings())/2)
	st[muddy] = indicator(blurred(ins, c, sh, first))
	return &st
}

func indicator(b bool) float64 {
	if b {
		return 1
	}
	return 0
}

// soundingRange is the thickest and thinnest sounding string and their count.
func soundingRange(sh Shape) (first, last String, n int) {
	for s := String(sh.n); s >= 1; s-- {
		if sh.Sounds(s) {
			if first == 0 {
				first = s
			}
			last = s
			n++
		}
	}
	return first, last, n
}

// blurred reports a colour tone on the string next to the bass, where a low
// interval other than a third or fifth blurs.
func blurred(ins Instrument, c theory.Chord, sh Shape, bass String) bool {
	next := bass - 1
	if !sh.Sounds(next) {
		return false
	}
	class := (ins.Open(next).MIDI() + int(sh.At(next))) % 12
	for _, d := range c.Degrees() {
		if c.Root.Above(d).Class() == class {
			return d.Number != 1 && d.Number != 3 && d.Number != 5
		}
	}
	return true
}

// unisons counts pairs of neighbouring strings on one pitch.
func unisons(ins Instrument, sh Shape) (n int) {
	for s := String(sh.n); s > 1; s-- {
		if sh.Sounds(s) && sh.Sounds(s-1) && ins.Open(s).MIDI()+int(sh.At(s)) == ins.Open(s-1).MIDI()+int(sh.At(s-1)) {
			n++
		}
	}
	return n
}

// spreadStrings counts the strings between two fingers on one fret beyond the two that
// a hand spans without turning, twice at the lowest fret, where index and middle
// finger would have to reach; a barre does not spread.
func spreadStrings(sh Shape, f Fingering) int {
	low, _ := sh.Span()
	total := 0
	for i := range sh.frets[:sh.n] {
		for j := i + 1; j < int(sh.n); j++ {
			if sh.frets[i] > 0 && sh.frets[i] == sh.frets[j] && f.fingers[i] != f.fingers[j] {
				apart := max(0, j-i-2)
				if sh.frets[i] == low {
					apart *= 2
				}
				total += apart
				break
			}
		}
	}
	return total
}
