package ladder_test

import (
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/variation"
)

func task(t testing.TB, p pattern.Pattern, chords string) difficulty.Task {
	t.Helper()
	bars, err := song.ParseChords(chords, p.Meter)
	require.NoError(t, err)
	ins, _ := fretboard.ByID("guitar")
	return difficulty.NewTask(p, song.Song{Meter: p.Meter, Tempo: 80, Sections: []song.Section{{Bars: bars}}}, ins, bind.DefaultSchool, 80)
}

// What must hold of every ladder, in every order, on songs of one chord and of
// several. Source: the brief of the trade, common practice.
func TestEveryLadder(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		p := randomFigure(rt)
		chords := rapid.SampledFrom([]string{"C", "G | D", "C | Am | F | G7", "Em | C | G D | Em"}).Draw(rt, "chords")
		order := rapid.SampledFrom(ladder.Orders).Draw(rt, "order").Order
		tk := task(t, p, chords)
		steps := ladder.Build(order, tk, difficulty.Fitted, 0)
		for i, s := range steps {
			words := ladder.Describe(steps, i, tk)
			if words.Name == "" || words.Says == "" || s.How() == "" || !variation.Together(s.Pattern, p) {
				rt.Fatalf("step %d of %s is not whole: %+v", i+1, p, s)
			}
			for _, o := range steps[:i] {
				if o.Same(s) {
					rt.Fatalf("%s, %s repeats %s over %s", p, order, s.Pattern, s.Over)
				}
			}
			if i == 0 {
				continue
			}
			below := steps[i-1]
			if s.Level <= below.Level {
				rt.Fatalf("%s, %s: step %d falls from %f to %f", p, order, i+1, below.Level, s.Level)
			}
			sameStage := s.Over == below.Over && s.Play == below.Play && s.Pace == below.Pace
			if sameStage && !ladder.OneRule(s.Pattern, below.Pattern, s.Adds) {
				rt.Fatalf("%s, %s: %s to %s is not %v", p, order, below.Pattern, s.Pattern, s.Adds)
			}
		}
		last := steps[len(steps)-1]
		if !last.Pattern.Equal(p) || last.Play != difficulty.OnStrings || last.Pace != 0 {
			rt.Fatalf("%s ends in %+v", p, last)
		}
		if level := difficulty.Of(tk, difficulty.Fitted).Level; math.Abs(level-last.Level) > 1e-9 {
			rt.Fatalf("%s ends at %f, the target is %f", p, last.Level, level)
		}
	})
}

func TestEveryLadderOfTheCatalogue(t *testing.T) {
	for _, e := range pattern.Catalogue {
		steps := ladder.Build(ladder.ThumbFirst, task(t, e.Pattern, "C | Am | F | G7"), difficulty.Fitted, 0)
		assert.Equal(t, ladder.AllChords, steps[len(steps)-1].Over, e.ID)
		if e.Pattern.Count() >= 5 {
			assert.GreaterOrEqual(t, len(steps), 5, e.ID)
		}
	}
}

// Common practice: rhythm first, chords second, then both.
func TestRhythmFirst(t *testing.T) {
	tk := task(t, pattern.MustParse("4/4: D . D U . U D U"), "C | Am | F | G7")
	var plays []difficulty.Play
	var adds []string
	steps := ladder.Build(ladder.RhythmFirst, tk, difficulty.Fitted, 0)
	for i, s := range steps {
		if n := len(plays); n == 0 || plays[n-1] != s.Play {
			plays, adds = append(plays, s.Play), append(adds, ladder.Describe(steps, i, tk).Name)
		}
	}
	assert.Equal(t, []difficulty.Play{difficulty.Said, difficulty.Tapped, difficulty.Muted, difficulty.OnStrings}, plays)
	assert.Equal(t, []string{"the count, said", "the rhythm, tapped", "muted strings", "the first chord"}, adds)
}

// Common practice: one school lets the strokes be even first, the other takes
// accents early.
func TestAccentsEarly(t *testing.T) {
	tk := task(t, pattern.MustParse("4/4: D U D! U D U D! U"), "C")
	place := func(order ladder.Order) int {
		for i, s := range ladder.Build(order, tk, difficulty.Fitted, 0) {
			if s.Adds[0].Rule == "accents" {
				return i
			}
		}
		return -1
	}
	assert.Positive(t, place(ladder.AccentsEarly))
	assert.Less(t, place(ladder.AccentsEarly), place(ladder.ThumbFirst))
}

// Where the way from the two chords to the song is long, the song is played
// slowly first; about 60 and 80 per cent are slow and medium. Common practice.
func TestTempoSteps(t *testing.T) {
	tk := task(t, pattern.MustParse("4/4: p . p . p . p ."), "C | Am | F | G7")
	steps := ladder.Build(ladder.ThumbFirst, tk, difficulty.Fitted, 0)
	var paces []int
	for _, s := range steps {
		if s.Over == ladder.AllChords {
			paces = append(paces, s.Goal(80))
		}
	}
	assert.Equal(t, []int{48, 64, 80}, paces)
	at := func(back int) ladder.Words { return ladder.Describe(steps, len(steps)-back, tk) }
	assert.Equal(t, "all chords", at(3).Name)
	assert.Contains(t, at(3).Says, "at the slow tempo")
	assert.Equal(t, "medium tempo", at(2).Name)
	assert.Equal(t, "the goal tempo", at(1).Name)
	assert.Contains(t, at(1).Says, "Close it")
}

