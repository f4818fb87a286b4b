package drill_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/drill"
	"arplin/core/fretboard"
	"arplin/core/pattern/catalogue"
	"arplin/core/theory"
)

func catalogued(t *testing.T, id string) catalogue.Entry {
	t.Helper()
	for _, e := range catalogue.All {
		if e.ID == id {
			return e
		}
	}
	t.Fatalf("%s is not in the catalogue", id)
	return catalogue.Entry{}
}

// Five weeks up to two notes between: the thumb on two strings, a pinch, a note between,
// two, then the same in sevenths: I and IV major, vi minor, V dominant (common practice).
func TestASeriesOfFiveWeeks(t *testing.T) {
	guitar, err := fretboard.ByID("guitar")
	require.NoError(t, err)
	key, err := theory.ParseKey("C")
	require.NoError(t, err)
	l := drill.Learners{Instrument: guitar, School: bind.DefaultSchool, Weights: difficulty.Fitted}
	series := drill.Series(catalogued(t, "thumb-two-between"), key, l, 5)
	var ids []string
	for i, w := range series {
		ids = append(ids, w.Entry.ID)
		assert.Equal(t, i == 4, w.Coloured)
		assert.Less(t, w.Tempos.Slow, w.Tempos.Medium)
		assert.Less(t, w.Tempos.Medium, w.Tempos.Goal)
		if i > 0 && !w.Coloured {
			assert.Greater(t, w.Level, series[i-1].Level, "each week is harder than the one before")
		}
		assert.Equal(t, w.Entry.Pattern.Meter, series[0].Entry.Pattern.Meter)
	}
	assert.Equal(t, []string{"thumb-two-strings", "thumb-pinch-two", "thumb-one-between", "thumb-two-between", "thumb-two-between"}, ids)
	assert.Len(t, series[0].Chords, 4)
	for i, d := range []struct{ plain, coloured string }{{"C", "Cmaj7"}} {
		assert.Equal(t, d.plain, series[0].Chords[i])
		assert.Equal(t, d.coloured, series[4].Chords[i])
	}
}

// Every figure of the catalogue has a series, on every instrument: at most the weeks that
// were asked for, the goal last, chords that are chords.
func TestEverySeries(t *testing.T) {
	if testing.Short() {
		t.Skip("in make test")
	}
	for _, e := range catalogue.All {
		for _, ins := range fretboard.Instruments {
			for _, name := range []string{"G", "Am"} {
				key, err := theory.ParseKey(name)
				require.NoError(t, err)
				series := drill.Series(e, key, drill.Learners{Instrument: ins, School: bind.DefaultSchool, Weights: difficulty.Fitted}, 6)
				require.LessOrEqual(t, len(series), 6, e.ID)
				require.GreaterOrEqual(t, len(series), 2, e.ID)
				assert.Equal(t, e.ID, series[len(series)-1].Entry.ID)
				for _, w := range series {
					for _, c := range w.Chords {
						_, err := theory.ParseChord(c)
						assert.NoError(t, err, "%s: %s", e.ID, c)
					}
					assert.Positive(t, w.Level, "%s on %s", e.ID, ins.Name)
				}
			}
		}
	}
}
