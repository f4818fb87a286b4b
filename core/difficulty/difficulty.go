package difficulty

import (
	"math"
	"slices"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/theory"
)

// Task is what is to be played.
type Task struct {
	Pattern    pattern.Pattern
	Bars       []song.Bar // of the song, as fingered; the figure is not played in those of another meter
	Instrument fretboard.Instrument
	School     bind.School
	Shapes     bind.Shapes
	Tempo      int // of the meter's tapped beat, a minute
	Play       Play
	// Tune is a line of single notes, which any two fingers play in turn: that is no figure whose
	// fingers are to be remembered, and none has to act alone.
	Tune bool
	// Played is the order in which they are sung; nil for as they are written.
	Played []Sung
	// Rest are the parts of the song that have a figure of their own, a task each.
	Rest     []Task
	Sections []song.SectionID // of such a part
	// Order is the chords in the order in which a ladder brings them, by symbol; nil
	// where nobody has found it yet.
	Order []string
}

// Sung is a bar where it is sung.
type Sung struct {
	Bar   int // its place in the bars of the task
	Count int // how many bars the figure has been played in this part, from 0: it begins anew with each
}

// Sung is the bars in which the figure is played, in the order in which they are sung.
func (t Task) Sung() []Sung {
	if t.Played != nil {
		return t.Played
	}
	var order []Sung
	for i, b := range t.Bars {
		if b.Meter == (pattern.Meter{}) || b.Meter == t.Pattern.Meter {
			order = append(order, Sung{i, len(order)})
		}
	}
	return order
}

// Around are the bars that are sung before and after a bar, the first time that it is,
// with itself in the middle; the song goes round. ok is false for a bar in which the
// figure is not played.
func (t Task) Around(bar int) (around [3]Sung, ok bool) {
	order := t.Sung()
	n := len(order)
	i := slices.IndexFunc(order, func(s Sung) bool { return s.Bar == bar })
	if i < 0 {
		return around, false
	}
	return [3]Sung{order[(i+n-1)%n], order[i], order[(i+1)%n]}, true
}

// Held is what a bar's chords are held with.
func (t Task) Held(bar int) bind.Shapes { return t.Bars[bar].In(t.Instrument, t.Shapes) }

// measuredPasses is how often a part that is repeated is measured: once more than its
// endings, so that every way from bar to bar is there; further passes add nothing.
const measuredPasses = song.MaxEnding + 1

// BarsOf are the bars of a song, and the order in which those in its meter are sung.
func BarsOf(fingered song.Song) (bars []song.Bar, played []Sung) {
	bars, played = fingered.Bars(), []Sung{}
	last, count := song.Sung{}, 0
	for i, at := range fingered.Sung() {
		if i == 0 || at.Section != last.Section || at.Pass != last.Pass {
			count = 0
		}
		last = at
		switch n := at.Number; {
		case bars[n].Meter != (pattern.Meter{}) || at.Pass > measuredPasses:
		default:
			played = append(played, Sung{n, count})
			if role := bars[n].Role; role != song.Pickup && role != song.Short {
				count++
			}
		}
	}
	return bars, played
}

// Play is how much of the instrument a task needs. Steps may begin before the
// strings.
type Play string

// The ways to play; the zero value is the usual one.
const (
	OnStrings Play = ""
	Muted     Play = "muted"  // the left hand lies on the strings
	Tapped    Play = "tapped" // the rhythm on the knees
	Said      Play = "said"   // the count and the strokes, aloud
	Swings    Play = "swings" // the strumming hand goes down and up with the count and touches nothing
)

// PlayNames are the words of the ways to play.
var PlayNames = []struct {
	Play Play
	Name string
}{{OnStrings, ""}, {Muted, "muted strings"}, {Tapped, "tapped"}, {Said, "said"}, {Swings, "the empty hand"}}

// String is what a way to play is called; empty for the usual one.
func (p Play) String() string {
	for _, n := range PlayNames {
		if n.Play == p {
			return n.Name
		}
	}
	return string(p)
}

// PartID names a part of the level for good, in files and on the command line.
type PartID string

// Part is one thing that makes a task hard.
type Part struct {
	ID    PartID
	Value float64 // in Unit
	Unit  string
	Label string  // what a teacher calls it
	About string  // what it is, in a few words
	Share float64 // of the level above 1.0; all shares add up to it
	Says  string  // true of this figure on these chords
}

// Reading is what was measured of a task.
type Reading struct {
	Level   float64 // 1.0 to 9.9, not rounded
	Parts   []Part  // in the order of the definitions
	Hardest Place
}

// Place is the hardest place, counted from 0, with the reason.
type Place struct {
	Bar, Slot int
	Why       string
	Change    bool    // of chords; else it is the figure
	Seconds   float64 // there are for the change
}

