package listen

import (
	"fmt"
	"slices"

	"arplin/core/pattern"
)

// Hand is the half of the screen that is tapped.
type Hand string

// The hands. In a strum the downs are the thumb's half, as where a rhythm is tapped on the knees.
const (
	Thumb   Hand = "thumb"
	Fingers Hand = "fingers"
)

// ParseHand reads a hand.
func ParseHand(s string) (Hand, error) {
	if h := Hand(s); h == Thumb || h == Fingers {
		return h, nil
	}
	return "", fmt.Errorf("%q is neither thumb nor fingers", s)
}

// Tap is one tap, in milliseconds from the first beat.
type Tap struct {
	At   float64
	With Hand
}

// Due is a tap that is asked for.
type Due struct {
	Bar  int // of the take, from 0
	Slot int
	With Hand
	At   float64 // milliseconds from the first beat
}

// Timeline is what is to be tapped of a figure at a tempo, bar after bar.
type Timeline struct {
	Figure pattern.Pattern
	Tempo  int // tapped beats a minute
}

// BarMS is the length of a bar in milliseconds.
func (t Timeline) BarMS() float64 {
	return float64(t.Figure.Meter.TappedBeats()) * 60000 / float64(t.Tempo)
}

// Bars are the taps of some bars; the figure comes again when it is through.
func (t Timeline) Bars(n int) (list []Due) {
	tick := t.BarMS() / float64(t.Figure.Meter.BarTicks())
	for bar := range n {
		for i, slot := range t.Figure.Bars[bar%len(t.Figure.Bars)] {
			at := float64(bar)*t.BarMS() + float64(t.Figure.SlotStart(i))*tick
			for _, with := range handsOf(slot) {
				list = append(list, Due{bar, i, with, at})
			}
		}
	}
	return list
}

// handsOf are the halves that a slot is tapped on, each once: a pinch is both.
func handsOf(slot pattern.Slot) (hands []Hand) {
	for _, st := range slot.Strokes {
		if st.Sign.Air() {
			continue
		}
		with := Fingers
		if st.Sign == pattern.Thumb || st.Sign == pattern.Down {
			with = Thumb
		}
		if !slices.Contains(hands, with) {
			hands = append(hands, with)
		}
	}
	return hands
}
