package fretboard

import (
	"math/bits"

	"arplin/core/theory"
)

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
	inverted                   // the lowest note is not the chord's bass, see bassFault
	missing                    // tones left out
	rootless                   // the root among them
	extra                      // tones of the stack that players leave out
	fewStrings                 // strings below four that sound
	thinRoot                   // the root lies above the bass strings
	muddy                      // a colour tone right above the bass
	unison                     // two strings on one pitch
	littleFinger               // the fourth finger is needed
	spread                     // strings between fingers on one fret, beyond two
	flat                       // a finger other than the index on two strings
	crowded                    // three fingers on the lowest fret, over five strings or more
	openBarre                  // open strings that ring thinner than a barre
	noPower                    // a power chord that is not three neighbouring strings over its root
	numStrains
)

// points is the effort of one unit of each strain. From memory, set so that the beginners' shapes come
// first (testdata/first_shapes.json).
var points = [numStrains]float64{
	fingersDown: 0.345, barre: 0.34, barreStrings: 0.01, stretch: 0.051, position: 0.61, mixed: 2.5,
	innerMute: 3.2, thickMute: 0.42, thinMute: 2.8, inverted: 3.0, missing: 0.7, rootless: 2.5, extra: 1, fewStrings: 2.0,
	thinRoot: 2.5, muddy: 1.6, unison: 2.4, littleFinger: 0.745, spread: 0.67, flat: 1.1, crowded: 0.6, openBarre: 2, noPower: 8,
}

// holding is what one unit of a strain asks of the left hand alone, whatever
// the shape sounds like: about one for each finger in an easy place. It compares
// shapes for people, where points orders them for a chart. From memory.
var holding = [numStrains]float64{
	fingersDown: 1, barre: 3.4, barreStrings: 0.6, stretch: 0.03, position: 0.1, innerMute: 0.6, flat: 0.8, crowded: 0.6, littleFinger: 0.5, spread: 0.2,
}

const (
	easyReach = 36.0 // mm: two frets in the first position of a guitar
	highFret  = 4    // from here on, open strings beside pressed ones are unusual
)

type strains [numStrains]float64

func (st *strains) effort() float64 { return st.weighed(&points) }
func (st *strains) hold() float64   { return st.weighed(&holding) }

func (st *strains) weighed(by *[numStrains]float64) (sum float64) {
	for i, n := range st {
		sum += by[i] * n
	}
	return sum
}

// effortMeter measures shapes of one chord on one instrument; what does not
// change from shape to shape is looked up once.
type effortMeter struct {
	ins    Instrument
	chord  theory.Chord
	open   [MaxStrings]int // MIDI of the open strings, thickest position first
	fretMM [MaxFret + 1]float64
	tones  [12]int8 // the number of the degree of each pitch class, 0 for none
	count  int      // how many tones the chord has
	low    bool     // the instrument has bass strings, so that the lowest note matters
	power  bool     // root and fifth alone
	thick  float64  // how much a silent thick string counts; more where the bass note is written
}

func newEffortMeter(ins Instrument, c theory.Chord) effortMeter {
	m := effortMeter{ins: ins, chord: c, low: ins.Traits().Basses}
	for i, p := range ins.Tuning {
		m.open[i] = p.MIDI()
	}
	for f := range m.fretMM {
		m.fretMM[f] = ins.FretMM(f)
	}
	m.tones[c.Bass.Class()] = 1 // a slash bass is no stranger
	for _, d := range c.Degrees() {
		m.tones[c.Root.Above(d).Class()] = d.Number
		m.count++
	}
	m.power = m.low && m.count == 2 && c.Has(5, 0)
	if m.thick = 1; m.low && c.Bass != c.Root {
		m.thick = 2.5
	} else if m.power {
		m.thick = 0.3 // what is silent is silent on purpose
	}
	return m
}

func (m *effortMeter) strains(sh Shape, f Fingering) (st strains) {
	m.reach(sh, &st)
	m.listen(sh, &st)
	st.hands(sh, f)
	return st
}

// reach fills in where the hand lies.
func (m *effortMeter) reach(sh Shape, st *strains) {
	low, high := sh.Span()
	if low > 0 {
		st[stretch] = max(0, m.fretMM[high]-m.fretMM[low]-easyReach)
		st[position] = float64(low - 1)
	}
	st[mixed] = indicator(low >= highFret && hasOpen(sh))
}

