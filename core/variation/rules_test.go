package variation_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
	"arplin/core/pattern/patterntest"
	"arplin/core/theory"
	"arplin/core/variation"
)

func pick(t *rapid.T) patterntest.Pick {
	return func(n int) int { return rapid.IntRange(0, n-1).Draw(t, "pick") }
}

func randomFigure(t *rapid.T) pattern.Pattern { return patterntest.AsWritten(pick(t)) }

// What must hold of every rule on every figure. Source: the promises of
// docs/difficulty.md, common practice.
func TestEveryRule(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := randomFigure(t)
		for _, r := range variation.Rules {
			for _, q := range r.Harder(p) {
				back := r.Simpler(q)
				if len(back) == 0 {
					back = r.Harder(q) // a rule that undoes itself
				}
				if !slices.ContainsFunc(back, p.Equal) {
					t.Fatalf("%q leads from %s to %s and not back", r.ID, p, q)
				}
				checkVariation(t, string(r.ID), p, q)
			}
			for _, q := range r.Simpler(p) {
				checkVariation(t, "without "+string(r.ID), p, q)
			}
		}
	})
}

func checkVariation(t *rapid.T, change string, p, q pattern.Pattern) {
	again, err := pattern.Parse(q.String())
	if err != nil || !again.Equal(q) {
		t.Fatalf("%s of %s is not read as it is printed, %s: %v", change, p, q, err)
	}
	if q.Equal(p) {
		t.Fatalf("%s changes nothing on %s", change, p)
	}
	// Together: the same bar lines in ticks, and every second slot in the same place.
	sameBars := p.Meter.BarTicks() == q.Meter.BarTicks() && p.Meter.BeatTicks() == q.Meter.BeatTicks()
	if variation.Together(p, q) != (sameBars && p.Swing == q.Swing) {
		t.Fatalf("%s: %s and %s: together is %v", change, p, q, variation.Together(p, q))
	}
	for b, bar := range q.Bars {
		was := p.Bars[b%len(p.Bars)][0]
		if _, had := was.Find(pattern.Thumb); had && !bass(bar[0]) {
			t.Fatalf("%s of %s loses the bass on one: %s", change, p, q)
		}
	}
}

// bass: the thumb, or a pick on the root string.
func bass(slot pattern.Slot) bool {
	_, thumb := slot.Find(pattern.Thumb)
	pick, down := slot.Find(pattern.Down)
	return thumb || down && pick.Target.Kind != pattern.Treble
}

// Every rule has a hold somewhere in the catalogue, in both its directions; a
// rule that never has is none.
func TestNoRuleIsIdle(t *testing.T) {
	// Figures that the catalogue has not: by string number, on the outer string, muted.
	patterns := []pattern.Pattern{pattern.MustParse("4/4: D5 . D4 . D3 . D2 ."), pattern.MustParse("4/4: p . io . p . io ."), pattern.MustParse("4/4: p . in . p . in ."), pattern.MustParse("4/4: D* . D* . D* . D* ."), pattern.MustParse("4/4: p i m p i m p i")}
	for _, e := range catalogue.All {
		patterns = append(patterns, e.Pattern)
		for _, r := range variation.Rules { // what lies one rule below stands there, too
			patterns = append(patterns, r.Simpler(e.Pattern)...)
		}
	}
	for _, r := range variation.Rules {
		less, more := 0, 0
		for _, p := range patterns {
			less += len(r.Simpler(p))
			more += len(r.Harder(p))
		}
		assert.Positive(t, more, "%q never adds", r.ID)
		if !slices.Contains([]variation.ID{"swung", "turned-round", "inside-and-outside-swapped"}, r.ID) {
			assert.Positive(t, less, "%q never takes away", r.ID)
			assert.NotEqual(t, r.More.Name, r.Less.Name, "the simpler way has a name of its own")
			assert.NotEqual(t, r.More.Says, r.Less.Says, r.ID)
			assert.NotEmpty(t, r.Less.Says, r.ID)
		}
		assert.NotEmpty(t, r.More.Says, r.ID)
		if r.Ladder {
			assert.NotEmpty(t, r.How, r.ID)
		}
	}
}

