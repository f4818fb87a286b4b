package bind_test

import (
	"fmt"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/theory"
)

// The thumb of a pattern takes the root of the chord, then its other bass string.
func ExamplePattern() {
	guitar, _ := fretboard.ByID("guitar")
	am := theory.MustChord("Am")
	r := bind.Pattern(guitar, bind.DefaultSchool, pattern.MustParse("4/4: p . p' i"), am, fretboard.MustShape("x02210"))
	for _, e := range r.Events {
		fmt.Println(e.Finger, e.Strings, e.Pitches)
	}
	// Output:
	// p [5] [A2]
	// p [4] [E3]
	// i [3] [A3]
}
