package bind_test

import (
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
	"arplin/core/theory"
)

// A lean shape sounds the same on every string that the pattern strikes, and
// presses none that the whole shape does not.
func TestLeanShapesSoundTheSame(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := rapid.SampledFrom(catalogue.All).Draw(t, "entry").Pattern
		ins := rapid.SampledFrom(fretboard.Instruments).Draw(t, "instrument")
		c := theory.MustChord(rapid.SampledFrom([]string{"C", "G", "D", "F", "Am", "G7", "Bm"}).Draw(t, "chord"))
		v, ok := fretboard.Easiest(ins, c)
		if !ok {
			return
		}
		events := bind.Pattern(ins, bind.DefaultSchool, p, c, v.Shape).Events
		lean := bind.Lean(events, v.Shape)
		for _, e := range events {
			for i, s := range e.Strings {
				if v.At(s) == e.Frets[i] && lean.At(s) != v.At(s) { // a low fifth has a fret of its own
					t.Fatalf("%s on %s: string %d is %v in the lean shape %s of %s", p, c, s, lean.At(s), lean, v.Shape)
				}
			}
		}
		for s := fretboard.String(1); int(s) <= ins.Strings(); s++ {
			if lean.At(s) > 0 && v.At(s) != lean.At(s) {
				t.Fatalf("%s presses string %d, %s does not", lean, s, v.Shape)
			}
		}
		if again := bind.Lean(events, lean); again != lean {
			t.Fatalf("%s leaner is %s", lean, again)
		}
	})
}

// Common practice: put the finger on the bass string down first; what is plucked
// last may come last. A strum needs all fingers at once.
func TestLateFingers(t *testing.T) {
	ins, _ := fretboard.ByID("guitar")
	late := func(notation, chord, frets string) (bind.Late, bool) {
		c := theory.MustChord(chord)
		v := fretboard.Read(ins, c, fretboard.MustShape(frets))
		p := pattern.MustParse(notation)
		return bind.LateFinger(p, bind.Pattern(ins, bind.DefaultSchool, p, c, v.Shape).Events, v, bind.Stay{To: p.Meter.BarTicks()})
	}
	got, ok := late("4/4: p . i . m . a .", "C", "x32010")
	require.True(t, ok)
	assert.Equal(t, bind.Late{Finger: 1, String: 2, Slot: 4}, got, "the index on string 2, by beat three")
	_, ok = late("4/4: D . D . D . D .", "C", "x32010")
	assert.False(t, ok)
	_, ok = late("4/4: p . . . . . . .", "Em", "000000")
	assert.False(t, ok, "nothing is pressed")
}

// A chord of half a bar has no finger that comes when the chord is gone; where it comes on the third
// beat, its fingers have until their own stroke after it. Common practice.
func TestLateFingersOfHalfABar(t *testing.T) {
	ins, _ := fretboard.ByID("guitar")
	c := theory.MustChord("C")
	v := fretboard.Read(ins, c, fretboard.MustShape("x32010"))
	p := pattern.MustParse("4/4: p . i . m . a .")
	events := bind.Pattern(ins, bind.DefaultSchool, p, c, v.Shape).Events
	half := p.Meter.BarTicks() / 2
	_, ok := bind.LateFinger(p, events, v, bind.Stay{To: half})
	assert.False(t, ok, "the open string comes second")
	_, ok = bind.LateFinger(p, events, v, bind.Stay{From: half, To: 2 * half})
	assert.False(t, ok, "the index is needed at once")
	p = pattern.MustParse("4/4: p . m . p . m .")
	events = bind.Pattern(ins, bind.DefaultSchool, p, c, v.Shape).Events
	got, ok := bind.LateFinger(p, events, v, bind.Stay{From: half, To: 2 * half})
	require.True(t, ok)
	assert.Equal(t, bind.Late{Finger: 1, String: 2, Slot: 6}, got)
}

// The shapes that are left, as they are taught; see the table. The fingers that stay are those of the
// whole shape.
func TestNeededFingers(t *testing.T) {
	text, err := os.ReadFile("testdata/needed.txt")
	require.NoError(t, err)
	ins, _ := fretboard.ByID("guitar")
	for line := range strings.Lines(string(text)) {
		if strings.HasPrefix(line, "#") {
			continue
		}
		figure, rest, _ := strings.Cut(line, "|")
		p := pattern.MustParse(strings.TrimSpace(figure))
		for _, row := range strings.Split(rest, "|") {
			f := strings.Fields(row)
			require.Len(t, f, 3, line)
			c := theory.MustChord(f[0])
			whole := fretboard.Read(ins, c, fretboard.MustShape(f[1]))
			needed := bind.Needed(ins, bind.DefaultSchool, c, whole, p)
			assert.Equal(t, f[2], needed.Shape.String(), "%s under %s", f[0], p)
			for s := fretboard.String(1); s <= 6; s++ {
				if needed.At(s) > 0 {
					assert.Equal(t, whole.Fingering.At(s), needed.Fingering.At(s), "%s, string %d", f[0], s)
				}
			}
		}
	}
}
