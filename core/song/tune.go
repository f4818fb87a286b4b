package song

import (
	"fmt"
	"maps"
	"slices"

	"arplin/core/fretboard"
	"arplin/core/say"
)

// SetMelody writes the tune of a section, a bar after the other, as ParseMelody reads it. Bars
// for which there is nothing have none.
type SetMelody struct {
	Section SectionID
	Text    string
}

func (e SetMelody) apply(s *Song) (say.Line, error) {
	at := s.SectionAt(e.Section)
	if at < 0 {
		return say.Line{}, fmt.Errorf("that section is not in the song any more")
	}
	sec := &s.Sections[at]
	if err := sec.SetTune(e.Text, s.Meter.BeatTicks()); err != nil {
		return say.Line{}, err
	}
	if !slices.ContainsFunc(sec.Bars, func(b Bar) bool { return len(b.Melody) > 0 }) {
		return say.Of(melodyGone, sec.Name), nil
	}
	return say.Of(melodySet, sec.Name), nil
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

// PutNote puts a note of a tune on a string of an instrument; 0 takes the choice back.
type PutNote struct {
	Bar        BarID
	Tick       int
	Instrument fretboard.Instrument
	String     fretboard.String
}

func (e PutNote) apply(s *Song) (say.Line, error) {
	sec, at, err := s.place(e.Bar)
	if err != nil {
		return say.Line{}, err
	}
	tune := sec.Bars[at].Melody
	k := slices.IndexFunc(tune, func(n MelodyNote) bool { return n.Tick == e.Tick })
	if k < 0 {
		return say.Line{}, fmt.Errorf("that note is not in the tune any more")
	}
	if e.String < 0 || int(e.String) > e.Instrument.Strings() {
		return say.Line{}, fmt.Errorf("%s has %d strings, not %d", e.Instrument.Name, e.Instrument.Strings(), e.String)
	}
	on := maps.Clone(tune[k].On)
	if on == nil {
		on = map[string]int{}
	}
	name := spell(tune[k].MIDI)
	if delete(on, e.Instrument.ID); e.String == 0 {
		tune[k].On = on
		return say.Of(noteFree, name, at+1, sec.Name), nil
	}
	on[e.Instrument.ID] = int(e.String)
	tune[k].On = on
	return say.Of(notePut, name, at+1, sec.Name, int(e.String)), nil
}

// within cuts a tune to the length of its bar.
func within(notes []MelodyNote, ticks int) []MelodyNote {
	for i, n := range notes {
		if n.Tick >= ticks {
			return notes[:i]
		}
		notes[i].Ticks = min(n.Ticks, ticks-n.Tick)
	}
	return notes
}

// stretched plays a tune so many times as slowly.
func stretched(notes []MelodyNote, by, over int) []MelodyNote {
	out := slices.Clone(notes)
	for i := range out {
		end := (out[i].Tick + out[i].Ticks) * by / over
		out[i].Tick = out[i].Tick * by / over
		out[i].Ticks = max(1, end-out[i].Tick)
	}
	return out
}

// later is a tune that begins so many ticks later.
func later(notes []MelodyNote, ticks int) []MelodyNote {
	out := slices.Clone(notes)
	for i := range out {
		out[i].Tick += ticks
	}
	return out
}

// after is what of a tune begins at a tick or after it, from there on.
func after(notes []MelodyNote, ticks int) []MelodyNote {
	at := len(notes)
	for i, n := range notes {
		if n.Tick >= ticks {
			at = i
			break
		}
	}
	return later(notes[at:], -ticks)
}
