package drill_test

import (
	"strings"
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
	series := drill.Series(drill.Chain(catalogued(t, "thumb-two-between"), 5), key, drill.OverEasiest(key, guitar), drill.OwnSevenths, l)
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
				series := drill.Series(drill.Chain(e, 6), key, drill.OverEasiest(key, ins), drill.OwnSevenths, drill.Learners{Instrument: ins, School: bind.DefaultSchool, Weights: difficulty.Fitted})
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

// A teacher's own figures in their own order, over their own progression, in any key; in the end the
// key's own sevenths, or all of them dominant, as in a blues. Source: common practice.
func TestASeriesOfOnesOwn(t *testing.T) {
	ukulele, err := fretboard.ByID("ukulele")
	require.NoError(t, err)
	l := drill.Learners{Instrument: ukulele, School: bind.DefaultSchool, Weights: difficulty.Fitted}
	own := []catalogue.Entry{catalogued(t, "common-strum"), catalogued(t, "downs-on-the-beat")}
	chords := func(key, text string, colour drill.Colour) (weeks []string) {
		k, err := theory.ParseKey(key)
		require.NoError(t, err)
		over, err := drill.ParseOver(text, k)
		require.NoError(t, err)
		for i, w := range drill.Series(own, k, over, colour, l) {
			weeks = append(weeks, strings.Join(w.Chords, " "))
			assert.Equal(t, own[min(i, 1)].ID, w.Entry.ID)
		}
		return weeks
	}
	assert.Equal(t, []string{"G Em C D", "G Em C D", "Gmaj7 Em7 Cmaj7 D7"}, chords("G", "I vi IV V", drill.OwnSevenths))
	assert.Equal(t, []string{"G Em C D", "G Em C D", "G7 E7 C7 D7"}, chords("G", "G | Em | C | D", drill.Dominant))
	assert.Equal(t, []string{"Bb Gm Eb F7", "Bb Gm Eb F7"}, chords("Bb", "I vi IV V7", drill.Plain))
	assert.Equal(t, []string{"D/F# Bm G", "D/F# Bm G", "D/F# Bm7 Gmaj7"}, chords("D", "D/F# Bm, G", drill.OwnSevenths), "a slash chord stays")
	for _, text := range []string{"", "H", "I G", "iV", strings.Repeat("C ", 17)} {
		_, err := drill.ParseOver(text, theory.Key{Tonic: theory.MustChord("C").Root})
		assert.Error(t, err, text)
	}
}
