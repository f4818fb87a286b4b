package variation_test

import (
	"fmt"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/theory"
	"arplin/core/variation"
)

// Simpler neighbours of a figure, each with the thing that it leaves out.
func ExampleNeighbours() {
	guitar, _ := fretboard.ByID("guitar")
	task := difficulty.OneChord(pattern.MustParse("4/4: D . D U . U D U"), theory.MustChord("C"), guitar, bind.DefaultSchool, 80)
	for _, v := range variation.Neighbours(task, difficulty.Fitted).Simpler[2:] {
		fmt.Println(v.Pattern, v.Name())
	}
	// Output:
	// 4/4: D . D U . . D U without the up strum on the “and” of 3
	// 4/4: D . D U . . D . without the up strum on the “and” of 3 and the “and” of 4
	// 4/4: D . D U D U D U without the missed strum on 3
	// 4/4: D . D . D . D . down strums only
}
