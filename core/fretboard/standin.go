package fretboard

import (
	"fmt"

	"arplin/core/say"
	"arplin/core/theory"
)

// StandIn is an easier way to play a chord, with what it gives up.
type StandIn struct {
	Chord   theory.Chord
	Voicing Voicing
	GivesUp string // "the seventh", "the thick strings"
}

// noticeable is the least saving, in points of holding, for which a stand-in is
// worth a teacher's look.
const noticeable = 0.3

// StandIns lists easier ways to play a chord than the shape in use: its triad,
// its power chord, the chord over its own root, a smaller shape. The easiest
// comes first.
func StandIns(ins Instrument, c theory.Chord, used Voicing) []StandIn {
	var list []StandIn
	try := func(alt theory.Chord, v Voicing, givesUp string) {
		if v.Hold > used.Hold-noticeable || v.Shape == used.Shape {
			return
		}
		for _, s := range list {
			if s.Voicing.Shape == v.Shape {
				return
			}
		}
		at := len(list)
		for at > 0 && list[at-1].Voicing.Hold > v.Hold {
			at--
		}
		list = append(list[:at], append([]StandIn{{alt, v, givesUp}}, list[at:]...)...)
	}
	for _, v := range Find(ins, c, 12) {
		if soundingStrings(v.Shape) < soundingStrings(used.Shape) || v.Inverted && !used.Inverted || len(v.Missing) > len(used.Missing) {
			try(c, v, smallerGivesUp(used, v))
		}
	}
	if c.Bass != c.Root {
		over := c.OverRoot()
		if v, ok := Easiest(ins, over); ok {
			try(over, v, fmt.Sprintf("the bass note %s", c.Bass))
		}
	}
	if plain, ok := c.Plain(); ok {
		if v, found := Easiest(ins, plain); found {
			try(plain, v, "the "+colours(c))
		}
	}
	if power, ok := c.Power(); ok {
		if v, found := Easiest(ins, power); found {
			try(power, v, "the third, so neither major nor minor is heard")
		}
	}
	return list
}

func smallerGivesUp(used, v Voicing) string {
	var parts []string
	if len(v.Missing) > len(used.Missing) {
		var names []string
		for _, d := range v.Missing {
			names = append(names, d.String())
		}
		parts = append(parts, "the degree "+say.And(names))
	}
	if v.Inverted && !used.Inverted {
		parts = append(parts, "the root in the bass")
	}
	if n := soundingStrings(used.Shape) - soundingStrings(v.Shape); n > 0 {
		if n == 1 {
			parts = append(parts, "one string")
		} else {
			parts = append(parts, fmt.Sprintf("%d strings", n))
		}
	}
	return say.And(parts)
}

var colourNames = map[int8]string{2: "second", 4: "fourth", 6: "sixth", 7: "seventh", 9: "ninth", 11: "eleventh", 13: "thirteenth"}

// colours names what a chord has beyond its triad.
func colours(c theory.Chord) string {
	var names []string
	for _, d := range c.Degrees() {
		if name, ok := colourNames[d.Number]; ok {
			names = append(names, name)
		}
	}
	if len(names) == 0 {
		return "colour"
	}
	return say.And(names)
}

func soundingStrings(sh Shape) (n int) {
	for _, f := range sh.frets[:sh.n] {
		if f != Muted {
			n++
		}
	}
	return n
}
