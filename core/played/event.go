package played

import (
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/theory"
)

// Kind is what an event does to the strings.
type Kind string

// The kinds of event.
const (
	Pluck Kind = "pluck"
	Strum Kind = "strum"
	Brush Kind = "brush" // with the backs of the nails
	Chuck Kind = "chuck"
	Knock Kind = "knock"
)

// Event is one stroke on its strings. Bar and Slot count from 0 within the
// pattern; Strings, Frets and Pitches run together, thickest string first.
type Event struct {
	Bar, Slot int
	Tick      int // where it sounds within its bar
	Kind      Kind
	Finger    string // "p" "i" "m" "a" "c", empty for strums and picks
	Direction string // "down", "up" or empty
	Stroke    pattern.Stroke
	Strings   []fretboard.String
	Frets     []fretboard.Fret
	Pitches   []theory.Pitch
	Accent    bool
	Soft      bool
	Muted     bool   // with the palm
	Melody    bool   // a note of the tune, which is heard above the rest
	Slurred   bool   // it is not struck: slid to or hammered on
	Word      string // the syllable that is sung on it
}
