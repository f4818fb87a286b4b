package song_test

import (
	"fmt"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/song/edit"
	"arplin/core/song/keys"
	"arplin/core/theory"
)

var fourFour = pattern.Meter{Beats: 4, Unit: 4}

func newSong(t testing.TB, parts ...string) song.Song {
	t.Helper()
	s := song.Song{Title: "Test", Meter: fourFour, Tempo: 80}
	for i, line := range parts {
		bars, err := song.ParseChords(line, fourFour)
		require.NoError(t, err)
		s.Sections = append(s.Sections, song.Section{Name: fmt.Sprintf("Part %d", i+1), Bars: bars})
	}
	return s.Numbered()
}

func line(s song.Song) string {
	var bars []string
	for _, b := range s.Bars() {
		bars = append(bars, song.BarText(b.Changes, s.Meter))
	}
	return strings.Join(bars, " | ")
}

func bar(s song.Song, section, at int) song.BarID { // 99 for one that is not there
	if section < len(s.Sections) && at < len(s.Sections[section].Bars) {
		return s.Sections[section].Bars[at].ID
	}
	return 99
}

func section(s song.Song, at int) song.SectionID { return s.Sections[at].ID }

func meter(text string) pattern.Meter {
	m, err := pattern.ParseMeter(text)
	if err != nil {
		panic(err)
	}
	return m
}

// keyEdit reads "D guitar:2".
func keyEdit(text string) song.Edit {
	symbol, capo, _ := strings.Cut(text, " ")
	key, err := theory.ParseKey(symbol)
	if err != nil {
		panic(err)
	}
	e := edit.SetKey{Key: key, Capo: map[string]int{}}
	if id, fret, ok := strings.Cut(capo, ":"); ok {
		e.Capo[id], _ = strconv.Atoi(fret)
	}
	return e
}

func rangeEdit(text string) song.Edit {
	low, high, _ := strings.Cut(text, " ")
	return edit.SetRange{Low: theory.MustPitch(low), High: theory.MustPitch(high)}
}

// shapeEdit reads "guitar F 133211".
func shapeEdit(text string) song.Edit {
	f := strings.Fields(text)
	ins, err := fretboard.ByID(f[0])
	if err != nil {
		panic(err)
	}
	return edit.SetShape{Instrument: ins, Chord: theory.MustChord(f[1]), Grip: fretboard.Grip{Shape: fretboard.MustShape(f[2])}}
}

func apply(t *testing.T, s song.Song, e song.Edit) song.Song {
	t.Helper()
	out, d, err := s.Apply(e)
	require.NoError(t, err)
	assert.NotEmpty(t, edit.DoneWords.Say(d))
	return out
}

func TestBarEdits(t *testing.T) {
	s := newSong(t, "C | Am F | G7")
	for _, c := range []struct {
		edit song.Edit
		want string
	}{
		{edit.SetBar{Bar: bar(s, 0, 0), Chords: "Dm G7", Words: "new  words"}, "Dm G7 | Am F | G7"},
		{edit.SetBar{Bar: bar(s, 0, 0), Chords: "Dm:3 G7:1", Words: ""}, "Dm:3 G7:1 | Am F | G7"},
		{edit.SetBar{Bar: bar(s, 0, 0), Chords: "Dm:3", Words: ""}, "Dm:3 | Am F | G7"}, // does not add up, is kept
		{edit.SetBar{Bar: bar(s, 0, 0), Chords: "H7", Words: ""}, "H7 | Am F | G7"},
		{edit.SplitBar{Bar: bar(s, 0, 1)}, "C | Am | F | G7"},
		{edit.SplitBar{Bar: bar(s, 0, 0)}, "C | C | Am F | G7"},
		{edit.JoinBar{Bar: bar(s, 0, 0)}, "C:2 Am:1 F:1 | G7"},
		{edit.InsertBar{After: bar(s, 0, 2)}, "C | Am F | G7 | G7"},
		{edit.DeleteBar{Bar: bar(s, 0, 1)}, "C | G7"},
		{edit.CopySection{Section: section(s, 0)}, "C | Am F | G7 | C | Am F | G7"},
		{edit.SetMeter{Meter: meter("3/4")}, "C | Am F | G7"},
		{keyEdit("G"), "G | Em C | D7"},
		{edit.AddForm{Bars: 12}, "C | Am F | G7 | C | C | C | C | F | F | C | C | G7 | F | C | G7"},
	} {
		out := apply(t, s, c.edit)
		assert.Equal(t, c.want, line(out), "%+v", c.edit)
		assert.Equal(t, "C | Am F | G7", line(s), "the song before is untouched")
	}
	assert.False(t, apply(t, s, edit.SetBar{Bar: bar(s, 0, 0), Chords: "Dm:3", Words: ""}).Bars()[0].Adds(fourFour))
	assert.True(t, apply(t, s, edit.SetMeter{Meter: meter("3/4")}).Bars()[1].Adds(pattern.Meter{Beats: 3, Unit: 4}))
}

