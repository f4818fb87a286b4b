package bind_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
	"arplin/core/played"
	"arplin/core/theory"
)

// struckOf is what tablature of a figure would show.
func struckOf(p pattern.Pattern, events []played.Event) (bars [][]bind.Struck) {
	for range p.Bars {
		bars = append(bars, make([]bind.Struck, p.Grid()))
	}
	for _, e := range events {
		at := &bars[e.Bar][e.Slot]
		at.Strings = append(at.Strings, e.Strings...)
		if e.Kind == played.Strum || e.Kind == played.Brush {
			at.Direction = e.Direction
		}
	}
	return bars
}

// Whatever figure of the catalogue lies on whatever chord: what is read from its strings sounds on
// the same strings again.
func TestUnboundSoundsTheSame(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		e := rapid.SampledFrom(catalogue.All).Draw(rt, "pattern")
		ins, err := fretboard.ByID(rapid.SampledFrom([]string{"guitar", "ukulele", "ukulele-low-g", "baritone"}).Draw(rt, "instrument"))
		require.NoError(rt, err)
		school := bind.School{Fingers: rapid.SampledFrom([]bind.FingerSchool{bind.Moving, bind.Fixed}).Draw(rt, "fingers"), LowFifth: rapid.Bool().Draw(rt, "low fifth")}
		c := theory.MustChord(rapid.SampledFrom([]string{"C", "Am", "G", "D", "E7", "F", "Dm", "A"}).Draw(rt, "chord"))
		v, ok := fretboard.Easiest(ins, c)
		require.True(rt, ok)
		events := bind.Pattern(ins, school, e.Pattern, c, v.Shape).Events
		sh := v.Shape
		for _, ev := range events { // tablature shows the string of a low fifth, which the shape leaves out
			for k, s := range ev.Strings {
				sh = sh.With(s, ev.Frets[k])
			}
		}
		want := struckOf(e.Pattern, events)
		p := bind.Unbind(ins, school, e.Pattern.Meter, want, c, sh)
		got := struckOf(p, bind.Pattern(ins, school, p, c, sh).Events)
		for b := range want {
			for i := range want[b] {
				x, y := slices.Clone(want[b][i].Strings), slices.Clone(got[b][i].Strings)
				slices.Sort(x)
				slices.Sort(y)
				assert.Equal(rt, slices.Compact(x), slices.Compact(y), "%s on %s: read as %s, bar %d slot %d", e.Pattern, c, p, b, i)
			}
		}
	})
}

// Figures are read as a teacher would write them: no numbers where the school says the string, the
// thumb in turns, a strum where the hand goes over the strings. Source: common practice.
func TestReadAsATeacherWould(t *testing.T) {
	guitar, err := fretboard.ByID("guitar")
	require.NoError(t, err)
	ukulele, err := fretboard.ByID("ukulele")
	require.NoError(t, err)
	for _, x := range []struct {
		ins          fretboard.Instrument
		school       bind.School
		chord, frets string
		notation     string
	}{
		{guitar, bind.DefaultSchool, "C", "x32010", "4/4: p . p'+m . p i p' ."},
		{guitar, bind.DefaultSchool, "G", "320003", "4/4: p p' p p'"},
		{guitar, bind.School{Fingers: bind.Fixed}, "Am", "x02210", "4/4: p i m a m i . ."},
		{guitar, bind.DefaultSchool, "E", "022100", "4/4: p D p' U"},
		{ukulele, bind.DefaultSchool, "C", "0003", "4/4: p i m i p i m i"},
		{ukulele, bind.DefaultSchool, "C", "0003", "3/4: p . i . p' . i . p . i ."},
		{ukulele, bind.DefaultSchool, "C", "0003", "4/4: D . D U . U D U"},
	} {
		sh, err := fretboard.ParseShape(x.frets)
		require.NoError(t, err)
		c, p := theory.MustChord(x.chord), pattern.MustParse(x.notation)
		got := bind.Unbind(x.ins, x.school, p.Meter, struckOf(p, bind.Pattern(x.ins, x.school, p, c, sh).Events), c, sh)
		assert.Equal(t, p.String(), got.String(), "%s on %s", x.notation, x.chord)
	}
	assert.Equal(t, "4/4: . . . .", bind.Unbind(guitar, bind.DefaultSchool, pattern.Meter{Beats: 4, Unit: 4}, [][]bind.Struck{make([]bind.Struck, 4)}, theory.MustChord("C"), fretboard.Shape{}).String())
}

// Which hand a string is struck with, where only strings are known: the thumb has the thick ones, the
// root, and on a beat the string that answers it; four at once are a strum. Source: common practice.
func TestWhoStrikesAString(t *testing.T) {
	for _, c := range []struct {
		ins, chord, frets string
		slots             [][]fretboard.String // of a bar of eighths
		want              string               // the strokes of each, thumb first
	}{
		{"guitar", "C", "x32010", [][]fretboard.String{{5}, {3}, {4}, {2}}, "p i p m"},
		{"guitar", "C", "x32010", [][]fretboard.String{{6}, {3}, {5, 1}, {2}}, "p i pa m"},
		{"guitar", "C", "x32010", [][]fretboard.String{{5}, {4}, {3}, {2}}, "p p i m"}, // a thick one is the thumb’s between the beats, too
		{"guitar", "D", "xx0232", [][]fretboard.String{{4}, {2}, {3}, {1}}, "p i p m"},
		{"guitar", "D", "xx0232", [][]fretboard.String{{4}, {3}, {3}, {1}}, "p i i m"}, // struck between the beats, too: a finger's
		{"guitar", "G", "320003", [][]fretboard.String{{4, 3, 2, 1}, {3}, {3, 2, 1}, {2}}, "D i ima m"},
		{"ukulele", "C", "0003", [][]fretboard.String{{4}, {2}, {3}, {1}}, "p i p m"},
		{"ukulele", "C", "0003", [][]fretboard.String{{4}, {3}, {3}, {2}}, "p i i m"},
		{"ukulele", "C", "0003", [][]fretboard.String{{4, 3}, {2}, {4}, {1}}, "pi m p a"},
		{"baritone", "G", "0003", [][]fretboard.String{{4}, {2}, {3}, {1}}, "p i p m"},
		{"baritone", "G", "0003", [][]fretboard.String{{3}, {3}, {4}, {1}}, "p p p i"},
	} {
		ins, err := fretboard.ByID(c.ins)
		require.NoError(t, err)
		sh, err := fretboard.ParseShape(c.frets)
		require.NoError(t, err)
		bar := make([]bind.Struck, 8)
		for i, strings := range c.slots {
			bar[i].Strings = strings
		}
		p := bind.Unbind(ins, bind.DefaultSchool, pattern.Meter{Beats: 4, Unit: 4}, [][]bind.Struck{bar}, theory.MustChord(c.chord), sh)
		var got []string
		for _, slot := range p.Bars[0][:len(c.slots)] {
			signs := ""
			for _, st := range slot.Strokes {
				signs += string(rune(st.Sign))
			}
			got = append(got, signs)
		}
		assert.Equal(t, c.want, strings.Join(got, " "), "%s on %s: %v, read as %s", c.chord, c.ins, c.slots, p)
	}
}
