package ladder_test

import (
	"fmt"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/ladder"
	"arplin/core/ladder/grow"
	"arplin/core/ladder/order"
	"arplin/core/pattern"
	"arplin/core/theory"
)

// A ladder adds one named thing a step, up to its target.
func ExampleBuild() {
	guitar, _ := fretboard.ByID("guitar")
	task := difficulty.OneChord(pattern.MustParse("4/4: p . p' i p . p' ."), theory.MustChord("C"), guitar, bind.DefaultSchool, 80)
	steps := grow.Build(order.Choice{Size: order.Small}, task, difficulty.Fitted, 0)
	for i, s := range steps {
		fmt.Println(s.Pattern, "+", ladder.Describe(steps, i, task).Name)
	}
	// Output:
	// 4/4: p . . . . . . . + bass on 1
	// 4/4: p . . . p . . . + bass on 3
	// 4/4: p . p . p . p . + bass on 2 and 4
	// 4/4: p . p' . p . p' . + alternating bass
	// 4/4: p . p' i p . p' . + index on the “and” of 2
}
