package fretboard_test

import (
	"testing"

	"arplin/core/fretboard"
	"arplin/core/theory"
)

func BenchmarkEightShapesOnSixStrings(b *testing.B) {
	ins, _ := fretboard.ByID("guitar")
	for _, symbol := range []string{"C", "F#m7b5", "Bb13", "E7#9"} {
		c := theory.MustChord(symbol)
		b.Run(symbol, func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				fretboard.Find(ins, c, 8)
			}
		})
	}
}

func BenchmarkEasiestShape(b *testing.B) {
	ins, _ := fretboard.ByID("guitar")
	c := theory.MustChord("F#m7")
	for b.Loop() {
		fretboard.Easiest(ins, c)
	}
}

// Ten strings are the most that an instrument may have.
func BenchmarkTenStrings(b *testing.B) {
	tuning, _ := fretboard.ParseTuning("A1 D2 G2 C3 E2 A2 D3 G3 B3 E4")
	ins := fretboard.Custom(tuning)
	c := theory.MustChord("Cmaj9")
	b.ReportAllocs()
	for b.Loop() {
		fretboard.Find(ins, c, 8)
	}
}
