package plan

import "fmt"

// PlacementFigures is how many figures a newcomer plays: five minutes. Source: common
// practice.
const PlacementFigures = 4

// Heard is how a figure of a placement was.
type Heard string

// How it was; the zero value is one that was not played.
const (
	HeardClean Heard = "clean"
	HeardNot   Heard = "not"
)

// PlacementSteps are the steps whose figures a newcomer plays, from easy to hard, spread
// over those that can be played with the class: the first of them, and the last.
func PlacementSteps(play []bool) (steps []int) {
	var can []int
	for k, ok := range play {
		if ok {
			can = append(can, k)
		}
	}
	for i := range min(PlacementFigures, len(can)) {
		at := 0
		if n := min(PlacementFigures, len(can)) - 1; n > 0 {
			at = i * (len(can) - 1) / n
		}
		steps = append(steps, can[at])
	}
	return steps
}

// Placement proposes a step: the one after the hardest figure that was clean, up to the
// first harder one that was not. Steps count from 0.
func Placement(steps []int, heard []Heard, last int) (step int, why string) {
	clean, failed := -1, -1
	for i := range steps {
		if i >= len(heard) {
			break
		}
		switch heard[i] {
		case HeardClean:
			clean, failed = i, -1
		case HeardNot:
			if failed < 0 {
				failed = i
			}
		}
	}
	switch {
	case clean < 0 && failed < 0:
		return 0, "nothing was played yet"
	case clean < 0:
		return 0, fmt.Sprintf("step %d was not clean: from the beginning", steps[failed]+1)
	case failed < 0:
		step = min(last, steps[clean]+1)
		return step, fmt.Sprintf("step %d was clean: on from there", steps[clean]+1)
	}
	step = min(steps[failed], steps[clean]+1)
	return step, fmt.Sprintf("step %d was clean, step %d was not", steps[clean]+1, steps[failed]+1)
}
