package files

import (
	"archive/zip"
	"bytes"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/format/bundle"
	"arplin/format/musicxml"
	"arplin/teach/answer"
	"arplin/teach/people"
	"arplin/teach/songs"
)

// zipOf is a zip with one file of so many bytes.
func zipOf(tb testing.TB, name string, size int, begins string) []byte {
	tb.Helper()
	var out bytes.Buffer
	z := zip.NewWriter(&out)
	w, err := z.Create(name)
	require.NoError(tb, err)
	_, err = w.Write([]byte(begins))
	require.NoError(tb, err)
	for block := bytes.Repeat([]byte(" "), 1<<20); size > 0; size -= len(block) {
		_, err = w.Write(block)
		require.NoError(tb, err)
	}
	require.NoError(tb, z.Close())
	return out.Bytes()
}

type badFile struct {
	name, says string
	data       []byte
}

// badFiles are files that are sent by mistake or to do harm. Source: OWASP, XML External Entity
// Prevention and File Upload Cheat Sheets (entity expansion, zip bombs), and common practice.
func badFiles(tb testing.TB) []badFile {
	const part = "<score-partwise version='4.0'><part-list><score-part id='P1'><part-name>%s</part-name></score-part></part-list><part id='P1'><measure number='1'>%s</measure></part></score-partwise>"
	laughs := "<!DOCTYPE score-partwise [<!ENTITY a 'ha'>"
	for c := 'b'; c < 'n'; c++ {
		laughs += fmt.Sprintf("<!ENTITY %c '%s'>", c, strings.Repeat(fmt.Sprintf("&%c;", c-1), 10))
	}
	return []badFile{
		{"entities that grow", "entity", []byte("<?xml version='1.0'?>" + laughs + "]>" + fmt.Sprintf(part, "&m;", ""))},
		{"an entity that reads a file", "entity", []byte("<!DOCTYPE score-partwise [<!ENTITY x SYSTEM 'file:///etc/hostname'>]>" + fmt.Sprintf(part, "&x;", ""))},
		{"a score that is a zip bomb", "more than 16 MB", zipOf(tb, "score.musicxml", 100<<20, "<score-partwise>")},
		{"a bundle that is a zip bomb", "no score", zipOf(tb, "bundle.json", 100<<20, "{")},
		{"a score that is cut", "line 1", []byte(fmt.Sprintf(part, "x", "<note>")[:150])},
		{"a zip that is cut", "cut or broken", zipOf(tb, "score.musicxml", 1<<20, "<score-partwise>")[:200]},
		{"MIDI with a track longer than the file", "byte", []byte("MThd\x00\x00\x00\x06\x00\x01\x00\x01\x01\xe0MTrk\x7f\xff\xff\xff\x00")},
		{"MIDI that says 65,535 tracks", "byte", []byte("MThd\x00\x00\x00\x06\x00\x01\xff\xff\x01\xe0")},
		{"a picture", "no chord sheet", append([]byte("\x89PNG\r\n\x1a\n"), bytes.Repeat([]byte{0, 0xff, 0xee}, 300_000)...)},
		{"half of a letter in two bytes", "musicxml", []byte("\xff\xfe<\x00s\x00c")},
	}
}

// A bad file is refused with a sentence that a teacher can read.
func TestBadFiles(t *testing.T) {
	if testing.Short() {
		t.Skip("in make test")
	}
	for _, bad := range badFiles(t) {
		_, err := OpenSong(bad.data)
		var said *answer.Refusal
		if assert.ErrorAs(t, err, &said, bad.name) {
			assert.Contains(t, err.Error(), bad.says, bad.name)
			assert.Less(t, len(err.Error()), 300, bad.name)
		}
	}
	deep := "<score-partwise version='4.0'><part id='P1'><measure number='1'>" + strings.Repeat("<note>", 100_000) + strings.Repeat("</note>", 100_000) + "</measure></part></score-partwise>"
	o, err := OpenSong([]byte(deep))
	require.NoError(t, err, "what is nested in a note is passed over")
	assert.Len(t, o.Song.Bars(), 1)
	_, err = bundle.Read(zipOf(t, "bundle.json", 100<<20, "{"))
	assert.ErrorContains(t, err, "more than 64 MB")
	_, err = bundle.Read([]byte(strings.Repeat("[", 1_000_000)))
	assert.Error(t, err)
	long := strings.Repeat("e|"+strings.Repeat("-0", 5_000)+"|\n", 200)
	_, err = ReadTab(long, people.Class{}, "", "")
	assert.Error(t, err)
}

// BenchmarkBadFiles has each of them refused; B/op is what that takes.
func BenchmarkBadFiles(b *testing.B) {
	for _, bad := range badFiles(b) {
		b.Run(strings.ReplaceAll(bad.name, " ", "_"), func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				if _, err := OpenSong(bad.data); err == nil {
					b.Fatal("it was read")
				}
			}
		})
	}
}

// longSong has so many bars with words and a tune.
func longSong(tb testing.TB, bars int) song.Song {
	tb.Helper()
	sg := song.Song{Title: "Long Lane", Meter: pattern.Meter{Beats: 4, Unit: 4}, Tempo: 96}
	for s := range bars / 16 {
		sec := song.Section{Name: fmt.Sprint("Part ", s+1)}
		var tune []string
		for i := range 16 {
			symbols := [][]string{{"C"}, {"Am7", "D7"}, {"F"}, {"G7"}}[i%4]
			sec.Bars = append(sec.Bars, song.Bar{Changes: song.Share(sg.Meter, symbols), Words: "one by one"})
			tune = append(tune, "E4:1/2=lan- F=tern G E4:1 ^D C5:1/2")
		}
		require.NoError(tb, sec.SetTune(strings.Join(tune, " | "), sg.Meter.BeatTicks()))
		sg.Sections = append(sg.Sections, sec)
	}
	return sg.Numbered()
}

// BenchmarkWrite writes a song of 64 bars with tune and figure in each format, from the stored
// song to the bytes.
func BenchmarkWrite(b *testing.B) {
	guitar, err := fretboard.ByID("guitar")
	require.NoError(b, err)
	figure, err := pattern.Parse("4/4: p . p'+m . p i p' .")
	require.NoError(b, err)
	sg := longSong(b, 64)
	for _, f := range Formats {
		b.Run(string(f.Format), func(b *testing.B) {
			for b.Loop() {
				data, err := Write(songs.LineOf(sg, guitar, people.Class{}, songs.Figures(bind.Always(figure))), f.Format)
				require.NoError(b, err)
				b.ReportMetric(float64(len(data))/1024, "KB")
			}
		})
	}
}

// BenchmarkOpenMusicXML reads a MusicXML file of 2 MB and more.
func BenchmarkOpenMusicXML(b *testing.B) {
	guitar, err := fretboard.ByID("guitar")
	require.NoError(b, err)
	figure, err := pattern.Parse("4/4: p i m a m i m a p i m a m i m a")
	require.NoError(b, err)
	data, err := musicxml.Write(songs.LineOf(longSong(b, 288), guitar, people.Class{}, songs.Figures(bind.Always(figure))))
	require.NoError(b, err)
	for b.Loop() {
		_, err := OpenSong(data)
		require.NoError(b, err)
	}
	b.ReportMetric(float64(len(data))/1024, "KB")
}
