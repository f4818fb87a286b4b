package fretboard_test

import (
	"os"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"arplin/core/fretboard"
	"arplin/core/theory"
)

func shapeOn(t *testing.T, instrument, frets string) (fretboard.Instrument, fretboard.Voicing) {
	t.Helper()
	ins, err := fretboard.ByID(instrument)
	require.NoError(t, err)
	return ins, fretboard.Read(ins, theory.Chord{}, fretboard.MustShape(frets))
}

func uke(t *testing.T) fretboard.Instrument {
	t.Helper()
	ins, err := fretboard.ByID("ukulele")
	require.NoError(t, err)
	return ins
}

// Changes as they are taught: these fingers stay. Source: common practice.
func TestGuideFingersStay(t *testing.T) {
	text, err := os.ReadFile("testdata/guides.txt")
	require.NoError(t, err)
	n := 0
	for line := range strings.Lines(string(text)) {
		f := strings.Fields(line)
		if len(f) < 4 || f[0] == "#" {
			continue
		}
		n++
		ins, from := shapeOn(t, f[0], f[1])
		_, to := shapeOn(t, f[0], f[2])
		held := fretboard.Guide([]fretboard.Voicing{from, to}, []bool{false, false}, [][2]int{{0, 1}, {1, 0}})
		var stay []string
		seen := map[int8]bool{}
		for s := fretboard.String(ins.Strings()); s >= 1; s-- {
			for _, finger := range fretboard.ChangeBetween(ins, held[0], held[1]).Kept {
				if held[0].Fingering.At(s) == finger && !seen[finger] {
					seen[finger] = true
					stay = append(stay, strconv.Itoa(int(s)))
				}
			}
		}
		assert.Equal(t, f[3:], stay, "%s to %s: %s, %s", f[1], f[2], held[0].Fingering, held[1].Fingering)
	}
	assert.GreaterOrEqual(t, n, 40)
}

// Two fingers stay through G, Gmaj7 and G7, and one moves: common practice.
func TestGuideFingersThroughThreeChords(t *testing.T) {
	ins, g := shapeOn(t, "guitar", "320003")
	_, maj7 := shapeOn(t, "guitar", "320002")
	_, g7 := shapeOn(t, "guitar", "320001")
	changes := [][2]int{{0, 1}, {1, 2}, {2, 0}}
	held := fretboard.Guide([]fretboard.Voicing{g, maj7, g7}, make([]bool, 3), changes)
	for _, ch := range changes {
		c := fretboard.ChangeBetween(ins, held[ch[0]], held[ch[1]])
		assert.Equal(t, []int8{2, 3}, c.Kept, "%s to %s", held[ch[0]].Fingering, held[ch[1]].Fingering)
		assert.Len(t, c.Moved, 1)
	}
	fixed := fretboard.Guide([]fretboard.Voicing{g, maj7, g7}, []bool{true, true, true}, changes)
	assert.Equal(t, []fretboard.Voicing{g, maj7, g7}, fixed, "a teacher's fingers stay as they are")
	c, ok := fretboard.Easiest(uke(t), theory.MustChord("C"))
	require.True(t, ok)
	g0, ok := fretboard.Easiest(uke(t), theory.MustChord("G"))
	require.True(t, ok)
	assert.Equal(t, c.Fingering, fretboard.Guide([]fretboard.Voicing{c, g0}, []bool{false, false}, [][2]int{{0, 1}, {1, 0}})[0].Fingering, "a free finger is no guide: the C of a ukulele keeps its ring finger")
	alone := fretboard.Guide([]fretboard.Voicing{g}, []bool{false}, nil)
	assert.Equal(t, g, alone[0], "without neighbours the usual fingers")
}

// The same grip slid along the neck is one motion, and costs less than lifting its fingers.
func TestASlidGripIsOneMotion(t *testing.T) {
	ins, high := shapeOn(t, "guitar", "x7675x")
	_, low := shapeOn(t, "guitar", "x5453x")
	slide := fretboard.ChangeBetween(ins, high, low)
	assert.Less(t, slide.Effort, 4.0)
	_, other := shapeOn(t, "guitar", "x5355x")
	assert.Less(t, slide.Effort, fretboard.ChangeBetween(ins, high, other).Effort/2)
	assert.Less(t, slide.Seconds, fretboard.ChangeBetween(ins, high, other).Seconds)
	_, barre := shapeOn(t, "guitar", "133211")
	_, up := shapeOn(t, "guitar", "355433")
	assert.Less(t, fretboard.ChangeBetween(ins, barre, up).Effort, 4.0, "the barre lies as it lay")
	_, e := shapeOn(t, "guitar", "022100")
	_, f := shapeOn(t, "guitar", "033200")
	_, am := shapeOn(t, "guitar", "x02210")
	assert.Less(t, fretboard.ChangeBetween(ins, e, f).Effort, fretboard.ChangeBetween(ins, e, am).Effort, "over open strings, too")
}

// Whatever the shapes: fingers are chosen for the same shapes, one finger is on one fret, never
// fewer stay than with the usual fingers, and nothing gets easier to hold.
func TestGuideKeepsItsPromises(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		ins := rapid.SampledFrom(fretboard.Instruments).Draw(rt, "instrument")
		names := rapid.SliceOfNDistinct(rapid.SampledFrom([]string{"C", "F", "Bm", "B7", "Eb", "F#m", "Gm", "G", "Gmaj7", "G7", "D", "A", "Am", "E", "Dmaj7", "Em7", "Bb"}), 2, 5, rapid.ID[string]).Draw(rt, "chords")
		var list []fretboard.Voicing
		for _, n := range names {
			if v, ok := fretboard.Easiest(ins, theory.MustChord(n)); ok {
				list = append(list, v)
			}
		}
		var changes [][2]int
		for i := range list {
			changes = append(changes, [2]int{i, (i + 1) % len(list)})
		}
		held := fretboard.Guide(list, make([]bool, len(list)), changes)
		stay := func(list []fretboard.Voicing) (n int) {
			for _, ch := range changes {
				n += len(fretboard.ChangeBetween(ins, list[ch[0]], list[ch[1]]).Kept)
			}
			return n
		}
		if stay(held) < stay(list) {
			rt.Fatalf("%d fingers stay, with the usual %d", stay(held), stay(list))
		}
		for i, v := range held {
			if v.Shape != list[i].Shape || v.Hold < list[i].Hold {
				rt.Fatalf("%s at %.2f became %s at %.2f", list[i].Shape, list[i].Hold, v.Shape, v.Hold)
			}
			if _, err := fretboard.ParseGrip(v.Shape.String() + "/" + v.Fingering.String()); err != nil {
				rt.Fatalf("no hand holds it: %v", err)
			}
		}
	})
}
