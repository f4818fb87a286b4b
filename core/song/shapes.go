package song

import (
	"maps"
	"slices"

	"arplin/core/fretboard"
	"arplin/core/theory"
)

// Shapes are chosen ones: by instrument id and by chord as it is fingered there, as
// fretboard.ParseGrip reads them.
type Shapes map[string]map[string]string

// on is the choice for a chord, and whether its fingers were chosen, too; ok is false where there is
// none, or none that fits the instrument.
func (s Shapes) on(ins fretboard.Instrument, c theory.Chord) (v fretboard.Voicing, fingers, ok bool) {
	text, ok := s[ins.ID][c.String()]
	if !ok {
		return v, false, false
	}
	g, err := fretboard.ParseGrip(text)
	if err != nil || g.Strings() != ins.Strings() {
		return v, false, false
	}
	return g.Read(ins, c), g.Fingers != (fretboard.Fingering{}), true
}

// Set chooses a shape, or with no text takes the choice back; the map is made when
// there is none.
func (s *Shapes) Set(instrument, chord, text string) {
	if text == "" {
		if delete((*s)[instrument], chord); len((*s)[instrument]) == 0 {
			delete(*s, instrument)
		}
		return
	}
	if *s == nil {
		*s = Shapes{}
	}
	if (*s)[instrument] == nil {
		(*s)[instrument] = map[string]string{}
	}
	(*s)[instrument][chord] = text
}

func (s Shapes) Clone() Shapes {
	if s == nil {
		return nil
	}
	out := Shapes{}
	for ins, chosen := range s {
		out[ins] = maps.Clone(chosen)
	}
	return out
}

// In is what a bar's chords are held with: usual, with the choices of the bar itself
// in their place.
func (b Bar) In(ins fretboard.Instrument, usual map[theory.Chord]fretboard.Voicing) map[theory.Chord]fretboard.Voicing {
	if len(b.Shapes[ins.ID]) == 0 {
		return usual
	}
	own := maps.Clone(usual)
	for _, ch := range b.Changes {
		if c, err := ch.Chord(); err == nil {
			if v, _, ok := b.Shapes.on(ins, c); ok {
				own[c] = v
			}
		}
	}
	return own
}

// HeldBy is the song as somebody plays it who holds some chords in a way of their
// own, by chord as it is fingered; that goes before every other choice.
func (s Song) HeldBy(ins fretboard.Instrument, own map[string]string) Song {
	if len(own) == 0 {
		return s
	}
	s = s.Clone()
	for chord, text := range own {
		s.Shapes.Set(ins.ID, chord, text)
	}
	for i := range s.Sections {
		for j := range s.Sections[i].Bars {
			bar := &s.Sections[i].Bars[j]
			for chord := range own {
				bar.Shapes.Set(ins.ID, chord, "")
			}
		}
	}
	return s
}

// KeepRoot has the thumb keep to the root of a chord, or lets it go to the low fifth again.
func (s *Song) KeepRoot(ins fretboard.Instrument, chord string, keep bool) {
	chords := slices.DeleteFunc(slices.Clone(s.Roots[ins.ID]), func(c string) bool { return c == chord })
	if keep {
		chords = append(chords, chord)
	}
	s.keepRoots(ins.ID, chords)
}

func (s *Song) keepRoots(instrument string, chords []string) {
	if len(chords) == 0 {
		delete(s.Roots, instrument)
		return
	}
	if s.Roots == nil {
		s.Roots = map[string][]string{}
	}
	s.Roots[instrument] = chords
}
