package musicxml_test

import (
	"archive/zip"
	"bytes"
	"fmt"
	"strings"
	"testing"
	"unicode/utf16"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/played"
	"arplin/core/song"
	"arplin/format/musicxml"
)

var guitar, _ = fretboard.ByID("guitar")

// piece binds a figure to a song, as it is written.
func piece(sg song.Song, figure string) played.Line {
	p := played.Line{Song: sg, Instrument: guitar}
	shapes := sg.ShapesOn(guitar)
	f, err := pattern.Parse(figure)
	for _, sec := range sg.Sections {
		if err != nil {
			p.Bars = append(p.Bars, make([]played.Bar, len(sec.Bars))...)
			continue
		}
		for _, bar := range bind.Section(guitar, bind.DefaultSchool, f, sec, shapes) {
			b := played.Bar{Events: bar.Events}
			for _, h := range bar.Held {
				b.Held = append(b.Held, played.Held{From: h.From, Voicing: fretboard.Read(guitar, h.Chord, h.Shape)})
			}
			p.Bars = append(p.Bars, b)
		}
	}
	return p
}

// alike strips what the format does not hold: ids, shapes, the found key.
func alike(sg song.Song) song.Song {
	sg = sg.Clone()
	sg.Key, sg.Next = sg.KeyGuess().Key.Symbol(), 0
	for i := range sg.Sections {
		sec := &sg.Sections[i]
		if sec.ID = 0; sec.Times == 1 {
			sec.Times = 0
		}
		for j := range sec.Bars {
			sec.Bars[j].ID = 0
			if len(sec.Bars[j].Melody) == 0 {
				sec.Bars[j].Melody = nil
			}
		}
	}
	return sg
}

// What is written is read back: meter, tempo, chords with their lengths, tune with its marks and
// syllables, words, repeats and endings, for random songs.
func TestWrittenIsReadBack(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		meter := rapid.SampledFrom([]pattern.Meter{{Beats: 4, Unit: 4}, {Beats: 3, Unit: 4}, {Beats: 6, Unit: 8}}).Draw(rt, "meter")
		sg := song.Song{Title: "Lamps & <buttons>", Meter: meter, Tempo: rapid.IntRange(30, 200).Draw(rt, "tempo"), Swing: rapid.Bool().Draw(rt, "swing")}
		beat := meter.BeatTicks()
		for s := range rapid.IntRange(1, 3).Draw(rt, "sections") {
			sec := song.Section{Name: fmt.Sprint("Verse ", s+1), Times: rapid.SampledFrom([]int{0, 0, 2, 4}).Draw(rt, "times")}
			for range rapid.IntRange(1, 5).Draw(rt, "bars") {
				symbols := rapid.SliceOfN(rapid.SampledFrom([]string{"C", "Am7", "F#m7b5", "Bb/D", "G7b9", "Dsus4", "E+", "Cmaj7", "A6/9", "Ebdim7", song.NoChord}), 1, 2).Draw(rt, "chords")
				bar := song.Bar{Changes: song.Share(meter, symbols), Words: rapid.SampledFrom([]string{"", "one by one", "a < b"}).Draw(rt, "words")}
				if len(symbols) == 2 && symbols[0] == symbols[1] {
					bar.Changes = song.Share(meter, symbols[:1])
				}
				sec.Bars = append(sec.Bars, bar)
			}
			if rapid.Bool().Draw(rt, "endings") && len(sec.Bars) > 2 {
				sec.Times = 2
				sec.Bars[len(sec.Bars)-2].Ending, sec.Bars[len(sec.Bars)-1].Ending = 1, 2
			}
			var typed []string
			for range sec.Bars {
				typed = append(typed, rapid.SampledFrom([]string{".", "E4:1=la G=lan-", "r:1 A4:1/2 ^B ", "C5:1 /D5:1", "r:1/2 F#4:1/2=x Bb:1/3 C:1/3 D:1/3", "G4:2"}).Draw(rt, "tune"))
			}
			require.NoError(rt, sec.SetTune(strings.Join(typed, " | "), beat))
			sg.Sections = append(sg.Sections, sec)
		}
		sg = sg.Numbered()
		figure := rapid.SampledFrom([]string{"", "4/4: p . p'+m . p i p' .", "3/4: p D D", "6/8: p i m a m i", "4/4: p . . . . . . . i . . ."}).Draw(rt, "figure")
		if f, err := pattern.Parse(figure); err == nil && f.Meter != meter {
			figure = ""
		}
		data, err := musicxml.Write(piece(sg, figure))
		require.NoError(rt, err)
		back, problems, err := musicxml.Read(data)
		require.NoError(rt, err, string(data))
		want := alike(sg)
		got := alike(back)
		got.Key = want.Key // a key that is found is written, and read as one that was said
		assert.Equal(rt, want, got, string(data))
		for _, p := range problems {
			assert.Regexp(rt, "no chord symbols|the part “Guitar” is left out", p.Text)
		}
	})
}

