package midifile_test

import (
	"cmp"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"arplin/format/midifile"
)

// Bytes by hand. Source: MIDI 1.0, Standard MIDI Files 1.0: format 1, two tracks, 96 ticks a
// quarter; set tempo FF 51 03, time signature FF 58 04, marker FF 06; running status.
func TestReadBytes(t *testing.T) {
	data := []byte("MThd\x00\x00\x00\x06\x00\x01\x00\x02\x00\x60" +
		"MTrk\x00\x00\x00\x1c\x00\xff\x58\x04\x03\x02\x18\x08\x00\xff\x51\x03\x07\xa1\x20\x60\xff\x06\x05Verse\x00\xff\x2f\x00" +
		"MTrk\x00\x00\x00\x15\x00\xc0\x18\x00\x90\x40\x60\x60\x40\x00\x00\x43\x50\x30\x80\x43\x00\x00\xff\x2f\x00")
	f, err := midifile.Read(data)
	require.NoError(t, err)
	assert.Equal(t, 96, f.Division)
	assert.Equal(t, []midifile.Tempo{{Quarters: 120}}, f.Tempos)
	assert.Equal(t, []midifile.Meter{{Beats: 3, Unit: 4}}, f.Meters)
	assert.Equal(t, []midifile.Marker{{Tick: 96, Text: "Verse"}}, f.Markers)
	require.Len(t, f.Tracks, 1)
	assert.Equal(t, 24, f.Tracks[0].Program)
	assert.Equal(t, []midifile.Note{{Tick: 0, Ticks: 96, Key: 64, Velocity: 96}, {Tick: 96, Ticks: 48, Key: 67, Velocity: 80}}, f.Tracks[0].Notes)
	for cut := range data {
		_, err := midifile.Read(data[:cut])
		assert.Error(t, err, "cut at %d", cut)
	}
	for _, bad := range []string{"", "RIFF", "MThd", "MThd\x00\x00\x00\x06\x00\x01\x00\x01\xe7\x28MTrk\x00\x00\x00\x04\x00\xff\x2f\x00"} {
		_, err := midifile.Read([]byte(bad))
		assert.ErrorContains(t, err, "midi: ", "%q", bad)
	}
}

// What is written is read back, whatever the notes.
func TestWrittenIsReadBack(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		f := midifile.File{
			Title: "Lamps", Division: rapid.SampledFrom([]int{96, 480, 5040}).Draw(rt, "division"), Tempos: []midifile.Tempo{{Quarters: float64(rapid.SampledFrom([]int{60, 80, 120}).Draw(rt, "tempo"))}},
			Meters: []midifile.Meter{{Beats: rapid.IntRange(2, 12).Draw(rt, "beats"), Unit: rapid.SampledFrom([]int{2, 4, 8}).Draw(rt, "unit")}}, Markers: []midifile.Marker{{Tick: 10, Text: "Verse"}},
		}
		tr := midifile.Track{Name: "thumb", Program: 25}
		free := map[int]int{} // a string plays one note at a time
		for range rapid.IntRange(1, 40).Draw(rt, "notes") {
			ch := rapid.IntRange(0, 7).Draw(rt, "channel")
			n := midifile.Note{Channel: ch, Tick: free[ch] + rapid.IntRange(0, 500).Draw(rt, "rest"), Ticks: rapid.IntRange(1, 900).Draw(rt, "ticks"), Key: rapid.IntRange(28, 96).Draw(rt, "key"), Velocity: rapid.IntRange(1, 127).Draw(rt, "velocity")}
			free[ch] = n.Tick + n.Ticks
			tr.Notes = append(tr.Notes, n)
		}
		slices.SortStableFunc(tr.Notes, func(x, y midifile.Note) int { return cmp.Or(x.Tick-y.Tick, x.Channel-y.Channel, x.Key-y.Key) })
		f.Tracks = []midifile.Track{tr}
		data, err := midifile.Write(f)
		require.NoError(rt, err)
		back, err := midifile.Read(data)
		require.NoError(rt, err)
		assert.Equal(rt, f, back)
	})
}

func TestWhatCannotBeWritten(t *testing.T) {
	_, err := midifile.Write(midifile.File{Division: 1 << 15})
	assert.ErrorContains(t, err, "ticks a quarter")
	_, err = midifile.Write(midifile.File{Division: 96, Meters: []midifile.Meter{{Beats: 4, Unit: 3}}})
	assert.ErrorContains(t, err, "no time signature")
}

// A track whose events are not what they say they are is refused at its byte, before anything
// takes room for it. Source: Standard MIDI Files 1.0, the form of events and of lengths.
func TestBrokenTracks(t *testing.T) {
	const head = "MThd\x00\x00\x00\x06\x00\x00\x00\x01\x00\x60MTrk\x00\x00\x00"
	for events, want := range map[string]string{
		"\x00\xff\x01\x8f\xff\xff\x7f\x00\xff\x2f\x00": "byte 25: an event is longer than its track", // 32 MB of text
		"\x00\xf0\xff\xff\xff\xff\x7f\x00\xff\x2f\x00": "byte 24: this is no event",                  // a length of five bytes
		"\x00\x3c\x40\x00\xff\x2f\x00":                 "byte 23: this is no event",                  // data without a status
		"\x00\x90\x3c\x40\x00\xff\x51\x00\x00\x3c\x40": "byte 31: this is no event",                  // nor after a meta event
		"\x00\x90\x3c\x40\x00\xf8\x00\xff\x2f\x00":     "byte 27: this is no event",
		"\x00\xff\x2f\x00\x00\x90\x3c\x40":             "byte 25: the track does not end",
		"\x00\x90\x3c\x40\x60\x80\x3c\x40":             "byte 30: the track does not end",
		"\x00\x90\x3c":                                 "byte 25: an event is longer",
	} {
		_, err := midifile.Read([]byte(head + string(rune(len(events))) + events))
		assert.ErrorContains(t, err, want, "% x", events)
	}
	const running = "\x00\x90\x3c\x40\x60\x3c\x00\x00\xc0\x19\x00\xff\x2f\x00" // the status is said once
	f, err := midifile.Read([]byte(head + string(rune(len(running))) + running))
	require.NoError(t, err)
	assert.Equal(t, []midifile.Note{{Key: 60, Velocity: 64, Ticks: 96}}, f.Tracks[0].Notes)
}

func FuzzRead(f *testing.F) {
	data, err := midifile.Write(midifile.File{Division: 96, Tracks: []midifile.Track{{Name: "x", Program: 25, Notes: []midifile.Note{{Tick: 3, Ticks: 9, Key: 60, Velocity: 90, Lyric: "la"}}}}})
	if err != nil {
		f.Fatal(err)
	}
	f.Add(data)
	f.Fuzz(func(t *testing.T, data []byte) {
		read, err := midifile.Read(data)
		if err == nil && read.Division <= 0 {
			t.Fatal("no division")
		}
		when := read.Milliseconds() // as a performance is read
		for _, track := range read.Tracks {
			for _, n := range track.Notes {
				if at := when(n.Tick); math.IsNaN(at) || at < 0 || when(n.Tick+n.Ticks) < at {
					t.Fatalf("tick %d comes at %v", n.Tick, at)
				}
			}
		}
	})
}
