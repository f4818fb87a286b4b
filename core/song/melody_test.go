package song_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/song/edit"
	"arplin/core/theory"
)

func twoBars(t *testing.T) song.Song {
	t.Helper()
	bars, err := song.ParseChords("C | F G7", pattern.Meter{Beats: 4, Unit: 4})
	require.NoError(t, err)
	return song.Song{Title: "Tune", Meter: pattern.Meter{Beats: 4, Unit: 4}, Tempo: 80, Sections: []song.Section{{Name: "Verse", Bars: bars}}}.Numbered()
}

// A tune is written as it is counted. MIDI numbers: MIDI 1.0, C4 is 60.
func TestMelodyIsRead(t *testing.T) {
	beat := pattern.Meter{Beats: 4, Unit: 4}.BeatTicks()
	_, _, err := twoBars(t).Apply(edit.SetMelody{Section: 1, Text: "E4:1=Nine G=um | ~A:2 . "})
	assert.Error(t, err, "a dot among notes is none")
	sg, d, err := twoBars(t).Apply(edit.SetMelody{Section: 1, Text: "| E4:1=Nine G=um r:1/2 G /G=brel ^A | ~A:2 |"})
	require.NoError(t, err)
	assert.Equal(t, "Wrote the melody of Verse", edit.DoneWords.Say(d))
	assert.Equal(t, []song.MelodyNote{
		{Tick: 0, Ticks: beat, MIDI: 64, Word: "Nine"}, {Tick: beat, Ticks: beat, MIDI: 67, Word: "um"}, {Tick: 5 * beat / 2, Ticks: beat / 2, MIDI: 67},
		{Tick: 3 * beat, Ticks: beat / 2, MIDI: 67, Mark: song.Slid, Word: "brel"}, {Tick: 7 * beat / 2, Ticks: beat / 2, MIDI: 69, Mark: song.Hammered},
	}, sg.Sections[0].Bars[0].Melody, "the nearest octave, the length of the note before")
	assert.Equal(t, []song.MelodyNote{{Ticks: 2 * beat, MIDI: 69, Mark: song.Tied}}, sg.Sections[0].Bars[1].Melody)
	assert.Equal(t, "E4:1=Nine G4:1=um r:1/2 G4:1/2 /G4:1/2=brel ^A4:1/2 | ~A4:2", song.MelodyText(sg.Sections[0].Bars, beat))

	low, high, ok := sg.SungRange()
	assert.True(t, ok)
	assert.Equal(t, "E4 A4", low.String()+" "+high.String())
	up, _, err := sg.Apply(edit.SetKey{Key: sg.KeyGuess().Key.Up(2)})
	require.NoError(t, err)
	assert.Equal(t, 66, up.Sections[0].Bars[0].Melody[0].MIDI, "a tone higher with its chords")
	gone, d, err := sg.Apply(edit.SetMelody{Section: 1})
	require.NoError(t, err)
	assert.False(t, gone.HasMelody())
	assert.Equal(t, "Removed the melody of Verse", edit.DoneWords.Say(d))
}

// As it is typed in a hurry: small letters, signs as music is set, lines instead of one.
func TestMelodyAsItIsTyped(t *testing.T) {
	sg, _, err := twoBars(t).Apply(edit.SetMelody{Section: 1, Text: "e4:1 g\n\tbb f♯:1/2\r\n| b♭3:2"})
	require.NoError(t, err)
	assert.Equal(t, "E4:1 G4:1 Bb4:1 F#4:1/2 | Bb3:2", song.MelodyText(sg.Sections[0].Bars, sg.Meter.BeatTicks()))
}