// Source: common practice; each is a way in which teachers vary a figure.
func TestRulesByExample(t *testing.T) {
	for _, c := range []struct{ rule, simpler, harder string }{
		{"thumb on every beat", "4/4: p . m . . i . .", "4/4: p . p+m . p i p ."},
		{"low fifth", "4/4: p . p' . p . p' .", "4/4: p . p' . p, . p' ."},
		{"a pinch joined", "4/4: p m p' . p . p' .", "4/4: p+m . p' . p . p' ."},
		{"an off-beat note", "4/4: p . p' . p i p' .", "4/4: p . p' i p i p' ."},
		{"twice the notes", "4/4: p . i . m . a .", "4/4: p i m a p i m a"},
		{"the last eighth", "4/4: p i m a p i m .", "4/4: p i m a p i m i"},
		{"one finger more", "4/4: p i m i p i m i", "4/4: p i m a p i m i"},
		{"second bar", "4/4: p i m a p i m a", "4/4: p i m a p i m a | p a m i p a m i"},
		{"a string further", "4/4: D5 . D4 . D5 . D4 .", "4/4: D5 . D3 . D5 . D4 ."},
		{"inside and outside swapped", "4/4: p m p' i p m p' i", "4/4: p i p' m p i p' m"},
		{"turned round", "4/4: p i m a p . . .", "4/4: p a m i p . . ."},
		{"rotated", "4/4: p i m a p . . .", "4/4: p m a i p . . ."},
		{"three-three-two", "4/4: D D D D D D D D", "4/4: D! D D D! D D D! D"},
		{"regrouped in threes", "4/4: p i m+a i p i m+a i", "4/4: p i m+a p i m+a p i"},
		{"sixteenths", "4/4: D . D U . U D U", "4/4: D . D U . U D U D . D U . U D U"},
		{"the figure again", "4/4: p i m a p . . .", "4/4: p i m a p i m a"},
		{"swung", "4/4: D U D U D U D U", "4/4 swing: D U D U D U D U"},
		{"accents", "4/4: D U D U D U D U", "4/4: D U D! U D U D! U"},
		{"more up strokes", "4/4: D U D . D . D .", "4/4: D U D U D U D U"},
		{"zones", "4/4: D . D U . U D U", "4/4: Db . Db Ut . Ut Db Ut"},
		{"chuck", "4/4: D . D U D . D U", "4/4: D . Dx U D . Dx U"},
		{"a pick", "4/4: p . p' i p m p' i", "4/4: Dr . D' U3 Dr U2 D' U3"},
		{"a fourth beat", "3/4: p . i . m .", "4/4: p . i . m . m ."},
		{"six to a bar", "3/4: p i m a m i", "6/8: p i m a m i"},
		{"twelve to a bar", "4/4: p i m p i m p i m p i m", "12/8: p i m p i m p i m p i m"},
	} {
		at := slices.IndexFunc(variation.Rules, func(r variation.Rule) bool {
			return strings.ReplaceAll(string(r.ID), "-", " ") == strings.ReplaceAll(c.rule, "-", " ")
		})
		require.GreaterOrEqual(t, at, 0, c.rule)
		r := variation.Rules[at]
		simpler, harder := pattern.MustParse(c.simpler), pattern.MustParse(c.harder)
		assert.True(t, slices.ContainsFunc(r.Harder(simpler), harder.Equal), "%s on %s: %v", c.rule, c.simpler, texts(r.Harder(simpler)))
		if back := r.Simpler(harder); len(back) > 0 {
			assert.True(t, slices.ContainsFunc(back, simpler.Equal), "without %s on %s: %v", c.rule, c.harder, texts(back))
		}
	}
}