// What a step is played on, in words.
func TestChordNames(t *testing.T) {
	tk := task(t, pattern.MustParse("4/4: p . p . p . p ."), "C | Am | F | G7 | C | Am | F | G7 | C")
	of := map[ladder.Over][]string{}
	for _, s := range ladder.Build(ladder.ThumbFirst, tk, difficulty.Fitted, 0) {
		of[s.Over] = s.ChordNames(tk)
	}
	assert.Len(t, of[ladder.OneChord], 1)
	assert.Len(t, of[ladder.TwoChords], 2, "two bars of each are one run")
	assert.Equal(t, of[ladder.TwoChords], of[ladder.TwoChordsABar])
	assert.Equal(t, []string{"C", "Am", "F", "G7"}, of[ladder.AllChords], "each once, the song is long")
}

// How a step is practised is that of its own thing, also where steps were joined.
func TestHow(t *testing.T) {
	own, joined := ladder.Thing{Rule: "second-bass-string"}, ladder.Thing{Rule: "every-beat"}
	assert.Equal(t, ladder.Step{Adds: []ladder.Thing{own}}.How(), ladder.Step{Adds: []ladder.Thing{joined, own}}.How())
	assert.Contains(t, ladder.Step{Adds: []ladder.Thing{own}}.How(), "Thumb alone")
	assert.NotEmpty(t, ladder.Step{}.How())
}

func TestBeyond(t *testing.T) {
	tk, l := aLadder(t)
	beyond := ladder.Beyond(tk, difficulty.Fitted)
	require.NotEmpty(t, beyond)
	for _, s := range beyond {
		assert.Greater(t, s.Level, l.Steps[len(l.Steps)-1].Level)
		assert.True(t, variation.Together(s.Pattern, tk.Pattern))
	}
}

// Common practice: another school takes the second chord as soon as there is a
// stroke to change on.
func TestTwoChordsFirst(t *testing.T) {
	tk := task(t, pattern.MustParse("4/4: p . p'+m . p i p' ."), "C | Am | F | G7")
	steps := ladder.Build(ladder.TwoChordsFirst, tk, difficulty.Fitted, 0)
	assert.Equal(t, ladder.OneChord, steps[0].Over)
	assert.Equal(t, []ladder.Thing{{Stage: ladder.SecondChord}}, steps[1].Adds)
	assert.True(t, steps[1].Pattern.Equal(steps[0].Pattern))
	for i := 1; i < len(steps); i++ {
		assert.Greater(t, steps[i].Level, steps[i-1].Level)
	}
	last := steps[len(steps)-1]
	assert.True(t, last.Pattern.Equal(tk.Pattern))
	assert.Equal(t, ladder.AllChords, last.Over)
	one := ladder.Build(ladder.TwoChordsFirst, task(t, tk.Pattern, "C"), difficulty.Fitted, 0)
	assert.Equal(t, len(ladder.Build(ladder.ThumbFirst, task(t, tk.Pattern, "C"), difficulty.Fitted, 0)), len(one), "one chord leaves no choice")
}

// The search against all ways down, on a figure small enough to try them all.
func TestTheSearchIsAsEvenAsTryingEverything(t *testing.T) {
	for _, notation := range []string{"4/4: p+m . p' i p m p' .", "4/4: D . D U . U D U", "6/8: p i m a m i"} {
		tk := task(t, pattern.MustParse(notation), "C")
		got, want := ladder.Unevenness(tk, difficulty.Fitted), math.Inf(1)
		ladder.EveryWay(tk, difficulty.Fitted, func(cost float64) { want = min(want, cost) })
		assert.InDelta(t, want, got, 1e-9, notation)
	}
}

func BenchmarkLadderOf64Bars(b *testing.B) {
	line := "C | Am | F | G7"
	for range 15 {
		line += " | C | Am | F | G7"
	}
	tk := task(b, pattern.MustParse("4/4: p . p'+m . p i p' . | p+m . p' i p m p' ."), line)
	for b.Loop() {
		ladder.Build(ladder.ThumbFirst, tk, difficulty.Fitted, 0)
	}
}

func BenchmarkNeighbours(b *testing.B) {
	tk := task(b, pattern.MustParse("4/4: p+m . p' i p m p' ."), "C")
	for b.Loop() {
		variation.Neighbours(tk, difficulty.Fitted)
	}
}

// A step that is called by its notes adds as many as it names. Source: common
// practice, one new thing at a time.
func TestNotesAreCounted(t *testing.T) {
	for _, e := range pattern.Catalogue {
		tk := task(t, e.Pattern, "C")
		steps := ladder.Build(ladder.ThumbFirst, tk, difficulty.Fitted, 0)
		for i, s := range steps {
			name := ladder.Describe(steps, i, tk).Name
			if i == 0 || !strings.Contains(name, " on ") || strings.HasPrefix(name, "missed") {
				continue
			}
			places := 1 + strings.Count(strings.ReplaceAll(name, "the and of", ""), " and ")
			fresh := 0
			s.Pattern.Each(func(pl pattern.Place, _ pattern.Stroke) {
				if _, had := steps[i-1].Pattern.At(pl); !had {
					fresh++
				}
			})
			assert.Equal(t, places, fresh, "%s: %s from %s to %s", e.ID, name, steps[i-1].Pattern, s.Pattern)
		}
	}
}

func TestReach(t *testing.T) {
	steps := []ladder.Step{{Level: 2}, {Level: 3}, {Level: 4.5}, {Level: 6}}
	for level, want := range map[float64]int{0: 0, 1.5: 0, 2: 0, 4.4: 1, 4.5: 2, 9: 3} {
		assert.Equal(t, want, ladder.Reach(steps, level), level)
	}
	assert.Zero(t, ladder.Reach(nil, 3))
}
