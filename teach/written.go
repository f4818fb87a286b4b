package teach

import (
	"slices"

	"arplin/core/pattern"
	"arplin/core/song"
)

// writtenNames are the different patterns that a song is written with, in order.
func writtenNames(sg song.Song) (names []string) {
	for _, sec := range sg.Sections {
		if _, ok := sec.Figure(sg.Meter); ok && !slices.Contains(names, sec.PatternName) {
			names = append(names, sec.PatternName)
		}
	}
	return names
}

// writtenOn is the first pattern that a song is written with.
func writtenOn(sg song.Song) (pattern.Entry, bool) {
	for _, sec := range sg.Sections {
		if p, ok := sec.Figure(sg.Meter); ok {
			return pattern.Entry{Name: sec.PatternName, Notation: p.String(), Pattern: p}, true
		}
	}
	return pattern.Entry{}, false
}

// withoutFigures is a song whose sections have no pattern of their own, so that
// no bar is drawn.
func withoutFigures(sg song.Song) song.Song {
	sg = sg.Clone()
	for i := range sg.Sections {
		sg.Sections[i].Pattern = ""
	}
	return sg
}
