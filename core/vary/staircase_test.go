package vary_test

import (
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"arplin/core/bind"
	"arplin/core/demand"
	"arplin/core/fretboard"
	"arplin/core/hand"
	"arplin/core/song"
	"arplin/core/vary"
)

func task(t testing.TB, p hand.Pattern, chords string) demand.Task {
	t.Helper()
	bars, err := song.ParseChords(chords, p.Meter)
	require.NoError(t, err)
	ins, _ := fretboard.ByID("guitar")
	return demand.NewTask(p, song.Song{Meter: p.Meter, Tempo: 80, Sections: []song.Section{{Bars: bars}}}, ins, bind.DefaultSchool, 80)
}

// What must hold of every ladder, in every order, on songs of one chord and of
// several. Source: the brief of the trade, common practice.
func TestEveryStaircase(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		p := randomFigure(rt)
		chords := rapid.SampledFrom([]string{"C", "G | D", "C | Am | F | G7", "Em | C | G D | Em"}).Draw(rt, "chords")
		order := rapid.SampledFrom(vary.Orders).Draw(rt, "order").Order
		tk := task(t, p, chords)
		stairs := vary.Staircase(order, tk, demand.Fitted, 0)
		for i, s := range stairs {
			if s.Adds == "" || s.Says == "" || s.How() == "" || !vary.Together(s.Pattern, p) {
				rt.Fatalf("step %d of %s is not whole: %+v", i+1, p, s)
			}
			for _, o := range stairs[:i] {
				if o.Same(s.Step) {
					rt.Fatalf("%s, %s repeats %s over %s", p, order, s.Pattern, s.Over)
				}
			}
			if i == 0 {
				continue
			}
			below := stairs[i-1]
			if s.Level <= below.Level {
				rt.Fatalf("%s, %s: step %d falls from %f to %f", p, order, i+1, below.Level, s.Level)
			}
			sameStage := s.Over == below.Over && s.Play == below.Play && s.Pace == below.Pace
			if sameStage && !vary.OneRule(s.Pattern, below.Pattern, s.Adds) {
				rt.Fatalf("%s, %s: %s to %s is not %q", p, order, below.Pattern, s.Pattern, s.Adds)
			}
		}
		last := stairs[len(stairs)-1]
		if !last.Pattern.Equal(p) || last.Play != demand.OnStrings || last.Pace != 0 {
			rt.Fatalf("%s ends in %+v", p, last)
		}
		if level := demand.Of(tk, demand.Fitted).Level; math.Abs(level-last.Level) > 1e-9 {
			rt.Fatalf("%s ends at %f, the target is %f", p, last.Level, level)
		}
	})
}

func TestEveryStaircaseOfTheCatalogue(t *testing.T) {
	for _, e := range hand.Catalogue {
		stairs := vary.Staircase(vary.ThumbFirst, task(t, e.Pattern, "C | Am | F | G7"), demand.Fitted, 0)
		assert.Equal(t, "all chords", stairs[len(stairs)-1].Over, e.ID)
		if e.Pattern.Count() >= 5 {
			assert.GreaterOrEqual(t, len(stairs), 5, e.ID)
		}
	}
}

// Common practice: rhythm first, chords second, then both.
func TestRhythmFirst(t *testing.T) {
	tk := task(t, hand.MustParse("4/4: D . D U . U D U"), "C | Am | F | G7")
	var plays []demand.Play
	var adds []string
	for _, s := range vary.Staircase(vary.RhythmFirst, tk, demand.Fitted, 0) {
		if n := len(plays); n == 0 || plays[n-1] != s.Play {
			plays, adds = append(plays, s.Play), append(adds, s.Adds)
		}
	}
	assert.Equal(t, []demand.Play{demand.Said, demand.Tapped, demand.Muted, demand.OnStrings}, plays)
	assert.Equal(t, []string{"the count, said", "the rhythm, tapped", "muted strings", "the first chord"}, adds)
}

