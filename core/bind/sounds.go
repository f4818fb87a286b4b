package bind

import (
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/played"
)

// SoundKind is how a string is made to sound.
type SoundKind string

// The kinds; a stopped slot silences all strings.
const (
	FleshSound SoundKind = "flesh"
	NailSound  SoundKind = "nail"
	PickSound  SoundKind = "pick"
	PalmSound  SoundKind = "palm"
	ChuckSound SoundKind = "chuck"
	KnockSound SoundKind = "knock"
	StopSound  SoundKind = "stop"
)

// Hand is the part of the hand that makes a sound: what is switched on and off by itself.
type Hand string

// The parts.
const (
	ByThumb   Hand = "thumb"
	ByFingers Hand = "fingers"
	ByStrum   Hand = "strum"
	ByMelody  Hand = "melody" // a finger that carries the tune
	ByChords  Hand = "chords" // no part of a figure: what it is played over
)

// Sound is one string, or a knock, at a moment.
type Sound struct {
	Tick   int              // from the beginning
	Late   float64          // milliseconds after it: a strum reaches one string after the other
	String fretboard.String // 0 for a knock, and for a stop of all
	MIDI   int
	Kind   SoundKind
	By     Hand
	Loud   float64 // 0 to 1
}

// How a strum spreads over its strings, in milliseconds a string, and how loud strokes
// are. Source: strums of a hand take some hundredths of a second; the figures are from
// memory. A string of a strum is softer than one that is plucked, so that both balance.
const (
	spreadDown, spreadUp            = 9.0, 7.0
	loudPluck, loudThumb, loudStrum = 0.72, 0.8, 0.5
	accented, soft                  = 1.3, 0.6
	loudMelody, slurred             = 0.95, 0.75 // a slurred note is not struck again
)

// Sounds are what events sound like, from a tick on.
func Sounds(school School, events []played.Event, from int) (list []Sound) {
	for _, e := range events {
		base := Sound{Tick: from + e.Tick, By: handOf(e), Kind: soundOf(school, e), Loud: loudOf(e)}
		if e.Kind == played.Knock {
			list = append(list, base)
		}
		spread := spreadOf(e)
		for i, str := range e.Strings {
			s := base
			after := i // the strings before it
			if e.Direction == "up" {
				after = len(e.Strings) - 1 - i
			}
			s.String, s.MIDI, s.Late = str, e.Pitches[i].MIDI(), spread*float64(after)
			if e.Kind == played.Knock {
				s.Kind = ChuckSound
			}
			list = append(list, s)
		}
	}
	return list
}

// Stops are the stopped slots of a bar of a pattern, from a tick on.
func Stops(p pattern.Pattern, bar, from int) (list []Sound) {
	for slot, content := range p.Bars[bar] {
		if content.Stop {
			list = append(list, Sound{Tick: from + p.SlotStart(slot), Kind: StopSound})
		}
	}
	return list
}

// Chords are chords that are softly strummed once where each begins, from a tick on: what
// somebody else plays under a figure.
func Chords(ins fretboard.Instrument, held []Held, from int) (list []Sound) {
	for _, h := range held {
		late := 0.0
		for str := fretboard.String(ins.Strings()); str >= 1; str-- {
			if h.Shape.Sounds(str) {
				list = append(list, Sound{Tick: from + h.From, Late: late, String: str, MIDI: h.Shape.Pitch(ins, h.Chord, str).MIDI(), Kind: FleshSound, By: ByChords, Loud: loudStrum * soft})
				late += spreadDown
			}
		}
	}
	return list
}

func handOf(e played.Event) Hand {
	switch {
	case e.Melody:
		return ByMelody
	case e.Kind == played.Pluck && e.Finger == "p":
		return ByThumb
	case e.Kind == played.Pluck && e.Finger != "":
		return ByFingers
	}
	return ByStrum
}

func soundOf(school School, e played.Event) SoundKind {
	switch {
	case e.Kind == played.Knock:
		return KnockSound
	case e.Kind == played.Chuck:
		return ChuckSound
	case e.Muted:
		return PalmSound
	case e.Kind == played.Brush:
		return NailSound
	case school.Pick && e.Finger == "":
		return PickSound
	case e.Kind == played.Strum:
		return NailSound
	}
	return FleshSound
}

func loudOf(e played.Event) float64 {
	loud := loudPluck
	switch {
	case e.Melody && e.Slurred:
		loud = loudMelody * slurred
	case e.Melody:
		loud = loudMelody
	case e.Finger == "p":
		loud = loudThumb
	case len(e.Strings) > 1:
		loud = loudStrum
	}
	switch {
	case e.Accent:
		return min(1, loud*accented)
	case e.Soft:
		return loud * soft
	}
	return loud
}

func spreadOf(e played.Event) float64 {
	switch {
	case len(e.Strings) < 2 || e.Kind == played.Pluck:
		return 0
	case e.Direction == "up":
		return spreadUp
	}
	return spreadDown
}
