package difficulty_test

import (
	"math"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
	"arplin/core/song"
	"arplin/core/theory"
)

func orders(t testing.TB) difficulty.Orders {
	t.Helper()
	data, err := os.ReadFile("testdata/orders.json")
	require.NoError(t, err)
	o, err := difficulty.ReadOrders(data)
	require.NoError(t, err)
	return o
}

// Source: common practice (testdata/orders.json says so of itself).
func TestEveryChainRises(t *testing.T) {
	o := orders(t)
	require.NotEmpty(t, o.Chains)
	for _, c := range o.Chains {
		for i := 1; i < len(c.Tasks); i++ {
			a, b := difficulty.Of(c.Tasks[i-1], difficulty.Fitted), difficulty.Of(c.Tasks[i], difficulty.Fitted)
			assert.Less(t, a.Level, b.Level, "%s, step %d", c.Name, i+1)
		}
	}
	for _, c := range o.Same {
		for _, task := range c.Tasks[1:] {
			assert.InDelta(t, difficulty.Of(c.Tasks[0], difficulty.Fitted).Level, difficulty.Of(task, difficulty.Fitted).Level, 1e-9, c.Name)
		}
	}
}

// Orders of the trade that the fit has not seen, on C at 80 where nothing else is
// said. Source: common practice.
func TestOrdersThatTheFitHasNotSeen(t *testing.T) {
	for name, steps := range map[string][]string{
		"p and i only, then three, then four":                {"4/4: p i p i p i p i", "4/4: p i m i p i m i", "4/4: p i m a p i m a"},
		"strict alternation before an independent off-beat":  {"4/4: p i p i p i p i", "4/4: p . p'+m . p i p' ."},
		"a roll up, down, up and back":                       {"4/4: p . i . m . a .", "4/4: p . a . m . i ."},
		"six to a bar":                                       {"6/8: p . . . . .", "6/8: p . . p . .", "6/8: p i m p i m", "6/8: p i m a m i"},
		"melody, with bass on 1, on every beat, alternating": {"4/4: i2 . m1 . i2 . m2 .", "4/4: p+i2 . m1 . i2 . m2 .", "4/4: p+i2 . p+m1 . p+i2 . p+m2 .", "4/4: p+i2 . p'+m1 . p+i2 . p'+m2 ."},
		"bass and strum in three":                            {"3/4: p . Dt . Dt .", "3/4: p . Dt Ut Dt Ut"},
		"bass on two strings over two bars":                  {"3/4: p . Dt . Dt . | p . Dt . Dt .", "3/4: p . Dt . Dt . | p' . Dt . Dt ."},
		"strum, strokes left out, sixteenths":                {"4/4: D . D . D . D .", "4/4: D . D U D . D U", "4/4: D . D U . U D U", "4/4: D . D U . U D U D . D U . U D U"},
		"accents, then off the beat":                         {"4/4: D D D D D D D D", "4/4: D! D D D D! D D D", "4/4: D! D D D! D D D! D"},
		"chucks last":                                        {"4/4: D . D U . U D U", "4/4: D . Dx U . U Dx U"},
		"pinch, nails, knock, a note behind":                 {"4/4: p+m . . . p+m . . .", "4/4: p+m . N . p+m . N .", "4/4: p+m . N+X . p+m . N+X .", "4/4: p+m . N+X m p+m . N+X m"},
		"low fifth":                                          {"4/4: p . p . p . p .", "4/4: p . p' . p . p' .", "4/4: p . p' . p, . p' ."},
		"a pick on neighbouring, then distant strings":       {"4/4: D3 U2 D3 U2 D3 U2 D3 U2", "4/4: D5 U2 D5 U2 D5 U2 D5 U2"},
		"pinches": {"4/4: p+m . p . p . p .", "4/4: p+m . p . p+m . p .", "4/4: p+m . p+m . p+m . p+m ."},
	} {
		for i := 1; i < len(steps); i++ {
			assert.Less(t, level(t, steps[i-1], "C", 80), level(t, steps[i], "C", 80), "%s: %s and %s", name, steps[i-1], steps[i])
		}
	}
	// The percussive hybrid is the hardest of the common figures.
	hardest, of := 0.0, ""
	for _, e := range catalogue.All {
		if l := level(t, e.Notation, "C", 80); l > hardest {
			hardest, of = l, e.Family
		}
	}
	hybrid, found := catalogue.ByID("percussive-hybrid")
	require.True(t, found)
	assert.Equal(t, hybrid.Family, of)
}

func TestTheFileHoldsWhatTheFitFinds(t *testing.T) {
	w := difficulty.Fit(orders(t).Chains, order(t))
	for i, part := range difficulty.Definitions() {
		assert.InDelta(t, w[i], difficulty.Fitted[i], 1e-4, "%s: run go run ./cmd/fitweights", part.ID)
	}
}

