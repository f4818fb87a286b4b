package logcsv_test

import (
	"encoding/csv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"arplin/format/logcsv"
)

// Whatever stands in a log comes back as it was, and a kept reader reads the same cells.
func TestRoundTrip(t *testing.T) {
	word := rapid.StringMatching(`[A-Za-zéß=+,;"'@ -]{0,20}`)
	rapid.Check(t, func(rt *rapid.T) {
		rows := rapid.SliceOfN(rapid.Custom(func(t *rapid.T) logcsv.Row {
			return logcsv.Row{
				At: time.Unix(int64(rapid.IntRange(1.7e9, 1.8e9).Draw(t, "at")), 0), Name: "N" + strings.TrimSpace(word.Draw(t, "name")), Song: "S" + strings.TrimSpace(word.Draw(t, "song")),
				Step: rapid.IntRange(0, 20).Draw(t, "step"), Tempo: rapid.IntRange(20, 300).Draw(t, "tempo"), Clean: rapid.Bool().Draw(t, "clean"),
				Errors: rapid.SampledFrom([]string{"", "few", "many"}).Draw(t, "errors"), Minutes: rapid.IntRange(0, 60).Draw(t, "minutes"),
				Fault: rapid.SampledFrom([]string{"", "wb"}).Draw(t, "fault"), Bar: rapid.IntRange(0, 99).Draw(t, "bar"), Word: strings.Trim(word.Draw(t, "word"), " '"),
			}
		}), 1, 10).Draw(rt, "rows")
		text, err := logcsv.String(rows)
		require.NoError(rt, err)
		cells, err := csv.NewReader(strings.NewReader(text)).ReadAll()
		require.NoError(rt, err)
		for _, row := range cells {
			for _, cell := range row {
				if cell != "" && strings.ContainsRune("=+-@", rune(cell[0])) {
					rt.Fatalf("a spreadsheet would run %q", cell)
				}
			}
		}
		got, err := logcsv.Read(text)
		require.NoError(rt, err)
		for i := range got {
			got[i].Line = 0
			assert.True(rt, rows[i].At.Equal(got[i].At))
			got[i].At = rows[i].At
		}
		assert.Equal(rt, rows, got)
	})
}

// Files as spreadsheets make them, and what is wrong with others, with its line.
func TestFoundFiles(t *testing.T) {
	rows, err := logcsv.Read("\uFEFFWho;Tempo;Clean;Date\r\nPia;72;x;24.11.2026\r\n;;;\r\nWim;66;;\r\n")
	require.NoError(t, err)
	require.Len(t, rows, 2)
	assert.Equal(t, "Pia", rows[0].Name)
	assert.False(t, rows[0].Clean)
	assert.Equal(t, "2026-11-24", rows[0].At.Format(time.DateOnly))
	assert.True(t, rows[1].Clean)
	assert.True(t, rows[1].At.IsZero())
	for text, says := range map[string]string{
		"":                                 "nothing in it",
		"name,bpm\n":                       "no line under the head",
		"who,when\nPia,1":                  `none called "bpm"`,
		"name,bpm\nPia,fast":               `line 2: "fast" is no number for bpm`,
		"name,bpm,date\nPia,72,11/12/2026": "line 2: \"11/12/2026\" is no day",
		"name,bpm,clean\nPia,72,perhaps":   "clean is yes or no",
		"name,bpm\nPia,72\n\nWim,-1":       "line 4",
	} {
		_, err := logcsv.Read(text)
		assert.ErrorContains(t, err, says, "%q", text)
	}
}

func FuzzRead(f *testing.F) {
	for _, text := range []string{"name,bpm\nPia,72", "name;bpm\n\"Pia;72", "\uFEFFname\tbpm\n", "\x00", "name,bpm\n'=1,20"} {
		f.Add(text)
	}
	f.Fuzz(func(t *testing.T, text string) {
		rows, err := logcsv.Read(text)
		if err == nil && len(rows) == 0 {
			t.Fatal("neither rows nor an error")
		}
	})
}
