package chordpro_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/song"
	"arplin/format/chordpro"
)

// chords writes a song as a line of bars; lengths in quarters where a bar has
// more than one chord.
func chords(s song.Song) string {
	var bars []string
	for _, bar := range s.Bars() {
		var cs []string
		for _, ch := range bar.Changes {
			c := ch.Symbol
			if len(bar.Changes) > 1 {
				c += ":" + string(rune('0'+ch.Ticks/5040))
			}
			cs = append(cs, c)
		}
		bars = append(bars, strings.Join(cs, " "))
	}
	return strings.Join(bars, " | ")
}

// Source: the format's public description: directives in braces, chords in
// square brackets before the syllable, grids with a cell a beat.
func TestRead(t *testing.T) {
	for name, c := range map[string]struct{ sheet, want string }{
		"a chord a bar":              {"[C]Walk along the [Am]water [F]now", "C | Am | F"},
		"bar lines":                  {"| [C]Walk [Am]a- | long | [F]now |", "C:2 Am:2 | C:2 Am:2 | F"},
		"beats":                      {"[C:2]Walk [Am:2]on [F]now", "C:2 Am:2 | F"},
		"beats over a bar line":      {"[C:6]Walk [G:2]on", "C | C:2 G:2"},
		"a grid":                     {"{start_of_grid}\n| C . . . | Am . G . | % |\n{end_of_grid}", "C | Am:2 G:2 | Am:2 G:2"},
		"annotations are not chords": {"[*softly][C]Walk", "C"},
		"chorus again":               {"{soc}\n[C]La [G]la\n{eoc}\n{sov}\n[Am]Walk\n{eov}\n{chorus}", "C | G | Am | C | G"},
		"signs":                      {"[B♭]One [F♯m]two", "Bb | F#m"},
	} {
		t.Run(name, func(t *testing.T) {
			s, problems := chordpro.Read(c.sheet)
			assert.Empty(t, problems)
			assert.Equal(t, c.want, chords(s))
		})
	}
}

func TestReadDirectives(t *testing.T) {
	s, problems := chordpro.Read("{title: A walk}\n{time: 3/4}\n{tempo: 96}\n{key: Am}\n{sov: First verse}\nwe [Am]go [E7]on\n{eov}\n{sob: Ending}\n[Am]home")
	require.Empty(t, problems)
	assert.Equal(t, "A walk", s.Title)
	assert.Equal(t, "3/4", s.Meter.String())
	assert.Equal(t, 96, s.Tempo)
	assert.Equal(t, "A minor", s.KeyGuess().Key.String())
	require.Len(t, s.Sections, 2)
	assert.Equal(t, "First verse", s.Sections[0].Name)
	assert.Equal(t, "we go", s.Sections[0].Bars[0].Words)
	assert.Equal(t, "Ending", s.Sections[1].Name)
}

// A part's name from a sheet is as long as one that is typed may be.
func TestLongNamesOfPartsAreCut(t *testing.T) {
	sg, problems := chordpro.Read("{start_of_verse: " + strings.Repeat("é", 90) + "}\n[C]one\n{end_of_verse}")
	require.Empty(t, problems)
	assert.Equal(t, strings.Repeat("é", 40), sg.Sections[0].Name)
}

// A comment or a section without chords is not a part of the song.
func TestRemarksAndLongLinesAreKeptWhole(t *testing.T) {
	long := strings.Repeat("the rain again and ", 40)
	sheet := chordpro.ReadSheet("# from the blue book\nA walk\n\n[C]Walk\n# slower here\n[G]home", chordpro.ByThemselves)
	assert.Equal(t, "A walk", sheet.Song.Title)
	bars := sheet.Song.Sections[0].Bars
	assert.Equal(t, []string{"# from the blue book"}, bars[0].Notes)
	assert.Equal(t, []string{"# slower here"}, bars[1].Notes)

	tab := "{sot}\n" + strings.TrimSpace(long) + "\n{eot}"
	assert.Equal(t, strings.TrimSpace(long), strings.Join(chordpro.ReadSheet("[C]Walk\n"+tab, chordpro.ByThemselves).Song.Notes, ""))
	endless := "{sot}\na" + strings.Repeat("\u0301", 2*song.MaxNote) + "\n{eot}" // has to end
	assert.Equal(t, 1, len(chordpro.ReadSheet("[C]Walk\n"+endless, chordpro.ByThemselves).Song.Bars()))
}

