package theory

import (
	"cmp"
	"slices"
)

// Quality is a kind of chord that has a name.
type Quality struct {
	Suffix string // what follows the root in a symbol
	Kind   string // its name in MusicXML 4.0, kind-value; empty for one that has none
	Named  int    // its turn where a chord is named by what sounds, from 1; 0 where it is not
}

// Qualities are the rows. Source of the kinds: MusicXML 4.0; of the symbols: common practice.
var Qualities = []Quality{
	{"", "major", 1},
	{"m", "minor", 20},
	{"+", "augmented", 8},
	{"dim", "diminished", 28},
	{"7", "dominant", 3},
	{"maj7", "major-seventh", 4},
	{"m7", "minor-seventh", 22},
	{"dim7", "diminished-seventh", 29},
	{"7#5", "augmented-seventh", 13},
	{"m7b5", "half-diminished", 27},
	{"mmaj7", "major-minor", 23},
	{"6", "major-sixth", 2},
	{"m6", "minor-sixth", 21},
	{"9", "dominant-ninth", 9},
	{"maj9", "major-ninth", 10},
	{"m9", "minor-ninth", 25},
	{"11", "dominant-11th", 0},
	{"maj11", "major-11th", 0},
	{"m11", "minor-11th", 26},
	{"13", "dominant-13th", 11},
	{"maj13", "major-13th", 0},
	{"m13", "minor-13th", 0},
	{"sus2", "suspended-second", 7},
	{"sus4", "suspended-fourth", 6},
	{"5", "power", 0},
	{"add9", "", 5},
	{"7sus4", "", 12},
	{"maj7#5", "", 14},
	{"6/9", "", 15},
	{"7b9", "", 16},
	{"7#9", "", 17},
	{"7b5", "", 18},
	{"add11", "", 19},
	{"madd9", "", 24},
	{"m7#5", "", 30},
}

// byName are the qualities in the order in which they are tried as a name.
var byName = func() (list []Quality) {
	for _, q := range Qualities {
		if q.Named > 0 {
			list = append(list, q)
		}
	}
	slices.SortFunc(list, func(a, b Quality) int { return cmp.Compare(a.Named, b.Named) })
	return list
}()

// Named is the chord on the same root whose notes are those that sound; a perfect fifth may be
// left out, and the ninth under a thirteenth.
func Named(c Chord, sounds map[int]bool) (string, bool) {
	fifth, ninth := c.Root.Above(Degree{Number: 5}).Class(), c.Root.Above(Degree{Number: 9}).Class()
	for _, q := range byName {
		named, err := ParseChord(c.Root.String() + q.Suffix)
		if err != nil {
			continue
		}
		own := map[int]bool{}
		missing := false
		for _, n := range named.Notes() {
			own[n.Class()] = true
			optional := n.Class() == fifth || n.Class() == ninth && named.Has(13, 0)
			missing = missing || !sounds[n.Class()] && !optional
		}
		foreign := false
		for class := range sounds {
			foreign = foreign || !own[class]
		}
		if !missing && !foreign {
			return named.String(), true
		}
	}
	return "", false
}
