package fretboard_test

import (
	"fmt"

	"arplin/core/fretboard"
	"arplin/core/theory"
)

// The easiest shape of a chord, and what else there is.
func ExampleFind() {
	guitar, _ := fretboard.ByID("guitar")
	for _, v := range fretboard.Find(guitar, theory.MustChord("G7"), 2) {
		fmt.Println(v.Shape, "root on string", v.Root)
	}
	// Output:
	// 320001 root on string 6
	// 353433 root on string 6
}
