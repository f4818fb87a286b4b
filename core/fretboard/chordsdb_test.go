package fretboard_test

import (
	"fmt"
	"hash/fnv"
	"os"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/fretboard"
	"arplin/core/theory"
)

// dbShape is a line of the data set.
type dbShape struct {
	instrument, symbol string
	shape              fretboard.Shape
	fingers            []int8
}

// suffixes of the data set that are written otherwise here.
var dbSuffix = map[string]string{
	"major": "", "minor": "m", "mmaj7": "m(maj7)", "mmaj9": "m(maj9)", "mmaj11": "m(maj11)", "mmaj7b5": "dim(maj7)",
	"aug9": "9#5", "alt": "(b5)", "69": "6/9", "m69": "m6/9", "b13b9": "7b9b13", "b13#9": "7#9b13",
}

func readChordsDB(t *testing.T) []dbShape {
	t.Helper()
	data, err := os.ReadFile("testdata/chords-db.tsv")
	require.NoError(t, err)
	var list []dbShape
	for line := range strings.Lines(string(data)) {
		f := strings.Split(strings.TrimSpace(line), "\t")
		require.Len(t, f, 5)
		suffix, ok := dbSuffix[f[2]]
		if !ok {
			suffix = f[2]
		}
		s := dbShape{instrument: f[0], symbol: f[1] + suffix}
		var frets []fretboard.Fret
		for _, x := range strings.Split(f[3], ",") {
			n, err := strconv.Atoi(x)
			require.NoError(t, err)
			frets = append(frets, fretboard.Fret(n))
		}
		s.shape, err = fretboard.NewShape(frets...)
		require.NoError(t, err)
		for _, x := range strings.Split(f[4], ",") {
			n, err := strconv.Atoi(x)
			require.NoError(t, err)
			s.fingers = append(s.fingers, int8(n))
		}
		list = append(list, s)
	}
	return list
}

// tuned puts two thirds of the chords, whole chords, on the side that the
// search and the fingering were tuned on.
func (s dbShape) tuned() bool {
	h := fnv.New32a()
	h.Write([]byte(s.instrument + s.symbol))
	return h.Sum32()%3 != 0
}

// foreign reports a sounding note that is not in the chord.
func (s dbShape) foreign(ins fretboard.Instrument, c theory.Chord) bool {
	for str := fretboard.String(1); int(str) <= ins.Strings(); str++ {
		if !s.shape.Sounds(str) {
			continue
		}
		class := s.shape.Pitch(ins, c, str).Class()
		in := c.Bass.Class() == class
		for _, d := range c.LeftOut() {
			in = in || c.Root.Above(d).Class() == class
		}
		for _, n := range c.Notes() {
			in = in || n.Class() == class
		}
		if !in {
			return true
		}
	}
	return false
}

// share counts one side of the data set.
type share struct {
	shapes, found, fingers int
	missed                 map[string]int // by reason
}

func (s share) String() string {
	return fmt.Sprintf("%d shapes: %.1f %% found, fingers agree for %.1f %% of those; the rest: %v",
		s.shapes, 100*s.foundShare(), 100*s.fingerShare(), s.missed)
}

func (s share) foundShare() float64  { return float64(s.found) / float64(s.shapes) }
func (s share) fingerShare() float64 { return float64(s.fingers) / float64(s.found) }

// Source: the open data set chords-db 0.5 from the npm registry
// (e2e/reference.mjs). Two thirds of its chords were looked at while search and
// fingering were written, one third was not. docs/shapes.md has the numbers.
func TestShapesOfTheOpenDataSet(t *testing.T) {
	if testing.Short() {
		t.Skip("in make test")
	}
	tuned, held := share{missed: map[string]int{}}, share{missed: map[string]int{}}
	found := map[string]map[fretboard.Shape]bool{}
	for _, s := range readChordsDB(t) {
		side := &held
		if s.tuned() {
			side = &tuned
		}
		side.shapes++
		c, err := theory.ParseChord(s.symbol)
		if err != nil {
			side.missed["symbol not known"]++
			continue
		}
		ins, err := fretboard.ByID(s.instrument)
		require.NoError(t, err)
		key := s.instrument + s.symbol
		if found[key] == nil {
			found[key] = map[fretboard.Shape]bool{}
			for _, v := range fretboard.Find(ins, c, 10_000) {
				found[key][v.Shape] = true
			}
		}
		if !found[key][s.shape] {
			side.missed[whyMissed(ins, c, s)]++
			continue
		}
		side.found++
		if f, _ := fretboard.Finger(s.shape); slices.Equal(s.fingers, f.List()) {
			side.fingers++
		}
	}
	t.Logf("tuned on:     %s", tuned)
	t.Logf("not tuned on: %s", held)
	for _, side := range []share{tuned, held} {
		assert.GreaterOrEqual(t, side.foundShare(), 0.95)
		assert.GreaterOrEqual(t, side.fingerShare(), 0.85)
	}
}

func whyMissed(ins fretboard.Instrument, c theory.Chord, s dbShape) string {
	_, playable := fretboard.Finger(s.shape)
	low, _ := s.shape.Span()
	switch {
	case s.foreign(ins, c):
		return "holds a note outside the chord"
	case !playable:
		return "needs a barre by a finger over another"
	case low > 12:
		return "above the twelfth fret"
	case len(fretboard.Read(ins, c, s.shape).Missing) > 0:
		return "leaves out what makes the chord"
	}
	return "two silent strings between sounding ones"
}

// First shapes that the data set has not at all are in a list, so that each was
// looked at by somebody, and a new one is seen: docs/shapes.md says how to read it.
// ARPLIN_WRITE_SHAPES=1 writes the list anew.
func TestFirstShapesThatTheDataSetHasNot(t *testing.T) {
	const list = "testdata/not_in_the_set.tsv"
	known := map[string]map[fretboard.Shape]bool{}
	var order []dbShape
	for _, s := range readChordsDB(t) {
		key := s.instrument + "\t" + s.symbol
		if known[key] == nil {
			known[key], order = map[fretboard.Shape]bool{}, append(order, s)
		}
		known[key][s.shape] = true
	}
	var now strings.Builder
	for _, s := range order {
		ins, err := fretboard.ByID(s.instrument)
		require.NoError(t, err)
		c, err := theory.ParseChord(s.symbol)
		if err != nil {
			continue
		}
		key := s.instrument + "\t" + s.symbol
		if v, ok := fretboard.Easiest(ins, c); ok && !known[key][v.Shape] {
			fmt.Fprintf(&now, "%s\t%s\n", key, v)
		}
	}
	if os.Getenv("ARPLIN_WRITE_SHAPES") != "" {
		require.NoError(t, os.WriteFile(list, []byte(now.String()), 0o644))
	}
	looked, err := os.ReadFile(list)
	require.NoError(t, err)
	assert.Equal(t, strings.Split(string(looked), "\n"), strings.Split(now.String(), "\n"))
}
