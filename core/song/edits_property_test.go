package song_test

import (
	"testing"

	"pgregory.net/rapid"

	"arplin/core/hand"
	"arplin/core/song"
)

// Whatever a teacher does to a song, it can be stored and read again, keeps a
// bar, and bars that added up still do; a refused edit changes nothing.
func TestAnyEditsLeaveASong(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := rapid.SampledFrom(hand.Meters).Draw(t, "meter")
		bars, err := song.ParseChords("C | Am F | G7", m)
		if err != nil {
			t.Fatal(err)
		}
		sg := song.Song{Title: "Edits", Meter: m, Tempo: 80, Sections: []song.Section{{Name: "Verse", Bars: bars}}}
		for range rapid.IntRange(1, 12).Draw(t, "edits") {
			e := randomEdit(t)
			before, err := sg.Encode()
			if err != nil {
				t.Fatal(err)
			}
			edited, says, err := sg.Apply(e)
			after, encodeErr := sg.Encode()
			if encodeErr != nil || string(before) != string(after) {
				t.Fatalf("%+v changed the song that it was given", e)
			}
			if err != nil {
				continue
			}
			if says == "" {
				t.Fatalf("%+v says nothing", e)
			}
			checkSong(t, edited, e)
			sg = edited
		}
	})
}

func randomEdit(t *rapid.T) song.Edit {
	e := song.Edit{Section: rapid.IntRange(0, 2).Draw(t, "part"), Bar: rapid.IntRange(0, 4).Draw(t, "bar")}
	texts := map[string][]string{
		song.SetBar: {"Dm", "F G", "E7:1 A:1", "x"}, song.SplitBar: {""}, song.JoinBar: {""}, song.InsertBar: {""}, song.DeleteBar: {""},
		song.SetTimes: {"2", "99"}, song.CopyPart: {""}, song.DeletePart: {""}, song.AddForm: {"12", "16"}, song.SetMeter: {"3/4", "6/8", "4/4"},
		song.SetTempo: {"66", "fast"}, song.SetKey: {"G", "Bb", "A guitar:2", "Em"}, song.Recolour: {"sevenths", "triads"}, song.Halve: {""},
		song.Remeter: {"6/8: p i m a m i", "3/4: D . D . D .", "4/4: p . . ."}, song.SetPattern: {"4/4: p i m a", "3/4: p . .", ""}, song.SetSwing: {"yes", ""},
	}
	ops := []string{
		song.SetBar, song.SplitBar, song.JoinBar, song.InsertBar, song.DeleteBar, song.SetTimes, song.CopyPart, song.DeletePart, song.AddForm,
		song.SetMeter, song.SetTempo, song.SetKey, song.Recolour, song.Halve, song.Remeter, song.SetPattern, song.SetSwing,
	}
	e.Op = rapid.SampledFrom(ops).Draw(t, "op")
	e.Text = rapid.SampledFrom(texts[e.Op]).Draw(t, "text")
	e.Words = "words"
	return e
}

func checkSong(t *rapid.T, sg song.Song, e song.Edit) {
	if len(sg.Bars()) == 0 {
		t.Fatalf("%+v left no bar", e)
	}
	data, err := sg.Encode()
	if err != nil {
		t.Fatalf("%+v: %v", e, err)
	}
	again, err := song.Decode(data)
	if err != nil {
		t.Fatalf("%+v left what cannot be read again: %v", e, err)
	}
	if twice, err := again.Encode(); err != nil || string(twice) != string(data) {
		t.Fatalf("%+v comes back as another song", e)
	}
	for _, sec := range sg.Sections {
		if sec.Pattern != "" {
			if _, err := hand.Parse(sec.Pattern); err != nil {
				t.Fatalf("%+v left a pattern that is none: %v", e, err)
			}
		}
		for _, b := range sec.Bars {
			if b.Ticks() < 0 || b.Ticks() > 2*sg.Meter.BarTicks() {
				t.Fatalf("%+v left a bar of %d ticks", e, b.Ticks())
			}
		}
	}
	for _, p := range sg.Form() {
		if p.Section >= len(sg.Sections) || p.Bar >= len(sg.Sections[p.Section].Bars) {
			t.Fatalf("%+v: the form names a bar that is not there", e)
		}
	}
}
