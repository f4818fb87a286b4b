package demand_test

import (
	"math"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/bind"
	"arplin/core/demand"
	"arplin/core/fretboard"
	"arplin/core/hand"
	"arplin/core/song"
	"arplin/core/theory"
)

func orders(t testing.TB) demand.Orders {
	t.Helper()
	data, err := os.ReadFile("testdata/orders.json")
	require.NoError(t, err)
	o, err := demand.ReadOrders(data)
	require.NoError(t, err)
	return o
}

// Source: common practice (testdata/orders.json says so of itself).
func TestEveryChainRises(t *testing.T) {
	o := orders(t)
	require.NotEmpty(t, o.Chains)
	for _, c := range o.Chains {
		for i := 1; i < len(c.Tasks); i++ {
			a, b := demand.Of(c.Tasks[i-1], demand.Fitted), demand.Of(c.Tasks[i], demand.Fitted)
			assert.Less(t, a.Level, b.Level, "%s, step %d", c.Name, i+1)
		}
	}
	for _, c := range o.Same {
		for _, task := range c.Tasks[1:] {
			assert.InDelta(t, demand.Of(c.Tasks[0], demand.Fitted).Level, demand.Of(task, demand.Fitted).Level, 1e-9, c.Name)
		}
	}
}

func TestTheFileHoldsWhatTheFitFinds(t *testing.T) {
	w := demand.Fit(orders(t).Chains)
	for i, name := range demand.Names() {
		assert.InDelta(t, w[i], demand.Fitted[i], 1e-4, "%s: run go run ./cmd/fitdemand", name)
	}
}

func TestScaledWeightsKeepThePromises(t *testing.T) {
	w := demand.Fitted.Scaled(map[string]float64{"touch": 2, "rate": 0, "figure": -1, "nonsense": 9})
	names := demand.Names()
	at := func(w demand.Weights, name string) float64 {
		for i, n := range names {
			if n == name {
				return w[i]
			}
		}
		return math.NaN()
	}
	assert.InDelta(t, 2*at(demand.Fitted, "touch"), at(w, "touch"), 1e-9)
	assert.InDelta(t, at(demand.Fitted, "figure"), at(w, "figure"), 1e-9, "nothing weighs less than nothing")
	assert.Positive(t, at(w, "rate"), "a higher tempo never becomes easier")
	for i := range w {
		assert.InDelta(t, demand.Fitted[i], demand.Fitted.Scaled(nil)[i], 1e-9, "nothing scaled, nothing moved")
	}
}

// Orders that the fit has not seen come out right, and better than by counting
// strokes.
func TestHeldOutChains(t *testing.T) {
	o := orders(t)
	held, baseline := demand.HeldOut(o.Chains), demand.Baseline(o.Chains)
	t.Logf("held-out share of adjacent pairs %.1f %%, strokes x tempo %.1f %%", 100*held, 100*baseline)
	assert.GreaterOrEqual(t, held, 0.85)
	assert.Greater(t, held, baseline+0.2)
}

// Source: Gómez, Melvin, Rappaport and Toussaint (2005), the six claves and bell
// patterns of 16 pulses; values from memory of the published table, the son clave
// worked by hand.
func TestWeightedNoteToBeatDistance(t *testing.T) {
	for name, c := range map[string]struct {
		box  string
		want float64
	}{
		"shiko": {"x...x.x...x.x...", 1.2}, "son": {"x..x..x...x.x...", 2.8}, "rumba": {"x..x...x..x.x...", 3.6},
		"soukous": {"x..x..x...xx....", 3.6}, "bossa nova": {"x..x..x...x..x..", 4.0}, "gahu": {"x..x..x...x...x.", 3.6},
	} {
		var onsets []int
		for i, r := range c.box {
			if r == 'x' {
				onsets = append(onsets, i)
			}
		}
		assert.InDelta(t, c.want, demand.WNBD(onsets, 16, 4), 1e-9, name)
	}
	assert.Zero(t, demand.WNBD([]int{0, 4, 8, 12}, 16, 4), "the beats alone")
	assert.Zero(t, demand.WNBD(nil, 16, 4))
}

func task(t testing.TB, pattern, chords string, tempo int) demand.Task {
	t.Helper()
	p, err := hand.Parse(pattern)
	require.NoError(t, err)
	ins, _ := fretboard.ByID("guitar")
	bars, err := song.ParseChords(chords, p.Meter)
	require.NoError(t, err)
	sg := song.Song{Meter: p.Meter, Tempo: tempo, Sections: []song.Section{{Bars: bars}}}
	return demand.NewTask(p, sg, ins, bind.DefaultSchool, tempo)
}

func level(t testing.TB, pattern, chords string, tempo int) float64 {
	return demand.Of(task(t, pattern, chords, tempo), demand.Fitted).Level
}

func TestSharesAddUpAndPartsSpeak(t *testing.T) {
	d := demand.Of(task(t, "4/4: p . p'+m . p i p' .", "C | Am | F | G7", 84), demand.Fitted)
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
	for _, e := range hand.Catalogue {
		for _, grid := range e.Pattern.Meter.Grids() {
			finer, lost, err := e.Pattern.Regrid(grid)
			require.NoError(t, err)
			if lost > 0 || grid < e.Pattern.Grid() || e.Pattern.Swing || e.Pattern.HasStrums() && grid%e.Pattern.Grid() != 0 {
				continue
			}
			coarse := demand.Coarsest(e.Pattern)
			assert.Equal(t, coarse.String(), demand.Coarsest(finer).String(), "%s on %d", e.ID, grid)
		}
	}
}

func TestTheLevelIsANumberForEveryPatternOnEveryInstrument(t *testing.T) {
	for _, e := range hand.Catalogue {
		for _, ins := range fretboard.Instruments {
			d := demand.Of(demand.OneChord(e.Pattern, theory.MustChord("D"), ins, bind.DefaultSchool, 80), demand.Fitted)
			assert.False(t, math.IsNaN(d.Level), e.ID)
			assert.Greater(t, d.Level, 1.0, e.ID)
			assert.Less(t, d.Level, 9.9, e.ID)
		}
	}
}

func BenchmarkDemandOf64Bars(b *testing.B) {
	tk := task(b, "4/4: p . p'+m . p i p' . | p+m . p' i p m p' .", strings.TrimSuffix(strings.Repeat("C | Am | F | G7 | ", 16), " | "), 84)
	for b.Loop() {
		demand.Of(tk, demand.Fitted)
	}
}

// A step before the strings is never harder than the same step on them.
func TestBeforeTheStringsIsEasier(t *testing.T) {
	for _, e := range hand.Catalogue {
		tk := task(t, e.Pattern.String(), "C | Am | F | G7", 80)
		levels := []float64{}
		for _, how := range []demand.Play{demand.Said, demand.Tapped, demand.Muted, demand.OnStrings} {
			tk.Play = how
			d := demand.Of(tk, demand.Fitted)
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
