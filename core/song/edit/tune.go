package edit

import (
	"fmt"
	"maps"
	"slices"

	"arplin/core/fretboard"
	"arplin/core/say"
	"arplin/core/song"
	"arplin/core/theory"
)

// SetMelody writes the tune of a section, a bar after the other, as ParseMelody reads it, in what is
// counted aloud: in 6/8 a bar has six. Bars
// for which there is nothing have none.
type SetMelody struct {
	Section song.SectionID
	Text    string
}

func (e SetMelody) Apply(s *song.Song) (say.Line, error) {
	at := s.SectionAt(e.Section)
	if at < 0 {
		return say.Line{}, fmt.Errorf("that section is not in the song any more")
	}
	sec := &s.Sections[at]
	if err := sec.SetTune(e.Text, s.Meter.CountTicks()); err != nil {
		return say.Line{}, err
	}
	if !slices.ContainsFunc(sec.Bars, func(b song.Bar) bool { return len(b.Melody) > 0 }) {
		return say.Of(melodyGone, sec.Name), nil
	}
	return say.Of(melodySet, sec.Name), nil
}

// AddTune puts the tune by and goes on with a copy of it, which has a name: the plain tune, then the
// syncopated one.
type AddTune struct{ Name string }

func (e AddTune) Apply(s *song.Song) (say.Line, error) {
	if err := s.AddTune(e.Name); err != nil {
		return say.Line{}, err
	}
	return say.Of(tuneAdded, e.Name), nil
}

// TakeTune puts another tune of the song into its bars.
type TakeTune struct{ ID song.TuneID }

func (e TakeTune) Apply(s *song.Song) (say.Line, error) {
	with := s.WithTune(e.ID)
	if with.TuneID != e.ID {
		return say.Line{}, fmt.Errorf("that tune is not in the song any more")
	}
	*s = with
	return say.Of(tuneTaken, s.InUse().Says()), nil
}

// DropTune removes a tune that is put by.
type DropTune struct{ ID song.TuneID }

func (e DropTune) Apply(s *song.Song) (say.Line, error) {
	at := slices.IndexFunc(s.Tunes, func(t song.Tune) bool { return t.ID == e.ID })
	if at < 0 {
		return say.Line{}, fmt.Errorf("that tune is not in the song any more")
	}
	name := s.Tunes[at].Says()
	s.Tunes = slices.Delete(slices.Clone(s.Tunes), at, at+1)
	return say.Of(tuneDropped, name), nil
}

// PutNote puts a note of a tune on a string of an instrument; 0 takes the choice back.
type PutNote struct {
	Bar        song.BarID
	Tick       int
	Instrument fretboard.Instrument
	String     fretboard.String
}

func (e PutNote) Apply(s *song.Song) (say.Line, error) {
	sec, at, err := place(s, e.Bar)
	if err != nil {
		return say.Line{}, err
	}
	tune := sec.Bars[at].Melody
	k := slices.IndexFunc(tune, func(n song.MelodyNote) bool { return n.Tick == e.Tick })
	if k < 0 {
		return say.Line{}, fmt.Errorf("that note is not in the melody any more")
	}
	if e.String < 0 || int(e.String) > e.Instrument.Strings() {
		return say.Line{}, fmt.Errorf("%s has %d strings, not %d", e.Instrument.Name, e.Instrument.Strings(), e.String)
	}
	on := maps.Clone(tune[k].On)
	if on == nil {
		on = map[string]int{}
	}
	name := theory.PlainPitch(tune[k].MIDI)
	if delete(on, e.Instrument.ID); e.String == 0 {
		tune[k].On = on
		return say.Of(noteFree, name, at+1, sec.Name), nil
	}
	on[e.Instrument.ID] = int(e.String)
	tune[k].On = on
	return say.Of(notePut, name, at+1, sec.Name, int(e.String)), nil
}

// stretched plays a tune so many times as slowly.
func stretched(notes []song.MelodyNote, by, over int) []song.MelodyNote {
	out := slices.Clone(notes)
	for i := range out {
		end := (out[i].Tick + out[i].Ticks) * by / over
		out[i].Tick = out[i].Tick * by / over
		out[i].Ticks = max(1, end-out[i].Tick)
	}
	return out
}

// later is a tune that begins so many ticks later.
func later(notes []song.MelodyNote, ticks int) []song.MelodyNote {
	out := slices.Clone(notes)
	for i := range out {
		out[i].Tick += ticks
	}
	return out
}

// after is what of a tune begins at a tick or after it, from there on.
func after(notes []song.MelodyNote, ticks int) []song.MelodyNote {
	at := len(notes)
	for i, n := range notes {
		if n.Tick >= ticks {
			at = i
			break
		}
	}
	return later(notes[at:], -ticks)
}
