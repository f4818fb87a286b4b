package bind

import (
	"fmt"
	"strings"

	"arplin/core/fretboard"
	"arplin/core/song"
	"arplin/core/theory"
)

// School is a class's side in the questions that touch the binding.
type School struct {
	Fingers  FingerSchool
	LowFifth bool // shapes with the root on string 5 (C, Am) may use the fifth on string 6
	Pick     bool // single strings are played with a pick, down and up in turn
	Roll     RollSchool
	// Kept are the chords of a song on which the thumb keeps to the root where it would go to the low
	// fifth, by instrument; see On.
	Kept string
}

// FingerSchool says how fingers find their strings.
type FingerSchool string

// The two schools of fingers.
const (
	Moving FingerSchool = "moving" // the thumb has the bass strings, i and m follow the chord
	Fixed  FingerSchool = "fixed"  // one finger, one string
)

// RollSchool says on which strings a roll of thumb and three fingers lies.
type RollSchool string

// The schools of rolls; all have the thumb on the root string. Source: common practice.
const (
	RollThin   RollSchool = ""       // i m a on 3 2 1
	RollMiddle RollSchool = "middle" // i m a on 4 3 2, where the root lies below
	RollSpread RollSchool = "spread" // i on the second bass string, m a on the two thinnest
)

// ParseRollSchool reads one.
func ParseRollSchool(s string) (RollSchool, error) {
	switch r := RollSchool(s); r {
	case RollThin, RollMiddle, RollSpread:
		return r, nil
	}
	return "", fmt.Errorf("%q isn’t a place for a roll. Use middle, spread or nothing", s)
}

// ParseFingerSchool reads "moving" or "fixed".
func ParseFingerSchool(s string) (FingerSchool, error) {
	switch f := FingerSchool(s); f {
	case Moving, Fixed:
		return f, nil
	}
	return "", fmt.Errorf("%q is not a school of fingers: fixed or moving", s)
}

// DefaultSchool is what a class has before its teacher chooses.
var DefaultSchool = School{Fingers: Moving, LowFifth: true}

// On is the school with what the teacher has chosen for the chords of a song.
func (s School) On(sg song.Song) School {
	if len(sg.Roots) == 0 {
		return s
	}
	var kept strings.Builder
	for _, ins := range fretboard.Instruments {
		for _, chord := range sg.Roots[ins.ID] {
			kept.WriteString(keptWord(ins, chord))
		}
	}
	s.Kept = kept.String()
	return s
}

// keeps reports a chord on which the thumb keeps to the root.
func (s School) keeps(ins fretboard.Instrument, c theory.Chord) bool {
	return s.Kept != "" && strings.Contains(s.Kept, keptWord(ins, c.String()))
}

func keptWord(ins fretboard.Instrument, chord string) string { return "[" + ins.ID + " " + chord + "]" }