func texts(list []pattern.Pattern) (out []string) {
	for _, p := range list {
		out = append(out, p.String())
	}
	return out
}

func TestEveryNeighbourOfTheCatalogue(t *testing.T) {
	for _, e := range catalogue.All {
		tk := task(t, e.Pattern, "C")
		level := difficulty.Of(tk, difficulty.Fitted).Level
		a := variation.Neighbours(tk, difficulty.Fitted)
		for _, v := range slices.Concat(a.Simpler, a.Beside, a.Harder) {
			assert.Equal(t, v.Pattern.Meter == e.Pattern.Meter && v.Pattern.Swing == e.Pattern.Swing, v.Together, "%s: %s", e.ID, v.Name())
			for _, id := range []string{"guitar", "ukulele"} {
				ins, _ := fretboard.ByID(id)
				shape, _ := fretboard.Easiest(ins, theory.MustChord("C"))
				r := bind.Pattern(ins, bind.DefaultSchool, v.Pattern, theory.MustChord("C"), shape.Shape)
				assert.Len(t, r.Events, v.Pattern.Count(), "%s: %s loses a stroke on %s: %s %v", e.ID, v.Name(), id, v.Pattern, r.Notices)
			}
		}
		for i, v := range a.Simpler {
			assert.Less(t, v.Level, level)
			assert.True(t, i == 0 || v.Level <= a.Simpler[i-1].Level, "the nearest first")
		}
		for i, v := range a.Harder {
			assert.Greater(t, v.Level, level)
			assert.True(t, i == 0 || v.Level >= a.Harder[i-1].Level, "the nearest first")
		}
		for _, v := range a.Beside {
			assert.InDelta(t, level, v.Level, 0)
		}
	}
}

// A figure of many bars has no more neighbours than one of two: the first places
// stand for the rest, or the bench would wait for seconds at every key.
func TestLongFiguresHaveAsManyNeighbours(t *testing.T) {
	of := func(bars int) int {
		bar := "p i m . p' i m a p . m i p' m+a i ."
		p := pattern.MustParse("4/4: " + strings.TrimSuffix(strings.Repeat(bar+" | ", bars), " | "))
		a := variation.Neighbours(task(t, p, "C"), difficulty.Fitted)
		return len(a.Simpler) + len(a.Beside) + len(a.Harder)
	}
	assert.Positive(t, of(1))
	assert.InDelta(t, of(2), of(8), 3)
}

// What a page shows as simpler or harder has another number on it.
func TestNeighboursByTenths(t *testing.T) {
	for _, e := range catalogue.All {
		a := variation.Neighbours(task(t, e.Pattern, "C"), difficulty.Fitted)
		seen := a.ByTenths()
		shown := func(level float64) string { return fmt.Sprintf("%.1f", level) }
		for _, v := range seen.Simpler {
			assert.Less(t, v.Level, a.Level)
			assert.NotEqual(t, shown(a.Level), shown(v.Level), "%s, %s", e.ID, v.Name())
		}
		for _, v := range seen.Harder {
			assert.Greater(t, v.Level, a.Level)
			assert.NotEqual(t, shown(a.Level), shown(v.Level), "%s, %s", e.ID, v.Name())
		}
		for _, v := range seen.Beside {
			assert.Equal(t, shown(a.Level), shown(v.Level), "%s, %s", e.ID, v.Name())
		}
		assert.Len(t, slices.Concat(seen.Simpler, seen.Beside, seen.Harder), len(a.Simpler)+len(a.Beside)+len(a.Harder))
	}
}

