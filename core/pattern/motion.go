package pattern

import (
	"fmt"
	"slices"
	"strconv"
)

// Motion is what the strumming hand does in a slot.
type Motion string

// The motions.
const (
	MoveDown    Motion = "down"
	MoveUp      Motion = "up"
	MoveAirDown Motion = "air-down"
	MoveAirUp   Motion = "air-up"
	MoveNone    Motion = "none"
)

// direction is the natural way of the hand in a slot: down on the beat, up
// after it; down, up, down in three.
func (p Pattern) direction(slot int) Motion {
	n := p.SlotsPerBeat()
	i := slot % n
	up := i%2 == 1
	if n == 1 || n == 3 && i != 1 {
		up = false
	}
	if up {
		return MoveUp
	}
	return MoveDown
}

func airSign(m Motion) Sign {
	if m == MoveUp {
		return AirUp
	}
	return AirDown
}

// AgainstHand reports a strum that goes against the natural direction of its slot.
func (p Pattern) AgainstHand(slot int, sign Sign) bool {
	down := sign == Down || sign == Nails
	return sign.Strum() && down != (p.direction(slot) == MoveDown)
}

// Motions lists the hand's motion for every slot of the whole pattern. A
// pattern without strums leaves the hand where it is.
func (p Pattern) Motions() []Motion {
	strums := p.HasStrums()
	var ms []Motion
	for _, bar := range p.Bars {
		for i, slot := range bar {
			ms = append(ms, p.motion(i, slot, strums))
		}
	}
	return ms
}

func (p Pattern) motion(i int, slot Slot, strums bool) Motion {
	for _, st := range slot.Strokes {
		switch st.Sign {
		case Down, Nails:
			return MoveDown
		case Up:
			return MoveUp
		case AirDown:
			return MoveAirDown
		case AirUp:
			return MoveAirUp
		}
	}
	if !strums {
		return MoveNone
	}
	if len(slot.Strokes) == 0 {
		return Motion("air-" + p.direction(i))
	}
	for _, st := range slot.Strokes {
		switch st.Sign {
		case Thumb, Sweep:
			return MoveDown
		case Knock:
			return p.direction(i) // the hand lands on its way
		}
	}
	return MoveNone
}

// Counts lists the count words of one bar, a word a slot.
func (p Pattern) Counts() []string {
	grid := p.Grid()
	words := make([]string, grid)
	perCount := grid / int(p.Meter.Beats) // counts are the signature's beats, not the tapped ones
	between := map[int][]string{1: {""}, 2: {"", "&"}, 3: {"", "trip", "let"}, 4: {"", "e", "&", "a"}}[perCount]
	for i := range words {
		words[i] = between[i%perCount]
		if i%perCount == 0 {
			words[i] = strconv.Itoa(i/perCount + 1)
		}
	}
	return words
}

// GroupCounts are the count words of eighths in groups of three and two, "1 2 3 1 2 3 1 2", where accents,
// or the thumb of a figure without any, lead them; ok is false for a figure of even groups. Source: common
// practice.
func (p Pattern) GroupCounts() (words []string, ok bool) {
	if p.SlotsPerBeat() != 2 || p.Meter.Compound() {
		return nil, false
	}
	leads := func(is func(Stroke) bool) (at []int) {
		for i := range p.Grid() {
			if !slices.ContainsFunc(p.Bars, func(b Bar) bool { return !slices.ContainsFunc(b[i].Strokes, is) }) {
				at = append(at, i)
			}
		}
		return at
	}
	at := leads(func(st Stroke) bool { return st.Marks.Has(Accent) })
	if len(at) < 2 {
		at = leads(func(st Stroke) bool { return st.Sign == Thumb })
	}
	threes, twos := 0, 0
	for k, from := range at {
		to := p.Grid()
		if k+1 < len(at) {
			to = at[k+1]
		}
		switch to - from {
		case 3:
			threes++
		case 2:
			twos++
		}
		for n := range to - from {
			words = append(words, strconv.Itoa(n+1))
		}
	}
	return words, threes > 0 && twos > 0 && threes+twos == len(at) && at[0] == 0
}

// Spot says where a slot lies as it is counted: "3", "the and of 2".
func (p Pattern) Spot(slot int) string {
	words := p.Counts()
	perCount := len(words) / int(p.Meter.Beats)
	if slot%perCount == 0 {
		return words[slot]
	}
	beat := words[slot-slot%perCount]
	switch words[slot] {
	case "trip":
		return "the second of the triplet on " + beat
	case "let":
		return "the third of the triplet on " + beat
	case "&":
		return "the “and” of " + beat
	}
	return fmt.Sprintf("the “%s” of %s", words[slot], beat)
}

// OnBeat reports whether a slot is a tapped beat.
func (p Pattern) OnBeat(slot int) bool { return slot%p.SlotsPerBeat() == 0 }
