package song

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"arplin/core/fretboard"
	"arplin/core/theory"
)

// Shapes are chosen ones: by instrument id and by chord as it is fingered there, as
// fretboard.ParseGrip reads them.
type Shapes map[string]map[string]string

// on is the choice for a chord; ok is false where there is none, or none that fits
// the instrument.
func (s Shapes) on(ins fretboard.Instrument, c theory.Chord) (v fretboard.Voicing, ok bool) {
	text, ok := s[ins.ID][c.String()]
	if !ok {
		return v, false
	}
	g, err := fretboard.ParseGrip(text)
	if err != nil || g.Strings() != ins.Strings() {
		return v, false
	}
	return g.Read(ins, c), true
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

func (s Shapes) clone() Shapes {
	if s == nil {
		return nil
	}
	out := Shapes{}
	for ins, chosen := range s {
		out[ins] = maps.Clone(chosen)
	}
	return out
}

// MaxOwn is how many chords somebody can hold in a way of their own.
const MaxOwn = 24

// ParseOwn reads how somebody holds chords on an instrument: "F xx3211, Bm x24432/013421".
func ParseOwn(text string, ins fretboard.Instrument) (own map[string]string, err error) {
	for _, part := range strings.FieldsFunc(text, func(r rune) bool { return r == ',' || r == ';' || r == '\n' }) {
		words := strings.Fields(strings.NewReplacer(":", " ", "=", " ").Replace(part)) // "F: xx3211"
		if len(words) == 0 {
			continue
		}
		if len(words) != 2 {
			return nil, fmt.Errorf("a shape is a chord and its frets, as in F xx3211, not %q", strings.Join(words, " "))
		}
		c, err := theory.ParseChord(words[0])
		if err != nil {
			return nil, err
		}
		g, err := fretboard.ParseGrip(words[1])
		if err != nil {
			return nil, err
		}
		if g.Strings() != ins.Strings() {
			return nil, fmt.Errorf("%s has %d strings, and %s has %d", g.Shape, g.Strings(), ins.Name, ins.Strings())
		}
		if own == nil {
			own = map[string]string{}
		}
		if own[c.String()] = g.String(); len(own) > MaxOwn {
			return nil, fmt.Errorf("more than %d shapes", MaxOwn)
		}
	}
	return own, nil
}

// OwnText is how ParseOwn reads it, by chord.
func OwnText(own map[string]string) string {
	var parts []string
	for _, chord := range slices.Sorted(maps.Keys(own)) {
		parts = append(parts, chord+" "+own[chord])
	}
	return strings.Join(parts, ", ")
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
			if v, ok := b.Shapes.on(ins, c); ok {
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
