package order

import (
	"fmt"
)

// Order is where schools differ: what is learned first. Its id is what is stored
// and what the command line takes.
type Order string

// The orders.
const (
	ThumbFirst      Order = "thumb first"      // the figure on one chord, the thumb before the fingers; then the chords
	RhythmFirst     Order = "rhythm first"     // said, tapped, on muted strings; then the chords
	TwoChordsFirst  Order = "two chords first" // the second chord as soon as there is a stroke
	AccentsEarly    Order = "accents early"    // as thumb first, with its accents from the beats on
	AlternationLast Order = "alternation last" // the fingers over one bass string first, then the thumb alternates
)

// All lists the orders with what they mean.
var All = []struct {
	Order Order
	Name  string
	Says  string
}{
	{ThumbFirst, "thumb first", "one chord, thumb before fingers, then the chords"},
	{RhythmFirst, "rhythm first", "say it, tap it, muted strings, then the chords"},
	{TwoChordsFirst, "two chords first", "the second chord as soon as there is a stroke"},
	{AccentsEarly, "accents early", "accents with the first even strokes"},
	{AlternationLast, "alternation last", "fingers over one bass string, then the thumb alternates"},
}

// Parse reads an order; empty is the first.
func Parse(s string) (Order, error) {
	if s == "" {
		return ThumbFirst, nil
	}
	for _, o := range All {
		if string(o.Order) == s {
			return o.Order, nil
		}
	}
	return "", fmt.Errorf("%q is not an order of steps", s)
}

// String is what an order is called.
func (o Order) String() string {
	for _, row := range All {
		if row.Order == o {
			return row.Name
		}
	}
	return All[0].Name
}