// A file as other programs write it: two voices, a chord, a tie, a pickup, lyrics, a second ending,
// degrees, divisions of their own. Source: MusicXML 4.0, the elements' reference.
const found = `<?xml version="1.0" encoding="UTF-8"?>
<!DOCTYPE score-partwise PUBLIC "-//Recordare//DTD MusicXML 3.1 Partwise//EN" "http://www.musicxml.org/dtds/partwise.dtd">
<score-partwise version="3.1"><movement-title>Found</movement-title>
<part-list><score-part id="P1"><part-name>Voice</part-name></score-part><score-part id="P2"><part-name>Kit</part-name></score-part></part-list>
<part id="P1">
<measure number="0" implicit="yes"><attributes><divisions>2</divisions><key><fifths>1</fifths><mode>major</mode></key><time><beats>3</beats><beat-type>4</beat-type></time><clef><sign>G</sign><line>2</line></clef></attributes>
<direction><direction-type><metronome><beat-unit>quarter</beat-unit><per-minute>96</per-minute></metronome></direction-type></direction>
<note><pitch><step>D</step><octave>4</octave></pitch><duration>2</duration><voice>1</voice><lyric><syllabic>single</syllabic><text>Oh</text></lyric></note></measure>
<measure number="1"><barline location="left"><repeat direction="forward"/></barline>
<harmony><root><root-step>G</root-step></root><kind>major</kind></harmony>
<note><pitch><step>G</step><octave>4</octave></pitch><duration>4</duration><tie type="start"/><voice>1</voice><lyric><syllabic>begin</syllabic><text>Lan</text></lyric></note>
<harmony><root><root-step>F</root-step><root-alter>1</root-alter></root><kind>half-diminished</kind><bass><bass-step>C</bass-step></bass></harmony>
<note><pitch><step>G</step><octave>4</octave></pitch><duration>2</duration><tie type="stop"/><voice>1</voice></note>
<backup><duration>6</duration></backup><note><pitch><step>B</step><octave>3</octave></pitch><duration>6</duration><voice>2</voice></note></measure>
<measure number="2"><barline location="left"><ending number="1" type="start"/></barline>
<harmony><root><root-step>D</root-step></root><kind>dominant</kind><degree><degree-value>9</degree-value><degree-alter>-1</degree-alter><degree-type>add</degree-type></degree></harmony>
<note><pitch><step>F</step><alter>1</alter><octave>4</octave></pitch><duration>6</duration><voice>1</voice></note><note><chord/><pitch><step>A</step><octave>4</octave></pitch><duration>6</duration><voice>1</voice></note>
<barline location="right"><ending number="1" type="stop"/><repeat direction="backward"/></barline></measure>
<measure number="3"><barline location="left"><ending number="2" type="start"/></barline>
<direction placement="above"><direction-type><words>rit.</words></direction-type></direction>
<note><grace/><pitch><step>A</step><octave>4</octave></pitch><voice>1</voice></note><note><rest/><duration>6</duration><voice>1</voice></note>
<barline location="right"><ending number="2" type="discontinue"/></barline></measure>
</part>
<part id="P2"><measure number="0"><attributes><divisions>1</divisions><clef><sign>percussion</sign></clef></attributes><note><unpitched/><duration>1</duration></note></measure></part>
</score-partwise>`