func TestEditsThatMakeNoSense(t *testing.T) {
	s := newSong(t, "C | Am")
	for _, c := range []struct {
		edit song.Edit
		want string
	}{
		{edit.SetBar{Bar: bar(s, 0, 7), Chords: "", Words: ""}, "that bar is not in the song any more"},
		{edit.SetBar{Bar: bar(s, 3, 0), Chords: "", Words: ""}, "that bar is not in the song any more"},
		{edit.JoinBar{Bar: bar(s, 0, 1)}, "there is no bar after it to join"},
		{edit.SetBar{Bar: bar(s, 0, 0), Chords: "C:x", Words: ""}, `"x" is not a number of beats`},
		{edit.SetTempo{Tempo: 999}, "a goal tempo is 20 to 300 BPM"},
		{rangeEdit("D5 A3"), "D5 is higher than A3"},
		{shapeEdit("guitar F 1332"), "1332 has 4 strings, and Guitar has 6"},
		{keyEdit("Am"), "from C major the song can only go to another key of that kind"},
		{edit.DeleteSection{Section: section(s, 0)}, "a song keeps at least one section with bars"},
	} {
		_, _, err := s.Apply(c.edit)
		assert.EqualError(t, err, c.want)
	}
}

// A part without bars does not stand in for the last bar: what measures a song
// needs one.
func TestTheLastBarStays(t *testing.T) {
	s := newSong(t, "C")
	s.Sections = append(s.Sections, song.Section{Name: "Empty", Times: 1})
	s = s.Numbered()
	for _, e := range []song.Edit{edit.DeleteBar{Bar: bar(s, 0, 0)}, edit.DeleteSection{Section: section(s, 0)}} {
		_, _, err := s.Apply(e)
		assert.ErrorContains(t, err, "a song keeps at least one")
	}
	assert.Len(t, apply(t, s, edit.DeleteSection{Section: section(s, 1)}).Sections, 1)
}

// Common practice: repeats, first and second endings, an ending bar.
func TestFormIsPlayedAsItIsSung(t *testing.T) {
	s := newSong(t, "C | Am | F | G", "Dm | C")
	s.Sections[0].Times = 2
	s.Sections[0].Bars[2].Ending, s.Sections[0].Bars[3].Ending = 1, 2
	s.Sections[1].Bars[0].Role = song.End
	var bars []string
	var numbers []int
	for i, at := range s.Sung() {
		bars, numbers = append(bars, s.Sections[at.Section].Bars[at.Bar].Changes[0].Symbol), append(numbers, at.Number)
		assert.Equal(t, i*fourFour.BarTicks(), at.From)
	}
	assert.Equal(t, "C Am F C Am G Dm", strings.Join(bars, " "))
	assert.Equal(t, []int{0, 1, 2, 0, 1, 3, 4}, numbers, "places among the bars as they are written")
}

func TestShortBarsAreNoMistake(t *testing.T) {
	s := newSong(t, "C | Am")
	b := s.Sections[0].Bars[0]
	b.Changes[0].Ticks /= 4
	assert.False(t, b.Adds(fourFour))
	b.Role = song.Pickup
	assert.True(t, b.Adds(fourFour))
	b.Changes[0].Ticks = fourFour.BarTicks() * 2
	assert.False(t, b.Adds(fourFour), "a pickup is not longer than a bar")
}

func TestEncodeAndDecode(t *testing.T) {
	s := newSong(t, "C | Am F | G7")
	s = apply(t, s, shapeEdit("guitar F 133211"))
	s = apply(t, s, keyEdit("D guitar:2"))
	s = apply(t, s, rangeEdit("B3 C5"))
	data, err := s.Encode()
	require.NoError(t, err)
	again, err := song.Decode(data)
	require.NoError(t, err)
	assert.Equal(t, s, again.Clone())
	_, err = song.Decode([]byte(`{"meter":"7/8","tempo":80}`))
	assert.Error(t, err)
}

