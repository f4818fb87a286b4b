package hand

import (
	"fmt"
	"slices"
	"strings"

	"arplin/core/fretboard"
	"arplin/core/song"
	"arplin/core/theory"
)

// Cannot is what a left hand cannot do yet.
type Cannot string

// What hands cannot do yet.
const (
	NoBarre  Cannot = "barre"
	NoLittle Cannot = "little"
)

// Cannots names them.
var Cannots = []struct {
	Cannot Cannot
	Name   string
}{{NoBarre, "a barre"}, {NoLittle, "the little finger"}}

// ParseCannots reads a list with commas, as CannotText writes it.
func ParseCannots(text string) (list []Cannot, err error) {
	for _, word := range strings.Split(text, ",") {
		switch c := Cannot(strings.TrimSpace(word)); {
		case c == "":
		case c != NoBarre && c != NoLittle:
			return nil, fmt.Errorf("%q is nothing that a hand cannot do yet", c)
		case !slices.Contains(list, c):
			list = append(list, c)
		}
	}
	return list, nil
}

// CannotText is a list as ParseCannots reads it.
func CannotText(list []Cannot) string {
	var words []string
	for _, c := range list {
		words = append(words, string(c))
	}
	return strings.Join(words, ",")
}

// needs reports that a shape asks for one of what a hand cannot do.
func needs(v fretboard.Voicing, cannot []Cannot) bool {
	return slices.Contains(cannot, NoBarre) && v.Fingering.Barre.From != 0 || slices.Contains(cannot, NoLittle) && slices.Contains(v.Fingering.List(), 4)
}

// shapesLooked is how many shapes of a chord are looked through for one that a hand can do.
const shapesLooked = 24

// Around finds shapes for a hand that cannot do some things yet, by chord as it is
// fingered: the easiest of the same chord that needs none of them. Without lists the
// chords for which there is none.
func Around(s song.Song, ins fretboard.Instrument, cannot []Cannot) (own map[string]string, without []string) {
	if len(cannot) == 0 {
		return nil, nil
	}
	own = map[string]string{}
	for found := true; found; { // what is held in another way may give its neighbours other fingers
		found = false
		for c, used := range s.HeldBy(ins, own).ShapesOn(ins) {
			if !needs(used, cannot) || slices.Contains(without, c.String()) {
				continue
			}
			if v, ok := withoutThem(ins, c, used, cannot); ok {
				own[c.String()], found = fretboard.Grip{Shape: v.Shape, Fingers: v.Fingering}.String(), true
			} else {
				without = append(without, c.String())
			}
		}
	}
	slices.Sort(without)
	if len(own) == 0 {
		own = nil
	}
	return own, without
}

// withoutThem is the same shape under its usual fingers where that does, else the easiest other.
func withoutThem(ins fretboard.Instrument, c theory.Chord, used fretboard.Voicing, cannot []Cannot) (fretboard.Voicing, bool) {
	if usual := fretboard.Read(ins, c, used.Shape); !needs(usual, cannot) {
		return usual, true
	}
	found := slices.DeleteFunc(fretboard.Find(ins, c, shapesLooked), func(v fretboard.Voicing) bool { return needs(v, cannot) })
	if len(found) == 0 {
		return used, false
	}
	return found[0], true
}
