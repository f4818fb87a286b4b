package chordpro_test

import (
	"fmt"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/song"
	"arplin/format/chordpro"
)

// outline writes what was understood of a sheet, to be read beside it.
func outline(s chordpro.Sheet) string {
	var b strings.Builder
	fmt.Fprintf(&b, "title %q, %s, %d BPM", s.Song.Title, s.Song.Meter, s.Song.Tempo)
	if s.Song.Key != "" {
		fmt.Fprintf(&b, ", key %s", s.Song.Key)
	}
	if s.Capo > 0 {
		fmt.Fprintf(&b, ", capo %d", s.Capo)
	}
	if s.German {
		b.WriteString(", German names")
	}
	b.WriteString("\n")
	for ins, shapes := range s.Song.Shapes {
		for _, line := range sorted(shapes) {
			fmt.Fprintf(&b, "shape on %s: %s\n", ins, line)
		}
	}
	for _, sec := range s.Song.Sections {
		b.WriteString(sec.Name)
		if sec.Times > 1 {
			fmt.Fprintf(&b, " x%d", sec.Times)
		}
		b.WriteString("\n")
		for _, bar := range sec.Bars {
			for _, n := range bar.Notes {
				fmt.Fprintf(&b, "    note: %s\n", n)
			}
			b.WriteString("  ")
			if bar.Ending > 0 {
				fmt.Fprintf(&b, "(%d) ", bar.Ending)
			}
			if bar.Role != song.Plain {
				fmt.Fprintf(&b, "%s ", bar.Role)
			}
			if bar.Meter.Beats > 0 {
				fmt.Fprintf(&b, "%s ", bar.Meter)
			}
			fmt.Fprintf(&b, "%s", song.BarText(bar.Changes, s.Song.MeterOf(bar)))
			if bar.Words != "" {
				fmt.Fprintf(&b, "  %s", bar.Words)
			}
			b.WriteString("\n")
		}
	}
	for _, n := range s.Song.Notes {
		fmt.Fprintf(&b, "note at the end: %s\n", n)
	}
	for _, p := range s.Problems {
		fmt.Fprintf(&b, "! %s\n", p)
	}
	return b.String()
}

func sorted(m map[string]string) (lines []string) {
	for k, v := range m {
		lines = append(lines, k+" "+v)
	}
	if len(lines) > 1 && lines[0] > lines[1] {
		lines[0], lines[1] = lines[1], lines[0]
	}
	return lines
}

var wordIn = regexp.MustCompile(`\pL[\pL'’]+`)

// Sheets as they are found: chords above the words, shifted, with tabs, grids,
// tablature, repeats, German names. What comes out stands beside each, and no word
// of any is lost. All are invented. Source of the ways of writing: common practice.
func TestSheetsAsTheyAreFound(t *testing.T) {
	paths, err := filepath.Glob("testdata/found/*.txt")
	require.NoError(t, err)
	require.GreaterOrEqual(t, len(paths), 25)
	for _, path := range paths {
		text, err := os.ReadFile(path)
		require.NoError(t, err)
		sheet := chordpro.ReadSheet(string(text), chordpro.ByThemselves)
		got := outline(sheet)
		want := strings.TrimSuffix(path, ".txt") + ".want"
		if os.Getenv("ARPLIN_WRITE_FOUND") != "" { // to be read before it is committed
			require.NoError(t, os.WriteFile(want, []byte(got), 0o600))
		}
		expected, err := os.ReadFile(want)
		require.NoError(t, err)
		assert.Equal(t, string(expected), got, path)

		kept := strings.ToLower(got + chordpro.Write(sheet.Song))
		kept = strings.ReplaceAll(kept, "- ", "")
		squeezed := regexp.MustCompile(`-\n\s*\S+(?:\s+\S+)?\s\s`).ReplaceAllString(kept, "")
		for _, line := range sheet.Lines {
			bare := regexp.MustCompile(`\[[^\]]*\]`).ReplaceAllString(line.Text, "")
			if line.As != chordpro.AsWords && line.As != chordpro.AsVerse && line.As != chordpro.AsNote && line.As != chordpro.AsRemark {
				continue
			}
			for _, word := range wordIn.FindAllString(strings.ToLower(bare), -1) {
				assert.True(t, strings.Contains(kept, word) || strings.Contains(squeezed, word), "%s, line %d lost %q", path, line.Number, word)
			}
		}
		assert.Len(t, sheet.Lines, strings.Count(strings.ReplaceAll(string(text), "\r", ""), "\n")+1, "%s: every line is accounted for", path)
	}
}

// A line that says how a song is struck is its pattern; one in a part is that part's. One that does not
// fit is kept as a note, and named.
func TestHowASongIsStruck(t *testing.T) {
	sheet := chordpro.ReadSheet("Buckets\nStrumming: D DU UDU\nCapo 2\n\nVerse\n[C]Seven buckets [Am]in a row\n[F]one is low\n\nChorus\nPicking: p i m a p i m a\n[C]Up we [G]go\n", chordpro.ByThemselves)
	require.Len(t, sheet.Song.Sections, 2)
	assert.Equal(t, "4/4: D . D U . U D U", sheet.Song.Sections[0].Pattern)
	assert.Equal(t, "D DU UDU", sheet.Song.Sections[0].PatternName)
	assert.Equal(t, "4/4: p i m a p i m a", sheet.Song.Sections[1].Pattern)
	assert.Equal(t, chordpro.AsStrum, sheet.Lines[1].As)

	later := chordpro.ReadSheet("Strum: d d d d\nTime: 3/4\n[C]One [G]two\n", chordpro.ByThemselves)
	assert.Empty(t, later.Song.Sections[0].Pattern)
	assert.Contains(t, strings.Join(later.Song.Notes, " "), "Strum: d d d d")
	require.NotEmpty(t, later.Problems)
	assert.Contains(t, later.Problems[0].String(), "does not fit a bar of 3/4")

	for _, none := range []string{"Rhythm: gentle\n[C]One\n", "Pattern: ask me\n[C]One\n", "Rhythm: D A D\n[C]One\n"} {
		assert.Empty(t, chordpro.ReadSheet(none, chordpro.ByThemselves).Song.Sections[0].Pattern, none)
	}
}
