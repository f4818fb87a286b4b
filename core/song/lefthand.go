package song

import (
	"slices"

	"arplin/core/fretboard"
	"arplin/core/theory"
)

// Fingering is the song as one instrument plays it under its capo: the chords
// as fingered in place of those that sound.
func (s Song) Fingering(ins fretboard.Instrument) Song {
	capo := s.Capo[ins.ID]
	if capo == 0 {
		return s
	}
	s = s.Clone()
	from := s.KeyGuess().Key
	low, high := s.Low, s.High
	sounds := s.Clone()
	s.Transpose(from, from.Fingered(capo))
	s.Low, s.High = low, high
	for i := range s.Sections { // the tune sounds where it is sung, so it is fingered as much lower
		for j := range s.Sections[i].Bars {
			for k, n := range sounds.Sections[i].Bars[j].Melody {
				s.Sections[i].Bars[j].Melody[k].MIDI = n.MIDI - capo
			}
		}
	}
	return s
}

// UsualShapesOn are the shapes of each chord of the song as the instrument fingers it, under their
// usual fingers: the teacher's choice where there is one, else the easiest. Levels are measured on
// them, so that no chord is easier for the company that it keeps.
func (s Song) UsualShapesOn(ins fretboard.Instrument) map[theory.Chord]fretboard.Voicing {
	shapes := map[theory.Chord]fretboard.Voicing{}
	for _, c := range s.Fingering(ins).Chords() {
		if v, _, ok := s.Shapes.on(ins, c); ok {
			shapes[c] = v
		} else if v, ok := fretboard.Easiest(ins, c); ok {
			shapes[c] = v
		}
	}
	return shapes
}

// ShapesOn are those shapes as they are held: with fingers that stay from chord to chord where they
// can, unless the teacher chose them. Bars with a choice of their own have it in In.
func (s Song) ShapesOn(ins fretboard.Instrument) map[theory.Chord]fretboard.Voicing {
	fingered := s.Fingering(ins)
	var list []fretboard.Voicing
	var fixed []bool
	at := map[theory.Chord]int{}
	for _, c := range fingered.Chords() {
		v, given, ok := s.Shapes.on(ins, c)
		if !ok {
			v, ok = fretboard.Easiest(ins, c)
		}
		if ok {
			at[c] = len(list)
			list, fixed = append(list, v), append(fixed, given)
		}
	}
	var changes [][2]int
	steps := fingered.ChordSteps()
	for i, c := range steps {
		to, has := at[c]
		from, had := at[steps[(i+len(steps)-1)%len(steps)]] // the song goes round
		if change := [2]int{from, to}; has && had && from != to && !slices.Contains(changes, change) {
			changes = append(changes, change)
		}
	}
	list = fretboard.Guide(list, fixed, changes)
	shapes := make(map[theory.Chord]fretboard.Voicing, len(list))
	for c, i := range at {
		shapes[c] = list[i]
	}
	return shapes
}

// LeftHand is what a song asks of the left hand on one instrument.
type LeftHand struct {
	HardestShape     theory.Chord
	Hold             float64
	HardestChange    [2]theory.Chord
	Change           fretboard.Change
	ChangesPerMinute float64
	EasyPair         [2]theory.Chord // the two easiest chords that follow each other
	HasPair          bool
}

// LeftHandOn looks through the form on one instrument.
func (s Song) LeftHandOn(ins fretboard.Instrument) LeftHand {
	played := s.Fingering(ins)
	shapes := s.ShapesOn(ins)
	steps := played.ChordSteps()
	var lh LeftHand
	pairEffort := 0.0
	for i, c := range steps {
		v, ok := shapes[c]
		if !ok {
			continue
		}
		if v.Hold > lh.Hold {
			lh.Hold, lh.HardestShape = v.Hold, c
		}
		if i == 0 {
			continue
		}
		before, ok := shapes[steps[i-1]]
		if !ok {
			continue
		}
		ch := fretboard.ChangeBetween(ins, before, v)
		if ch.Effort > lh.Change.Effort {
			lh.Change, lh.HardestChange = ch, [2]theory.Chord{steps[i-1], c}
		}
		if e := ch.Effort + before.Hold + v.Hold; !lh.HasPair || e < pairEffort {
			pairEffort, lh.HasPair, lh.EasyPair = e, true, [2]theory.Chord{steps[i-1], c}
		}
	}
	ticks := 0
	for _, at := range s.Sung() {
		ticks += s.Sections[at.Section].Bars[at.Bar].Ticks()
	}
	if ticks > 0 && len(steps) > 1 {
		beats := float64(ticks) / float64(s.Meter.BeatTicks())
		lh.ChangesPerMinute = float64(len(steps)-1) / (beats / float64(s.Tempo))
	}
	return lh
}
