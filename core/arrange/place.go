package arrange

import (
	"fmt"
	"maps"
	"slices"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/theory"
)

// Bass is what the thumb does under a tune.
type Bass string

// The basses, from none to the alternating thumb.
const (
	NoBass      Bass = "none"
	OnOne       Bass = "one"
	Pulse       Bass = "pulse"
	Alternating Bass = "alternating"
)

// ParseBass reads the name of a bass.
func ParseBass(text string) (Bass, error) {
	b := Bass(text)
	if !slices.Contains([]Bass{NoBass, OnOne, Pulse, Alternating}, b) {
		return "", fmt.Errorf("%q is not none, one, pulse or alternating", text)
	}
	return b, nil
}

// At is a note of a tune by the bar, counted from 0, and its tick in it.
type At struct{ Bar, Tick int }

// Task is a tune to be put on strings.
type Task struct {
	Instrument fretboard.Instrument
	Meter      pattern.Meter
	Bars       []song.Bar // as they are fingered, chords and tune
	Shapes     bind.Shapes
	Bass       Bass
	Key        theory.Key              // as fingered: where the ending leads
	Pins       map[At]fretboard.String // the teacher's own choices
}

// Placed is a tune on strings.
type Placed struct {
	Bars []Bar
	Left []Left // what could not be placed
}

// Bar is a bar with what the left hand holds and what the right hand strikes in it.
type Bar struct {
	Grips   []Grip
	Strokes []Stroke // in the order in which they sound, the thumb first
}

// Grip is what the left hand holds from a tick of the bar on.
type Grip struct {
	Tick    int
	Chord   theory.Chord
	Voicing fretboard.Voicing
	Melody  fretboard.String // the string that carries the tune, 0 for none
	Becomes string           // what the chord is with the note in it: "C6"; empty where it stays what it is
}

// Stroke is a string that is struck.
type Stroke struct {
	Tick   int
	String fretboard.String
	Fret   fretboard.Fret
	MIDI   int
	Melody bool // else the thumb's bass
	Mark   song.NoteMark
	Word   string
}

// Left is a note that could not be placed as it is.
type Left struct {
	Bar, Tick, MIDI int
	Why             string
}

// Place finds the way through the whole tune that costs the least.
func Place(t Task) Placed {
	s := newSearch(t)
	s.run()
	return s.placed()
}

// moment is a place in the tune at which something begins: a note, a chord, a bass.
type moment struct {
	bar, tick int
	chord     theory.Chord
	usual     fretboard.Voicing
	hasChord  bool
	note      *song.MelodyNote // nil for a rest
	held      bool             // the note goes on from the moment before
	bass      []bassStroke     // until the next moment
	walks     bool             // the thumb has a root and an alternate over the chord in this bar
	fifths    bool             // it answers with the fifth alone
	grips     []grip
}

// bassStroke is a stroke of the thumb.
type bassStroke struct {
	tick      int // of its bar
	alternate bool
}

// moments cuts the bars where notes, chords and basses begin.
func (s *search) moments() {
	var root bassRoot
	for b, bar := range s.Bars {
		cuts := cutsOf(bar)
		beats := s.basses(bar, &root)
		for i, tick := range cuts {
			end := bar.Ticks()
			if i+1 < len(cuts) {
				end = cuts[i+1]
			}
			m := moment{bar: b, tick: tick}
			m.chord, m.hasChord = chordAt(bar, tick)
			if m.hasChord {
				m.usual, m.hasChord = bar.In(s.Instrument, s.Shapes)[m.chord]
				m.hasChord = m.hasChord && s.Bass != NoBass // a tune by itself needs no shape
			}
			for k := range bar.Melody {
				if n := &bar.Melody[k]; n.Tick <= tick && tick < n.Tick+n.Ticks {
					m.note, m.held = n, n.Tick < tick || n.Mark == song.Tied
				}
			}
			if m.hasChord {
				m.fifths = s.Bass == Alternating && s.meterOf(bar).Beats == 3
				m.walks = walks(bar, beats, m.chord)
				for _, beat := range beats {
					if beat.tick >= tick && beat.tick < end {
						m.bass = append(m.bass, beat)
					}
				}
			}
			s.line = append(s.line, m)
		}
	}
}

// walks reports a bar in which the thumb answers its root over a chord.
func walks(bar song.Bar, beats []bassStroke, c theory.Chord) bool {
	var has [2]bool
	for _, b := range beats {
		if over, ok := chordAt(bar, b.tick); ok && over == c {
			has[0], has[1] = has[0] || !b.alternate, has[1] || b.alternate
		}
	}
	return has[0] && has[1]
}

// cutsOf are the ticks of a bar at which something begins.
func cutsOf(bar song.Bar) []int {
	at := map[int]bool{0: true}
	tick := 0
	for _, ch := range bar.Changes {
		at[tick] = true
		tick += ch.Ticks
	}
	for _, n := range bar.Melody {
		at[n.Tick] = true
		if end := n.Tick + n.Ticks; end < bar.Ticks() {
			at[end] = true // the hand is free again
		}
	}
	return slices.Sorted(maps.Keys(at))
}

func chordAt(bar song.Bar, tick int) (c theory.Chord, ok bool) {
	at := 0
	for _, ch := range bar.Changes {
		if at += ch.Ticks; tick < at {
			c, err := ch.Chord()
			return c, err == nil
		}
	}
	return c, false
}

// bassRoot is the chord over which the thumb walks: while it stays, the thumb walks on.
type bassRoot struct {
	note    theory.Note
	strokes int
}

func (s *search) meterOf(bar song.Bar) pattern.Meter {
	if bar.Meter != (pattern.Meter{}) {
		return bar.Meter
	}
	return s.Meter
}

// basses are the thumb's strokes of a bar. A chord with another bass begins on its root;
// where only the colour changes, the thumb goes on walking. In three it has one note a bar, and the
// bars take turns while a chord stays. Source: common practice.
func (s *search) basses(bar song.Bar, root *bassRoot) (list []bassStroke) {
	if s.Bass == NoBass || s.Bass == "" {
		return nil
	}
	meter := s.meterOf(bar)
	beat := meter.BeatTicks()
	if meter.Beats != 3 {
		root.strokes = 0 // a bar begins on the root; in three it is the bars that take turns
	}
	for tick := 0; tick < bar.Ticks(); tick += beat {
		c, ok := chordAt(bar, tick)
		if !ok {
			continue
		}
		if c.Bass != root.note {
			*root = bassRoot{note: c.Bass}
		}
		inThree := s.Bass == Alternating && meter.Beats == 3
		if s.Bass != OnOne && !inThree || tick == 0 {
			list = append(list, bassStroke{tick, s.Bass == Alternating && root.strokes%2 == 1})
			root.strokes++
		}
	}
	return list
}
