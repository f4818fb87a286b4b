package song_test

import (
	"slices"
	"testing"

	"pgregory.net/rapid"

	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/song/edit"
	"arplin/core/theory"
)

// Whatever a teacher does to a song, it can be stored and read again, keeps a
// bar, no two sections or bars ever share an id, and what was not touched keeps
// its own; a refused edit changes nothing.
func TestAnyEditsLeaveASong(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := rapid.SampledFrom(pattern.Meters).Draw(t, "meter")
		bars, err := song.ParseChords("C | Am F | G7", m)
		if err != nil {
			t.Fatal(err)
		}
		sg := song.Song{Title: "Edits", Meter: m, Tempo: 80, Sections: []song.Section{{Name: "Verse", Bars: bars}}}.Numbered()
		gone := map[song.BarID]bool{}
		for range rapid.IntRange(1, 12).Draw(t, "edits") {
			e := randomEdit(t, sg)
			before, err := sg.Encode()
			if err != nil {
				t.Fatal(err)
			}
			edited, d, err := sg.Apply(e)
			after, encodeErr := sg.Encode()
			if encodeErr != nil || string(before) != string(after) {
				t.Fatalf("%+v changed the song that it was given", e)
			}
			if err != nil {
				continue
			}
			if says := edit.DoneWords.Say(d); says == "" || says == "A change" {
				t.Fatalf("%+v says nothing", e)
			}
			checkSong(t, edited, e)
			for _, b := range sg.Bars() {
				if !slices.ContainsFunc(edited.Bars(), func(o song.Bar) bool { return o.ID == b.ID }) {
					gone[b.ID] = true
				}
			}
			for _, b := range edited.Bars() {
				if gone[b.ID] {
					t.Fatalf("%+v brought the id of a bar back that was gone", e)
				}
			}
			sg = edited
		}
	})
}

func randomEdit(t *rapid.T, sg song.Song) song.Edit {
	sec := rapid.SampledFrom(sg.Sections).Draw(t, "section")
	bar := song.BarID(999) // one that is not there
	if len(sec.Bars) > 0 && rapid.IntRange(0, 9).Draw(t, "a bar that is there") > 0 {
		bar = rapid.SampledFrom(sec.Bars).Draw(t, "bar").ID
	}
	key, _ := theory.ParseKey(rapid.SampledFrom([]string{"G", "Bb", "A", "Em"}).Draw(t, "key"))
	figure := pattern.MustParse(rapid.SampledFrom([]string{"6/8: p i m a m i", "3/4: D . D . D .", "4/4: p . . .", "4/4: p i m a"}).Draw(t, "figure"))
	return rapid.SampledFrom([]song.Edit{
		edit.SetBar{Bar: bar, Chords: rapid.SampledFrom([]string{"Dm", "F G", "E7:1 A:1", "x"}).Draw(t, "chords"), Words: "words"},
		edit.SplitBar{Bar: bar}, edit.JoinBar{Bar: bar}, edit.InsertBar{After: bar}, edit.DeleteBar{Bar: bar},
		edit.SetRole{Bar: bar, Role: song.Stop}, edit.SetEnding{Bar: bar, Ending: rapid.IntRange(0, 3).Draw(t, "ending")},
		edit.SetTimes{Section: sec.ID, Times: rapid.IntRange(1, 9).Draw(t, "times")}, edit.CopySection{Section: sec.ID}, edit.DeleteSection{Section: sec.ID},
		edit.RenameSection{Section: sec.ID, Name: "Bridge"}, edit.AddForm{Bars: rapid.SampledFrom([]int{12, 16}).Draw(t, "form")},
		edit.SetMeter{Meter: rapid.SampledFrom(pattern.Meters).Draw(t, "other meter")}, edit.SetTempo{Tempo: rapid.IntRange(10, 320).Draw(t, "tempo")},
		edit.SetKey{Key: key, Capo: map[string]int{"guitar": 2}}, edit.Recolour{Sevenths: rapid.Bool().Draw(t, "sevenths")}, edit.Halve{},
		edit.Remeter{Pattern: figure, Name: "six"}, edit.SetPattern{Pattern: figure, Name: "figure"}, edit.SetPattern{}, edit.SetSwing{Swing: true},
		edit.SetMelody{Section: sec.ID, Text: rapid.SampledFrom([]string{"", "E4:1 G4 | r:1 /A4:1/2 ^B4 ~B4", "C4:1/2 D E F"}).Draw(t, "tune")},
	}).Draw(t, "edit")
}

