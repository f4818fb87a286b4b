package song

import (
	"fmt"
	"slices"

	"arplin/core/pattern"
	"arplin/core/say"
)

// Edit is one thing that a teacher does to a song; each kind is a type of its
// own in this package. It works on a copy.
type Edit interface {
	// Apply carries the edit out on a song of its own, and says what was done.
	Apply(s *Song) (say.Line, error)
}

// Apply carries out an edit on a copy and returns what was done. An edit that
// makes no sense is an error; a bar that does not add up is not.
func (s Song) Apply(e Edit) (Song, say.Line, error) {
	s = s.Clone()
	d, err := e.Apply(&s)
	for i := range s.Sections {
		for j, b := range s.Sections[i].Bars {
			s.Sections[i].Bars[j].Melody = Within(b.Melody, b.Ticks())
		}
	}
	if n := len(s.Bars()); err == nil && n > MaxBars {
		return s, d, fmt.Errorf("a song has at most %d bars, and that would make %d", MaxBars, n)
	}
	return s, d, err
}

// MaxEnding is the last ending that a bar can have.
const MaxEnding = 3

// Fill stretches chords to a bar, each keeping its share.
func Fill(changes []Change, m pattern.Meter) []Change {
	total := Bar{Changes: changes}.Ticks()
	out := make([]Change, len(changes))
	sum := 0
	for i, ch := range changes {
		from := m.BarTicks() * sum / max(1, total)
		sum += ch.Ticks
		out[i] = Change{ch.Symbol, m.BarTicks()*sum/max(1, total) - from}
	}
	return out
}

// Clone returns a deep copy.
func (s Song) Clone() Song {
	sections := make([]Section, len(s.Sections))
	for i, sec := range s.Sections {
		sections[i] = sec
		sections[i].Bars = CloneBars(sec.Bars)
	}
	s.Sections = sections
	s.Notes = slices.Clone(s.Notes)
	capo := map[string]int{}
	for k, v := range s.Capo {
		capo[k] = v
	}
	s.Capo = capo
	s.Tags = slices.Clone(s.Tags)
	s.Shapes, s.Tunes = s.Shapes.Clone(), cloneTunes(s.Tunes)
	roots := s.Roots
	s.Roots = nil
	for ins, chords := range roots {
		s.keepRoots(ins, slices.Clone(chords))
	}
	return s
}

func CloneBars(bars []Bar) []Bar {
	out := make([]Bar, len(bars))
	for i, b := range bars {
		out[i] = b
		out[i].Changes, out[i].Notes, out[i].Shapes, out[i].Melody = slices.Clone(b.Changes), slices.Clone(b.Notes), b.Shapes.Clone(), slices.Clone(b.Melody)
	}
	return out
}

// SetTune writes the tune of the section, with so many ticks to a beat. A note that stays keeps
// the strings on which it was put.
func (sec *Section) SetTune(text string, beat int) error {
	bars, err := ParseMelody(text, beat, func(bar int) int {
		if bar >= len(sec.Bars) {
			return 0
		}
		return sec.Bars[bar].Ticks()
	})
	if err != nil {
		return err
	}
	if len(bars) > len(sec.Bars) {
		return fmt.Errorf("melody: it has %d bars, and %s has %d", len(bars), sec.Name, len(sec.Bars))
	}
	for i := range sec.Bars {
		before := sec.Bars[i].Melody
		sec.Bars[i].Melody = nil
		if i >= len(bars) {
			continue
		}
		for k, n := range bars[i] {
			at := slices.IndexFunc(before, func(o MelodyNote) bool { return o.Tick == n.Tick && o.MIDI == n.MIDI })
			if at >= 0 {
				bars[i][k].On = before[at].On
			}
		}
		sec.Bars[i].Melody = bars[i]
	}
	return nil
}

// Within cuts a tune to the length of its bar.
func Within(notes []MelodyNote, ticks int) []MelodyNote {
	for i, n := range notes {
		if n.Tick >= ticks {
			return notes[:i]
		}
		notes[i].Ticks = min(n.Ticks, ticks-n.Tick)
	}
	return notes
}

func CheckPatternName(name string) error {
	if len([]rune(name)) > MaxPatternName {
		return fmt.Errorf("a pattern's name has up to %d characters", MaxPatternName)
	}
	return nil
}