// A capo at the second fret: D sounds, C is fingered.
func TestFingeringUnderACapo(t *testing.T) {
	s := apply(t, newSong(t, "C | Am F | G7"), keyEdit("D guitar:2"))
	assert.Equal(t, "D | Bm G | A7", line(s))
	guitar, _ := fretboard.ByID("guitar")
	ukulele, _ := fretboard.ByID("ukulele")
	assert.Equal(t, "C | Am F | G7", line(s.Fingering(guitar)))
	assert.Equal(t, "D | Bm G | A7", line(s.Fingering(ukulele)))
	s = apply(t, s, shapeEdit("guitar F 133211"))
	assert.Equal(t, "133211", s.ShapesOn(guitar)[theory.MustChord("F")].String())
}

func class(t testing.TB) []keys.Players {
	t.Helper()
	var list []keys.Players
	for i, id := range []string{"guitar", "ukulele", "baritone"} {
		ins, err := fretboard.ByID(id)
		require.NoError(t, err)
		list = append(list, keys.Players{Instrument: ins, Count: 4 - i})
	}
	return list
}

// Common practice: beginners' keys are C, G, D, A; nobody gives a class E flat
// without a capo.
func TestKeyTable(t *testing.T) {
	s := newSong(t, "Eb | Cm | Ab Bb7 | Eb")
	s.Low, s.High = "Bb3", "C5"
	rows := keys.KeyTable(s, class(t), keys.DefaultRange)
	require.Len(t, rows, 12)
	at := map[string]int{}
	for i, r := range rows {
		at[r.Key.Symbol()] = i
		for _, l := range r.Lines {
			if l.Instrument.Family != fretboard.Guitar {
				assert.Zero(t, l.Capo)
			}
			assert.Equal(t, r.Key.Tonic.Class(), (l.Fingered.Tonic.Class()+l.Capo)%12, "all sound in one key")
		}
	}
	assert.Less(t, at["C"], at["Eb"])
	assert.Less(t, at["G"], at["F#"])
	for _, r := range rows {
		if r.Key.Symbol() == "Eb" {
			assert.Positive(t, r.Lines[0].Capo, "a guitar takes a capo for it")
			assert.Zero(t, r.Outside)
			assert.Equal(t, "Bb3", r.Sung.Low.String())
		}
		if r.Key.Symbol() == "A" { // E3 to F#4 or an octave up: five or four semitones outside
			assert.Equal(t, 4, r.Outside)
		}
	}
}

func TestLeftHand(t *testing.T) {
	guitar, _ := fretboard.ByID("guitar")
	s := newSong(t, "C | Am | C | Am | F | G7 | C | C")
	s = apply(t, s, shapeEdit("guitar F 133211"))
	lh := s.LeftHandOn(guitar)
	assert.Equal(t, "F", lh.HardestShape.String())
	assert.Contains(t, []string{"F"}, lh.HardestChange[1].String())
	assert.Equal(t, [2]string{"C", "Am"}, [2]string{lh.EasyPair[0].String(), lh.EasyPair[1].String()})
	// Six changes in 32 beats at 80: 24 seconds.
	assert.InDelta(t, 15, lh.ChangesPerMinute, 0.01)
}

func TestBarTextIsTheInverseOfParseBar(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := rapid.SampledFrom(pattern.Meters).Draw(t, "meter")
		n := rapid.IntRange(1, 5).Draw(t, "chords")
		var words []string
		for range n {
			w := rapid.SampledFrom([]string{"C", "F#m7", "Bb/D", "G7"}).Draw(t, "chord")
			if rapid.Bool().Draw(t, "says its beats") {
				w += fmt.Sprintf(":%d", rapid.IntRange(1, 4).Draw(t, "beats"))
			}
			words = append(words, w)
		}
		first, err := song.ParseBar(strings.Join(words, " "), m)
		if err != nil {
			return
		}
		again, err := song.ParseBar(song.BarText(first, m), m)
		if err != nil {
			t.Fatal(err)
		}
		for i := range first {
			if d := first[i].Ticks - again[i].Ticks; first[i].Symbol != again[i].Symbol || d < -1 || d > 1 {
				t.Fatalf("%v became %v", first, again)
			}
		}
	})
}

func FuzzParseBar(f *testing.F) {
	f.Add("C:2 G7")
	f.Add("F:0.5 : x:1e9")
	f.Fuzz(func(t *testing.T, text string) {
		changes, err := song.ParseBar(text, fourFour)
		if err != nil {
			return
		}
		for _, ch := range changes {
			assert.Positive(t, ch.Ticks)
		}
	})
}

func BenchmarkKeyTable(b *testing.B) {
	parts := make([]string, 8)
	for i := range parts {
		parts[i] = "C | Am7 | Dm | G7 | F | Em | A7 | Dm G7"
	}
	s, players := newSong(b, parts...), class(b)
	for b.Loop() {
		keys.KeyTable(s, players, keys.DefaultRange)
	}
}
