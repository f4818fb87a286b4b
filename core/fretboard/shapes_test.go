package fretboard_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"arplin/core/fretboard"
	"arplin/core/theory"
)

func voicing(t *testing.T, chord, frets string) fretboard.Voicing {
	t.Helper()
	ins, err := fretboard.ByID("guitar")
	require.NoError(t, err)
	return fretboard.Read(ins, theory.MustChord(chord), fretboard.MustShape(frets))
}

// Source: common practice, the thumb strings of open shapes.
func TestRootStrings(t *testing.T) {
	for _, c := range []struct {
		instrument, chord, frets string
		want                     fretboard.String
	}{
		{"guitar", "D", "xx0232", 4}, {"guitar", "Dm", "xx0231", 4}, {"guitar", "A", "x02220", 5}, {"guitar", "B7", "x21202", 5}, {"guitar", "C7", "x32310", 5},
		{"guitar", "E", "022100", 6}, {"guitar", "G7", "320001", 6}, {"guitar", "F", "133211", 6}, {"guitar", "F", "xx3211", 4}, {"guitar", "D7/F#", "200212", 6},
		{"ukulele", "F", "2010", 4}, {"ukulele-low-g", "C", "0003", 4}, {"baritone", "G", "0003", 3}, {"baritone", "D", "0232", 4},
	} {
		ins, err := fretboard.ByID(c.instrument)
		require.NoError(t, err)
		assert.Equal(t, c.want, fretboard.RootString(ins, theory.MustChord(c.chord), fretboard.MustShape(c.frets)), "%s %s", c.chord, c.frets)
	}
}

// Worked by hand from the open strings: where a shape sounds its bass note.
func TestBassStrings(t *testing.T) {
	for _, c := range []struct {
		instrument, chord, frets string
		want                     fretboard.String
	}{
		{"guitar", "C", "x32010", 5}, {"guitar", "D7/F#", "200212", 6}, {"guitar", "G7", "xx0001", 3}, {"guitar", "C", "xxx0x0", 0},
		{"ukulele", "F", "2010", 2}, {"ukulele", "G7", "0212", 4}, {"ukulele", "C", "0003", 3},
	} {
		ins, err := fretboard.ByID(c.instrument)
		require.NoError(t, err)
		assert.Equal(t, c.want, fretboard.BassString(ins, theory.MustChord(c.chord), fretboard.MustShape(c.frets)), "%s %s", c.chord, c.frets)
	}
}

// Source: common practice, fingers as charts print them.
func TestFingersOfCommonShapes(t *testing.T) {
	for frets, want := range map[string][]int8{
		"x32010": {0, 3, 2, 0, 1, 0}, "320003": {2, 1, 0, 0, 0, 3}, "xx0232": {0, 0, 0, 1, 3, 2}, "022000": {0, 2, 3, 0, 0, 0}, "x02210": {0, 0, 2, 3, 1, 0},
		"133211": {1, 3, 4, 2, 1, 1}, "xx3211": {0, 0, 3, 2, 1, 1}, "x24432": {0, 1, 3, 4, 2, 1}, "x02220": {0, 0, 1, 2, 3, 0}, "000000": {0, 0, 0, 0, 0, 0},
	} {
		f, ok := fretboard.Finger(fretboard.MustShape(frets))
		assert.True(t, ok, frets)
		assert.Equal(t, want, f.List(), frets)
	}
	_, ok := fretboard.Finger(fretboard.MustShape("123456"))
	assert.False(t, ok, "six frets need six fingers")
}

func TestReadNamesWhatAShapeHolds(t *testing.T) {
	v := voicing(t, "C/G", "332010")
	assert.Equal(t, "G2", v.Bass.String())
	assert.False(t, v.Inverted, "the slash asks for it")
	assert.True(t, voicing(t, "C", "332010").Inverted)
	v = voicing(t, "Cmaj7", "x32000")
	assert.Empty(t, v.Missing)
	assert.Equal(t, []theory.Degree{{Number: 3}}, v.Doubled)
	assert.Equal(t, []theory.Degree{{Number: 5}}, voicing(t, "C7", "x3231x").Missing)
}

// Source: the equal-tempered fret rule: the twelfth fret halves the string, and
// the first lies at 1 - 2^(-1/12) of it, 36.37 mm on 648.
func TestFretDistances(t *testing.T) {
	ins, _ := fretboard.ByID("guitar")
	assert.InDelta(t, ins.ScaleMM/2, ins.FretMM(12), 1e-9)
	assert.InDelta(t, 36.37, ins.FretMM(1), 0.01)
}