// The level rises from 1.0 with the weighted sum of the parts, and never reaches 9.9: slowly where a
// figure hardly asks for anything, most in the middle, where figures are told apart.
const (
	lowest, span = 1.0, 8.9
	middle       = 9.7 // the sum at which half of the span is used
	curve        = 2.5
)

// levelOf maps a weighted sum to the level.
func levelOf(sum float64) float64 {
	if sum <= 0 {
		return lowest
	}
	return lowest + span/(1+math.Pow(middle/sum, curve))
}

// LevelOf is the level of a task, for those who do not ask why.
func LevelOf(t Task, w Weights) float64 {
	m, _ := hardestPart(t, w)
	return levelOf(m.weighed(w))
}

// Of measures a task with the given weights, part by part.
func Of(t Task, w Weights) Reading {
	m, t := hardestPart(t, w)
	sum := m.weighed(w)
	r := Reading{Level: levelOf(sum), Hardest: hardestPlace(t, m)}
	f := factsOf(t)
	for i, v := range m.values {
		d := definitions[i]
		p := Part{ID: d.id, Value: v, Unit: d.unit, Label: d.label, About: d.about, Says: d.says(f, v)}
		if sum > 0 {
			p.Share = (r.Level - lowest) * w[i] * v / sum
		}
		r.Parts = append(r.Parts, p)
	}
	return r
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

// definitions name the parts: label and about are what a teacher reads, says
// makes a sentence that is true of the figure.
var definitions = [numParts]struct {
	id                 PartID
	unit, label, about string
	says               func(f facts, value float64) string
}{
	rate:         {"rate", "strokes a second", "speed", "how many strokes a second, on average and in the busiest beat", facts.sayRate},
	offBeat:      {"off_beat", "note-to-beat distance a bar", "off the beat", "up strums, finger notes and accents between the beats", facts.sayOffBeat},
	together:     {"together", "a bar", "pinches and pairs", "notes that come at the same moment", facts.sayTogether},
	independence: {"independence", "a bar", "independence", "finger notes while the thumb keeps its own beat", facts.sayIndependence},
	thumbTravel:  {"thumb_travel", "strings a bar", "thumb travel", "strings the thumb crosses", facts.sayThumbTravel},
	order:        {"order", "turns a bar", "order of the fingers", "fingers out of their running order", facts.sayOrder},
	repeat:       {"repeat", "squared strokes a second", "same finger again", "how soon a finger has to play again", facts.sayRepeat},
	fingers:      {"fingers", "fingers", "how many fingers", "fingers that play on their own", facts.sayFingers},
	direction:    {"direction", "a bar", "strum direction", "missed strums, and strums against the hand", facts.sayDirection},
	aim:          {"aim", "a bar", "aim", "single strings a pick has to find, sweeps, bass to strum", facts.sayAim},
	touch:        {"touch", "kinds and uses", "touch", "stops, palm muting, chucks, brushes, palm hits", facts.sayTouch},
	dynamics:     {"dynamics", "a bar", "accents", "accents and soft strokes", facts.sayDynamics},
	figure:       {"figure", "things to remember", "things to remember", "kinds of stroke, bars that differ, chords", facts.sayFigure},
	shape:        {"shape", "fingers", "chord shapes", "how hard the chords are to hold", facts.sayShape},
	change:       {"change", "points a second", "chord changes", "how hard the changes are in the time available", facts.sayChange},
}

// Definitions lists the parts with their words, without values.
func Definitions() []Part {
	list := make([]Part, numParts)
	for i, d := range definitions {
		list[i] = Part{ID: d.id, Unit: d.unit, Label: d.label, About: d.about}
	}
	return list
}

// Weights of the parts, all of them zero or more.
type Weights [numParts]float64

// NewTask reads what the command line and the pages have: a pattern, a song as
// it sounds, an instrument.
func NewTask(p pattern.Pattern, sg song.Song, ins fretboard.Instrument, school bind.School, tempo int) Task {
	bars, played := BarsOf(sg.Fingering(ins))
	return Task{Pattern: p, Bars: bars, Played: played, Instrument: ins, School: school.On(sg), Shapes: sg.UsualShapesOn(ins), Tempo: tempo}
}

// OneChord is a task on a single chord.
func OneChord(p pattern.Pattern, c theory.Chord, ins fretboard.Instrument, school bind.School, tempo int) Task {
	sg := song.Song{Meter: p.Meter, Tempo: tempo, Sections: []song.Section{{Bars: []song.Bar{{Changes: song.Share(p.Meter, []string{c.String()})}}}}}
	return NewTask(p, sg, ins, school, tempo)
}
