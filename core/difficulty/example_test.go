package difficulty_test

import (
	"fmt"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/theory"
)

// A level opens into parts, and into the place that is hardest.
func ExampleOf() {
	guitar, _ := fretboard.ByID("guitar")
	task := difficulty.OneChord(pattern.MustParse("4/4: p . p' i p m p' ."), theory.MustChord("C"), guitar, bind.DefaultSchool, 80)
	r := difficulty.Of(task, difficulty.Fitted)
	fmt.Printf("%.1f, %d parts\n", r.Level, len(r.Parts))
	// Output: 4.2, 15 parts
}
