package song_test

import (
	"fmt"

	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/song/edit"
)

// An edit works on a copy and says what it did; ids stay.
func ExampleSong_Apply() {
	p := pattern.MustParse("4/4: . . . .")
	bars, _ := song.ParseChords("C | Am | F | G7", p.Meter)
	sg := song.Song{Meter: p.Meter, Tempo: 80, Sections: []song.Section{{Name: "Verse", Bars: bars}}}.Numbered()
	second := sg.Bars()[1].ID
	edited, d, err := sg.Apply(edit.SetBar{Bar: second, Chords: "Dm G7"})
	fmt.Println(edit.DoneWords.Say(d), err)
	fmt.Println(song.BarText(edited.Bars()[1].Changes, p.Meter), edited.Bars()[1].ID == second)
	// Output:
	// Changed bar 2 of Verse <nil>
	// Dm G7 true
}
