package bind

import (
	"arplin/core/fretboard"
)

// sweep walks over the sounding strings of a shape from the root string to the
// thinnest and back, turning at both ends.
type sweep struct {
	path  []fretboard.String
	taken int // strokes since it began
	ahead int // places of the way that are skipped: a sweep can begin at its other end
}

func newSweep(sh fretboard.Shape, root fretboard.String) sweep {
	var sw sweep
	for s := root; s >= 1; s-- {
		if sh.Sounds(s) {
			sw.path = append(sw.path, s)
		}
	}
	return sw
}

func (sw *sweep) restart() { sw.taken, sw.ahead = 0, 0 }

// fromThin begins at the thinnest string.
func (sw *sweep) fromThin() { sw.taken, sw.ahead = 0, max(0, len(sw.path)-1) }

// next is the string of the next stroke.
func (sw *sweep) next() fretboard.String {
	n := len(sw.path)
	if n == 0 {
		return 1
	}
	i := sw.taken + sw.ahead
	sw.taken++
	if n > 1 {
		i %= 2 * (n - 1)
	} else {
		i = 0
	}
	if i >= n {
		i = 2*(n-1) - i
	}
	return sw.path[i]
}

// sweepHand says who plays a string of a sweep: the thumb on the bass strings
// and a finger for each thin one, or the pick in turns.
func (w *barWriter) sweepHand(s fretboard.String) (finger, direction string) {
	if w.school.Pick {
		if w.sweep.taken%2 == 1 {
			return "", "down"
		}
		return "", "up"
	}
	switch s {
	case 3:
		return "i", ""
	case 2:
		return "m", ""
	case 1:
		return "a", ""
	}
	return "p", ""
}
