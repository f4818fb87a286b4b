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
	w := way(ins, from, to, &ch)
	ch.Effort = w.effort
	if n := len(ch.Moved); n > 0 && w.slides {
		ch.Seconds = fittsStart + fittsPerBit*math.Log2(w.longest/targetMM+1)
	} else if n > 0 {
		ch.Seconds = fittsStart + fittsPerBit*math.Log2(w.longest/targetMM+1) + secondsPerNext*float64(n-1)
	} else if from.Fingering.Count() > to.Fingering.Count() {
		ch.Seconds = fittsStart // lifting is quick, but it is not nothing
	}
	return ch
}

// travel is what the fingers do between two shapes.
type travel struct {
	effort, longest float64 // points, and mm of the finger that goes furthest
	slides          bool    // the whole grip along the strings
}

// way finds it, and writes what stays and what moves into ch.
func way(ins Instrument, from, to Voicing, ch *Change) (w travel) {
	w.slides = slid(from, to)
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
		mm, points := landingMM, pointLanding
		if wasDown {
			mm = math.Hypot(ins.FretMM(int(a.fret))-ins.FretMM(int(b.fret)), stringGapMM*float64(a.from-b.from))
			points = pointTravel
		}
		if b.from != b.to && !w.slides {
			points += pointNewBarre
		}
		w.longest = max(w.longest, mm)
		if !w.slides {
			w.effort += points + pointPerCM*mm/10
		}
	}
	if w.slides { // the fingers keep their places in the hand: it moves as one, one travel however many they are
		w.effort = pointTravel + pointPerCM*w.longest/10
	}
	lowFrom, _ := from.Span()
	lowTo, _ := to.Span()
	if lowFrom > 0 && lowTo > 0 {
		w.effort += pointHandShift * math.Abs(float64(lowFrom-lowTo))
	}
	return w
}

// slid reports one grip that is moved along the strings: the same fingers on the same strings, all as
// many frets further, and no open string that would have to be left or found.
func slid(from, to Voicing) bool {
	by := Fret(0)
	for s := String(1); int(s) <= from.Strings(); s++ {
		a, b := from.At(s), to.At(s)
		if a <= 0 || b <= 0 {
			if a != b {
				return false
			}
			continue
		}
		if by == 0 {
			by = b - a
		}
		if b-a != by || by == 0 || from.Fingering.At(s) != to.Fingering.At(s) {
			return false
		}
	}
	return by != 0
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
