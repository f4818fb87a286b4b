package pattern_test

import (
	"fmt"

	"arplin/core/pattern"
)

// The notation is read, and printed in its one form.
func ExampleParse() {
	p, err := pattern.Parse("4/4:p . p'+m . p i p' .")
	fmt.Println(p, err)
	fmt.Println(p.Counts())
	_, err = pattern.Parse("4/4: p i q m")
	fmt.Println(err)
	// Output:
	// 4/4: p . p'+m . p i p' . <nil>
	// [1 & 2 & 3 & 4 &]
	// pattern: bar 1, slot 3: "q" is not a stroke
}

// What a player says is a pattern of strums.
func ExampleSpoken() {
	p, err := pattern.Spoken("down, down-up, up-down-up", pattern.MustParse("4/4: . . . .").Meter, 8)
	fmt.Println(p, err)
	// Output: 4/4: D . D U . U D U <nil>
}
