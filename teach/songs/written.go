package songs

import (
	"slices"

	"arplin/core/pattern/catalogue"
	"arplin/core/song"
)

// WrittenNames are the different patterns that a song is written with, in order.
func WrittenNames(sg song.Song) (names []string) {
	for _, sec := range sg.Sections {
		if _, ok := sec.Figure(sg.Meter); ok && !slices.Contains(names, sec.PatternName) {
			names = append(names, sec.PatternName)
		}
	}
	return names
}

// WrittenOn is the first pattern that a song is written with.
func WrittenOn(sg song.Song) (catalogue.Entry, bool) {
	for _, sec := range sg.Sections {
		if p, ok := sec.Figure(sg.Meter); ok {
			return catalogue.Entry{Name: sec.PatternName, Notation: p.String(), Pattern: p}, true
		}
	}
	return catalogue.Entry{}, false
}

// WithoutFigures is a song whose sections have no pattern of their own, so that
// no bar is drawn.
func WithoutFigures(sg song.Song) song.Song {
	sg = sg.Clone()
	for i := range sg.Sections {
		sg.Sections[i].Pattern = ""
	}
	return sg
}
