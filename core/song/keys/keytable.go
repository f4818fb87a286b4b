package keys

import (
	"cmp"
	"slices"

	"arplin/core/fretboard"
	"arplin/core/song"
	"arplin/core/theory"
)

// Players is how many of a class play an instrument.
type Players struct {
	Instrument fretboard.Instrument
	Count      int
}

// Range is what a class sings comfortably.
type Range struct{ Low, High theory.Pitch }

// DefaultRange suits a mixed class; from memory.
var DefaultRange = Range{theory.MustPitch("A3"), theory.MustPitch("D5")}

// KeyRow is one of the twelve keys with what it asks of each instrument.
type KeyRow struct {
	Key     theory.Key
	By      int // semitones from the song's key, the nearest way
	Lines   []KeyLine
	Effort  float64 // for the whole class, a player
	Sung    *Range  // where the song would lie; nil when its range is open
	Outside int     // semitones by which it leaves the class's range, both ends together
}

// KeyLine is one instrument in one key.
type KeyLine struct {
	Players
	Capo     int
	Fingered theory.Key
	Chords   []theory.Chord // as fingered, in the song's order
	Effort   float64        // a player: the mean and the hardest of shapes and changes
	Hardest  theory.Chord
}

// Weights of the key table; from memory.
const (
	capoCost      = 0.6 // points: it must be put on, and takes room away
	capoPerFret   = 0.15
	noShape       = 12.0 // a chord for which there is no shape
	hardestWeight = 0.5
	sungWeight    = 0.8 // points for each semitone outside the class's range
)

// KeyTable orders the twelve keys of the song's mode by effort for the class.
// Guitars may take a capo; others play without. All sound in one key.
func KeyTable(s song.Song, class []Players, voice Range) []KeyRow {
	from := s.KeyGuess().Key
	steps := s.ChordSteps()
	tables := make([]*effortTable, len(class))
	for i, p := range class {
		tables[i] = newEffortTable(p.Instrument)
	}
	var rows []KeyRow
	for semitones := range 12 {
		to := from.Up(semitones)
		row := KeyRow{Key: to, By: from.To(to)}
		players := 0
		for i, p := range class {
			line := tables[i].best(p, from, to, steps)
			row.Lines = append(row.Lines, line)
			row.Effort += line.Effort * float64(p.Count)
			players += p.Count
		}
		row.Effort /= float64(max(1, players))
		row.sing(s, voice)
		rows = append(rows, row)
	}
	slices.SortStableFunc(rows, func(a, b KeyRow) int {
		return cmp.Compare(a.Effort+sungWeight*float64(a.Outside), b.Effort+sungWeight*float64(b.Outside))
	})
	return rows
}

func (r *KeyRow) sing(s song.Song, voice Range) {
	low, high, ok := s.SungRange()
	if !ok {
		return
	}
	// The song may be sung an octave away; the octave that fits best counts.
	best := -1
	for _, octave := range []int{0, -12, 12} {
		lowMIDI, highMIDI := low.MIDI()+r.By+octave, high.MIDI()+r.By+octave
		out := max(0, voice.Low.MIDI()-lowMIDI) + max(0, highMIDI-voice.High.MIDI())
		if best < 0 || out < best {
			best = out
			r.Sung = &Range{theory.PlainPitch(lowMIDI), theory.PlainPitch(highMIDI)}
		}
	}
	r.Outside = best
}

// effortTable remembers shapes and changes of one instrument while a table is made.
type effortTable struct {
	ins     fretboard.Instrument
	shapes  map[theory.Chord]fretboard.Voicing
	changes map[[2]fretboard.Shape]float64
}

func newEffortTable(ins fretboard.Instrument) *effortTable {
	return &effortTable{ins, map[theory.Chord]fretboard.Voicing{}, map[[2]fretboard.Shape]float64{}}
}

func (t *effortTable) shape(c theory.Chord) fretboard.Voicing {
	v, ok := t.shapes[c]
	if !ok {
		v, _ = fretboard.Easiest(t.ins, c)
		t.shapes[c] = v
	}
	return v
}

func (t *effortTable) change(a, b fretboard.Voicing) float64 {
	key := [2]fretboard.Shape{a.Shape, b.Shape}
	e, ok := t.changes[key]
	if !ok {
		e = fretboard.ChangeBetween(t.ins, a, b).Effort
		t.changes[key] = e
	}
	return e
}

// best tries every capo that the instrument may take.
func (t *effortTable) best(p Players, from, to theory.Key, steps []theory.Chord) KeyLine {
	var best KeyLine
	last := 0
	if t.ins.Traits().Basses {
		last = song.MaxCapo
	}
	for capo := 0; capo <= last; capo++ {
		fingered := to.Fingered(capo)
		line := KeyLine{Players: p, Capo: capo, Fingered: fingered}
		line.Effort, line.Hardest, line.Chords = t.effort(steps, from, fingered)
		if capo > 0 {
			line.Effort += capoCost + capoPerFret*float64(capo)
		}
		if capo == 0 || line.Effort < best.Effort {
			best = line
		}
	}
	return best
}

// effort is the mean hold and change plus half the hardest of either.
func (t *effortTable) effort(steps []theory.Chord, from, to theory.Key) (e float64, hardest theory.Chord, chords []theory.Chord) {
	if len(steps) == 0 {
		return 0, hardest, nil
	}
	moved := map[theory.Chord]theory.Chord{}
	var sumHold, maxHold, sumChange, maxChange float64
	var before fretboard.Voicing
	for i, c := range steps {
		m, ok := moved[c]
		if !ok {
			m = c.Transpose(from, to)
			moved[c] = m
			chords = append(chords, m)
		}
		v := t.shape(m)
		hold := v.Hold
		if v.Strings() == 0 {
			hold = noShape
		}
		sumHold += hold
		if hold > maxHold {
			maxHold, hardest = hold, m
		}
		if i > 0 {
			change := t.change(before, v)
			sumChange += change
			maxChange = max(maxChange, change)
		}
		before = v
	}
	n := float64(len(steps))
	e = (sumHold+sumChange)/n + hardestWeight*(maxHold+maxChange)
	return e, hardest, chords
}
