package chordpro_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"arplin/core/bpm"
	"arplin/core/song"
	"arplin/format/chordpro"
)

// playedBars are the bars of a song as they are sung, as text.
func playedBars(s song.Song) string {
	var bars []string
	for _, at := range s.Sung() {
		bar := s.Sections[at.Section].Bars[at.Bar]
		bars = append(bars, song.BarText(bar.Changes, s.MeterOf(bar)))
	}
	return strings.Join(bars, " | ")
}

// What was read as other chords than were written, without a word. Source: common practice.
func TestChordsAreReadAsTheyAreWritten(t *testing.T) {
	for _, c := range []struct{ name, sheet, plays string }{
		{"a capo, and a line that is played twice", "Capo 2\n\nVerse:\nC Am\nF G7 C (x2)\n", "D | Bm | G | A7 | D | G | A7 | D"},
		{"a capo, and a part that is named again", "Capo 2\n\nChorus:\nC G\n\nVerse:\nAm F\n\nChorus\n", "D | A | Bm | G | D | A"},
		{"a capo, and a verse without chords", "Capo 2\n\nVerse 1:\n[C]sun is [G]up\n\nVerse 2:\nmoon is down\n", "D | A | D | A"},
		{"the bar before again, all of it", "| G . D . | Em . C . | % | D |", "G D | Em C | Em C | D"},
		{"a blank bar is the bar before", "| G D | | C |", "G D | G D | C"},
		{"the bar before, with beats", "| F:3 G:1 | % |", "F:3 G:1 | F:3 G:1"},
		{"in brackets, too", "| [G]sun [D]up | [%]and down |", "G D | G D"},
		{"an end", "| C | G [*end] |", "C | G"},
		{"a word about a bar", "| F | C | G [*hold] | C |", "F | C | G | C"},
		{"endings by number at the line", "| A | D | 1. E7 |\n2. E7 A |", "A | D | E7 | A | D | E7 A"},
		{"endings by number without bar lines", "A D\n1. E7\n2. A\n", "A | D | E7 | A | D | A"},
		{"a part on one line", "Intro  G C G D (2x)\n\nVerse:\nEm C\n", "G | C | G | D | G | C | G | D | Em | C"},
		{"a part on one line with bar lines", "Outro | G | C | x2\n", "G | C | G | C"},
		{"small letters are minor", "C a F G7\na d E7 a\n", "C | Am | F | G7 | Am | Dm | E7 | Am"},
		{"small letters with German names", "H7 e fis h b\n", "B7 | Em | F#m | Bm | Bbm"},
		{"times between slashes", "[D7] / x4 /\n", "D7 | D7 | D7 | D7"},
	} {
		t.Run(c.name, func(t *testing.T) {
			sheet := chordpro.ReadSheet(c.sheet, chordpro.ByThemselves)
			want := c.plays
			if bars, err := song.ParseChords(c.plays, sheet.Song.Meter); err == nil { // else they say their beats
				var texts []string
				for _, b := range bars {
					texts = append(texts, song.BarText(b.Changes, sheet.Song.Meter))
				}
				want = strings.Join(texts, " | ")
			}
			assert.Equal(t, want, playedBars(sheet.Song))
			assert.Empty(t, sheet.Problems)
		})
	}
}

// A remark beside the name of a part is of its name; chords in brackets are none. Source: common
// practice.
func TestPartsWithRemarks(t *testing.T) {
	for head, want := range map[string]string{
		"Pre-chorus (softly)": "Pre-chorus (softly)", "Chorus (softly):": "Chorus (softly)", "Verse 2 (no strums)": "Verse 2 (no strums)",
		"Chorus (2x)": "Chorus", "[Bridge (let it ring)]": "Bridge (let it ring)",
	} {
		sheet := chordpro.ReadSheet("Verse 1\nG C\n\n"+head+"\nAm F\n", chordpro.ByThemselves)
		if assert.Len(t, sheet.Song.Sections, 2, head) {
			assert.Equal(t, want, sheet.Song.Sections[1].Name)
		}
	}
	sheet := chordpro.ReadSheet("Verse (G C)\n\nChorus\nAm F\n", chordpro.ByThemselves)
	for _, sec := range sheet.Song.Sections {
		assert.NotContains(t, sec.Name, "G C")
	}
}

// What stands over a song in a line or two. Source: common practice.
func TestWhatStandsOverASong(t *testing.T) {
	for _, c := range []struct {
		name, sheet, title, meter, key string
		tempo                          int
		notes                          []string
	}{
		{"two fields on a line", "Key: G   BPM: 60\n\n| G | C |", "", "4/4", "G", 60, nil},
		{"fields with bars between", "Title: Boat | Key: Am | Time: 3/4 | Tempo: 90\n\n| Am | E |", "Boat", "3/4", "Am", 90, nil},
		{"a bare time signature", "Boat\n3/4\n\nG C G\n", "Boat", "3/4", "", bpm.Usual, nil},
		{"a time signature in the title", "Boat (6/8)\n\nG C G\n", "Boat", "6/8", "", bpm.Usual, nil},
		{"a waltz", "Boat\nwaltz, 100 bpm\n\nG C G\n", "Boat", "3/4", "", 100, []string{"waltz, 100 bpm"}},
		{"a note and its number", "Boat\n♩ = 72\n\nG C\n", "Boat", "4/4", "", 72, nil},
		{"a title over chords", "Boat\nG      C\nrow along\n", "Boat", "4/4", "", bpm.Usual, nil},
		{"a title over chords in brackets", "Boat\n[G]row a[C]long\n", "Boat", "4/4", "", bpm.Usual, nil},
		{"tempo and time signature behind the title", "LONG ROAD - 92bpm, 3/4\n\nG C\n", "LONG ROAD", "3/4", "", 92, nil},
		{"time signature and tempo behind the title", "Long road, 6/8, 60 bpm\n\nG C\n", "Long road", "6/8", "", 60, nil},
		{"a time signature in brackets with more", "Boat (in G, 3/4)\n\nG C\n", "Boat (in G)", "3/4", "", bpm.Usual, nil},
		{"a tempo in brackets", "Boat (92 bpm)\n\nG C\n", "Boat", "4/4", "", 92, nil},
		{"a mail's subject", "Fwd: Re: Boat\n\nG C\n", "Boat", "4/4", "", bpm.Usual, nil},
		{"a mail that has the title below", "Fwd: song for tuesday\n\nhi all\n\nLONG ROAD - 92bpm\n\nG C\n", "LONG ROAD", "4/4", "", 92, []string{"hi all", "song for tuesday"}},
		{"a capo with a remark", "Boat\nCapo 2 (or play it open)\n\nG C\n", "Boat", "4/4", "", bpm.Usual, []string{"(or play it open)"}},
		{"a title over bars", "Boat on the water\n| G | C |\n", "Boat on the water", "4/4", "", bpm.Usual, nil},
	} {
		t.Run(c.name, func(t *testing.T) {
			sheet := chordpro.ReadSheet(c.sheet, chordpro.ByThemselves)
			assert.Equal(t, c.title, sheet.Song.Title)
			assert.Equal(t, c.meter, sheet.Song.Meter.String())
			assert.Equal(t, c.key, sheet.Song.Key)
			assert.Equal(t, c.tempo, sheet.Song.Tempo)
			assert.Empty(t, sheet.Problems)
			var notes []string
			for _, b := range sheet.Song.Bars() {
				notes = append(notes, b.Notes...)
			}
			assert.Equal(t, c.notes, notes)
		})
	}
}