func TestTwoRulesDeep(t *testing.T) {
	tk := task(t, pattern.MustParse("4/4: p . p'+m . p i p' ."), "C")
	level := difficulty.Of(tk, difficulty.Fitted).Level
	near, deep := variation.Neighbours(tk, difficulty.Fitted), variation.Deeper(tk, difficulty.Fitted)
	require.NotEmpty(t, deep.Simpler)
	require.NotEmpty(t, deep.Harder)
	for _, v := range slices.Concat(deep.Simpler, deep.Harder) {
		assert.Contains(t, v.Name(), ", then ")
		assert.True(t, v.Together)
		assert.False(t, slices.ContainsFunc(slices.Concat(near.Simpler, near.Harder), func(n variation.Variation) bool { return n.Pattern.Equal(v.Pattern) }))
	}
	assert.Less(t, deep.Simpler[0].Level, level)
	assert.Greater(t, deep.Harder[0].Level, level)
	assert.Contains(t, fmt.Sprint(texts(patterns(deep.Simpler))), "4/4: p . p . p . p .", "without the note and without the walk")
}

func patterns(list []variation.Variation) (out []pattern.Pattern) {
	for _, v := range list {
		out = append(out, v.Pattern)
	}
	return out
}

// A sibling in another meter is measured with the chords' shares of the bar and
// the pace of the slots kept.
func TestSiblingsAreMeasuredInTheirOwnMeter(t *testing.T) {
	tk := task(t, pattern.MustParse("3/4: p i m a m i"), "C Am | F")
	six := variation.With(tk, pattern.MustParse("6/8: p i m a m i"))
	assert.Equal(t, 53, six.Tempo, "an eighth lasts as long")
	assert.Equal(t, six.Pattern.Meter.BarTicks(), six.Bars[1].Ticks())
	assert.Equal(t, six.Bars[0].Changes[0].Ticks, six.Bars[0].Changes[1].Ticks)
	assert.Equal(t, tk.Pattern.Meter.BarTicks(), tk.Bars[0].Ticks(), "the task itself is as it was")
}

// What binds without loss still does after any rule, on guitar and ukulele and
// on chords with their roots on different strings.
func TestVariationsBindWithoutLoss(t *testing.T) {
	lost := func(p pattern.Pattern, id, chord string) int {
		ins, err := fretboard.ByID(id)
		require.NoError(t, err)
		c := theory.MustChord(chord)
		v, ok := fretboard.Easiest(ins, c)
		require.True(t, ok)
		return p.Count() - len(bind.Pattern(ins, bind.DefaultSchool, p, c, v.Shape).Events)
	}
	rapid.Check(t, func(rt *rapid.T) {
		p := randomFigure(rt)
		id := rapid.SampledFrom([]string{"guitar", "ukulele"}).Draw(rt, "instrument")
		chord := rapid.SampledFrom([]string{"C", "G", "D", "Am", "F"}).Draw(rt, "chord")
		if lost(p, id, chord) > 0 {
			return
		}
		for _, r := range variation.Rules {
			for _, q := range append(r.Simpler(p), r.Harder(p)...) {
				if n := lost(q, id, chord); n > 0 {
					rt.Fatalf("%s of %s, %s, loses %d strokes on %s, %s", r.ID, p, q, n, id, chord)
				}
			}
		}
	})
}

// Whatever the notation can write has neighbours on any instrument, each with its words.
func TestAnyFigureOfTheNotationHasNeighbours(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		tk := task(t, patterntest.OfNotation(pick(rt)), rapid.SampledFrom([]string{"C", "G | D", "F#m7b5 | G13 | Bb/D Eb"}).Draw(rt, "chords"))
		tk.Instrument = rapid.SampledFrom(fretboard.Instruments).Draw(rt, "instrument")
		near := variation.Neighbours(tk, difficulty.Fitted)
		for _, v := range slices.Concat(near.Simpler, near.Beside, near.Harder) {
			if v.Name() == "" || v.Says() == "" || v.Level < 1 || v.Level > 9.9 {
				rt.Fatalf("%s: %s has no words or no level: %q, %q, %f", tk.Pattern, v.Pattern, v.Name(), v.Says(), v.Level)
			}
		}
	})
}
