package ladder_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/difficulty"
	"arplin/core/ladder"
	"arplin/core/ladder/grow"
	"arplin/core/ladder/order"
	"arplin/core/pattern"
	"arplin/core/song"
)

// What is said of a step is true of its strokes: each row once said what was not so.
func TestWhatIsSaidIsTrueOfTheStrokes(t *testing.T) {
	for _, c := range []struct{ below, here, name, says, not string }{
		{"4/4: p . . . . . . .", "4/4: p . . . . . p .", "bass on 4", "The bass isn’t even here. Count between its notes.", "clock"},
		{"4/4: p . . . . . . .", "4/4: p . . . p . . .", "bass on 3", "The bass stays even, like a clock.", ""},
		{"4/4: D! . . . . . . .", "4/4: D! . . . D . . .", "down strum on 3", "Strum down here, too.", "loud"},
		{"4/4: . U . . . . . .", "4/4: . U . . D . . .", "down strum on 3", "Strum down here, too.", "loud"},
		{"4/4: D . . . . . . .", "4/4: D . . . D . . .", "down strum on 3", "As loud as the strum on one.", ""},
		{"6/8: D . . D . .", "6/8: D . D D . D", "down strum on 3 and 6", "Strum down here, too.", "between"},
		{"4/4: p . . p . . p . . p . .", "4/4: p i . p . . p . . p . .", "index on the second of the triplet on 1", "The bass stays the same.", "trip of"},
	} {
		steps := []ladder.Step{{Pattern: pattern.MustParse(c.below), Over: ladder.OneChord}, {Pattern: pattern.MustParse(c.here), Over: ladder.OneChord, Adds: []ladder.Thing{{Stage: ladder.Notes}}}}
		w := ladder.Describe(steps, 1, task(t, steps[1].Pattern, "C"))
		assert.Equal(t, c.name, w.Name, c.here)
		assert.Equal(t, c.says, w.Says, c.here)
		if c.not != "" {
			assert.NotContains(t, w.Name+w.Says, c.not)
		}
	}
	groups := []ladder.Step{{Pattern: pattern.MustParse("4/4: p i m+a i p i m+a i")}, {Pattern: pattern.MustParse("4/4: p i m+a p m+a p i m+a"), Adds: []ladder.Thing{{Rule: "regrouped-in-threes"}}}}
	assert.Equal(t, "regrouped three-two-three", ladder.Describe(groups, 1, task(t, groups[1].Pattern, "C")).Name)
	zones := func(notation string) string {
		p := pattern.MustParse(notation)
		steps := []ladder.Step{{Pattern: p}, {Pattern: p, Adds: []ladder.Thing{{Rule: "zones"}}}}
		return ladder.Describe(steps, 1, task(t, p, "C")).Name
	}
	without := func(below, here string) ladder.Words {
		steps := []ladder.Step{{Pattern: pattern.MustParse(below)}, {Pattern: pattern.MustParse(here), Adds: []ladder.Thing{{Rule: "stroke-left-out"}}}}
		return ladder.Describe(steps, 1, task(t, steps[1].Pattern, "C"))
	}
	assert.Equal(t, "without the index on the “and” of 4", without("4/4: p+m . p' i p m p' i", "4/4: p+m . p' i p m p' .").Name)
	assert.Equal(t, "missed strums on the “and” of 1 and 3", without("4/4: D U D U D U D U", "4/4: D . D U . U D U").Name)
	assert.Equal(t, ladder.Words{Name: "missed strum on 3", Says: "Let your hand pass the strings on a beat, and keep it moving."}, without("4/4: D . D U D U D U", "4/4: D . D U . U D U"))
	sweep := pattern.MustParse("4/4: ~ ~ ~ ~ ~ ~ ~ ~ | p i m i p i m i")
	bars := []ladder.Step{{Pattern: pattern.MustParse("4/4: ~ ~ ~ ~ ~ ~ ~ ~")}, {Pattern: pattern.MustParse("4/4: p i m i p i m i"), Adds: []ladder.Thing{{Stage: ladder.OtherBar}}}}
	assert.Equal(t, "second bar alone", ladder.Describe(bars, 1, task(t, sweep, "C")).Name, "as many strokes are not the same bar")
	assert.Equal(t, "low downs, high ups", zones("4/4: Db . Db Ut . Ut Db Ut"))
	assert.Equal(t, "high ups", zones("4/4: D . D Ut . Ut D Ut"))
	assert.Equal(t, "low and high strums", zones("4/4: Db . Dt U . U Db U"))
}

