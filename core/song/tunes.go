package song

import (
	"fmt"
	"maps"
	"slices"
	"unicode/utf8"

	"arplin/core/pattern"
)

// TuneID names a tune of one song for good. The zero value names the first.
type TuneID int

// Tune is a tune of a song besides the one that stands in its bars.
type Tune struct {
	ID   TuneID                 `json:"id,omitempty"`
	Name string                 `json:"name,omitempty"`
	Bars map[BarID][]MelodyNote `json:"bars"`
}

// Limits of the tunes that are put by.
const (
	MaxTunes    = 5
	MaxTuneName = 60 // letters
)

// Says is what a tune is called; the first has a name only when its teacher gives it one.
func (t Tune) Says() string {
	if t.Name == "" {
		return "the first melody"
	}
	return t.Name
}

// InUse is the tune that stands in the bars.
func (s Song) InUse() Tune {
	t := Tune{ID: s.TuneID, Name: s.TuneName, Bars: map[BarID][]MelodyNote{}}
	for _, b := range s.Bars() {
		if len(b.Melody) > 0 {
			t.Bars[b.ID] = slices.Clone(b.Melody)
		}
	}
	return t
}

// WithTune is the song with one of its tunes in the bars, and the one that was there put by. A tune that
// the song has not, or has in its bars, changes nothing. What no longer fits a bar is cut.
func (s Song) WithTune(id TuneID) Song {
	at := slices.IndexFunc(s.Tunes, func(t Tune) bool { return t.ID == id })
	if id == s.TuneID || at < 0 {
		return s
	}
	s = s.Clone()
	take := s.Tunes[at]
	s.Tunes[at] = s.InUse()
	s.TuneID, s.TuneName = take.ID, take.Name
	for i := range s.Sections {
		for j := range s.Sections[i].Bars {
			b := &s.Sections[i].Bars[j]
			b.Melody = Within(take.Bars[b.ID], b.Ticks())
		}
	}
	return s
}

// AddTune puts the tune in the bars by and goes on with a copy of it under a name.
func (s *Song) AddTune(name string) error {
	if len(s.Tunes) >= MaxTunes {
		return fmt.Errorf("a song has %d melodies at most", MaxTunes+1)
	}
	if n := utf8.RuneCountInString(name); n == 0 || n > MaxTuneName {
		return fmt.Errorf("the melody needs a name of up to %d characters", MaxTuneName)
	}
	s.Tunes = append(slices.Clone(s.Tunes), s.InUse())
	s.TuneID, s.TuneName = TuneID(s.Fresh()), name
	return nil
}

func cloneTunes(tunes []Tune) []Tune {
	out := slices.Clone(tunes)
	for i, t := range out {
		out[i].Bars = maps.Clone(t.Bars)
		for id, notes := range out[i].Bars {
			out[i].Bars[id] = slices.Clone(notes)
		}
	}
	return out
}

// checkTunes says what is wrong with the tunes that are put by.
func (s Song) checkTunes() error {
	if len(s.Tunes) > MaxTunes || utf8.RuneCountInString(s.TuneName) > MaxTuneName {
		return fmt.Errorf("it has too many melodies, or a name of one is too long")
	}
	for _, t := range s.Tunes {
		if utf8.RuneCountInString(t.Name) > MaxTuneName || len(t.Bars) > MaxBars {
			return fmt.Errorf("there is too much in one of its melodies")
		}
		for _, notes := range t.Bars {
			b := Bar{Changes: []Change{{Symbol: NoChord, Ticks: maxBarBeats * pattern.TicksPerQuarter}}, Melody: notes}
			if err := b.check(); err != nil {
				return err
			}
		}
	}
	return nil
}
