package theory_test

import (
	"fmt"

	"arplin/core/theory"
)

// A chord symbol is read into its notes, spelled in the chord.
func ExampleParseChord() {
	c, err := theory.ParseChord("Bbm7b5/Ab")
	if err != nil {
		fmt.Println(err)
		return
	}
	fmt.Println(c.Root, c.Bass, c.Notes())
	_, err = theory.ParseChord("H7")
	fmt.Println(err)
	// Output:
	// Bb Ab [Bb Db Fb Ab]
	// chord "H7", character 1: "H" is not a note from A to G
}
