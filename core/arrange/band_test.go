package arrange_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"arplin/core/arrange"
	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/core/song"
)

// rungs are a ladder as teachers build it: the thumb, the thumb on every beat, a finger, both.
var rungs = []arrange.Rung{
	{ID: 1, Name: "bass on one", Level: 1.5, Figure: pattern.MustParse("4/4: p . . .")},
	{ID: 2, Name: "bass on every beat", Level: 2.2, Figure: pattern.MustParse("4/4: p p p p")},
	{ID: 3, Name: "a pinch", Level: 3.4, Figure: pattern.MustParse("4/4: p+m p p p")},
	{ID: 4, Name: "the whole figure", Level: 5, Figure: pattern.MustParse("4/4: p+m . p' i p m p' .")},
}

func passes(n int) (list []arrange.Pass) {
	for i := range n {
		list = append(list, arrange.Pass{Section: 1, Time: i + 1})
	}
	return list
}

// Four times the same bars grow: nobody above what they play, more from pass to pass, a bass in
// each, the tune in the second half by those who are furthest. Source: common practice (strum,
// figure, figure with the tune).
func TestASongGrows(t *testing.T) {
	b := arrange.Band{Passes: passes(4), Groups: []arrange.Group{{"Ilse", 3}, {"Tomas, Lotte", 1}, {"Jonas", 0}}, Rungs: rungs, Tune: arrange.Tune{Level: 4.5, Strokes: 3}}
	cells := b.Propose()
	kinds := func(g int) (list []string) {
		for p := range cells {
			if c := cells[p][g]; c.Kind == arrange.OnStep {
				list = append(list, rungs[c.Step-1].Name)
			} else {
				list = append(list, string(c.Kind))
			}
		}
		return list
	}
	assert.Equal(t, []string{"bass on every beat", "a pinch", "tune", "tune"}, kinds(0))
	assert.Equal(t, "bass on every beat", kinds(1)[3])
	var parts []arrange.Part
	for _, c := range cells[2] {
		assert.NotEmpty(t, c.Why)
		parts = append(parts, c.Part)
	}
	assert.Len(t, parts, 3)
	for p := range cells {
		assert.NotContains(t, strings.Join(b.Lacks(cells[p]), " "), "a bass", "pass %d", p)
		for g := range b.Groups {
			assert.NotContains(t, b.Fit(cells, g), "stretched")
		}
	}
	assert.Greater(t, b.Density(cells[3]), b.Density(cells[0]))
}

// What a teacher changes is judged: who is stretched, who is bored, what a pass lacks, and what
// to swap.
func TestWhatIsChangedIsJudged(t *testing.T) {
	b := arrange.Band{Passes: passes(2), Groups: []arrange.Group{{"Ilse", 3}, {"Jonas", 0}}, Rungs: rungs}
	cell := func(kind arrange.PartKind, step ladder.StepID) arrange.Cell {
		return arrange.Cell{Part: arrange.Part{Kind: kind, Step: step}}
	}
	cells := [][]arrange.Cell{{cell(arrange.Rest, 0), cell(arrange.OnStep, 4)}, {cell(arrange.OnStep, 1), cell(arrange.OnStep, 1)}}
	assert.Equal(t, "Jonas is stretched in part 1: swap with Ilse in part 1", b.Fit(cells, 1))
	assert.Contains(t, b.Fit(cells, 0), "Ilse could play more than this anywhere: swap with Jonas in part 1")
	assert.Empty(t, b.Lacks(cells[0]), "the whole figure has all of it")
	assert.Equal(t, []string{"a middle: fingers or strums", "a beat: somebody who strikes every one"}, b.Lacks(cells[1]))
	assert.Len(t, b.Lacks([]arrange.Cell{cell(arrange.Rest, 0)}), 3)
	assert.Len(t, b.Lacks([]arrange.Cell{cell(arrange.OnStep, 99)}), 3, "a step that is gone is a rest")
}

// Whatever the class and the song: a part for every group in every pass, nobody above what they
// play, no pass without a bass, and no growing smaller.
func TestAnyBandHasAProposal(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		b := arrange.Band{Passes: passes(rapid.IntRange(1, 9).Draw(rt, "passes")), Rungs: rungs[:rapid.IntRange(1, 4).Draw(rt, "rungs")], Tune: arrange.Tune{Level: rapid.SampledFrom([]float64{0, 3, 9}).Draw(rt, "tune"), Strokes: 3}}
		for range rapid.IntRange(1, 6).Draw(rt, "groups") {
			b.Groups = append(b.Groups, arrange.Group{Name: "some", Best: rapid.IntRange(-1, len(b.Rungs)-1).Draw(rt, "best")})
		}
		cells := b.Propose()
		require.Len(rt, cells, len(b.Passes))
		for p := range cells {
			require.Len(rt, cells[p], len(b.Groups))
			assert.NotContains(rt, b.Lacks(cells[p]), "a bass")
			for g := range b.Groups {
				assert.NotContains(rt, b.Fit(cells, g), "stretched")
			}
		}
	})
}

// The passes are the sections as they are sung, repeats one by one.
func TestPasses(t *testing.T) {
	sg := song.Song{Sections: []song.Section{{ID: 1, Times: 2, Bars: make([]song.Bar, 2)}, {ID: 2, Bars: make([]song.Bar, 1)}}}
	assert.Equal(t, []arrange.Pass{{1, 1}, {1, 2}, {2, 1}}, arrange.Passes(sg))
}

// BenchmarkPropose is nine groups, and a song of 64 bars in eight passes.
func BenchmarkPropose(b *testing.B) {
	band := arrange.Band{Passes: passes(8), Rungs: rungs, Tune: arrange.Tune{Level: 4, Strokes: 3}}
	for i := range 9 {
		band.Groups = append(band.Groups, arrange.Group{Name: "some", Best: i % 4})
	}
	for b.Loop() {
		cells := band.Propose()
		for g := range band.Groups {
			band.Fit(cells, g)
		}
	}
}