func checkSong(t *rapid.T, sg song.Song, e song.Edit) {
	if err := sg.Check(); err != nil {
		t.Fatalf("%+v: what is edited here could not come in: %v", e, err)
	}
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
	ids := map[int]bool{}
	unique := func(id int) {
		if id == 0 || ids[id] || id >= sg.Next {
			t.Fatalf("%+v: the id %d is used twice, or is not counted", e, id)
		}
		ids[id] = true
	}
	for _, sec := range sg.Sections {
		unique(int(sec.ID))
		if sec.Pattern != "" {
			if _, err := pattern.Parse(sec.Pattern); err != nil {
				t.Fatalf("%+v left a pattern that is none: %v", e, err)
			}
		}
		for _, b := range sec.Bars {
			unique(int(b.ID))
			end := 0
			for _, n := range b.Melody {
				if n.Tick < end || n.Ticks <= 0 || n.Tick+n.Ticks > b.Ticks() {
					t.Fatalf("%+v left a note of %d ticks at %d in a bar of %d", e, n.Ticks, n.Tick, b.Ticks())
				}
				end = n.Tick + n.Ticks
			}
			if b.Ticks() < 0 || b.Ticks() > 2*sg.Meter.BarTicks() {
				t.Fatalf("%+v left a bar of %d ticks", e, b.Ticks())
			}
		}
	}
	for _, p := range sg.Sung() {
		if p.Section >= len(sg.Sections) || p.Bar >= len(sg.Sections[p.Section].Bars) {
			t.Fatalf("%+v: the form names a bar that is not there", e)
		}
	}
}

// Songs of a time without ids get them along their history: what an edit did not
// touch stays the same bar, and so does one whose chords were changed.
func TestInheritFollowsTheHistory(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		bars, err := song.ParseChords("C | Am | F | G7 | Dm | Em", pattern.Meters[2])
		if err != nil {
			t.Fatal(err)
		}
		was := song.Song{Title: "History", Meter: pattern.Meters[2], Tempo: 80, Sections: []song.Section{{Name: "Verse", Bars: bars}}}.Numbered()
		at := rapid.IntRange(0, 5).Draw(t, "at")
		id := was.Sections[0].Bars[at].ID
		e := rapid.SampledFrom([]song.Edit{edit.SetBar{Bar: id, Chords: "B7"}, edit.DeleteBar{Bar: id}, edit.InsertBar{After: id}, edit.CopySection{Section: was.Sections[0].ID}, edit.SetTempo{Tempo: 70}}).Draw(t, "edit")
		now, _, err := was.Apply(e)
		if err != nil {
			t.Fatal(err)
		}
		bare := now.Clone()
		for i := range bare.Sections {
			bare.Sections[i].ID = 0
			for j := range bare.Sections[i].Bars {
				bare.Sections[i].Bars[j].ID = 0
			}
		}
		found := bare.Inherit(was)
		for j, b := range now.Sections[0].Bars {
			known := slices.ContainsFunc(was.Bars(), func(o song.Bar) bool { return o.ID == b.ID })
			if got := found.Sections[0].Bars[j].ID; known && got != b.ID {
				t.Fatalf("%+v: bar %d is %d and not %d", e, j+1, got, b.ID)
			}
		}
	})
}
