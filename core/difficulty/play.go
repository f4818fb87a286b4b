package difficulty

import "slices"

// What is left of a part when the strings are not played, by way of playing.
// Nothing is more than on the strings, so a step before them is never harder
// than the same step on them. From memory: a tapped or spoken rhythm is one
// movement for all the hand's.
var left = map[Play]struct {
	parts []int
	share float64
}{
	Muted:  {[]int{rate, offBeat, together, independence, thumbTravel, order, repeat, fingers, direction, aim, touch, dynamics, figure}, 1},
	Tapped: {[]int{rate, offBeat, dynamics, figure}, 0.5},
	Said:   {[]int{rate, figure}, 0.25},
	Swings: {[]int{rate, figure}, 0.2},
}

// leave takes out of the values what a way of playing does without.
func (m *measured) leave(how Play) {
	of, ok := left[how]
	if !ok {
		return
	}
	for i := range m.values {
		if !slices.Contains(of.parts, i) {
			m.values[i] = 0
		}
		m.values[i] *= of.share
	}
}