func TestScaledWeightsKeepThePromises(t *testing.T) {
	w := difficulty.Fitted.Scaled(map[difficulty.PartID]float64{"touch": 2, "rate": 0, "figure": -1, "nonsense": 9})
	parts := difficulty.Definitions()
	at := func(w difficulty.Weights, id difficulty.PartID) float64 {
		for i, p := range parts {
			if p.ID == id {
				return w[i]
			}
		}
		return math.NaN()
	}
	assert.InDelta(t, 2*at(difficulty.Fitted, "touch"), at(w, "touch"), 1e-9)
	assert.InDelta(t, at(difficulty.Fitted, "figure"), at(w, "figure"), 1e-9, "nothing weighs less than nothing")
	assert.Positive(t, at(w, "rate"), "a higher tempo never becomes easier")
	for i := range w {
		assert.InDelta(t, difficulty.Fitted[i], difficulty.Fitted.Scaled(nil)[i], 1e-9, "nothing scaled, nothing moved")
	}
}

// Orders that the fit has not seen come out right, and better than by counting
// strokes.
func TestHeldOutChains(t *testing.T) {
	o := orders(t)
	held, baseline := difficulty.HeldOut(o.Chains, order(t), 8), difficulty.Baseline(o.Chains)
	t.Logf("held-out share of adjacent pairs %.1f %%, strokes x tempo %.1f %%", 100*held, 100*baseline)
	assert.GreaterOrEqual(t, held, 0.85)
	assert.Greater(t, held, baseline+0.2)
}

func task(t testing.TB, notation, chords string, tempo int) difficulty.Task {
	t.Helper()
	p, err := pattern.Parse(notation)
	require.NoError(t, err)
	ins, _ := fretboard.ByID("guitar")
	bars, err := song.ParseChords(chords, p.Meter)
	require.NoError(t, err)
	sg := song.Song{Meter: p.Meter, Tempo: tempo, Sections: []song.Section{{Bars: bars}}}
	return difficulty.NewTask(p, sg, ins, bind.DefaultSchool, tempo)
}

func level(t testing.TB, pattern, chords string, tempo int) float64 {
	return difficulty.Of(task(t, pattern, chords, tempo), difficulty.Fitted).Level
}

func TestSharesAddUpAndPartsSpeak(t *testing.T) {
	d := difficulty.Of(task(t, "4/4: p . p'+m . p i p' .", "C | Am | F | G7", 84), difficulty.Fitted)
	sum := 0.0
	for _, p := range d.Parts {
		sum += p.Share
		assert.GreaterOrEqual(t, p.Share, 0.0)
		assert.NotContains(t, p.Says, "%!")
		assert.NotEmpty(t, p.Unit)
	}
	assert.InDelta(t, d.Level-1, sum, 1e-9)
	assert.NotEmpty(t, d.Hardest.Why)
	assert.Contains(t, d.Hardest.Why, "change")
	assert.Greater(t, d.Level, 1.0)
	assert.Less(t, d.Level, 9.9)
}

func TestAFinerGridThanNeededCostsTheSame(t *testing.T) {
	for _, e := range catalogue.All {
		for _, grid := range e.Pattern.Meter.Grids() {
			finer, lost, err := e.Pattern.Regrid(grid)
			require.NoError(t, err)
			if lost > 0 || grid < e.Pattern.Grid() || e.Pattern.Swing || e.Pattern.HasStrums() && grid%e.Pattern.Grid() != 0 {
				continue
			}
			coarse := difficulty.Coarsest(e.Pattern)
			assert.Equal(t, coarse.String(), difficulty.Coarsest(finer).String(), "%s on %d", e.ID, grid)
		}
	}
}

func TestTheLevelIsANumberForEveryPatternOnEveryInstrument(t *testing.T) {
	for _, e := range catalogue.All {
		for _, ins := range fretboard.Instruments {
			d := difficulty.Of(difficulty.OneChord(e.Pattern, theory.MustChord("D"), ins, bind.DefaultSchool, 80), difficulty.Fitted)
			assert.False(t, math.IsNaN(d.Level), e.ID)
			assert.Greater(t, d.Level, 1.0, e.ID)
			assert.Less(t, d.Level, 9.9, e.ID)
		}
	}
}

func BenchmarkDemandOf64Bars(b *testing.B) {
	tk := task(b, "4/4: p . p'+m . p i p' . | p+m . p' i p m p' .", strings.TrimSuffix(strings.Repeat("C | Am | F | G7 | ", 16), " | "), 84)
	for b.Loop() {
		difficulty.Of(tk, difficulty.Fitted)
	}
}

// A step before the strings is never harder than the same step on them.
func TestBeforeTheStringsIsEasier(t *testing.T) {
	for _, e := range catalogue.All {
		tk := task(t, e.Pattern.String(), "C | Am | F | G7", 80)
		levels := []float64{}
		for _, how := range []difficulty.Play{difficulty.Said, difficulty.Tapped, difficulty.Muted, difficulty.OnStrings} {
			tk.Play = how
			d := difficulty.Of(tk, difficulty.Fitted)
			levels = append(levels, d.Level)
			sum := 0.0
			for _, p := range d.Parts {
				sum += p.Share
			}
			assert.InDelta(t, d.Level-1, sum, 1e-9, "the shares add up when %q", how)
		}
		for i := 1; i < len(levels); i++ {
			assert.Greater(t, levels[i], levels[i-1], e.ID)
		}
	}
}
