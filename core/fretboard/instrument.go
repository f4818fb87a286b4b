package fretboard

import (
	"fmt"
	"math"
	"strings"

	"arplin/core/theory"
)

// String is a string's number, counted from the thinnest position: guitar 1 to
// 6, ukulele 1 to 4. The zero value is no string.
type String int8

// MaxStrings bounds every instrument, and with it the search's memory.
const MaxStrings = 10

// Instrument is a tuning on a neck.
type Instrument struct {
	ID      string
	Name    string
	Family  Family
	Tuning  []theory.Pitch // thickest position first
	ScaleMM float64        // nut to saddle
}

// Instruments are the tunings that Arplin knows by name.
var Instruments = []Instrument{
	known("guitar", "Guitar", Guitar, "E2 A2 D3 G3 B3 E4"),
	known("guitar-drop-d", "Guitar, drop D", Guitar, "D2 A2 D3 G3 B3 E4"),
	known("guitar-open-g", "Guitar, open G", Guitar, "D2 G2 D3 G3 B3 D4"),
	known("guitar-open-d", "Guitar, open D", Guitar, "D2 A2 D3 F#3 A3 D4"),
	known("guitar-dadgad", "Guitar, DADGAD", Guitar, "D2 A2 D3 G3 A3 D4"),
	known("ukulele", "Ukulele, high g", Ukulele, "G4 C4 E4 A4"),
	known("ukulele-low-g", "Ukulele, low g", Ukulele, "G3 C4 E4 A4"),
	known("ukulele-d", "Ukulele in D", Ukulele, "A4 D4 F#4 B4"),
	known("baritone", "Baritone ukulele", Baritone, "D3 G3 B3 E4"),
}

func known(id, name string, family Family, tuning string) Instrument {
	pitches, err := ParseTuning(tuning)
	if err != nil {
		panic(err)
	}
	return Instrument{id, name, family, pitches, traitsOf(family).ScaleMM}
}

// tuningPrefix begins the id of an instrument with a tuning of the teacher's
// own; the open strings follow, joined by hyphens.
const tuningPrefix = "tuning:"

// ByID finds an instrument by its id, a known one or "tuning:E2-A2-D3-G3-B3-E4".
func ByID(id string) (Instrument, error) {
	for _, ins := range Instruments {
		if ins.ID == id {
			return ins, nil
		}
	}
	if text, own := strings.CutPrefix(id, tuningPrefix); own {
		tuning, err := ParseTuning(strings.ReplaceAll(text, "-", " "))
		if err != nil {
			return Instrument{}, err
		}
		return Custom(tuning), nil
	}
	return Instrument{}, fmt.Errorf("%q is not an instrument that Arplin knows", id)
}

// ParseTuning reads open strings, thickest position first: "E2 A2 D3 G3 B3 E4".
func ParseTuning(s string) ([]theory.Pitch, error) {
	fields := strings.Fields(s)
	if len(fields) < 3 || len(fields) > MaxStrings {
		return nil, fmt.Errorf("tuning %q: an instrument has 3 to %d strings, thickest position first", s, MaxStrings)
	}
	var tuning []theory.Pitch
	for i, f := range fields {
		p, err := theory.ParsePitch(f)
		if err != nil {
			return nil, fmt.Errorf("tuning, string %d from the left: %w", i+1, err)
		}
		tuning = append(tuning, p)
	}
	return tuning, nil
}

// TuningOf is the tuning in an id of a teacher's own, thickest string first, as
// ParseTuning reads it; ok is false for a known instrument.
func TuningOf(id string) (tuning string, ok bool) {
	text, ok := strings.CutPrefix(id, tuningPrefix)
	return strings.ReplaceAll(text, "-", " "), ok
}

// Custom is an instrument with a tuning of the teacher's own. A known tuning
// gives the known instrument. Four strings that do not fall in order, or whose
// thinnest lies at G4 or above, are a ukulele; four others a baritone.
func Custom(tuning []theory.Pitch) Instrument {
	for _, ins := range Instruments {
		if sameTuning(ins.Tuning, tuning) {
			return ins
		}
	}
	names := make([]string, len(tuning))
	for i, p := range tuning {
		names[i] = p.String()
	}
	family := Guitar
	if len(tuning) == 4 {
		family = Baritone
		if tuning[0].MIDI() > tuning[1].MIDI() || tuning[3].MIDI() >= theory.MustPitch("G4").MIDI() {
			family = Ukulele
		}
	}
	return Instrument{tuningPrefix + strings.Join(names, "-"), "Tuned " + strings.Join(names, " "), family, tuning, traitsOf(family).ScaleMM}
}

func sameTuning(a, b []theory.Pitch) bool {
	if len(a) != len(b) {
		return false
	}
	for i := range a {
		if a[i].MIDI() != b[i].MIDI() {
			return false
		}
	}
	return true
}

// Strings is how many strings the instrument has.
func (ins Instrument) Strings() int { return len(ins.Tuning) }

// Open is the open pitch of a string.
func (ins Instrument) Open(s String) theory.Pitch { return ins.Tuning[ins.Strings()-int(s)] }

// WithCapo returns the instrument with a capo at the fret: every open string
// rises and the neck grows shorter.
func (ins Instrument) WithCapo(fret int) Instrument {
	if fret == 0 {
		return ins
	}
	tuning := make([]theory.Pitch, len(ins.Tuning))
	for i, p := range ins.Tuning {
		midi := p.MIDI() + fret
		tuning[i] = theory.PlainPitch(midi)
	}
	ins.Tuning, ins.ScaleMM = tuning, ins.ScaleMM-ins.FretMM(fret)
	return ins
}

// FretMM is the distance of a fret from the nut in millimetres by the
// equal-tempered rule: each fret leaves 2^(-1/12) of the string that was left.
func (ins Instrument) FretMM(fret int) float64 {
	return ins.ScaleMM * (1 - math.Exp2(-float64(fret)/12))
}
