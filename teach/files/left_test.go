package files

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/format/midifile"
	"arplin/teach/people"
)

// What a tune has no place for in a MIDI file is listed. Source: General MIDI System Level 1 for
// the drums; Standard MIDI Files 1.0 for the division.
func TestWhatAMIDIFileHasBesideItsTune(t *testing.T) {
	file := func(change func(f *midifile.File)) []byte {
		f := midifile.File{Title: "Tune", Division: 480, Tempos: []midifile.Tempo{{Quarters: 90}}, Meters: []midifile.Meter{{Beats: 4, Unit: 4}},
			Tracks: []midifile.Track{{Name: "tune", Program: -1, Notes: []midifile.Note{{Tick: 0, Ticks: 480, Key: 64, Velocity: 90}, {Tick: 480, Ticks: 480, Key: 62, Velocity: 90}}}}}
		change(&f)
		data, err := midifile.Write(f)
		require.NoError(t, err)
		return data
	}
	unused := func(data []byte) string {
		o, err := OpenSong(data)
		require.NoError(t, err)
		require.Len(t, o.Song.Bars()[0].Melody, 2)
		assert.Equal(t, 64, o.Song.Bars()[0].Melody[0].MIDI)
		return strings.Join(o.Unused, "\n")
	}
	plain := unused(file(func(*midifile.File) {}))
	assert.NotContains(t, plain, "left out:")
	assert.NotContains(t, plain, "tempo")
	drums := []midifile.Note{{Channel: 9, Tick: 0, Ticks: 100, Key: 70, Velocity: 90}, {Channel: 9, Tick: 240, Ticks: 100, Key: 70, Velocity: 90}}
	assert.Contains(t, unused(file(func(f *midifile.File) { f.Tracks[0].Notes = append(f.Tracks[0].Notes, drums...) })), "left out: 2 notes of drums (channel 10)")
	assert.Contains(t, unused(file(func(f *midifile.File) {
		f.Tracks = append(f.Tracks, midifile.Track{Name: "kit", Program: -1, Notes: drums})
	})), "of drums")
	_, err := OpenSong(file(func(f *midifile.File) { f.Tracks[0].Notes = drums }))
	assert.ErrorContains(t, err, "there are only drums in it")
	assert.Contains(t, unused(file(func(f *midifile.File) {
		f.Tracks[0].Notes = append(f.Tracks[0].Notes, midifile.Note{Tick: 0, Ticks: 480, Key: 60, Velocity: 90})
	})), "left out: 1 lower note of chords")
	assert.Contains(t, unused(file(func(f *midifile.File) { f.Tempos = append(f.Tempos, midifile.Tempo{Tick: 480, Quarters: 120}) })), "the tempo changes. The first one is used")

	data := file(func(*midifile.File) {})
	data[12], data[13] = 0, 0
	_, err = OpenSong(data)
	assert.ErrorContains(t, err, "a quarter has no length")
	data[12], data[13] = 0xe7, 40
	_, err = OpenSong(data)
	assert.ErrorContains(t, err, "counts in frames of film")
}