// Of a song of two chords there are no other bars to rest in; how it closes is said where the song says
// it.
func TestWhatIsSaidOfChordsIsTrueOfTheSong(t *testing.T) {
	second := func(chords string) string {
		tk := task(t, pattern.MustParse("4/4: p . p . p . p ."), chords)
		steps := grow.Build(order.Choice{}, tk, difficulty.Fitted, 0)
		for i, s := range steps {
			if s.Brings(ladder.SecondChord) {
				return ladder.Describe(steps, i, tk).Says
			}
		}
		return ""
	}
	assert.NotContains(t, second("C | G"), "other bars")
	assert.Contains(t, second("C | G | Am"), "In the other bars, rest")
	tk := task(t, pattern.MustParse("4/4: p . p . p . p ."), "C | G | C")
	tk.Bars[2].Role = song.End
	steps := grow.Build(order.Choice{}, tk, difficulty.Fitted, 0)
	assert.Contains(t, ladder.Describe(steps, len(steps)-1, tk).Says, "It ends with a single stroke in the last bar")
}

// No step is called all chords that adds tempo: a song that is its first two chords has no such step.
func TestASongOfAPair(t *testing.T) {
	for _, chords := range []string{"A | A | D | D", "G | G | C | C"} {
		for _, come := range order.ChordsCome {
			tk := task(t, pattern.MustParse("4/4: D . D ."), chords)
			steps := grow.Build(order.Choice{Chords: come.Value}, tk, difficulty.Fitted, 0)
			for i, s := range steps {
				if name := ladder.Describe(steps, i, tk).Name; name == "all chords" {
					require.Positive(t, i)
					assert.Equal(t, steps[i-1].Pattern.String(), s.Pattern.String(), chords)
					assert.NotEqual(t, ladder.AllChords, steps[i-1].Over, chords)
				}
			}
		}
	}
}

// A figure of two bars: what a step leaves out is of its own bar.
func TestThePartOfATarget(t *testing.T) {
	target := pattern.MustParse("4/4: ~ ~ ~ ~ ~ ~ ~ ~ | p i m i p i m i")
	part := func(notation string) (pattern.Pattern, int, bool) {
		return ladder.Step{Pattern: pattern.MustParse(notation)}.PartOf(target)
	}
	figure, from, ok := part("4/4: p i m . . . . .")
	require.True(t, ok)
	assert.Equal(t, 1, from)
	assert.Equal(t, "4/4: p i m i p i m i", figure.String())
	_, from, ok = part(target.String())
	assert.True(t, ok)
	assert.Zero(t, from)
	_, _, ok = part("4/4: a . . . . . . .")
	assert.False(t, ok)
}

// A figure with nothing on its beats grows from the beats: downs, the ups between them, then the downs are
// left out. Source: common practice.
func TestUpsAloneGrowFromTheBeats(t *testing.T) {
	var figures []string
	for _, s := range grow.Figures(order.Choice{Size: order.Usual}, pattern.MustParse("4/4: . U . U . U . U")) {
		figures = append(figures, strings.TrimPrefix(s.Pattern.String(), "4/4: "))
	}
	assert.Equal(t, []string{"D . D . D . D .", "D U D U D U D U", ". U . U . U . U"}, figures[len(figures)-3:])
}
