package edit

import (
	"fmt"
	"slices"

	"arplin/core/say"
	"arplin/core/song"
	"arplin/core/theory"
)

// TypeNote does one thing to the tune at a place in a bar, as it is typed on the strip: Note puts
// one there, by its letter or its pitch; else what is done to the note that sounds there.
type TypeNote struct {
	Bar   song.BarID
	Tick  int
	Ticks int // how long a note that is put lasts; by how much one is longer or shorter
	Do    NoteKey
	Note  string // for PutHere
}

// NoteKey is what a key does to a note.
type NoteKey string

// The keys.
const (
	PutHere    NoteKey = "put"
	TakeAway   NoteKey = "off"
	Higher     NoteKey = "up"   // by a semitone
	Lower      NoteKey = "down" // by a semitone
	OctaveUp   NoteKey = "octave-up"
	OctaveDown NoteKey = "octave-down"
	Longer     NoteKey = "longer"
	Shorter    NoteKey = "shorter"
	// These mark the note, or take the mark off.
	Tie    NoteKey = "tie"
	Slide  NoteKey = "slide"
	Hammer NoteKey = "hammer"
)

func (e TypeNote) Apply(s *song.Song) (say.Line, error) {
	sec, at, err := place(s, e.Bar)
	if err != nil {
		return say.Line{}, err
	}
	bar := &sec.Bars[at]
	if e.Tick < 0 || e.Tick >= bar.Ticks() || e.Ticks < 0 || e.Ticks > 64*s.Meter.BarTicks() {
		return say.Line{}, fmt.Errorf("bar %d does not reach so far", at+1)
	}
	if e.Do == PutHere {
		err = e.put(sec, at)
	} else {
		err = e.change(sec, at)
	}
	if err != nil {
		return say.Line{}, err
	}
	mendTune(sec)
	return say.Of(noteTyped, at+1, sec.Name), nil
}

// put writes a note over what sounds there; what began before ends where it begins.
func (e TypeNote) put(sec *song.Section, at int) error {
	bar := &sec.Bars[at]
	midi, err := song.ReadPitch(e.Note, pitchBefore(sec, at, e.Tick))
	if err != nil {
		return err
	}
	n := song.MelodyNote{Tick: e.Tick, Ticks: max(1, e.Ticks), MIDI: midi}
	var tune []song.MelodyNote
	end := bar.Ticks()
	for _, o := range bar.Melody {
		switch {
		case o.Tick < e.Tick:
			o.Ticks = min(o.Ticks, e.Tick-o.Tick)
			tune = append(tune, o)
		case o.Tick == e.Tick:
			n.Word = o.Word
		default:
			end = min(end, o.Tick)
			tune = append(tune, o)
		}
	}
	n.Ticks = min(n.Ticks, end-e.Tick)
	if len(tune) >= song.MaxMelodyNotes {
		return fmt.Errorf("a bar holds at most %d notes", song.MaxMelodyNotes)
	}
	at = slices.IndexFunc(tune, func(o song.MelodyNote) bool { return o.Tick > e.Tick })
	if at < 0 {
		at = len(tune)
	}
	bar.Melody = slices.Insert(tune, at, n)
	return nil
}

// pitchBefore is the nearest note before a place in the section, 0 for none: a letter is the
// nearest to it.
func pitchBefore(sec *song.Section, bar, tick int) int {
	for b := bar; b >= 0; b-- {
		for _, n := range slices.Backward(sec.Bars[b].Melody) {
			if b < bar || n.Tick < tick {
				return n.MIDI
			}
		}
	}
	return 0
}

