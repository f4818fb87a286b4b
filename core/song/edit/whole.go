package edit

import (
	"fmt"

	"arplin/core/bpm"
	"arplin/core/pattern"
	"arplin/core/say"
	"arplin/core/song"
	"arplin/core/theory"
)

// Edits of the whole song.
type (
	// SetMeter keeps every chord's share of its bar.
	SetMeter struct{ Meter pattern.Meter }
	// SetTempo sets the goal, in tapped beats a minute.
	SetTempo struct{ Tempo int }
	// SetSwing has the song swung or straight.
	SetSwing struct{ Swing bool }
	// SetRange says the lowest and highest sung note; two zero pitches leave it open.
	SetRange struct{ Low, High theory.Pitch }
	// Recolour gives every triad the seventh of the key, or makes triads of all
	// chords. Source: common practice.
	Recolour struct{ Sevenths bool }
	// Halve leaves every second change out.
	Halve struct{}
	// Remeter puts the song into the meter of a pattern and the pattern on it.
	Remeter struct {
		Pattern pattern.Pattern
		Name    string
	}
	// SetPattern gives a section a figure, or all of them when none is named; the
	// zero pattern takes it away. The text is kept, so that a pattern that is
	// changed or archived stays in its songs.
	SetPattern struct {
		Section song.SectionID
		Pattern pattern.Pattern
		Name    string
	}
)

func (e SetMeter) Apply(s *song.Song) (say.Line, error) {
	setMeter(s, e.Meter)
	return say.Of(meterSet, e.Meter), nil
}

func setMeter(s *song.Song, m pattern.Meter) {
	for i := range s.Sections {
		for j := range s.Sections[i].Bars {
			bar := &s.Sections[i].Bars[j]
			if bar.Meter != (pattern.Meter{}) { // its own stays, unless it is the song's now
				if bar.Meter == m {
					bar.Meter = pattern.Meter{}
				}
				continue
			}
			if bar.Ticks() == s.Meter.BarTicks() {
				bar.Changes = song.Fill(bar.Changes, m)
			}
		}
	}
	s.Meter = m
}

func (e SetTempo) Apply(s *song.Song) (say.Line, error) {
	if e.Tempo < bpm.Min || e.Tempo > bpm.Max {
		return say.Line{}, fmt.Errorf("a goal tempo is %d to %d BPM", bpm.Min, bpm.Max)
	}
	s.Tempo = e.Tempo
	return say.Of(tempoSet, e.Tempo), nil
}

func (e SetSwing) Apply(s *song.Song) (say.Line, error) {
	if s.Swing = e.Swing; e.Swing {
		return say.Of(swingOn), nil
	}
	return say.Of(swingOff), nil
}

func (e SetRange) Apply(s *song.Song) (say.Line, error) {
	if e == (SetRange{}) {
		s.Low, s.High = "", ""
		return say.Of(rangeOpen), nil
	}
	if e.Low.MIDI() > e.High.MIDI() {
		return say.Line{}, fmt.Errorf("%s is higher than %s", e.Low, e.High)
	}
	s.Low, s.High = e.Low.String(), e.High.String()
	return say.Of(rangeSet, e.Low, e.High), nil
}

func (e Recolour) Apply(s *song.Song) (say.Line, error) {
	edit, d, already := theory.Chord.Plain, say.Of(plain), "triads"
	if e.Sevenths {
		edit, d, already = s.KeyGuess().Key.Colour, say.Of(recoloured), "sevenths"
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
		return d, fmt.Errorf("the chords are %s already", already)
	}
	return d, nil
}

// Apply leaves one chord in each bar that has several, or, where none has, one
// in two bars.
func (Halve) Apply(s *song.Song) (say.Line, error) {
	within, changed := false, false
	for _, bar := range s.Bars() {
		within = within || len(bar.Changes) > 1
	}
	for i := range s.Sections {
		bars := s.Sections[i].Bars
		if len(bars) > 0 && bars[0].Role == song.Pickup { // pairs begin with the first full bar
			bars = bars[1:]
		}
		for j := range bars {
			switch {
			case within && len(bars[j].Changes) > 1:
				bars[j].Changes = []song.Change{{Symbol: stays(bars[j].Changes).Symbol, Ticks: bars[j].Ticks()}}
				changed = true
			case !within && j%2 == 1 && len(bars[j].Changes) == 1 && len(bars[j-1].Changes) == 1 && bars[j].Role != song.End:
				a, b := &bars[j-1].Changes[0], &bars[j].Changes[0]
				changed = changed || a.Symbol != b.Symbol
				symbol := stays([]song.Change{*a, *b}).Symbol
				a.Symbol, b.Symbol = symbol, symbol
			}
		}
	}
	if !changed {
		return say.Line{}, fmt.Errorf("there is no change that could be left out")
	}
	if within {
		return say.Of(halvedInBars), nil
	}
	return say.Of(halvedOverBars), nil
}

// stays is which of some chords is kept: the first, whose root the bass goes on
// with, or the second where it holds both roots and the first does not.
func stays(changes []song.Change) song.Change {
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

// Apply keeps the pace of the slots, so that nothing is played faster for it.
func (e Remeter) Apply(s *song.Song) (say.Line, error) {
	if err := song.CheckPatternName(e.Name); err != nil {
		return say.Line{}, err
	}
	to := e.Pattern.Meter
	if to == s.Meter {
		return say.Line{}, fmt.Errorf("the song is in %s already", s.Meter)
	}
	s.Tempo = min(bpm.Max, max(bpm.Min, Retempo(s.Tempo, s.Meter, to)))
	s.Swing = s.Swing && !to.Compound()
	setMeter(s, to)
	for i := range s.Sections {
		s.Sections[i].Pattern, s.Sections[i].PatternName = e.Pattern.String(), e.Name
	}
	return say.Of(remetered, to), nil
}

func (e SetPattern) Apply(s *song.Song) (say.Line, error) {
	if err := song.CheckPatternName(e.Name); err != nil {
		return say.Line{}, err
	}
	if e.Section != 0 && s.SectionAt(e.Section) < 0 {
		return say.Line{}, fmt.Errorf("that section is not in the song any more")
	}
	text, d := "", say.Of(patternOff)
	if len(e.Pattern.Bars) > 0 {
		if e.Pattern.Meter != s.Meter {
			return say.Line{}, fmt.Errorf("the pattern is in %s, the song in %s", e.Pattern.Meter, s.Meter)
		}
		text, d = e.Pattern.String(), say.Of(patternSet, e.Name)
	}
	for i, sec := range s.Sections {
		if e.Section == 0 || e.Section == sec.ID {
			s.Sections[i].Pattern, s.Sections[i].PatternName = text, e.Name
		}
	}
	return d, nil
}

// Retempo is the tempo in another meter at which an eighth, and a triplet that
// is written as an eighth there, lasts as long as before.
func Retempo(tempo int, from, to pattern.Meter) int {
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
