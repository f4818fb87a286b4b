package pattern_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
)

// What a teacher asks of a pattern before choosing it: two fingers only, no
// pinch, no skip. Source: common practice, "fewer things at once".
func TestTraits(t *testing.T) {
	for _, c := range []struct {
		notation             string
		two, together, skips bool
	}{
		{"4/4: p i p i", true, false, false},
		{"4/4: p i m a", false, false, false},
		{"4/4: p a m i", false, false, true},
		{"4/4: p m p' i", false, false, true},
		{"4/4: p+m . i .", false, true, false},
		{"4/4: p i m+a i", false, true, false},
		{"4/4: D U D U", false, false, false},
		{"4/4: p+i . p .", true, true, false},
	} {
		p := pattern.MustParse(c.notation)
		assert.Equal(t, c.two, p.OnlyThumbAndIndex(), "two fingers: %s", p)
		assert.Equal(t, c.together, p.Together(), "together: %s", p)
		assert.Equal(t, c.skips, p.Skips(), "skips: %s", p)
	}
}

// The mean rate: strokes over the time of the tapped beats.
func TestStrokesPerSecond(t *testing.T) {
	for notation, want := range map[string]float64{
		"4/4: p . p . p . p .": 1, "4/4: p i m a p i m a": 2, "6/8: p i m a m i": 3, "4/4: D . . .": 0.25, "4/4: D d D d": 0.5,
		"4/4: p i m a p i m a | p . . . . . . .": 1.125,
	} {
		assert.InDelta(t, want, pattern.MustParse(notation).StrokesPerSecond(60), 1e-9, notation)
	}
}

// Time signatures: what a foot taps, what is written, what a bar can be divided
// into. Published facts of notation: in 6/8, 9/8 and 12/8 the beat is the dotted
// quarter.
func TestMeters(t *testing.T) {
	for text, want := range map[string]struct {
		beats, ticks int
		name         string
		grids        []int
	}{
		"2/4": {2, 2 * 5040, "quarter", []int{2, 4, 6, 8}}, "3/4": {3, 3 * 5040, "quarter", []int{3, 6, 9, 12}},
		"4/4": {4, 4 * 5040, "quarter", []int{4, 8, 12, 16}}, "5/4": {5, 5 * 5040, "quarter", []int{5, 10, 15, 20}},
		"6/8": {2, 3 * 5040, "dotted quarter", []int{6, 12}}, "9/8": {3, 9 * 2520, "dotted quarter", []int{9, 18}}, "12/8": {4, 6 * 5040, "dotted quarter", []int{12, 24}},
	} {
		m, err := pattern.ParseMeter(text)
		require.NoError(t, err)
		assert.Equal(t, text, m.String())
		assert.Equal(t, want.beats, m.TappedBeats(), text)
		assert.Equal(t, want.ticks, m.BarTicks(), text)
		assert.Equal(t, want.name, m.BeatName(), text)
		assert.Equal(t, want.grids, m.Grids(), text)
		assert.Equal(t, m.BarTicks(), m.TappedBeats()*m.BeatTicks(), text)
		for _, g := range m.Grids() {
			assert.Zero(t, m.BarTicks()%g, "%s in %d slots", text, g)
			assert.Zero(t, g%m.TappedBeats(), "%s in %d slots", text, g)
		}
	}
	_, err := pattern.ParseMeter("7/8")
	assert.EqualError(t, err, `"7/8" is not a time signature that patterns use: 2/4, 3/4, 4/4, 5/4, 6/8, 9/8 or 12/8`)
}

// Values are values: a clone does not hang on what it was made from.
func TestClonesAreTheirOwn(t *testing.T) {
	for _, e := range catalogue.All {
		q := e.Pattern.Clone()
		q.Bars[0][0] = pattern.Slot{}
		q.Bars[len(q.Bars)-1][q.Grid()-1].Strokes = append(q.Bars[len(q.Bars)-1][q.Grid()-1].Strokes, pattern.Stroke{Sign: pattern.Knock})
		assert.Equal(t, e.Notation, e.Pattern.String(), e.ID)
	}
}

// No two ids have one notation, and each figure is what its name says. Source:
// common practice.
func TestTheCatalogueHasNoTwins(t *testing.T) {
	by := map[string]string{}
	for _, e := range catalogue.All {
		assert.Empty(t, by[e.Pattern.String()], "%s is written as %s is", e.ID, by[e.Pattern.String()])
		by[e.Pattern.String()] = e.ID
	}
	for id, notation := range map[string]string{
		"pairs-regrouped": "4/4: p i m+a p m+a p i m+a", "staggered": "4/4: p i p' m p i p' .", "outside-pinch": "4/4: p+m i p' . p+m i p' m",
		"two-fingers-on-two-strings": "4/4: p . p'+io . p in p' .", "roll-in-quarters": "4/4: p . i . m . i .",
		"pushed-strum": "4/4: D U . U . U D U", "down-up-missed-on-three": "4/4: D U D U . U D U",
	} {
		e, ok := catalogue.ByID(id)
		require.True(t, ok, id)
		assert.Equal(t, pattern.MustParse(notation), e.Pattern, id)
	}
}
