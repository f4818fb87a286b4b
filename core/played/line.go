package played

import (
	"slices"

	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/song"
)

// Line is a song with what is played on it, bar by bar.
type Line struct {
	Song       song.Song // as it sounds
	Fingered   song.Song // as the hand sees it above the capo: the same bars
	Instrument fretboard.Instrument
	Capo       int
	Bars       []Bar // one for each bar of the song as written, in order
}

// Bar is what both hands do in a bar; frets count from the capo.
type Bar struct {
	Grid      int             // slots in a full bar; 0 where nothing is played
	Figure    pattern.Pattern // that is played; the zero value for none
	FigureBar int             // which bar of it
	Held      []Held
	Events    []Event // in the order in which they sound
	Rests     bool    // others play it: nothing is struck
}

// Held is the shape that a chord is held with, from a tick of the bar on.
type Held struct {
	From    int
	Voicing fretboard.Voicing
}

// Resting is the line with rests where a chord is sung that is not of a stage, which has the chords
// as they are fingered here; nil is no stage, and then nothing rests.
func (l Line) Resting(stage []string) Line {
	if stage == nil {
		return l
	}
	l.Bars = slices.Clone(l.Bars)
	for i, bar := range l.Fingered.Bars() {
		if slices.ContainsFunc(bar.Changes, func(c song.Change) bool { return !slices.Contains(stage, c.Symbol) }) {
			l.Bars[i].Rests, l.Bars[i].Events = true, nil
		}
	}
	return l
}