// A split bar's tune goes with its halves, twice as slow; joined it is as it was.
func TestTheTuneGoesWithItsBars(t *testing.T) {
	sg, _, err := twoBars(t).Apply(edit.SetMelody{Section: 1, Text: ". | E4:1 F G A"})
	require.NoError(t, err)
	second := sg.Sections[0].Bars[1].ID
	split, _, err := sg.Apply(edit.SplitBar{Bar: second})
	require.NoError(t, err)
	beat := sg.Meter.BeatTicks()
	assert.Equal(t, ". | E4:2 F4:2 | G4:2 A4:2", song.MelodyText(split.Sections[0].Bars, beat))
	joined, _, err := split.Apply(edit.JoinBar{Bar: second})
	require.NoError(t, err)
	assert.Equal(t, ". | E4:1 F4:1 G4:1 A4:1", song.MelodyText(joined.Sections[0].Bars, beat))
}

// A note is put on a string by the teacher, keeps it when the tune is written anew around it,
// and is let go again.
func TestANoteIsPutOnAString(t *testing.T) {
	guitar, err := fretboard.ByID("guitar")
	require.NoError(t, err)
	sg, _, err := twoBars(t).Apply(edit.SetMelody{Section: 1, Text: "E4:1 G"})
	require.NoError(t, err)
	bar := sg.Sections[0].Bars[0].ID
	put, d, err := sg.Apply(edit.PutNote{Bar: bar, Instrument: guitar, String: 2})
	require.NoError(t, err)
	assert.Equal(t, "Put E4 of bar 1 of Verse on string 2", edit.DoneWords.Say(d))
	again, _, err := put.Apply(edit.SetMelody{Section: 1, Text: "E4:1 A"})
	require.NoError(t, err)
	assert.Equal(t, map[string]int{"guitar": 2}, again.Sections[0].Bars[0].Melody[0].On)
	free, _, err := again.Apply(edit.PutNote{Bar: bar, Instrument: guitar})
	require.NoError(t, err)
	assert.Empty(t, free.Sections[0].Bars[0].Melody[0].On)
	for _, e := range []edit.PutNote{{Bar: bar, Tick: 1, Instrument: guitar, String: 2}, {Bar: bar, Instrument: guitar, String: 7}, {Bar: 99, Instrument: guitar}} {
		_, _, err := sg.Apply(e)
		assert.Error(t, err)
	}
}

// What is no tune is said with its place.
func TestMelodyErrors(t *testing.T) {
	for text, want := range map[string]string{
		"E4 H4":        `melody: bar 1, note 2: "H4" is not a note`,
		"E4:x":         `melody: bar 1, note 1: "x" is not a number of beats`,
		"E4:1/0":       `melody: bar 1, note 1: "1/0" is not a number of beats`,
		"E4:3 G4:2":    "melody: bar 1 has 5 beats and more, and there is room for 4",
		"r:1 ~E4":      `melody: bar 1, note 2: "~E4" has no note before it to come from`,
		"E4 ~F4":       `melody: bar 1, note 2: "~F4" goes on from E4, which is another pitch`,
		"E4 | E4 | E4": "melody: it has 3 bars, and Verse has 2",
		"C9":           "melody: bar 1, note 1: C9 is beyond what is played or sung here, E1 to C7",
		"E4=a{b}":      `melody: bar 1, note 1: "E4=a{b}": a syllable has no brackets`,
	} {
		_, _, err := twoBars(t).Apply(edit.SetMelody{Section: 1, Text: text})
		assert.EqualError(t, err, want, text)
	}
}

func FuzzParseMelody(f *testing.F) {
	for _, text := range []string{"E4:1 G4 A4:2 | r:1 ~A4:1/2", ".", "| |", "E4:0.3333 ^F#:1/3=la", "/:1", "=:", "C"} {
		f.Add(text)
	}
	f.Fuzz(func(t *testing.T, text string) {
		bars, err := song.ParseMelody(text, 5040, func(int) int { return 4 * 5040 })
		if err != nil {
			return
		}
		written := make([]song.Bar, len(bars))
		for i, notes := range bars {
			written[i].Melody = notes
		}
		again, err := song.ParseMelody(song.MelodyText(written, 5040), 5040, func(int) int { return 4 * 5040 })
		if err != nil {
			t.Fatalf("%q is written as what cannot be read: %v", text, err)
		}
		for i := range again {
			assert.Equal(t, bars[i], again[i])
		}
	})
}

