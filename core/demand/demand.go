// Package demand says how hard a pattern is on chords, on an instrument, at a
// tempo: part by part, in units that a teacher understands, and where the
// hardest place is. docs/demand.md defines the parts.
package demand

import (
	"fmt"
	"math"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/hand"
	"arplin/core/song"
	"arplin/core/theory"
)

// Task is what is to be played.
type Task struct {
	Pattern    hand.Pattern
	Bars       []song.Bar // as fingered; repeated from the start when the pattern is longer
	Instrument fretboard.Instrument
	School     bind.School
	Shapes     bind.Shapes
	Tempo      int // of the meter's tapped beat, a minute
	Play       Play
}

// Play is how much of the instrument a task needs. Steps may begin before the
// strings.
type Play string

// The ways to play; the zero value is the usual one.
const (
	OnStrings Play = ""
	Muted     Play = "muted strings" // the left hand lies on the strings
	Tapped    Play = "tapped"        // the rhythm on the knees
	Said      Play = "said"          // the count and the strokes, aloud
)

// Part is one thing that makes a task hard.
type Part struct {
	Name  string
	Value float64 // in Unit
	Unit  string
	About string  // what it is, in a few words
	Share float64 // of the level above 1.0; all shares add up to it
	Says  string
}

// Demand is the answer.
type Demand struct {
	Level   float64 // 1.0 to 9.9, not rounded
	Parts   []Part  // in the order of the definitions
	Hardest Place
}

// Place is the hardest place, counted from 0, with the reason.
type Place struct {
	Bar, Slot int
	Why       string
	Change    bool // of chords; else it is the figure
}

// The level rises from 1.0 with the weighted sum of the parts, steeply first,
// and never reaches 9.9.
const (
	lowest, span = 1.0, 8.9
	curve        = 14.0 // the sum at which about two thirds of the span are used
)

// levelOf maps a weighted sum to the level.
func levelOf(sum float64) float64 { return lowest + span*(1-math.Exp(-sum/curve)) }

// Of measures a task with the given weights.
func Of(t Task, w Weights) Demand {
	m := hardest(t, w)
	sum := m.weighed(w)
	d := Demand{Level: levelOf(sum), Hardest: m.hardest}
	for i, v := range m.values {
		p := Part{Name: definitions[i].name, Value: v, Unit: definitions[i].unit, About: definitions[i].about, Says: definitions[i].says(v)}
		if sum > 0 {
			p.Share = (d.Level - lowest) * w[i] * v / sum
		}
		d.Parts = append(d.Parts, p)
	}
	return d
}

// The parts, in order.
const (
	rate = iota
	offBeat
	together
	independence
	thumbTravel
	order
	repeat
	fingers
	direction
	aim
	touch
	dynamics
	figure
	shape
	change
	numParts
)

// definitions name the parts: about is what a teacher reads, says makes a sentence
// of the value.
var definitions = [numParts]struct {
	name, unit, about string
	says              func(value float64) string
}{
	rate:         {"rate", "strokes a second", "how many strokes a second, and the densest beat", with("%.1f strokes a second, the densest beat and the mean together")},
	offBeat:      {"off_beat", "note-to-beat distance a bar", "ups, finger notes and accents between the beats", with("ups, finger notes and accents lie off the beat by %.1f in all")},
	together:     {"together", "a bar", "pinches and pairs among single strokes", with("%.1f pinches or pairs a bar among single strokes")},
	independence: {"independence", "a bar", "finger notes while the thumb keeps its own beat", with("finger notes fall between strokes of the thumb, which counts %.1f a bar")},
	thumbTravel:  {"thumb_travel", "strings a bar", "the thumb's way from string to string", with("the thumb crosses %.1f strings a bar, skipped ones counted twice")},
	order:        {"order", "turns a bar", "fingers out of their running order", with("the fingers turn back %.1f times a bar, fall, or leave their string")},
	repeat: {"repeat", "squared strokes a second", "the same finger again, and soon", func(v float64) string {
		return fmt.Sprintf("the busiest finger comes again %.1f times a second", math.Sqrt(v))
	}},
	fingers: {"fingers", "fingers", "how many fingers act by themselves", func(v float64) string {
		if v == 1 {
			return "one finger acts by itself"
		}
		return fmt.Sprintf("%.0f fingers act by themselves", v)
	}},
	direction: {"direction", "a bar", "strums against the hand, beats that pass in the air", with("strokes against the hand and beats passed in the air count %.1f a bar")},
	aim:       {"aim", "a bar", "single strings that a pick must find", with("single strings that must be found, or exchanged for a strum, count %.1f a bar")},
	touch:     {"touch", "kinds and uses", "stops, muting, chucks, nails, knocks", with("stops, muting, chucks, nails and knocks count %.1f")},
	dynamics:  {"dynamics", "a bar", "accents and soft strokes", with("accents and soft strokes count %.1f a bar, those off the beat twice")},
	figure:    {"figure", "things to remember", "what is to be remembered, the chords too", with("to remember: the kinds of strokes, what differs between bars, the chords; they count %.1f")},
	shape:     {"shape", "fingers", "how hard the chords are to hold", with("the shapes are as hard to hold as %.1f fingers; the hardest counts most")},
	change:    {"change", "points a second", "how hard the changes are, against their time", with("the chord changes cost %.1f against their time; the hardest counts as well")},
}

func with(format string) func(float64) string {
	return func(v float64) string { return fmt.Sprintf(format, v) }
}

// Weights of the parts, all of them zero or more.
type Weights [numParts]float64

// Names lists the parts in order.
func Names() []string {
	names := make([]string, numParts)
	for i, d := range definitions {
		names[i] = d.name
	}
	return names
}

// NewTask reads what the command line and the pages have: a pattern, a song as
// it sounds, an instrument.
func NewTask(p hand.Pattern, sg song.Song, ins fretboard.Instrument, school bind.School, tempo int) Task {
	return Task{Pattern: p, Bars: sg.Fingering(ins).Bars(), Instrument: ins, School: school, Shapes: sg.ShapesOn(ins), Tempo: tempo}
}

// OneChord is a task on a single chord.
func OneChord(p hand.Pattern, c theory.Chord, ins fretboard.Instrument, school bind.School, tempo int) Task {
	sg := song.Song{Meter: p.Meter, Tempo: tempo, Sections: []song.Section{{Bars: []song.Bar{{Changes: song.Share(p.Meter, []string{c.String()})}}}}}
	return NewTask(p, sg, ins, school, tempo)
}
