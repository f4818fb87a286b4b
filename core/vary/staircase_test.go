package vary_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/bind"
	"arplin/core/demand"
	"arplin/core/fretboard"
	"arplin/core/hand"
	"arplin/core/song"
	"arplin/core/theory"
	"arplin/core/vary"
)

func task(t testing.TB, p hand.Pattern, chords string) demand.Task {
	t.Helper()
	bars, err := song.ParseChords(chords, p.Meter)
	require.NoError(t, err)
	ins, _ := fretboard.ByID("guitar")
	return demand.NewTask(p, song.Song{Meter: p.Meter, Tempo: 80, Sections: []song.Section{{Bars: bars}}}, ins, bind.DefaultSchool, 80)
}

func TestEveryStaircaseOfTheCatalogue(t *testing.T) {
	for _, e := range hand.Catalogue {
		tk := task(t, e.Pattern, "C | Am | F | G7")
		stairs := vary.Staircase(tk, demand.Fitted, 0)
		seen := map[string]bool{}
		for i, s := range stairs {
			key := s.Pattern.String() + s.Over
			assert.False(t, seen[key], "%s repeats %s", e.ID, key)
			seen[key] = true
			assert.NotEmpty(t, s.Adds)
			assert.NotEmpty(t, s.Says)
			_, err := hand.Parse(s.Pattern.String())
			assert.NoError(t, err)
			if i == 0 {
				continue
			}
			assert.Greater(t, s.Level, stairs[i-1].Level, "%s, step %d", e.ID, i+1)
			if s.Over == stairs[i-1].Over {
				assert.True(t, vary.OneRule(s.Pattern, stairs[i-1].Pattern, s.Adds), "%s: %s to %s is not %q", e.ID, stairs[i-1].Pattern, s.Pattern, s.Adds)
			}
		}
		last := stairs[len(stairs)-1]
		assert.True(t, last.Pattern.Equal(e.Pattern), "%s ends in its target", e.ID)
		assert.Equal(t, "all chords", last.Over)
		assert.InDelta(t, demand.Of(tk, demand.Fitted).Level, last.Level, 1e-9)
	}
}

// Common practice: another school takes the second chord as soon as there is a
// stroke to change on.
func TestTwoChordsFirst(t *testing.T) {
	tk := task(t, hand.MustParse("4/4: p . p'+m . p i p' ."), "C | Am | F | G7")
	stairs := vary.StaircaseIn(vary.TwoChordsFirst, tk, demand.Fitted, 0)
	assert.Equal(t, "one chord", stairs[0].Over)
	assert.Equal(t, "the second chord", stairs[1].Adds)
	assert.True(t, stairs[1].Pattern.Equal(stairs[0].Pattern))
	for i := 1; i < len(stairs); i++ {
		assert.Greater(t, stairs[i].Level, stairs[i-1].Level)
	}
	last := stairs[len(stairs)-1]
	assert.True(t, last.Pattern.Equal(tk.Pattern))
	assert.Equal(t, "all chords", last.Over)
	one := vary.StaircaseIn(vary.TwoChordsFirst, task(t, tk.Pattern, "C"), demand.Fitted, 0)
	assert.Equal(t, len(vary.Staircase(task(t, tk.Pattern, "C"), demand.Fitted, 0)), len(one), "one chord leaves no choice")
}

func TestReadyAndFallBack(t *testing.T) {
	assert.Equal(t, "three times clean at 84, counting aloud", vary.ReadyWhen(84))
	steps := []vary.Step{{Adds: "the first stroke of the bar"}, {Adds: "every beat"}}
	assert.Equal(t, "step 1, the first stroke of the bar", vary.FallBack(steps, 1))
	assert.Contains(t, vary.FallBack(steps, 0), "tap it")
}

// The search against all ways down, on a figure small enough to try them all.
func TestTheSearchIsAsEvenAsTryingEverything(t *testing.T) {
	for _, notation := range []string{"4/4: p+m . p' i p m p' .", "4/4: D . D U . U D U", "6/8: p i m a m i"} {
		tk := task(t, hand.MustParse(notation), "C")
		got, want := vary.Unevenness(tk, demand.Fitted), math.Inf(1)
		vary.EveryWay(tk, demand.Fitted, func(cost float64) { want = min(want, cost) })
		assert.InDelta(t, want, got, 1e-9, notation)
	}
}

func TestEveryNeighbourOfTheCatalogue(t *testing.T) {
	for _, e := range hand.Catalogue {
		tk := task(t, e.Pattern, "C")
		level := demand.Of(tk, demand.Fitted).Level
		simpler, harder := vary.Neighbours(tk, demand.Fitted)
		for _, v := range append(simpler, harder...) {
			_, err := hand.Parse(v.Pattern.String())
			require.NoError(t, err, "%s: %s", e.ID, v.Change)
			assert.Equal(t, e.Pattern.Meter, v.Pattern.Meter)
			assert.Equal(t, v.Pattern.Swing == e.Pattern.Swing, v.Together, "%s: %s", e.ID, v.Change)
			if _, had := e.Pattern.Bars[0][0].Find(hand.Thumb); had {
				_, has := v.Pattern.Bars[0][0].Find(hand.Thumb)
				assert.True(t, has, "%s: %s loses the bass on one", e.ID, v.Change)
			}
			for _, id := range []string{"guitar", "ukulele"} {
				ins, _ := fretboard.ByID(id)
				shape, _ := fretboard.Easiest(ins, theory.MustChord("C"))
				r := bind.Pattern(ins, bind.DefaultSchool, v.Pattern, theory.MustChord("C"), shape.Shape)
				assert.Len(t, r.Events, v.Pattern.Count(), "%s: %s loses a stroke on %s", e.ID, v.Change, id)
			}
		}
		for _, v := range simpler {
			assert.Less(t, v.Level, level)
		}
		for _, v := range harder {
			assert.Greater(t, v.Level, level)
		}
	}
}

func BenchmarkStaircaseOf64Bars(b *testing.B) {
	line := "C | Am | F | G7"
	for range 15 {
		line += " | C | Am | F | G7"
	}
	tk := task(b, hand.MustParse("4/4: p . p'+m . p i p' . | p+m . p' i p m p' ."), line)
	for b.Loop() {
		vary.Staircase(tk, demand.Fitted, 0)
	}
}

func BenchmarkNeighbours(b *testing.B) {
	tk := task(b, hand.MustParse("4/4: p+m . p' i p m p' ."), "C")
	for b.Loop() {
		vary.Neighbours(tk, demand.Fitted)
	}
}
