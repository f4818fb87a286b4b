package bind

import (
	"arplin/core/fretboard"
	"arplin/core/hand"
	"arplin/core/song"
	"arplin/core/theory"
)

// Shapes chooses the shape that holds each chord.
type Shapes map[theory.Chord]fretboard.Voicing

// SongBar is a bar of a song with the pattern on it.
type SongBar struct {
	song.Bar
	PatternBar int // which bar of the pattern is played
	Held       []Held
	Result
}

// Section binds a pattern to a section of a song. The pattern begins anew with
// the section. Chords that cannot be read, or have no shape, leave silence.
func Section(ins fretboard.Instrument, school School, p hand.Pattern, sec song.Section, shapes Shapes) []SongBar {
	b := New(ins, school, p)
	bars := make([]SongBar, len(sec.Bars))
	for i, bar := range sec.Bars {
		sb := SongBar{Bar: bar, PatternBar: i % len(p.Bars)}
		tick := 0
		for _, ch := range bar.Changes {
			if c, err := ch.Chord(); err == nil {
				if v, ok := shapes[c]; ok {
					sb.Held = append(sb.Held, Held{tick, c, v.Shape})
				}
			}
			tick += ch.Ticks
		}
		sb.Result = b.Bar(sb.PatternBar, sb.Held)
		bars[i] = sb
	}
	return bars
}