// Common practice: one school lets the strokes be even first, the other takes
// accents early.
func TestAccentsEarly(t *testing.T) {
	tk := task(t, hand.MustParse("4/4: D U D! U D U D! U"), "C")
	place := func(order vary.Order) int {
		for i, s := range vary.Staircase(order, tk, demand.Fitted, 0) {
			if s.Adds == "accents" {
				return i
			}
		}
		return -1
	}
	assert.Positive(t, place(vary.AccentsEarly))
	assert.Less(t, place(vary.AccentsEarly), place(vary.ThumbFirst))
}

// Where the way from the two chords to the song is long, the song is played
// slowly first; about 60 and 80 per cent are slow and medium. Common practice.
func TestTempoSteps(t *testing.T) {
	stairs := vary.Staircase(vary.ThumbFirst, task(t, hand.MustParse("4/4: p . p . p . p ."), "C | Am | F | G7"), demand.Fitted, 0)
	var paces []int
	for _, s := range stairs {
		if s.Over == "all chords" {
			paces = append(paces, s.Goal(80))
		}
	}
	assert.Equal(t, []int{48, 64, 80}, paces)
	assert.Equal(t, "all chords", stairs[len(stairs)-3].Adds)
	assert.Equal(t, "the goal tempo", stairs[len(stairs)-1].Adds)
	assert.Contains(t, stairs[len(stairs)-1].Says, "Close it")
}

// What a step is played on, in words.
func TestChordNames(t *testing.T) {
	tk := task(t, hand.MustParse("4/4: p . p . p . p ."), "C | Am | F | G7 | C | Am | F | G7 | C")
	of := map[string][]string{}
	for _, s := range vary.Staircase(vary.ThumbFirst, tk, demand.Fitted, 0) {
		of[s.Over] = s.ChordNames(tk)
	}
	assert.Len(t, of["one chord"], 1)
	assert.Len(t, of["two chords"], 2, "two bars of each are one run")
	assert.Equal(t, of["two chords"], of["two chords, a bar each"])
	assert.Equal(t, []string{"C", "Am", "F", "G7"}, of["all chords"], "each once, the song is long")
}

func TestAdvice(t *testing.T) {
	tk, steps := ladderSteps(t)
	assert.Contains(t, vary.Why(steps, 0, tk, demand.Fitted), "easiest step")
	assert.Contains(t, vary.Why(steps, 4, tk, demand.Fitted), "most of it for this")
	lowered := slices.Clone(steps)
	lowered[1], lowered[2] = lowered[2], lowered[1]
	assert.Contains(t, vary.Why(lowered, 2, tk, demand.Fitted), "no harder than the step below")
	byName := vary.Step{Adds: "every beat, second bass string"}
	assert.Equal(t, vary.Step{Adds: "second bass string"}.How(), byName.How())
	assert.Equal(t, vary.Step{Adds: "the count, said"}.How(), vary.Step{Adds: "the count, said", Play: demand.Said}.How())
	assert.Contains(t, vary.Step{Play: demand.Tapped}.ReadyWhen(60), "in time at 60")
}

func TestBeyond(t *testing.T) {
	tk, steps := ladderSteps(t)
	beyond := vary.Beyond(tk, demand.Fitted)
	require.NotEmpty(t, beyond)
	for _, s := range beyond {
		assert.Greater(t, s.Level, steps[len(steps)-1].Level)
		assert.True(t, vary.Together(s.Pattern, tk.Pattern))
	}
}

