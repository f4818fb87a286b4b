package difficulty_test

import (
	"math"
	"os"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/difficulty"
	"arplin/core/pattern/catalogue"
)

// ranked is a figure of the catalogue with its place in a teacher's order and its level.
type ranked struct {
	catalogue.Entry
	place int
	level float64
}

func order(t testing.TB) []difficulty.Task {
	t.Helper()
	raw, err := os.ReadFile("testdata/ranks.txt")
	require.NoError(t, err)
	tasks, err := difficulty.ReadRanks(raw, catalogue.ByTempo)
	require.NoError(t, err)
	return tasks
}

func ranks(t *testing.T) (list []ranked) {
	tasks := order(t)
	assert.Len(t, tasks, len(catalogue.All), "every pattern has a rank")
	for place, k := range tasks {
		at := slices.IndexFunc(catalogue.All, func(e catalogue.Entry) bool { return e.Pattern.Equal(k.Pattern) })
		require.GreaterOrEqual(t, at, 0)
		list = append(list, ranked{catalogue.All[at], place, difficulty.LevelOf(k, difficulty.Fitted)})
	}
	return list
}

// correlation is Spearman's between the places and the levels. Source: C. Spearman, The Proof and
// Measurement of Association between Two Things, American Journal of Psychology 15(1), 1904.
func correlation(list []ranked) float64 {
	n := float64(len(list))
	byLevel, sum := rankOf(list, func(r ranked) float64 { return r.level }), 0.0
	byPlace := rankOf(list, func(r ranked) float64 { return float64(r.place) })
	for i := range list {
		sum += math.Pow(byLevel[i]-byPlace[i], 2)
	}
	return 1 - 6*sum/(n*(n*n-1))
}

// rankOf is the place of each by a measure; what is equal shares the mean of its places.
func rankOf(list []ranked, of func(ranked) float64) []float64 {
	out := make([]float64, len(list))
	for i, r := range list {
		below, same := 0, 0
		for _, o := range list {
			switch {
			case of(o) < of(r)-1e-9:
				below++
			case of(o) <= of(r)+1e-9:
				same++
			}
		}
		out[i] = float64(below) + float64(same-1)/2
	}
	return out
}

// The levels put the catalogue in the order of a teacher of beginners: over all, and in each family
// of four or more. docs/difficulty.md has the numbers.
func TestTheOrderOfATeacher(t *testing.T) {
	list := ranks(t)
	all := correlation(list)
	t.Logf("all %d: %.2f", len(list), all)
	assert.GreaterOrEqual(t, all, 0.9)
	for _, family := range catalogue.Families() {
		var own []ranked
		for _, r := range list {
			if r.Family == family {
				own = append(own, r)
			}
		}
		if len(own) >= 4 {
			t.Logf("%-26s %2d: %.2f", family, len(own), correlation(own))
			assert.GreaterOrEqual(t, correlation(own), 0.7, family)
		}
	}
}

// The whole scale is used: the easiest figures lie near one and a half on one open chord, the hardest
// above eight on the chords of a usual song.
func TestTheScaleIsUsed(t *testing.T) {
	lowest, highest := 10.0, 0.0
	for _, e := range catalogue.All {
		lowest = min(lowest, level(t, e.Notation, "C", min(80, e.Tempo[1])))
		highest = max(highest, level(t, e.Notation, "G | Em | C | D7", min(80, e.Tempo[1])))
	}
	assert.InDelta(t, 1.5, lowest, 0.1)
	assert.Greater(t, highest, 8.0)
	assert.Less(t, highest, 9.5, "room is left for harder chords")
}