func TestPlainFieldsThatCannotBeReadAreNotes(t *testing.T) {
	sheet := chordpro.ReadSheet("Tempo: brisk\n[C]Walk", chordpro.ByThemselves)
	assert.Equal(t, chordpro.AsUnread, sheet.Lines[0].As)
	assert.Equal(t, []string{"Tempo: brisk"}, sheet.Song.Sections[0].Bars[0].Notes)
	assert.Len(t, sheet.Problems, 1)

	sheet = chordpro.ReadSheet("| C:2 G:two |", chordpro.ByThemselves)
	assert.Len(t, sheet.Problems, 1, "beats that are no number are said once")
}

func TestSectionsWithoutBarsAreLeftOut(t *testing.T) {
	s, problems := chordpro.Read("{c: Softly}\n{sov}\n{eov}\n{sov: Verse}\n[C]Walk\n{eov}\n{c: Twice}")
	assert.Empty(t, problems)
	require.Len(t, s.Sections, 1)
	assert.Equal(t, "Verse", s.Sections[0].Name)
}

func TestProblemsNameTheLine(t *testing.T) {
	for sheet, want := range map[string]string{
		"[C]One\n[X7]two":                   `line 2: chord "X7", character 1: "X" is not a note from A to G`,
		"[C]One [G":                         `line 1: a square bracket is not closed: "[G"`,
		"{title: x\n[C]One":                 `line 1: a brace is not closed: "{title: x"`,
		"{tempo: fast}\n[C]One":             `line 1: “fast” isn’t a tempo. Use 20 to 300 BPM`,
		"{time: 7/8}\n[C]One":               `line 1: "7/8" is not a time signature that patterns use: 2/4, 3/4, 4/4, 5/4, 6/8, 9/8 or 12/8`,
		"{dance: on}\n[C]One":               `line 1: the directive {dance} is not known; the line is kept as a note`,
		"| [C:3]One [G:3]two |":             `line 1: the beats of a bar do not add up to 4/4`,
		"[C]a\n[C:3]One\n{c: next}\n[G]two": `line 3: the beats before this line do not fill the bar of 4/4; the last chord was held`,
		"{chorus}\n[C]One":                  `line 1: there is no chorus yet to be repeated`,
		"":                                  `there are no chords in it. Chords start with a capital letter and are written in square brackets, such as [Am], or above the words`,
	} {
		_, problems := chordpro.Read(sheet)
		require.Len(t, problems, 1, "%q: %v", sheet, problems)
		assert.Equal(t, want, problems[0].String())
	}
}

func FuzzRead(f *testing.F) {
	f.Add("{title: A}\n| [C]one [G:2]two | % |\n{sog}\n| C . / . |")
	f.Add("[C:99]x\n{chorus}\n{soc}\n[F]y\n{chorus}{chorus}")
	f.Add("Verse 1:\nC  G\nwords here\n\nVerse 2:\nmore of them\n|: C |1. F :|2. G || x3")
	f.Add("[H7]a [Es]b\ne|--0--1--|\n{define: A frets x 0 2 2 2 0}{capo: 2}")
	f.Fuzz(func(t *testing.T, text string) {
		sheet := chordpro.ReadSheet(text, chordpro.ByThemselves)
		bars := sheet.Song.Bars()
		if len(bars) == 0 {
			assert.NotEmpty(t, sheet.Problems)
		}
		assert.LessOrEqual(t, len(bars), song.MaxBars)
		for _, bar := range bars {
			for _, ch := range bar.Changes {
				assert.GreaterOrEqual(t, ch.Ticks, 0)
			}
		}
		if len(text) > chordpro.MaxBytes || len(bars) == song.MaxBars {
			return
		}
		for i, line := range sheet.Lines { // every line has become something
			assert.Equal(t, i+1, line.Number)
		}
		again := chordpro.ReadSheet(chordpro.Write(sheet.Song), chordpro.ByThemselves).Song
		assert.Len(t, again.Bars(), len(bars))
	})
}
