package fretboard

import "fmt"

// Family decides how the right hand is bound to the strings, and what the instrument is built of.
type Family string

// The families.
const (
	Guitar   Family = "guitar"
	Ukulele  Family = "ukulele"
	Baritone Family = "baritone" // a guitar's four thin strings
)

// Traits are what a family is played and built like.
type Traits struct {
	Family Family
	// ThumbStays: the thumb keeps the string in the thickest position, whatever the root; else it
	// looks for the root's string.
	ThumbStays bool
	Thick      String  // from this string on strings are the thumb's
	Basses     bool    // strings below the chord's root sound as basses, and a capo changes the key
	Steel      bool    // strings of steel; else of nylon
	Program    int     // of General MIDI, from 0
	ScaleMM    float64 // nut to saddle; the ukulele's is a concert's
}

// families are the rows. Source of the strings of the thumb and the scale lengths: common practice;
// of the programs: General MIDI, 25 nylon and 26 steel strings counted from 1.
var families = [...]Traits{
	{Family: Guitar, Thick: 4, Basses: true, Steel: true, Program: 25, ScaleMM: 648},
	{Family: Ukulele, ThumbStays: true, Thick: 4, Program: 24, ScaleMM: 380},
	{Family: Baritone, Thick: 3, Program: 24, ScaleMM: 510},
}

func traitsOf(f Family) *Traits {
	for i := range families {
		if families[i].Family == f {
			return &families[i]
		}
	}
	return &families[0]
}

// Traits are those of the instrument's family.
func (ins Instrument) Traits() Traits { return *traitsOf(ins.Family) }

// Bass names the string on which the thumb strikes a chord: its root's, or, where the thumb stays, the
// thumb's; empty for none.
func (ins Instrument) Bass(s String) string {
	switch {
	case s == 0:
		return ""
	case ins.ThumbStays():
		return fmt.Sprintf("thumb string %d", s)
	}
	return fmt.Sprintf("root string %d", s)
}

// ThumbStays reports that the thumb keeps its string, whatever the root.
func (ins Instrument) ThumbStays() bool { return traitsOf(ins.Family).ThumbStays }

// Drones reports an instrument whose outer string is not its lowest: what the thumb strikes there is
// a drone, and no bass.
func (ins Instrument) Drones() bool {
	n := String(ins.Strings())
	return n > 1 && ins.Open(n).MIDI() > ins.Open(n-1).MIDI()
}