func TestFilesAsTheyAreFound(t *testing.T) {
	sg, problems, err := musicxml.Read([]byte(found))
	require.NoError(t, err)
	assert.Equal(t, "Found", sg.Title)
	assert.Equal(t, "3/4", sg.Meter.String())
	assert.Equal(t, 96, sg.Tempo)
	assert.Equal(t, "G", sg.Key)
	require.Len(t, sg.Sections, 2)
	require.Len(t, sg.Sections[0].Bars, 1)
	assert.Equal(t, song.Pickup, sg.Sections[0].Bars[0].Role)
	part := sg.Sections[1]
	assert.Equal(t, 2, part.Times)
	var bars []string
	for _, b := range part.Bars {
		bars = append(bars, fmt.Sprint(song.BarText(b.Changes, sg.Meter), " ", b.Ending))
	}
	assert.Equal(t, []string{"G:2 F#m7b5/C:1 0", "D7(b9) 1", "D7(b9) 2"}, bars)
	beat := sg.Meter.BeatTicks()
	assert.Equal(t, []song.MelodyNote{{Ticks: 3 * beat, MIDI: 67, Word: "Lan-"}}, part.Bars[0].Melody, "what is tied within the bar is one note")
	assert.Equal(t, []song.MelodyNote{{Ticks: 3 * beat, MIDI: 69}}, part.Bars[1].Melody, "the highest of a chord")
	var said []string
	for _, p := range problems {
		said = append(said, p.String())
	}
	assert.Equal(t, []string{"the part “Kit” is left out: a song takes the chords and one melody", "bar 4: “rit.” is left out", "bar 4: a grace note is left out",
		"bar 2: notes of a second voice or staff are left out: a song takes one melody", "bar 3: of notes that sound together the highest is taken, the others are left out"}, said)

	packed := func(name string, container bool) []byte {
		var out bytes.Buffer
		z := zip.NewWriter(&out)
		if container {
			w, err := z.Create("META-INF/container.xml")
			require.NoError(t, err)
			fmt.Fprintf(w, `<container><rootfiles><rootfile full-path="%s"/></rootfiles></container>`, name)
		}
		w, err := z.Create(name)
		require.NoError(t, err)
		_, err = w.Write([]byte(found))
		require.NoError(t, err)
		require.NoError(t, z.Close())
		return out.Bytes()
	}
	for _, data := range [][]byte{packed("score.xml", true), packed("found.musicxml", false)} {
		again, _, err := musicxml.Read(data)
		require.NoError(t, err)
		assert.Equal(t, sg, again)
	}
	wide := []byte("\xff\xfe") // as some programs on Windows save it. Source: XML 1.0, 4.3.3 and appendix F
	for _, u := range utf16.Encode([]rune(strings.Replace(found, "UTF-8", "UTF-16", 1))) {
		wide = append(wide, byte(u), byte(u>>8))
	}
	again, _, err := musicxml.Read(wide)
	require.NoError(t, err)
	assert.Equal(t, sg, again)
	_, _, err = musicxml.Read(packed("readme.txt", false))
	assert.ErrorContains(t, err, "there is no score in the compressed file")
	_, _, err = musicxml.Read(packed("score.xml", true)[:60])
	assert.ErrorContains(t, err, "cut or broken")
}

func TestBrokenFiles(t *testing.T) {
	for data, want := range map[string]string{
		"":                                "musicxml:",
		"hello":                           "musicxml:",
		"<html><body>x</body></html>":     "no score",
		"<score-partwise><part-list>":     "line 1",
		"<score-timewise version='4.0'/>": "part by part",
		"<score-partwise version='4.0'/>": "there is no bar in it",
		strings.Replace(found, "<beats>3</beats>", "<beats>7</beats>", 1): "bar 1: Arplin doesn’t know the time signature 7/4",
	} {
		_, _, err := musicxml.Read([]byte(data))
		assert.ErrorContains(t, err, want, data[:min(len(data), 40)])
	}
	_, err := musicxml.Write(played.Line{Song: song.Song{Sections: []song.Section{{Bars: make([]song.Bar, 2)}}}})
	assert.ErrorContains(t, err, "0 bars are played, and the song has 2")
}

func FuzzRead(f *testing.F) {
	f.Add([]byte(found))
	f.Add([]byte(strings.ReplaceAll(found, "<duration>6", "<duration>-600000")))
	f.Fuzz(func(t *testing.T, data []byte) {
		sg, _, err := musicxml.Read(data)
		if err != nil {
			return
		}
		for _, b := range sg.Bars() {
			for _, n := range b.Melody {
				if n.Tick < 0 || n.Tick+n.Ticks > b.Ticks() {
					t.Fatalf("a note beyond its bar: %+v of %d", n, b.Ticks())
				}
			}
		}
	})
}
