package fretboard_test

import (
	"slices"
	"testing"

	"pgregory.net/rapid"

	"arplin/core/fretboard"
	"arplin/core/theory"
)

func drawVoicing(t *rapid.T, ins fretboard.Instrument, label string) (theory.Chord, fretboard.Voicing) {
	c := theory.MustChord(rapid.SampledFrom([]string{"C", "Dm", "Em", "F", "G", "Am", "G7", "D", "A", "E7", "Bm", "Cmaj7", "F#m", "Bb", "D/F#"}).Draw(t, label))
	found := fretboard.Find(ins, c, 4)
	if len(found) == 0 {
		t.Skip("no shape")
	}
	return c, rapid.SampledFrom(found).Draw(t, label+" shape")
}

// What must hold of the way from any shape to any other.
func TestEveryChange(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		ins := rapid.SampledFrom(fretboard.Instruments).Draw(t, "instrument")
		_, a := drawVoicing(t, ins, "from")
		_, b := drawVoicing(t, ins, "to")
		ch := fretboard.ChangeBetween(ins, a, b)
		if ch.Effort < 0 || ch.Seconds < 0 {
			t.Fatalf("%s to %s: %+v", a.Shape, b.Shape, ch)
		}
		if stay := fretboard.ChangeBetween(ins, a, a); stay.Effort != 0 || stay.Seconds != 0 || len(stay.Moved) > 0 {
			t.Fatalf("staying on %s costs %+v", a.Shape, stay)
		}
		back := fretboard.ChangeBetween(ins, b, a)
		if !slices.Equal(ch.Kept, back.Kept) {
			t.Fatalf("%v stay from %s to %s, %v on the way back", ch.Kept, a.Shape, b.Shape, back.Kept)
		}
		for _, f := range ch.Kept {
			if slices.Contains(ch.Moved, f) {
				t.Fatalf("finger %d stays and moves from %s to %s", f, a.Shape, b.Shape)
			}
		}
		if a.Shape != b.Shape && len(ch.Moved) > 0 && ch.Effort == 0 {
			t.Fatalf("%v move from %s to %s for nothing", ch.Moved, a.Shape, b.Shape)
		}
	})
}

// A stand-in is easier to hold, holds no note that is foreign to its chord, and
// says what it gives up.
func TestEveryStandIn(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		ins := rapid.SampledFrom(fretboard.Instruments).Draw(t, "instrument")
		c, used := drawVoicing(t, ins, "chord")
		for _, s := range fretboard.StandIns(ins, c, used) {
			if s.Voicing.Hold >= used.Hold || s.GivesUp == "" {
				t.Fatalf("%s for %s of %s is no stand-in: %+v", s.Voicing.Shape, used.Shape, c, s)
			}
			for str := fretboard.String(1); int(str) <= ins.Strings(); str++ {
				if s.Voicing.Sounds(str) && !holds(s.Chord, s.Voicing.Pitch(ins, s.Chord, str).Class()) {
					t.Fatalf("%s holds a note that is not in %s", s.Voicing.Shape, s.Chord)
				}
			}
		}
	})
}

// A capo lifts every string by its fret and shortens the neck by the
// equal-tempered rule; a shape prints as it is read.
func TestCapoAndShapes(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		ins := rapid.SampledFrom(fretboard.Instruments).Draw(t, "instrument")
		fret := rapid.IntRange(0, 7).Draw(t, "capo")
		up := ins.WithCapo(fret)
		for s := fretboard.String(1); int(s) <= ins.Strings(); s++ {
			if got := up.Open(s).MIDI() - ins.Open(s).MIDI(); got != fret {
				t.Fatalf("string %d rises by %d under capo %d", s, got, fret)
			}
		}
		// The twelfth fret halves the string, with a capo or without.
		if half := up.FretMM(12); half-up.ScaleMM/2 > 1e-9 || up.ScaleMM/2-half > 1e-9 {
			t.Fatalf("the twelfth fret of %v mm lies at %v", up.ScaleMM, half)
		}
		_, v := drawVoicing(t, ins, "chord")
		if again := fretboard.MustShape(v.String()); again != v.Shape {
			t.Fatalf("%s is read as %s", v.Shape, again)
		}
	})
}