func (e TypeNote) change(sec *song.Section, at int) error {
	bar := &sec.Bars[at]
	bar.Melody = slices.Clone(bar.Melody)
	k := slices.IndexFunc(bar.Melody, func(n song.MelodyNote) bool { return n.Tick <= e.Tick && e.Tick < n.Tick+n.Ticks })
	if k < 0 {
		return fmt.Errorf("no note of the melody sounds here; type its letter")
	}
	n := &bar.Melody[k]
	end := bar.Ticks()
	if k+1 < len(bar.Melody) {
		end = bar.Melody[k+1].Tick
	}
	steps := map[NoteKey]int{Higher: 1, Lower: -1, OctaveUp: 12, OctaveDown: -12}
	marks := map[NoteKey]song.NoteMark{Tie: song.Tied, Slide: song.Slid, Hammer: song.Hammered}
	switch {
	case steps[e.Do] != 0:
		midi := n.MIDI + steps[e.Do]
		if midi < song.LowestNote || midi > song.HighestNote {
			return fmt.Errorf("%s is beyond what is played or sung here", theory.PlainPitch(midi))
		}
		n.MIDI, n.On = midi, nil
	case marks[e.Do] == n.Mark && n.Mark != song.Struck:
		n.Mark = song.Struck
	case marks[e.Do] != song.Struck:
		return mark(sec, at, k, marks[e.Do])
	case e.Do == Longer && n.Tick+n.Ticks >= end:
		return fmt.Errorf("the note ends where the next begins, or the bar")
	case e.Do == Longer:
		n.Ticks = min(n.Ticks+max(1, e.Ticks), end-n.Tick)
	case e.Do == Shorter && n.Ticks <= max(1, e.Ticks):
		return fmt.Errorf("it is as short as the strip shows; take it away with Delete")
	case e.Do == Shorter:
		n.Ticks -= max(1, e.Ticks)
	case e.Do == TakeAway:
		bar.Melody = slices.Delete(bar.Melody, k, k+1)
	default:
		return fmt.Errorf("%q cannot be done to a note", e.Do)
	}
	return nil
}

// mark gives a note a mark, where it has a note before it to come from.
func mark(sec *song.Section, at, k int, m song.NoteMark) error {
	n := &sec.Bars[at].Melody[k]
	before, ok := soundsBefore(sec, at, k)
	switch {
	case !ok:
		return fmt.Errorf("%s has no note straight before it to come from", theory.PlainPitch(n.MIDI))
	case m == song.Tied && before != n.MIDI:
		return fmt.Errorf("%s goes on from %s, which is another pitch", theory.PlainPitch(n.MIDI), theory.PlainPitch(before))
	}
	n.Mark = m
	return nil
}

// soundsBefore is the note that sounds up to the beginning of one, over the bar line, too.
func soundsBefore(sec *song.Section, at, k int) (midi int, ok bool) {
	bar := sec.Bars[at]
	n := bar.Melody[k]
	switch {
	case k > 0:
		o := bar.Melody[k-1]
		return o.MIDI, o.Tick+o.Ticks == n.Tick
	case n.Tick > 0 || at == 0 || len(sec.Bars[at-1].Melody) == 0:
		return 0, false
	}
	before := sec.Bars[at-1]
	o := before.Melody[len(before.Melody)-1]
	return o.MIDI, o.Tick+o.Ticks == before.Ticks()
}

// mendTune strikes what has lost the note from which it came.
func mendTune(sec *song.Section) {
	for b := range sec.Bars {
		for k, n := range sec.Bars[b].Melody {
			if n.Mark == song.Struck {
				continue
			}
			if before, ok := soundsBefore(sec, b, k); !ok || n.Mark == song.Tied && before != n.MIDI {
				tune := slices.Clone(sec.Bars[b].Melody)
				tune[k].Mark = song.Struck
				sec.Bars[b].Melody = tune
			}
		}
	}
}

// ParseNoteKey reads what a key does.
func ParseNoteKey(text string) (NoteKey, error) {
	k := NoteKey(text)
	if !slices.Contains([]NoteKey{PutHere, TakeAway, Higher, Lower, OctaveUp, OctaveDown, Longer, Shorter, Tie, Slide, Hammer}, k) {
		return "", fmt.Errorf("%q cannot be done to a note", text)
	}
	return k, nil
}