// Common practice: another school takes the second chord as soon as there is a
// stroke to change on.
func TestTwoChordsFirst(t *testing.T) {
	tk := task(t, hand.MustParse("4/4: p . p'+m . p i p' ."), "C | Am | F | G7")
	stairs := vary.Staircase(vary.TwoChordsFirst, tk, demand.Fitted, 0)
	assert.Equal(t, "one chord", stairs[0].Over)
	assert.Equal(t, "the second chord", stairs[1].Adds)
	assert.True(t, stairs[1].Pattern.Equal(stairs[0].Pattern))
	for i := 1; i < len(stairs); i++ {
		assert.Greater(t, stairs[i].Level, stairs[i-1].Level)
	}
	last := stairs[len(stairs)-1]
	assert.True(t, last.Pattern.Equal(tk.Pattern))
	assert.Equal(t, "all chords", last.Over)
	one := vary.Staircase(vary.TwoChordsFirst, task(t, tk.Pattern, "C"), demand.Fitted, 0)
	assert.Equal(t, len(vary.Staircase(vary.ThumbFirst, task(t, tk.Pattern, "C"), demand.Fitted, 0)), len(one), "one chord leaves no choice")
}

func TestReadyAndFallBack(t *testing.T) {
	assert.Equal(t, "three times clean at 84, counting aloud", vary.Step{}.ReadyWhen(84))
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

func BenchmarkStaircaseOf64Bars(b *testing.B) {
	line := "C | Am | F | G7"
	for range 15 {
		line += " | C | Am | F | G7"
	}
	tk := task(b, hand.MustParse("4/4: p . p'+m . p i p' . | p+m . p' i p m p' ."), line)
	for b.Loop() {
		vary.Staircase(vary.ThumbFirst, tk, demand.Fitted, 0)
	}
}

func BenchmarkNeighbours(b *testing.B) {
	tk := task(b, hand.MustParse("4/4: p+m . p' i p m p' ."), "C")
	for b.Loop() {
		vary.Neighbours(tk, demand.Fitted)
	}
}

// A step that is called one note, or the first, adds one stroke. Source: common
// practice, one new thing at a time.
func TestOneIsOne(t *testing.T) {
	count := func(p hand.Pattern) (n int) {
		for _, bar := range p.Bars {
			for _, slot := range bar {
				n += len(slot.Strokes)
			}
		}
		return n
	}
	for _, e := range hand.Catalogue {
		steps := vary.Staircase(vary.ThumbFirst, task(t, e.Pattern, "C"), demand.Fitted, 0)
		for i, s := range steps {
			switch s.Adds {
			case "one finger note", "first off-beat", "first up stroke":
				assert.Equal(t, count(steps[i-1].Pattern)+1, count(s.Pattern), "%s: %s from %s to %s", e.ID, s.Adds, steps[i-1].Pattern, s.Pattern)
			}
		}
	}
}

// How a step is practised goes with what it needs: no strings before the strings,
// no song on one chord. Source: common practice.
func TestPractiseGoesWithTheStage(t *testing.T) {
	tk := task(t, hand.MustParse("4/4: p+m . p' i p m p' ."), "C | Am | F | G7")
	fallBack := func(order vary.Order) string {
		var steps []vary.Step
		for _, stair := range vary.Staircase(order, tk, demand.Fitted, 0) {
			steps = append(steps, stair.Step)
			text := strings.Join(stair.Practise(), " ")
			assert.Equal(t, stair.Play == demand.OnStrings, strings.Contains(text, "shape"), stair.Adds)
			assert.Equal(t, stair.Over == "all chords", strings.Contains(text, "The song at the slow tempo"), stair.Adds)
			assert.Equal(t, stair.Adds == "the count, said" || stair.Adds == "the rhythm, tapped", stair.BeforeStrings(), stair.Adds)
		}
		return vary.FallBack(steps, 0)
	}
	assert.Equal(t, "count the beats alone and walk on them", fallBack(vary.RhythmFirst))
	assert.Equal(t, "say the count and tap it, then one stroke again", fallBack(vary.ThumbFirst))
}

func TestReach(t *testing.T) {
	steps := []vary.Step{{Level: 2}, {Level: 3}, {Level: 4.5}, {Level: 6}}
	for level, want := range map[float64]int{0: 0, 1.5: 0, 2: 0, 4.4: 1, 4.5: 2, 9: 3} {
		assert.Equal(t, want, vary.Reach(steps, level), level)
	}
	assert.Zero(t, vary.Reach(nil, 3))
}