// Tablature as it is found of other tunings, with a capo, played several times, drawn with the
// signs of boxes, two systems without an empty line: read rightly, or said. Source of the ways of
// writing: common practice.
func TestTabsOfOtherTuningsAndTheRest(t *testing.T) {
	read := func(text string) (TabFigure, error) { return ReadTab(text, people.Class{}, "", "") }
	dropD := "e|-----2---|\nB|---3-----|\nG|-2-----2-|\nD|---------|\nA|---------|\nD|-0-------|\n"
	f, err := read(dropD)
	require.NoError(t, err)
	assert.Equal(t, "guitar-drop-d", f.Instrument.ID)
	assert.Equal(t, "D", f.Over)
	noLabels := strings.NewReplacer("e|", "|", "B|", "|", "G|", "|", "D|", "|", "A|", "|").Replace(dropD)
	for _, head := range []string{"Drop D\n\n", "Tuning: D A D G B E\n\n", "tuning = DADGBE\n"} {
		f, err = read(head + noLabels)
		require.NoError(t, err)
		assert.Equal(t, "guitar-drop-d", f.Instrument.ID, head)
		assert.Equal(t, "D", f.Over, head)
	}
	f, err = read("Open C\nE|---0-|\nC|-0---|\nG|---0-|\nC|-----|\nG|-----|\nC|-0---|\n")
	require.NoError(t, err)
	assert.Equal(t, "C", f.Over, "the names before the lines are the strings")
	_, err = read("Tuning: whatever Ann had\n\n" + noLabels)
	require.NoError(t, err)

	_, err = read("G|-----|\nD|---2-|\nA|-2---|\nE|-0---|\n")
	assert.ErrorContains(t, err, "bass")

	capo, err := read("Capo 2\n\ne|-----0---|\nB|---1-----|\nG|-0-----0-|\nD|---------|\nA|-3-------|\nE|---------|\n")
	require.NoError(t, err)
	sg, err := capo.Song("With a capo")
	require.NoError(t, err)
	assert.Equal(t, "D", sg.Bars()[0].Changes[0].Symbol, "it sounds two frets higher")
	assert.Equal(t, 2, sg.Capo["guitar"])
	assert.Equal(t, "C", sg.Fingering(capo.Instrument).Bars()[0].Changes[0].Symbol)

	times, err := read("e|-----0---|\nB|---1-----|  x4\nG|-0-----0-|\nD|---------|\nA|-3-------|\nE|---------|\n")
	require.NoError(t, err)
	assert.Equal(t, "C | C | C | C", times.Over)
	assert.Empty(t, times.Unused)
	remark, err := read("e|-----0---|  let ring\nB|---1-----|\nG|-0-----0-|\nD|---------|\nA|-3-------|\nE|---------|\n")
	require.NoError(t, err)
	assert.Contains(t, strings.Join(remark.Unused, "\n"), "let ring")

	boxes, err := read("e║─────0───║\nB║───1─────║\nG║─0─────0─║\nD║─────────║\nA║─3───────║\nE║─────────║\n")
	require.NoError(t, err)
	assert.Equal(t, "C", boxes.Over)

	system := "e|-----0---|\nB|---1-----|\nG|-0-----0-|\nD|---------|\nA|-3-------|\nE|---------|\n"
	two, err := read(system + system)
	require.NoError(t, err)
	assert.Equal(t, "C | C", two.Over, "two systems of six without an empty line")
	_, err = read(strings.Repeat("|-----0---|\n", 11))
	assert.ErrorContains(t, err, "11 lines")
}

// The meter of a tablature is that of the count under it: six eighths over 1 & 2 & 3 & are three quarters,
// over 1 2 3 4 5 6 they are six eighths. A teacher can say another.
func TestTheMeterOfTheCountUnderATablature(t *testing.T) {
	tab := func(count string) string {
		return strings.Join([]string{"e|-------0-----|", "B|-----1---1---|", "G|---0-------0-|", "D|-------------|", "A|-3-----------|", "E|-------------|", count}, "\n")
	}
	read := func(count, meter string) string {
		f, err := ReadTab(tab(count), people.Class{}, "", meter)
		require.NoError(t, err, count)
		return f.Pattern.String()
	}
	assert.Equal(t, "3/4: p i m a m i", read("   1 & 2 & 3 &", ""))
	assert.Equal(t, "6/8: p i m a m i", read("   1 2 3 4 5 6", ""))
	assert.Equal(t, "6/8: p i m a m i", read("   1 & 2 & 3 &", "6/8"), "the teacher says so")
	assert.Equal(t, "3/4: p i m a m i", read("   1 & 2 & 3 &", "nonsense"))
	assert.Contains(t, read("", ""), "4/4", "nothing is counted")
}
