package difficulty_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"arplin/core/difficulty"
	"arplin/core/pattern/catalogue"
)

// What may never lower the level, first by example, then over random figures of
// one to three bars on random songs, in every class's weights.

func TestWhatMayNeverLowerTheLevel(t *testing.T) {
	for _, c := range []struct{ what, pattern, chords, harder, more string }{
		{"an accent off the beat", "4/4: D U D U D U D U", "C", "4/4: D U! D U D U D U", "C"},
		{"a skip for the thumb", "4/4: p . p . p . p .", "Em", "4/4: p . p' . p . p .", "Em"},
		{"a finger stroke between thumb strokes", "4/4: p i p . p i p i", "C", "4/4: p i p i p i p i", "C"},
		{"a chord", "4/4: D . D . D . D .", "C | C", "4/4: D . D . D . D .", "C | Am"},
		{"a more frequent change", "4/4: p i m a p i m a", "C | Am", "4/4: p i m a p i m a", "C Am | C Am"},
	} {
		assert.GreaterOrEqual(t, level(t, c.harder, c.more, 80), level(t, c.pattern, c.chords, 80), c.what)
	}
}

// figures are bars of text slots, with and without a thumb, strums and swing.
func figures(rt *rapid.T) (bars [][]string, prefix string) {
	strums := rapid.Bool().Draw(rt, "strums")
	on := []string{"p", "p'", "p,", "p+m", "p'+i", "p!", ".", "i", "i+m"}
	off := []string{".", ".", ".", "i", "m", "a", "p", "i+m", "m!"}
	if strums {
		on = []string{"D", "D!", "D", ".", "p", "p'", "Dt", "Dx", "D5", "="}
		off = []string{".", "U", "U!", "Ut", "D", ".", "U2"}
	}
	for range rapid.IntRange(1, 3).Draw(rt, "bars") {
		bar := make([]string, 8)
		for i := range bar {
			bar[i] = rapid.SampledFrom([][]string{on, off}[i%2]).Draw(rt, "slot")
		}
		bars = append(bars, bar)
	}
	return bars, rapid.SampledFrom([]string{"4/4: ", "4/4 swing: "}).Draw(rt, "feel")
}

func written(prefix string, bars [][]string) string {
	var texts []string
	for _, bar := range bars {
		texts = append(texts, strings.Join(bar, " "))
	}
	return prefix + strings.Join(texts, " | ")
}

// weighed are the fitted weights, or those of a class that weighs parts its own way.
func weighed(rt *rapid.T) difficulty.Weights {
	by := map[difficulty.PartID]float64{}
	for _, p := range difficulty.Definitions() {
		by[p.ID] = rapid.SampledFrom([]float64{1, 1, 1, 0, 0.5, 2}).Draw(rt, string(p.ID))
	}
	return difficulty.Fitted.Scaled(by)
}

func songsOf(rt *rapid.T) string {
	all := []string{"C", "Am", "F", "G", "G7", "Dm", "Em", "D", "A", "E7", "Bm", "D7/F#"}
	var bars []string
	for range rapid.IntRange(1, 4).Draw(rt, "song") {
		bar := rapid.SampledFrom(all).Draw(rt, "chord")
		if rapid.IntRange(0, 3).Draw(rt, "two") == 0 {
			bar += " " + rapid.SampledFrom(all).Draw(rt, "second")
		}
		bars = append(bars, bar)
	}
	return strings.Join(bars, " | ")
}

func TestAFigureWithMoreIsNeverEasier(t *testing.T) {
	thumb := func(slot string) bool { return strings.HasPrefix(slot, "p") }
	strum := func(slot string) bool { return strings.ContainsAny(slot, "DU") }
	asItIs := func(slot string) string { return slot }
	for _, c := range []struct {
		what  string
		plain func(slot string) string // what the figure is before
		add   func(rt *rapid.T, bar []string, i int) bool
	}{
		{"a finger stroke between thumb strokes", asItIs, func(rt *rapid.T, bar []string, i int) bool {
			if bar[i] != "." || !slices.ContainsFunc(bar[:i], thumb) || !slices.ContainsFunc(bar[i:], thumb) || slices.ContainsFunc(bar, strum) {
				return false
			}
			bar[i] = rapid.SampledFrom([]string{"i", "m", "a"}).Draw(rt, "finger")
			return true
		}},
		{"an accent off the beat", asItIs, func(_ *rapid.T, bar []string, i int) bool {
			if i%2 == 0 || bar[i] == "." || strings.ContainsAny(bar[i], "!+") {
				return false
			}
			bar[i] += "!"
			return true
		}},
		{"a skip for the thumb", strings.NewReplacer("p'", "p", "p,", "p").Replace, func(_ *rapid.T, bar []string, i int) bool {
			if !thumb(bar[i]) {
				return false
			}
			bar[i] = "p'" + bar[i][1:]
			return true
		}},
	} {
		t.Run(c.what, func(t *testing.T) {
			rapid.Check(t, func(rt *rapid.T) {
				bars, prefix := figures(rt)
				chords, w := songsOf(rt), weighed(rt)
				for _, bar := range bars {
					for i := range bar {
						bar[i] = c.plain(bar[i])
					}
				}
				before := written(prefix, bars)
				if !atRandom(rt, bars, func(bar []string, i int) bool { return c.add(rt, bar, i) }) {
					return
				}
				after := written(prefix, bars)
				if was, is := difficulty.Of(task(t, before, chords, 80), w).Level, difficulty.Of(task(t, after, chords, 80), w).Level; is < was-1e-12 {
					rt.Fatalf("on %s %s at %.4f is easier than %s at %.4f", chords, after, is, before, was)
				}
			})
		})
	}
}