// A jig is typed as it is counted, six to the bar. Common practice; the chords and the tune are invented.
func TestATuneInSixIsTypedInEighths(t *testing.T) {
	six := pattern.Meter{Beats: 6, Unit: 8}
	bars, err := song.ParseChords("C | G", six)
	require.NoError(t, err)
	sg := song.Song{Meter: six, Tempo: 60, Sections: []song.Section{{Name: "A", Bars: bars}}}.Numbered()
	set := func(text string) (song.Song, error) {
		out, _, err := sg.Apply(edit.SetMelody{Section: sg.Sections[0].ID, Text: text})
		return out, err
	}
	out, err := set("E4:1 F G:2 E:1 C | D4:3 B3")
	require.NoError(t, err)
	var lengths []int
	for _, b := range out.Bars() {
		for _, n := range b.Melody {
			lengths = append(lengths, n.Ticks*2/pattern.TicksPerQuarter)
		}
	}
	assert.Equal(t, []int{1, 1, 2, 1, 1, 3, 3}, lengths, "in eighths")
	assert.Equal(t, "E4:1 F4:1 G4:2 E4:1 C4:1 | D4:3 B3:3", song.MelodyText(out.Bars(), six.CountTicks()))
	_, err = set("E4:1 F G:2 E:1 C D")
	assert.ErrorContains(t, err, "7 eighths and more, and there is room for 6")
}

// The plain tune first, then the syncopated one: they are two, and each stays what it was through a
// change of key. Common practice.
func TestTwoTunesOfASong(t *testing.T) {
	four := pattern.Meter{Beats: 4, Unit: 4}
	bars, err := song.ParseChords("C | G", four)
	require.NoError(t, err)
	sg := song.Song{Title: "Two", Key: "C", Meter: four, Tempo: 80, Sections: []song.Section{{Name: "A", Bars: bars}}}.Numbered()
	do := func(e song.Edit) {
		t.Helper()
		out, _, err := sg.Apply(e)
		require.NoError(t, err)
		require.NoError(t, out.Check())
		data, err := out.Encode()
		require.NoError(t, err)
		sg, err = song.Decode(data)
		require.NoError(t, err)
	}
	text := func() string { return song.MelodyText(sg.Bars(), four.CountTicks()) }
	do(edit.SetMelody{Section: sg.Sections[0].ID, Text: "E4:2 G | D:4"})
	plain := text()
	do(edit.AddTune{Name: "syncopated"})
	assert.Equal(t, plain, text(), "it begins with a copy")
	do(edit.SetMelody{Section: sg.Sections[0].ID, Text: "E4:3/2 G:5/2 | D:4"})
	second, bent := sg.TuneID, text()
	do(edit.TakeTune{ID: 0})
	assert.Equal(t, plain, text())
	assert.Equal(t, "the first melody", sg.InUse().Says())
	key, err := theory.ParseKey("D")
	require.NoError(t, err)
	do(edit.SetKey{Key: key})
	do(edit.TakeTune{ID: second})
	assert.NotEqual(t, bent, text())
	back, err := theory.ParseKey("C")
	require.NoError(t, err)
	do(edit.SetKey{Key: back})
	assert.Equal(t, bent, text(), "both were transposed, there and back")
	do(edit.DropTune{ID: 0})
	assert.Empty(t, sg.Tunes)
	_, _, err = sg.Apply(edit.TakeTune{ID: 0})
	assert.ErrorContains(t, err, "not in the song any more")
	_, _, err = sg.Apply(edit.AddTune{})
	assert.ErrorContains(t, err, "needs a name")
	assert.Equal(t, sg.TuneID, sg.WithTune(99).TuneID)
}
