package song_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"arplin/core/pattern"
	"arplin/core/song"
)

// A song from elsewhere is held against what a song can be: what a page would count on.
func TestCheck(t *testing.T) {
	good := twoBars(t)
	good.Sections[0].Bars[0].Melody = []song.MelodyNote{{Ticks: 10, MIDI: 60}, {Tick: 10, Ticks: 10, MIDI: 62, Mark: song.Slid}}
	assert.NoError(t, good.Check())
	bar := func(s *song.Song) *song.Bar { return &s.Sections[0].Bars[0] }
	for want, spoil := range map[string]func(*song.Song){
		"a title has 1 to 120 characters":        func(s *song.Song) { s.Title = strings.Repeat("x", 121) },
		"Tune has 0 bars":                        func(s *song.Song) { s.Sections[0].Bars = nil },
		"Tune has 101 sections":                  func(s *song.Song) { s.Sections = append(s.Sections, make([]song.Section, 100)...) },
		"a tempo of 9":                           func(s *song.Song) { s.Tempo = 9 },
		"has no time signature":                  func(s *song.Song) { s.Meter = pattern.Meter{Beats: 7, Unit: 4} },
		"a capo at fret 40":                      func(s *song.Song) { s.Capo = map[string]int{"guitar": 40} },
		"played too often":                       func(s *song.Song) { s.Sections[0].Times = 1 << 30 },
		"bar 1: there is no ending 9":            func(s *song.Song) { bar(s).Ending = 9 },
		`bar 1: "solo" is nothing that a bar is`: func(s *song.Song) { bar(s).Role = "solo" },
		"bar 1: 0/4 is no time signature":        func(s *song.Song) { bar(s).Meter = pattern.Meter{Unit: 4} },
		"bar 1: there is too much in it":         func(s *song.Song) { bar(s).Changes = make([]song.Change, 40) },
		"bar 1: a chord has no length":           func(s *song.Song) { bar(s).Changes[0].Ticks = -5 },
		"a name of one is too long":              func(s *song.Song) { s.TuneName = strings.Repeat("x", 61) },
		"it has too many melodies":               func(s *song.Song) { s.Tunes = make([]song.Tune, 6) },
		"a note of the melody is none": func(s *song.Song) {
			s.Tunes = []song.Tune{{Bars: map[song.BarID][]song.MelodyNote{1: {{Ticks: 10, MIDI: 5}}}}}
		},
		"the thumb keeps to too many roots":           func(s *song.Song) { s.Roots = map[string][]string{"guitar": make([]string, 101)} },
		"bar 1: a note of the melody is past its end": func(s *song.Song) { bar(s).Melody[0].Ticks = 11 },
		"bar 1: a note of the melody is none":         func(s *song.Song) { bar(s).Melody[0].MIDI = 400 },
	} {
		bad := good.Clone()
		spoil(&bad)
		assert.ErrorContains(t, bad.Check(), want)
	}
}
