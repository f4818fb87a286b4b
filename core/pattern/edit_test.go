package pattern_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
)

func press(t *testing.T, notation string, keys ...string) (string, pattern.Cursor) {
	t.Helper()
	p, at := pattern.MustParse(notation), pattern.Cursor{}
	for _, k := range keys {
		var err error
		p, at, err = p.Press(at, k)
		require.NoError(t, err, k)
	}
	return p.String(), at
}

func TestPress(t *testing.T) {
	const empty = "4/4: . . . . . . . ."
	for _, c := range []struct {
		from string
		keys []string
		want string
	}{
		{empty, []string{"p", "m", "ArrowRight", "ArrowRight", "p", "'", "ArrowRight", "i"}, "4/4: p+m . p' i . . . ."},
		{empty, []string{"p", "p"}, empty},
		{empty, []string{"d", "u"}, "4/4: U . . . . . . ."},
		{empty, []string{"d", "!", "t"}, "4/4: Dt! . . . . . . ."},
		{empty, []string{"d", "!", "?"}, "4/4: D? . . . . . . ."},
		{empty, []string{"N", "k"}, "4/4: N+X . . . . . . ."},
		{empty, []string{"i", "3", "ArrowLeft", "="}, "4/4: i3 . . . . . . ="},
		{empty, []string{"p", "i", "ArrowDown", "5"}, "4/4: p5+i . . . . . . ."},
		{"4/4: p i m a", []string{"+", "R"}, "4/4: p i m a | a m i p"},
		{"4/4: p i m a", []string{">"}, "4/4: a p i m"},
		{"4/4: p i m a", []string{"<"}, "4/4: i m a p"},
		{"4/4: p i m a | D D D D", []string{"-"}, "4/4: D D D D"},
		{"4/4: p i m a", []string{"ArrowRight", "Delete"}, "4/4: p . m a"},
		{"4/4: p i m a", []string{"Shift", "q"}, "4/4: p i m a"},
	} {
		got, _ := press(t, c.from, c.keys...)
		assert.Equal(t, c.want, got, "%v", c.keys)
	}
	for _, c := range []struct{ from, key, want string }{
		{"4/4: . i m a", "3", "place a stroke first, then say where it goes"},
		{"4/4: i i m a", "'", `"'" does not go with i`},
		{"4/4: p i m a", "x", `"x" does not go with p`},
		{"4/4: p i m a", "-", "a pattern keeps at least one bar"},
	} {
		p := pattern.MustParse(c.from)
		q, _, err := p.Press(pattern.Cursor{}, c.key)
		assert.EqualError(t, err, c.want)
		assert.True(t, q.Equal(p), "nothing is lost")
	}
}

func TestRegridKeepsWhatFits(t *testing.T) {
	for _, c := range []struct {
		from string
		grid int
		want string
		lost int
	}{
		{"4/4: p i m a", 8, "4/4: p . i . m . a .", 0},
		{"4/4: p i m a p i m a", 4, "4/4: p m p m", 4},
		{"4/4: p . i . m . a .", 12, "4/4: p . . i . . m . . a . .", 0},
		{"4/4 swing: D U D U D U D U", 4, "4/4: D D D D", 4},
		{"6/8: p i m a m i", 12, "6/8: p . i . m . a . m . i .", 0},
	} {
		q, lost, err := pattern.MustParse(c.from).Regrid(c.grid)
		require.NoError(t, err)
		assert.Equal(t, c.want, q.String())
		assert.Equal(t, c.lost, lost)
	}
	_, _, err := pattern.MustParse("4/4: p i m a").Regrid(7)
	assert.EqualError(t, err, "a bar of 4/4 has 4, 8, 12 or 16 slots, not 7")
}

// However keys are pressed, what comes out is a pattern that the reader takes.
func TestEveryKeyLeavesAPattern(t *testing.T) {
	keys := []string{"p", "i", "m", "a", "c", "d", "u", "N", "k", "s", "=", "1", "4", "6", "'", ",", "b", "t", "r", "n", "o", "!", "?", "*", "x", "Delete", "+", "-", "R", "<", ">", "ArrowLeft", "ArrowRight", "ArrowUp", "ArrowDown", "Home", "End", "q"}
	rapid.Check(t, func(t *rapid.T) {
		p, at := pattern.MustParse(rapid.SampledFrom([]string{"4/4: . . . . . . . .", "6/8: p i m a m i", "4/4 swing: D U D U D U D U"}).Draw(t, "from")), pattern.Cursor{}
		for range rapid.IntRange(1, 40).Draw(t, "keys") {
			q, next, err := p.Press(at, rapid.SampledFrom(keys).Draw(t, "key"))
			if err == nil {
				p, at = q, next
			}
			again, err := pattern.Parse(p.String())
			if err != nil {
				t.Fatalf("%s: %v", p, err)
			}
			if again.String() != p.String() {
				p = again // an air stroke has become one that is inferred
			}
		}
	})
}

func TestWordsAreTheInverseOfSpoken(t *testing.T) {
	for notation, want := range map[string]string{
		"4/4: D . D U . U D U": "down, down-up, up-down-up", "4/4: D . D . D . D .": "down, down, down, down",
		"3/4: D . D U D U": "down, down-up-down-up", "4/4: D D . U . . . .": "down-down, up",
	} {
		words, ok := pattern.MustParse(notation).Words()
		assert.True(t, ok, notation)
		assert.Equal(t, want, words)
	}
	for _, e := range catalogue.All {
		words, ok := e.Pattern.Words()
		if !ok {
			continue
		}
		p, err := pattern.Spoken(words, e.Pattern.Meter, e.Pattern.Grid())
		require.NoError(t, err)
		assert.Equal(t, e.Pattern.Bars, p.Bars, e.ID)
	}
	_, ok := pattern.MustParse("4/4: p i m a").Words()
	assert.False(t, ok)
}

// Every figure that the trade lists has its place in the catalogue.
func TestCatalogue(t *testing.T) {
	assert.GreaterOrEqual(t, len(catalogue.All), 48)
	families := map[string]bool{}
	ids := map[string]bool{}
	for _, e := range catalogue.All {
		assert.False(t, ids[e.ID], e.ID)
		ids[e.ID] = true
		families[e.Family] = true
		assert.Equal(t, e.Notation, e.Pattern.String(), "%s is written canonically", e.ID)
		assert.Equal(t, e.Feel == "swung", e.Pattern.Swing, e.ID)
		assert.Less(t, e.Tempo[0], e.Tempo[1], e.ID)
		assert.NotEmpty(t, e.Instruments, e.ID)
		assert.NotEmpty(t, e.Says)
		assert.NotEmpty(t, e.Watch)
		for _, before := range e.After {
			assert.True(t, ids[before], "%s comes after %s, which stands later", e.ID, before)
		}
	}
	for _, family := range []string{"thumb", "roll", "arpeggio", "alternating thumb", "outside and inside", "pinch", "pairs", "sweep", "down strums", "down-up", "syncopated", "sixteenths", "bass and strum", "three and six to a bar", "percussive"} {
		assert.True(t, families[family], family)
	}
}
