package order

import (
	"cmp"
	"fmt"
)

// Order is how a figure grows, where schools differ: what is learned first. Its id is what is stored
// and what the command line takes.
type Order string

// The orders.
const (
	ThumbFirst      Order = "thumb first"      // the thumb or the downs, then the fingers or the ups
	AlternationLast Order = "alternation last" // the fingers over one bass string first, then the thumb alternates
	RhythmFirst     Order = "rhythm first"     // the whole rhythm said, tapped, on muted strings, then on a chord
	AccentsEarly    Order = "accents early"    // as thumb first, with its accents from the beats on
	CellByCell      Order = "cell by cell"     // the smallest cell in the order of time, then repeated, then what differs
	FullFirst       Order = "full first"       // the plain full figure, then what is pinched, then what is left out
)

// Size is how much a step adds.
type Size string

// The sizes.
const (
	Small Size = "small" // stroke by stroke
	Usual Size = "usual" // a motion, or a finger's part
	Big   Size = "big"   // two usual ones
)

// Chords is when the chords come.
type Chords string

// When the chords come.
const (
	End  Chords = "end"  // when the figure is whole
	Each Chords = "each" // after each pattern: it goes through the progression before anything is added
	Two  Chords = "two"  // a second chord as soon as there is a figure, the others at the end
)

// Parts is in which order the figures of a song that has several are learned.
type Parts string

// The orders of parts.
const (
	PartByPart Parts = "part by part" // one is finished before the next
	ByLevel    Parts = "by level"     // whatever is the easiest next
)

// Choice is all that a teacher chooses of a ladder. The zero value is every default.
type Choice struct {
	Order  Order
	Size   Size
	Chords Chords
	Parts  Parts
}

// Whole is the choice with a default for all that it leaves open.
func (c Choice) Whole() Choice {
	return Choice{cmp.Or(c.Order, ThumbFirst), cmp.Or(c.Size, Usual), cmp.Or(c.Chords, End), cmp.Or(c.Parts, PartByPart)}
}

// Row is one value of a choice, with its words.
type Row[T ~string] struct {
	Value      T
	Name, Says string
}

// The tables of them, the default first.
var (
	All = []Row[Order]{
		{ThumbFirst, "thumb first", "the thumb or the downs first, then the fingers or the ups"},
		{AlternationLast, "alternation last", "the fingers over one bass string, then the thumb alternates"},
		{RhythmFirst, "rhythm first", "the whole rhythm said, tapped, muted, then on a chord"},
		{AccentsEarly, "accents early", "accents with the first even strokes"},
		{CellByCell, "cell by cell", "the smallest cell in the order of time, then repeated, then what differs"},
		{FullFirst, "full first", "the plain full pattern, then pinched, then strokes left out"},
	}
	Sizes = []Row[Size]{
		{Usual, "usual", "a motion or a finger’s part at a time"},
		{Small, "small", "stroke by stroke"},
		{Big, "big", "two of the usual steps at a time"},
	}
	ChordsCome = []Row[Chords]{
		{End, "at the end", "the whole pattern on one chord, then the chords"},
		{Each, "after each pattern", "every pattern through the progression before the next addition"},
		{Two, "two chords early", "a second chord with the first pattern, the others at the end"},
	}
	PartsCome = []Row[Parts]{
		{PartByPart, "part by part", "one part of the song is finished before the next"},
		{ByLevel, "by level", "whichever part’s next step is the easiest"},
	}
)

// twoChordsFirst was an order of its own before the chords were a choice.
const twoChordsFirst = "two chords first"

// Parse reads a choice; what is empty is left open. "two chords first", an order of old, is thumb
// first with two chords early.
func Parse(order, size, chords, parts string) (c Choice, err error) {
	if order == twoChordsFirst {
		order, chords = string(ThumbFirst), cmp.Or(chords, string(Two))
	}
	c = Choice{Order(order), Size(size), Chords(chords), Parts(parts)}
	switch {
	case !known(All, c.Order):
		err = fmt.Errorf("%q is not an order of steps", order)
	case !known(Sizes, c.Size):
		err = fmt.Errorf("%q is not a size of steps: it is small, usual or big", size)
	case !known(ChordsCome, c.Chords):
		err = fmt.Errorf("%q is not a time for the chords to come: it is end, each or two", chords)
	case !known(PartsCome, c.Parts):
		err = fmt.Errorf("%q is not an order of parts", parts)
	}
	return c, err
}

func known[T ~string](rows []Row[T], v T) bool {
	for _, row := range rows {
		if v == "" || row.Value == v {
			return true
		}
	}
	return false
}

// Name is what an order is called.
func (o Order) Name() string { return name(All, o) }

// Name is what a size is called.
func (s Size) Name() string { return name(Sizes, s) }

// Name is when the chords come, in words.
func (c Chords) Name() string { return name(ChordsCome, c) }

// Name is what an order of parts is called.
func (p Parts) Name() string { return name(PartsCome, p) }

func name[T ~string](rows []Row[T], v T) string {
	for _, row := range rows {
		if row.Value == v {
			return row.Name
		}
	}
	return rows[0].Name
}
