package song

import (
	"arplin/core/theory"
)

// Transpose moves every chord, the tune and the sung range by the nearest way.
func (s *Song) Transpose(from, to theory.Key) {
	for i := range s.Sections {
		for j := range s.Sections[i].Bars {
			for k, ch := range s.Sections[i].Bars[j].Changes {
				if c, err := ch.Chord(); err == nil {
					s.Sections[i].Bars[j].Changes[k].Symbol = c.Transpose(from, to).String()
				}
			}
		}
	}
	by := from.To(to)
	for i := range s.Sections {
		for j := range s.Sections[i].Bars {
			for k := range s.Sections[i].Bars[j].Melody {
				s.Sections[i].Bars[j].Melody[k].MIDI += by
			}
		}
	}
	for i := range s.Tunes {
		for _, notes := range s.Tunes[i].Bars {
			for k := range notes {
				notes[k].MIDI += by
			}
		}
	}
	for _, note := range []*string{&s.Low, &s.High} {
		if p, err := theory.ParsePitch(*note); err == nil {
			midi := p.MIDI() + by
			*note = theory.PlainPitch(midi).String()
		}
	}
	s.Key = to.Symbol()
}

// MaxCapo is the highest fret at which Arplin puts a capo.
const MaxCapo = 7

// ChordSteps lists the chords as they follow each other in the form, without
// repeats of one chord.
func (s Song) ChordSteps() []theory.Chord {
	var steps []theory.Chord
	for _, at := range s.Sung() {
		for _, ch := range s.Sections[at.Section].Bars[at.Bar].Changes {
			c, err := ch.Chord()
			if err == nil && (len(steps) == 0 || steps[len(steps)-1] != c) {
				steps = append(steps, c)
			}
		}
	}
	return steps
}
