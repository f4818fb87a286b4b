package chordpro_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"arplin/core/bpm"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/format/chordpro"
)

// anySong draws a song with all that one can hold.
func anySong(t *rapid.T) song.Song {
	words := rapid.SliceOfN(rapid.StringMatching(`[A-Za-zéß’,.!?-]{1,8}`), 0, 5)
	name := rapid.StringMatching(`[A-Z][a-z]{1,8}( [0-9])?`)
	meters := rapid.SampledFrom(pattern.Meters)
	note := rapid.StringMatching(`[a-z|{}\[\]:#-]{1,20}`)
	s := song.Song{
		Title: name.Draw(t, "title"), Meter: meters.Draw(t, "meter"), Tempo: rapid.IntRange(bpm.Min, bpm.Max).Draw(t, "tempo"),
		Swing: rapid.Bool().Draw(t, "swing"), Key: rapid.SampledFrom([]string{"", "G", "Am", "F#m", "Bb"}).Draw(t, "key"),
	}
	if rapid.Bool().Draw(t, "range") {
		s.Low, s.High = "A3", "D5"
	}
	if rapid.Bool().Draw(t, "capo") {
		s.Capo = map[string]int{"guitar": 2, "tuned:E2-A2-D3": 3}
		s.Shapes = map[string]map[string]string{"guitar": {"G": "355433/134211", "Am": "x02210"}, "ukulele": {"C": "0003"}}
		s.Tags = []string{"campfire", "in three"}
		s.Roots = map[string][]string{"guitar": {"F", "Bb"}}
	}
	symbols := rapid.SampledFrom([]string{"C", "Am7", "F#m7b5", "G/B", "Bb", "Csus4", "N.C.", "H9", "Qx", "E7(b9)"})
	for range rapid.IntRange(1, 4).Draw(t, "sections") {
		sec := song.Section{Name: name.Draw(t, "name"), Times: rapid.SampledFrom([]int{0, 1, 2, 8}).Draw(t, "times")}
		if rapid.Bool().Draw(t, "pattern") {
			sec.Pattern, sec.PatternName = pattern.MustParse("4/4: p . p' i").String(), name.Draw(t, "pattern's name")
		}
		for range rapid.IntRange(1, 9).Draw(t, "bars") {
			bar := song.Bar{
				Words: strings.Join(words.Draw(t, "words"), " "), Ending: rapid.IntRange(0, 3).Draw(t, "ending"),
				Role: rapid.SampledFrom(song.Roles).Draw(t, "role").Role, Notes: rapid.SliceOfN(note, 0, 2).Draw(t, "notes"),
			}
			if m := meters.Draw(t, "bar's meter"); m != s.Meter && rapid.Bool().Draw(t, "own meter") {
				bar.Meter = m
			}
			if rapid.Bool().Draw(t, "bar's shape") {
				bar.Shapes = song.Shapes{"guitar": {"C": "x35553"}}
			}
			chords := rapid.SliceOfN(symbols, 0, 4).Draw(t, "chords")
			bar.Changes = song.Share(s.MeterOf(bar), chords)
			if len(chords) > 0 && rapid.Bool().Draw(t, "beats") {
				bar.Changes[0].Ticks = pattern.TicksPerQuarter * rapid.IntRange(1, 3).Draw(t, "quarters")
			}
			if ticks := bar.Ticks(); ticks >= 4 && rapid.Bool().Draw(t, "tune") {
				bar.Melody = []song.MelodyNote{{Tick: ticks / 4, Ticks: ticks / 4, MIDI: rapid.IntRange(48, 80).Draw(t, "pitch"), Word: rapid.SampledFrom([]string{"", "la", "a=b"}).Draw(t, "syllable")}}
			}
			sec.Bars = append(sec.Bars, bar)
		}
		s.Sections = append(s.Sections, sec)
	}
	s.Notes = rapid.SliceOfN(note, 0, 2).Draw(t, "notes at the end")
	return s
}

// A song that is written as a sheet is read back as the same song.
func TestWhatIsWrittenIsReadBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := anySong(t)
		text := chordpro.Write(s)
		again, _ := chordpro.Read(text)
		want, err := tidy(s).Encode()
		require.NoError(t, err)
		got, err := tidy(again).Encode()
		require.NoError(t, err)
		if string(want) != string(got) {
			t.Fatalf("written:\n%s\nwant %s\ngot  %s", text, want, got)
		}
		assert.Equal(t, text, chordpro.Write(again))
	})
}

// tidy makes what says the same the same: no list and an empty one, ids that a
// sheet does not hold, once and no number of times.
func tidy(s song.Song) song.Song {
	s = s.Clone()
	s.Next = 0
	if len(s.Notes) == 0 {
		s.Notes = nil
	}
	for i := range s.Sections {
		s.Sections[i].ID = 0
		for j := range s.Sections[i].Bars {
			b := &s.Sections[i].Bars[j]
			b.ID = 0
			if len(b.Notes) == 0 {
				b.Notes = nil
			}
			if b.Changes == nil {
				b.Changes = []song.Change{}
			}
		}
	}
	return s
}
