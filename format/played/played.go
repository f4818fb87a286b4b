// Package played is what is written down of a song, whatever the format: both hands, bar by bar.
package played

import (
	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/song"
)

// Piece is a song with what is played on it.
type Piece struct {
	Song       song.Song // as it sounds
	Fingered   song.Song // as the hand sees it above the capo: the same bars
	Instrument fretboard.Instrument
	Capo       int
	Bars       []Bar // one for each bar of the song as written, in order
}

// Bar is what both hands do in a bar; frets count from the capo.
type Bar struct {
	Grid   int // slots in a full bar; 0 where nothing is played
	Held   []Held
	Events []bind.Event // in the order in which they sound
}

// Held is the shape that a chord is held with, from a tick of the bar on.
type Held struct {
	From    int
	Voicing fretboard.Voicing
}