// atRandom makes a change at one of the places where it can be made.
func atRandom(rt *rapid.T, bars [][]string, change func(bar []string, i int) bool) bool {
	type place struct{ bar, slot int }
	var places []place
	for b := range bars {
		for i := range bars[b] {
			places = append(places, place{b, i})
		}
	}
	for _, p := range rapid.Permutation(places).Draw(rt, "places") {
		if change(bars[p.bar], p.slot) {
			return true
		}
	}
	return false
}

func TestFasterIsNeverEasier(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		bars, prefix := figures(rt)
		p, chords, w := written(prefix, bars), songsOf(rt), weighed(rt)
		tempo := rapid.IntRange(40, 160).Draw(rt, "tempo")
		if was, is := difficulty.Of(task(t, p, chords, tempo), w).Level, difficulty.Of(task(t, p, chords, tempo+7), w).Level; is < was-1e-12 {
			rt.Fatalf("%s on %s is easier at %d (%.4f) than at %d (%.4f)", p, chords, tempo+7, is, tempo, was)
		}
	})
}

// The same chords, each for four bars, two, one, half of one; each is struck.
func TestMoreFrequentChangesAreNeverEasier(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		bars, prefix := figures(rt)
		for _, half := range []int{0, 4} {
			if strings.ContainsAny(bars[0][half], ".=") {
				bars[0][half] = rapid.SampledFrom([]string{"p", "D"}).Draw(rt, "struck")
			}
		}
		p, w := written(prefix, bars[:1]), weighed(rt)
		order := rapid.Permutation([]string{"C", "Am", "F", "G", "D", "Em", "E7", "Bm"}).Draw(rt, "chords")
		a, b := order[0], order[1]
		last, slower := 0.0, ""
		for _, chords := range []string{
			strings.Join([]string{a, a, a, a, b, b, b, b}, " | "), strings.Join([]string{a, a, b, b}, " | "), a + " | " + b, a + " " + b,
		} {
			level := difficulty.Of(task(t, p, chords, 80), w).Level
			if level < last-1e-12 {
				rt.Fatalf("%s on %s at %.4f is easier than on %s at %.4f", p, chords, level, slower, last)
			}
			last, slower = level, chords
		}
	})
}

// A further chord never makes a song easier, whether it comes in the place of
// one that was held on, in half of its bar, or in bars of its own.
func TestAFurtherChordIsNeverEasier(t *testing.T) {
	all := []string{"C", "Am", "F", "G", "G7", "Dm", "Em", "D", "A", "E7", "Bm", "D7"}
	rapid.Check(t, func(rt *rapid.T) {
		p := rapid.SampledFrom(catalogue.All).Draw(rt, "entry").Pattern
		order := rapid.Permutation(all).Draw(rt, "chords")
		fresh, known := order[0], order[1:rapid.IntRange(2, 4).Draw(rt, "known")]
		var before, after []string
		used := false
		for range rapid.IntRange(1, 6).Draw(rt, "bars") {
			c := rapid.SampledFrom(known).Draw(rt, "chord")
			switch rapid.SampledFrom([]string{"as it is", "half a bar", "held on", "own bar"}).Draw(rt, "how") {
			case "half a bar":
				before, after = append(before, c), append(after, c+" "+fresh)
				used = true
			case "held on": // two bars of one chord, the second taken by the fresh one
				before, after = append(before, c, c), append(after, c, fresh)
				used = true
			default:
				before, after = append(before, c), append(after, c)
			}
		}
		if !used { // bars of its own, at the end
			after = append(after, fresh, fresh)
		}
		of := func(bars []string) float64 {
			return difficulty.Of(task(t, p.String(), strings.Join(bars, " | "), 80), difficulty.Fitted).Level
		}
		if was, is := of(before), of(after); is < was-1e-12 {
			rt.Fatalf("%s: %v at %.4f is easier than %v at %.4f", p, after, is, before, was)
		}
	})
}
