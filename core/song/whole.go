package song

import (
	"fmt"

	"arplin/core/hand"
	"arplin/core/theory"
)

// Edits of a whole song that make it simpler or harder for a class.

// recolour changes the chords of the whole song: to the sevenths of the key
// ("sevenths"), or back to triads ("triads"). Source: common practice.
func (s *Song) recolour(text string) (string, error) {
	key := s.KeyGuess().Key
	edit, says := key.Colour, "Every triad has the seventh of the key"
	switch text {
	case "sevenths":
	case "triads":
		edit, says = theory.Chord.Plain, "Every chord is its triad"
	default:
		return "", fmt.Errorf("%q is not a colour: sevenths or triads", text)
	}
	changed := false
	for i := range s.Sections {
		for j := range s.Sections[i].Bars {
			for k, ch := range s.Sections[i].Bars[j].Changes {
				c, err := ch.Chord()
				if err != nil {
					continue
				}
				if other, ok := edit(c); ok {
					s.Sections[i].Bars[j].Changes[k].Symbol = other.String()
					changed = true
				}
			}
		}
	}
	if !changed {
		return "", fmt.Errorf("the chords are %s already", text)
	}
	return says, nil
}

// halve leaves every second change out: one chord for each bar that has several,
// or, where none has, one for two bars.
func (s *Song) halve() (string, error) {
	within, changed := false, false
	for _, bar := range s.Bars() {
		within = within || len(bar.Changes) > 1
	}
	for i := range s.Sections {
		bars := s.Sections[i].Bars
		if len(bars) > 0 && bars[0].Role == Pickup { // pairs begin with the first full bar
			bars = bars[1:]
		}
		for j := range bars {
			switch {
			case within && len(bars[j].Changes) > 1:
				bars[j].Changes = []Change{{stays(bars[j].Changes).Symbol, bars[j].Ticks()}}
				changed = true
			case !within && j%2 == 1 && len(bars[j].Changes) == 1 && len(bars[j-1].Changes) == 1 && bars[j].Role != End:
				a, b := &bars[j-1].Changes[0], &bars[j].Changes[0]
				changed = changed || a.Symbol != b.Symbol
				symbol := stays([]Change{*a, *b}).Symbol
				a.Symbol, b.Symbol = symbol, symbol
			}
		}
	}
	if !changed {
		return "", fmt.Errorf("there is no change that could be left out")
	}
	if within {
		return "Every bar keeps one chord", nil
	}
	return "Every two bars keep one chord", nil
}

// stays is which of some chords is kept: the first, whose root the bass goes on
// with, or the second where it holds both roots and the first does not.
func stays(changes []Change) Change {
	a, errA := changes[0].Chord()
	b, errB := changes[1].Chord()
	if errA == nil && errB == nil && holds(b, a.Root) && !holds(a, b.Root) {
		return changes[1]
	}
	return changes[0]
}

func holds(c theory.Chord, n theory.Note) bool {
	for _, note := range c.Notes() {
		if note.Class() == n.Class() {
			return true
		}
	}
	return false
}

// remeter puts the song into the meter of a pattern and the pattern on every
// part. The slots keep their pace, so that nothing is played faster for it.
func (s *Song) remeter(e Edit) (string, error) {
	if err := e.checkName(); err != nil {
		return "", err
	}
	p, err := hand.Parse(e.Text)
	if err != nil {
		return "", err
	}
	if p.Meter == s.Meter {
		return "", fmt.Errorf("the song is in %s already", s.Meter)
	}
	s.Tempo = min(MaxTempo, max(MinTempo, Retempo(s.Tempo, s.Meter, p.Meter)))
	s.Swing = s.Swing && !p.Meter.Compound()
	s.setMeter(p.Meter)
	for i := range s.Sections {
		s.Sections[i].Pattern, s.Sections[i].PatternName = p.String(), e.Words
	}
	return "The song is in " + p.Meter.String() + " now, with a figure for it", nil
}

// Retempo is the tempo in another meter at which an eighth, and a triplet that
// is written as an eighth there, lasts as long as before.
func Retempo(tempo int, from, to hand.Meter) int {
	// Three eighths make a tapped beat in compound meters, two in the others;
	// twelve to a bar are four beats of triplets.
	switch {
	case from.Compound() == to.Compound(), from.TappedBeats() == to.TappedBeats():
		return tempo
	case to.Compound():
		return (tempo*2 + 1) / 3
	}
	return (tempo*3 + 1) / 2
}
