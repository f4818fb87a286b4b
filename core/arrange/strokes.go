package arrange

import (
	"slices"

	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/played"
	"arplin/core/song"
	"arplin/core/theory"
)

// appendStrum strikes a shape where a note falls on a beat; notes between are struck alone.
func appendStrum(events []played.Event, t Task, grid int, bar Bar, s Stroke) []played.Event {
	if !s.Melody {
		return events // the root is in the strum
	}
	for _, g := range slices.Backward(bar.Grips) {
		if g.Tick > s.Tick {
			continue
		}
		if s.Tick%t.Meter.BeatTicks() != 0 || g.Chord.IsZero() {
			break
		}
		e := t.strum(grid, s.Tick, g.Chord, g.Voicing.Shape, g.Voicing.Root, s.String)
		e.Word = s.Word
		return append(events, e)
	}
	return append(events, t.pluck(grid, bar.chordAt(s.Tick), s))
}

func (b Bar) chordAt(tick int) (c theory.Chord) {
	for _, g := range b.Grips {
		if g.Tick <= tick {
			c = g.Chord
		}
	}
	return c
}

// fingers of the right hand for a tune, by string. Source: fixed fingers, common practice.
var fingers = map[fretboard.String]pattern.Sign{1: pattern.Ring, 2: pattern.Middle, 3: pattern.Index}

func (t Task) pluck(grid int, c theory.Chord, s Stroke) played.Event {
	sign := pattern.Thumb
	if s.Melody {
		var thin bool
		if sign, thin = fingers[s.String]; !thin {
			sign = pattern.Index
		}
	}
	return played.Event{
		Slot: t.slot(grid, s.Tick), Tick: s.Tick, Kind: played.Pluck, Finger: sign.String(), Stroke: pattern.Stroke{Sign: sign, Target: given(s.String)},
		Strings: []fretboard.String{s.String}, Frets: []fretboard.Fret{s.Fret}, Pitches: []theory.Pitch{t.spell(c, s.String, s.Fret)},
		Melody: s.Melody, Slurred: s.Mark == song.Slid || s.Mark == song.Hammered, Word: s.Word,
	}
}

// strum strikes a shape between two strings, the thick one first.
func (t Task) strum(grid, tick int, c theory.Chord, sh fretboard.Shape, from, to fretboard.String) played.Event {
	e := played.Event{Slot: t.slot(grid, tick), Tick: tick, Kind: played.Strum, Direction: "down", Stroke: pattern.Stroke{Sign: pattern.Down}}
	for s := from; s >= to; s-- {
		if sh.Sounds(s) {
			e.Strings, e.Frets, e.Pitches = append(e.Strings, s), append(e.Frets, sh.At(s)), append(e.Pitches, t.spell(c, s, sh.At(s)))
		}
	}
	return e
}

func (t Task) spell(c theory.Chord, s fretboard.String, f fretboard.Fret) theory.Pitch {
	if c.IsZero() {
		return theory.PlainPitch(t.Instrument.Open(s).MIDI() + int(f))
	}
	return fretboard.SpellFret(t.Instrument, c, s, f)
}

func given(s fretboard.String) pattern.Target {
	return pattern.Target{Kind: pattern.Given, Strings: pattern.Strings(int(s))}
}
