package fretboard

import "math"

// Change is the way from one shape to another on one instrument.
type Change struct {
	Effort  float64 // points, about one for each finger that has to travel
	Kept    []int8  // fingers that stay on their fret and string
	Moved   []int8  // fingers that travel or come down anew
	Seconds float64 // estimated time for a learner who knows both shapes
}

// Points of a change; from memory.
const (
	pointTravel    = 1.0  // a finger that travels
	pointLanding   = 0.7  // a finger that comes down anew
	pointPerCM     = 0.15 // for each centimetre of the way
	pointNewBarre  = 1.8
	pointHandShift = 0.4 // for each fret that the hand moves
)

// The time follows Fitts's law in Shannon's form, MT = a + b log2(D/W + 1)
// (Fitts 1954, MacKenzie 1992), for the finger with the longest way; each further
// finger of a learner follows a little later. The form is published, the
// constants are from memory of learners who change about once a second.
const (
	fittsStart     = 0.25 // s: letting go and finding the way
	fittsPerBit    = 0.12 // s
	targetMM       = 8.0  // a string's share of the neck
	secondsPerNext = 0.12 // s for each further finger
	stringGapMM    = 9.0
	landingMM      = 15.0 // a finger comes down from the air
)

// ChangeBetween measures the change from one shape to the next.
func ChangeBetween(ins Instrument, from, to Voicing) Change {
	var ch Change
	if from.Shape == to.Shape {
		for finger := int8(1); finger <= 4; finger++ {
			if to.Fingering.uses(finger) {
				ch.Kept = append(ch.Kept, finger)
			}
		}
		return ch
	}
	longest := 0.0
	for finger := int8(1); finger <= 4; finger++ {
		a, wasDown := from.press(finger)
		b, isDown := to.press(finger)
		if !isDown {
			continue
		}
		if wasDown && a == b {
			ch.Kept = append(ch.Kept, finger)
			continue
		}
		ch.Moved = append(ch.Moved, finger)
		way, points := landingMM, pointLanding
		if wasDown {
			way = math.Hypot(ins.FretMM(int(a.fret))-ins.FretMM(int(b.fret)), stringGapMM*float64(a.from-b.from))
			points = pointTravel
		}
		if b.from != b.to {
			points += pointNewBarre
		}
		ch.Effort += points + pointPerCM*way/10
		longest = max(longest, way)
	}
	lowFrom, _ := from.Span()
	lowTo, _ := to.Span()
	if lowFrom > 0 && lowTo > 0 {
		ch.Effort += pointHandShift * math.Abs(float64(lowFrom-lowTo))
	}
	if n := len(ch.Moved); n > 0 {
		ch.Seconds = fittsStart + fittsPerBit*math.Log2(longest/targetMM+1) + secondsPerNext*float64(n-1)
	} else if from.Fingering.Count() > to.Fingering.Count() {
		ch.Seconds = fittsStart // lifting is quick, but it is not nothing
	}
	return ch
}

// press is where a finger presses.
type press struct {
	fret     Fret
	from, to String // thickest and thinnest string
}

func (v Voicing) press(finger int8) (g press, down bool) {
	for s := String(v.n); s >= 1; s-- {
		if v.Fingering.At(s) != finger {
			continue
		}
		if !down {
			g = press{v.At(s), s, s}
			down = true
		}
		g.to = s
	}
	return g, down
}