// Source: common practice: Am and C keep two fingers; D to A7 none.
func TestChanges(t *testing.T) {
	ins, _ := fretboard.ByID("guitar")
	amC := fretboard.ChangeBetween(ins, voicing(t, "Am", "x02210"), voicing(t, "C", "x32010"))
	assert.Equal(t, []int8{1, 2}, amC.Kept)
	assert.Equal(t, []int8{3}, amC.Moved)
	barre := fretboard.ChangeBetween(ins, voicing(t, "C", "x32010"), voicing(t, "F", "133211"))
	assert.Greater(t, barre.Effort, amC.Effort)
	assert.Greater(t, barre.Seconds, amC.Seconds)
	none := fretboard.ChangeBetween(ins, voicing(t, "C", "x32010"), voicing(t, "C", "x32010"))
	assert.Zero(t, none.Effort)
	assert.Zero(t, none.Seconds)
	assert.Equal(t, []int8{1, 2, 3}, none.Kept)
}

// Source: common practice: a triad for a seventh, a small F for the barre.
func TestStandIns(t *testing.T) {
	ins, _ := fretboard.ByID("guitar")
	gives := map[string]string{}
	for _, s := range fretboard.StandIns(ins, theory.MustChord("B7"), voicing(t, "B7", "x21202")) {
		gives[s.Chord.String()] = s.GivesUp
		assert.Less(t, s.Voicing.Hold, voicing(t, "B7", "x21202").Hold)
	}
	assert.Contains(t, gives, "B7", "the chord itself in a smaller shape; its power chord is no easier to hold")
	small := fretboard.StandIns(ins, theory.MustChord("F"), voicing(t, "F", "133211"))
	require.NotEmpty(t, small)
	found := false
	for _, s := range small {
		found = found || s.Voicing.String() == "xx3211" && s.GivesUp == "2 strings"
	}
	assert.True(t, found, "%v", small)
}

// What must hold for every shape that the search finds, on any tuning.
func TestEveryFoundShapeCanBeHeld(t *testing.T) {
	suffixes := []string{"", "m", "7", "maj7", "m7", "dim7", "m7b5", "sus4", "6", "9", "11", "13", "7b9", "add9", "5", "aug"}
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(3, fretboard.MaxStrings).Draw(t, "strings")
		var tuning []theory.Pitch
		for range n {
			midi := rapid.IntRange(38, 70).Draw(t, "open")
			tuning = append(tuning, theory.PlainPitch(midi))
		}
		ins := fretboard.Custom(tuning)
		c := theory.MustChord(theory.PlainNote(rapid.IntRange(0, 11).Draw(t, "root")).String() + rapid.SampledFrom(suffixes).Draw(t, "suffix"))
		last := 0.0
		for _, v := range fretboard.Find(ins, c, 6) {
			if v.Effort < last {
				t.Fatalf("%s: %s comes after a harder shape", c, v.Shape)
			}
			last = v.Effort
			if v.Fingering.Count() > 4 {
				t.Fatalf("%s needs more than four fingers", v.Shape)
			}
			for s := fretboard.String(1); int(s) <= n; s++ {
				if v.At(s) > 0 && v.Fingering.At(s) == 0 {
					t.Fatalf("%s: no finger on string %d", v.Shape, s)
				}
				if v.Sounds(s) && !holds(c, v.Pitch(ins, c, s).Class()) {
					t.Fatalf("%s: string %d of %s is not in the chord", c, s, v.Shape)
				}
			}
			if !v.Sounds(v.Root) && ins.Family != fretboard.Ukulele {
				t.Fatalf("%s: the root string %d is silent", v.Shape, v.Root)
			}
		}
	})
}

func holds(c theory.Chord, class int) bool {
	for _, d := range append(c.Degrees(), c.LeftOut()...) {
		if c.Root.Above(d).Class() == class {
			return true
		}
	}
	return false
}

func TestOwnTunings(t *testing.T) {
	ins, err := fretboard.ByID("tuning:C2-G2-D3-G3-B3-D4")
	require.NoError(t, err)
	assert.Equal(t, "tuning:C2-G2-D3-G3-B3-D4", ins.ID)
	assert.Equal(t, fretboard.Guitar, ins.Family)
	known, err := fretboard.ByID("tuning:G4-C4-E4-A4")
	require.NoError(t, err)
	assert.Equal(t, "ukulele", known.ID, "a known tuning is the known instrument")
	_, err = fretboard.ByID("tuning:C2-H2-D3")
	assert.EqualError(t, err, `tuning, string 2 from the left: "H2" is not a pitch such as E2 or Bb3`)
}

func TestShapesAreReadAndPrinted(t *testing.T) {
	for in, want := range map[string]string{"x32010": "x32010", "X-3-2-0-1-0": "x32010", "x,10,12,12,10,x": "x-10-12-12-10-x"} {
		sh, err := fretboard.ParseShape(in)
		require.NoError(t, err)
		assert.Equal(t, want, sh.String())
	}
	for in, want := range map[string]string{
		"x3q010": `shape "x3q010", string 3 from the left: "q" is not a fret from 0 to 24 or x`,
		"xxxxxx": `shape "xxxxxx": a shape needs a string that sounds`,
		"12":     `shape "12": a shape has 3 to 10 strings, not 2`,
	} {
		_, err := fretboard.ParseShape(in)
		assert.EqualError(t, err, want)
	}
}
