package bind_test

import (
	"strings"
	"testing"

	"pgregory.net/rapid"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
	"arplin/core/theory"
)

// randomPattern draws a pattern by its text, so that everything that the
// notation can say turns up.
func randomPattern(t *rapid.T) pattern.Pattern {
	m := rapid.SampledFrom(pattern.Meters).Draw(t, "meter")
	grid := rapid.SampledFrom(m.Grids()).Draw(t, "grid")
	stroke := rapid.SampledFrom([]string{
		"p", "p'", "p,", "p5", "p6", "i", "m", "a", "c", "in", "mo", "i3", "a1", "D", "U", "Db", "Ut", "Dr", "D'", "U,", "D6", "D654", "N", "N321", "X", "~", "d", "u",
	})
	var bars []string
	for range rapid.IntRange(1, 3).Draw(t, "bars") {
		var slots []string
		for range grid {
			var parts []string
			for range rapid.IntRange(0, 3).Draw(t, "strokes") {
				parts = append(parts, stroke.Draw(t, "stroke"))
			}
			slots = append(slots, slotText(parts))
		}
		bars = append(bars, strings.Join(slots, " "))
	}
	p, err := pattern.Parse(m.String() + ": " + strings.Join(bars, " | "))
	if err != nil {
		t.Fatalf("%v", err)
	}
	return p
}

// slotText leaves out what may not stand together.
func slotText(parts []string) string {
	seen, strums := map[byte]bool{}, 0
	var keep []string
	for _, s := range parts {
		strum := strings.IndexByte("DUNdu", s[0]) >= 0
		if seen[s[0]] || strum && strums > 0 {
			continue
		}
		seen[s[0]] = true
		if strum {
			strums++
		}
		keep = append(keep, s)
	}
	if len(keep) == 0 {
		return "."
	}
	return strings.Join(keep, "+")
}

// What must hold for every pattern on every shape of every instrument.
func TestEveryBinding(t *testing.T) {
	chords := []string{"C", "G", "D", "Em", "Am", "F", "B7", "Cmaj7", "Bm7b5", "D/F#", "Esus4", "G13", "Caug"}
	rapid.Check(t, func(t *rapid.T) {
		p := randomPattern(t)
		if rapid.Bool().Draw(t, "from the catalogue") {
			p = rapid.SampledFrom(catalogue.All).Draw(t, "entry").Pattern
		}
		if again, err := pattern.Parse(p.String()); err != nil || !again.Equal(p) {
			t.Fatalf("%s is not read as it is printed: %v", p, err)
		}
		ins := rapid.SampledFrom(fretboard.Instruments).Draw(t, "instrument")
		c := theory.MustChord(rapid.SampledFrom(chords).Draw(t, "chord"))
		shapes := fretboard.Find(ins, c, 5)
		if len(shapes) == 0 {
			return
		}
		sh := rapid.SampledFrom(shapes).Draw(t, "shape").Shape
		school := bind.School{
			Fingers:  rapid.SampledFrom([]bind.FingerSchool{bind.Moving, bind.Fixed}).Draw(t, "school"),
			LowFifth: rapid.Bool().Draw(t, "low fifth"), Pick: rapid.Bool().Draw(t, "pick"),
		}
		checkBinding(t, p, ins, c, sh, school)
	})
}

func checkBinding(t *rapid.T, p pattern.Pattern, ins fretboard.Instrument, c theory.Chord, sh fretboard.Shape, school bind.School) {
	r := bind.Pattern(ins, school, p, c, sh)
	used := map[[3]int]bool{}
	for _, e := range r.Events {
		if e.Tick < 0 || e.Tick >= p.Meter.BarTicks() || e.Bar >= len(p.Bars) || e.Slot >= p.Grid() {
			t.Fatalf("%s on %s: a stroke outside the bar: %+v", p, sh, e)
		}
		for i, s := range e.Strings {
			lowFifth := e.Stroke.Target.Kind == pattern.LowFifth
			if !sh.Sounds(s) && !lowFifth || !lowFifth && sh.At(s) != e.Frets[i] {
				t.Fatalf("%s on %s: string %d does not sound at fret %d", p, sh, s, e.Frets[i])
			}
			place := [3]int{e.Bar, e.Slot, int(s)}
			if used[place] {
				t.Fatalf("%s on %s: two strokes of bar %d, slot %d on string %d", p, sh, e.Bar+1, e.Slot+1, s)
			}
			used[place] = true
		}
	}
	left := 0
	for _, n := range r.Notices {
		if strings.Contains(n.Text, "left out") {
			left++
		}
	}
	if len(r.Events)+left != p.Count() {
		t.Fatalf("%s on %s: %d strokes became %d events and %d notices of loss", p, sh, p.Count(), len(r.Events), left)
	}
}