// hold fills in what the fingers do.
func (st *strains) hands(sh Shape, f Fingering) {
	st[fingersDown] = float64(f.Count())
	if b := f.Barre; b.From != 0 {
		st[barre] = 1
		st[barreStrings] = float64(b.From - b.To - 1)
		for s := String(1); s < b.To && b.From-b.To >= 3; s++ { // a small one lets them ring
			st[openBarre] = max(st[openBarre], indicator(sh.frets[int(sh.n)-int(s)] == 0))
		}
	}
	st[littleFinger] = indicator(f.uses(4))
	st[spread] = float64(spreadStrings(sh, f))
	st[flat], st[crowded] = float64(flatFingers(sh, f)), indicator(isCrowded(sh, f))
}

// listen fills in what can be heard: silent strings, missing tones, the bass.
func (m *effortMeter) listen(sh Shape, st *strains) {
	first, last, lowest, sounding := -1, -1, 0, 0
	var heard uint16
	for i, fret := range sh.frets[:sh.n] {
		if fret == Muted {
			continue
		}
		midi := m.open[i] + int(fret)
		if sounding == 0 {
			first, lowest = i, midi
		} else {
			st[innerMute] += float64(i - last - 1)
			if last == i-1 && midi == m.open[last]+int(sh.frets[last]) {
				st[unison]++
			}
		}
		lowest = min(lowest, midi)
		last = i
		sounding++
		if m.tones[midi%12] != 0 {
			heard |= 1 << (midi % 12)
		} else {
			st[extra]++
		}
	}
	st[thickMute], st[thinMute] = float64(first)*m.thick, float64(int(sh.n)-1-last)
	st[fewStrings] = float64(max(0, min(4, int(sh.n))-sounding))
	if m.power {
		st[noPower] = indicator(sounding != 3 || last-first != 2 || lowest%12 != m.chord.Root.Class())
		st[thinMute], st[fewStrings] = 0, 0
	}
	st[missing] = float64(m.count - bits.OnesCount16(heard))
	st[rootless] = indicator(heard&(1<<m.chord.Root.Class()) == 0)
	if !m.low {
		return // no bass strings: what lies lowest does not matter
	}
	st[inverted] = m.bassFault(lowest % 12)
	st[thinRoot] = indicator(m.rootString(sh) <= String(sh.n)/2)
	if next := first + 1; next < int(sh.n) && sh.frets[next] != Muted {
		d := m.tones[(m.open[next]+int(sh.frets[next]))%12]
		// A low interval other than a third or fifth above the bass blurs.
		st[muddy] = indicator(d != 1 && d != 3 && d != 5)
	}
}

// bassFault is how wrong the lowest note is: a slash chord is there for its bass, and
// over a sixth or a ninth a chord is heard as another. From memory.
func (m *effortMeter) bassFault(lowest int) float64 {
	const slash, foreign = 2.5, 1.6
	switch d := m.tones[lowest]; {
	case lowest == m.chord.Bass.Class():
		return 0
	case m.chord.Bass != m.chord.Root:
		return slash
	case d != 1 && d != 3 && d != 5:
		return foreign
	}
	return 1
}

// rootString is RootString for this chord.
func (m *effortMeter) rootString(sh Shape) String {
	bass := m.chord.Bass.Class()
	first := String(0)
	for i, fret := range sh.frets[:sh.n] {
		s := String(int(sh.n) - i)
		if fret == Muted {
			continue
		}
		if first == 0 {
			first = s
		}
		if s > String(sh.n)/2 && (m.open[i]+int(fret))%12 == bass {
			return s
		}
	}
	return first
}

func indicator(b bool) float64 {
	if b {
		return 1
	}
	return 0
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

// flatFingers counts the strings beyond the first that lie under one finger other
// than the index.
func flatFingers(sh Shape, f Fingering) (n int) {
	var strings [5]int
	for i := range sh.frets[:sh.n] {
		if sh.frets[i] > 0 && f.fingers[i] > 1 {
			strings[f.fingers[i]]++
		}
	}
	for _, count := range strings {
		n += max(0, count-1)
	}
	return n
}

// isCrowded reports three fingers or more on the lowest fret that reach over five
// strings: the hand has to turn.
func isCrowded(sh Shape, f Fingering) bool {
	low, _ := sh.Span()
	first, last, fingers := -1, -1, map[int8]bool{}
	for i := range sh.frets[:sh.n] {
		if low > 0 && int(sh.frets[i]) == int(low) {
			if first < 0 {
				first = i
			}
			last = i
			fingers[f.fingers[i]] = true
		}
	}
	return len(fingers) >= 3 && last-first >= 4
}
