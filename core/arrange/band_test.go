package arrange_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"arplin/core/arrange"
	"arplin/core/difficulty"
	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/core/song"
)

// rungs are a ladder as teachers build it: the thumb, the thumb on every beat, a finger, both.
var rungs = []arrange.Rung{
	{ID: 1, Name: "bass on 1", Level: 1.5, Figure: pattern.MustParse("4/4: p . . .")},
	{ID: 2, Name: "bass on every beat", Level: 2.2, Figure: pattern.MustParse("4/4: p p p p")},
	{ID: 3, Name: "a pinch", Level: 3.4, Figure: pattern.MustParse("4/4: p+m p p p")},
	{ID: 4, Name: "the whole pattern", Level: 5, Figure: pattern.MustParse("4/4: p+m . p' i p m p' .")},
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
	b := arrange.Band{Passes: passes(4), Groups: []arrange.Group{{Name: "Ilse", Best: 3}, {Name: "Tomas, Lotte", Best: 1}, {Name: "Jonas", Best: 0}}, Rungs: rungs, Tune: arrange.Tune{Level: 4.5, Strokes: 3}}
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
		assert.NotContains(t, strings.Join(b.Lacks(p, cells[p]), " "), "a bass", "pass %d", p)
		for g := range b.Groups {
			assert.NotContains(t, b.Fit(cells, g), "stretched")
		}
	}
	assert.Greater(t, b.Density(3, cells[3]), b.Density(0, cells[0]))
	assert.Greater(t, b.Effort(cells[3]), b.Effort(cells[0]))
}

// The same bars four times: strum, figure, figure with the tune, bass and strum; the bass is kept by
// somebody while the others strum, and who carries the tune has its own bass at the end. Who is on
// no step, or below a strum, is given neither. Source: common practice.
func TestTheSameBarsFourTimes(t *testing.T) {
	four := pattern.Meter{Beats: 4, Unit: 4}
	b := arrange.Band{
		Passes: passes(4), Groups: []arrange.Group{{Name: "Ilse", Best: 3}, {Name: "Tomas", Best: 2}, {Name: "Jonas", Best: 0}, {Name: "Wim", Best: -1}}, Rungs: rungs, Meter: four,
		Tune: arrange.Tune{Level: 3.5, Strokes: 3}, Over: arrange.Tune{Level: 4.9, Strokes: 6}, Levels: map[arrange.PartKind]float64{arrange.Strum: 2.5, arrange.BassStrum: 3.3},
	}
	cells := b.Propose()
	kinds := func(g int) (list []arrange.PartKind) {
		for p := range cells {
			list = append(list, cells[p][g].Kind)
		}
		return list
	}
	assert.Equal(t, []arrange.PartKind{arrange.Strum, arrange.OnStep, arrange.TheTune, arrange.TuneBass}, kinds(0))
	assert.Equal(t, []arrange.PartKind{arrange.Strum, arrange.OnStep, arrange.OnStep, arrange.BassStrum}, kinds(1))
	assert.Equal(t, ladder.StepID(3), cells[1][1].Step, "their own step")
	assert.Equal(t, arrange.OnStep, cells[0][2].Kind, "the thumb, which is the bass")
	assert.Equal(t, arrange.Once, cells[0][3].Kind)
	for p := range cells {
		assert.Empty(t, b.Lacks(p, cells[p]), "pass %d", p)
	}

	other := b.Passes[1]
	other.Section = 2
	b.Passes[1] = other
	assert.NotEqual(t, arrange.Strum, b.Propose()[0][0].Kind, "a song of several parts grows by its steps")
}

// What a figure of a part has on its beats. Source: common practice: a strum on every beat, bass
// and strum in turns, in three one bass and two strums.
func TestFiguresOfParts(t *testing.T) {
	for meter, want := range map[string][2]string{
		"4/4": {"4/4: D D D D", "4/4: p D p' D"}, "3/4": {"3/4: D D D", "3/4: p D D"}, "2/4": {"2/4: D D", "2/4: p D"},
	} {
		m, err := pattern.ParseMeter(meter)
		require.NoError(t, err)
		for i, k := range []arrange.PartKind{arrange.Strum, arrange.BassStrum} {
			f, ok := k.Figure(m)
			require.True(t, ok)
			assert.Equal(t, want[i], f.String())
		}
	}
	_, ok := arrange.TheTune.Figure(pattern.Meter{Beats: 4, Unit: 4})
	assert.False(t, ok)
	for _, n := range arrange.PartNames {
		assert.Equal(t, n.Name, n.Kind.String())
	}
}

// A part can be known from a song with the same chords; who is on no step here plays that. Groups
// that take turns swap every second time, and nobody plays more than they can. Source: common
// practice, a 12-bar form carries many songs.
func TestPartsThatAreShared(t *testing.T) {
	blues := func(chords string) song.Song {
		bars, err := song.ParseChords(chords, pattern.Meter{Beats: 4, Unit: 4})
		require.NoError(t, err)
		return song.Song{Meter: pattern.Meter{Beats: 4, Unit: 4}, Sections: []song.Section{{Bars: bars}}}
	}
	mine, other := blues("C | F | C | G7"), blues("C | C | F | C | G7 | Am")
	assert.True(t, arrange.MayShare(mine, other))
	assert.False(t, arrange.MayShare(other, mine), "Am is not known from there")
	waltz := blues("C | F | G7")
	waltz.Meter.Beats = 3
	assert.False(t, arrange.MayShare(waltz, other))

	b := arrange.Band{Passes: passes(4), Groups: []arrange.Group{{Name: "Ilse", Best: 3}, {Name: "Tomas", Best: -1}}, Rungs: rungs}
	b.Shared(1, arrange.Rung{ID: 3, Of: 7, Name: "a pinch", Level: 3.1, Figure: rungs[2].Figure})
	known := arrange.Part{Kind: arrange.OnStep, Step: 3, Of: 7}
	cells := b.Propose()
	assert.Equal(t, known, cells[1][1].Part)
	assert.InDelta(t, 3.1, b.Level(known), 0, "not that of the third step here")
	assert.Empty(t, b.Fit(cells, 1))

	step := func(n ladder.StepID) arrange.Part { return arrange.Part{Kind: arrange.OnStep, Step: n} }
	parts := [][]arrange.Part{{step(1), known}, {step(1), known}, {step(4), known}, {step(4), known}}
	assert.Equal(t, []int{1}, b.TakeTurns(parts, 0, 1), "the whole pattern is too much for Tomas")
	assert.Equal(t, [][]arrange.Part{{step(1), known}, {known, step(1)}, {step(4), known}, {step(4), known}}, parts)
	assert.Equal(t, []int{1}, b.TakeTurns(parts, 0, 1), "and back")
}

// What a teacher changes is judged: who is stretched, who is bored, what a pass lacks, and what
// to swap.
func TestWhatIsChangedIsJudged(t *testing.T) {
	b := arrange.Band{Passes: passes(2), Groups: []arrange.Group{{Name: "Ilse", Best: 3}, {Name: "Jonas", Best: 0}}, Rungs: rungs}
	cell := func(kind arrange.PartKind, step ladder.StepID) arrange.Cell {
		return arrange.Cell{Part: arrange.Part{Kind: kind, Step: step}}
	}
	cells := [][]arrange.Cell{{cell(arrange.Rest, 0), cell(arrange.OnStep, 4)}, {cell(arrange.OnStep, 1), cell(arrange.OnStep, 1)}}
	assert.Equal(t, "Jonas is stretched in part 1: swap with Ilse in part 1", b.Fit(cells, 1))
	assert.Contains(t, b.Fit(cells, 0), "Ilse could play more than this anywhere: swap with Jonas in part 1")
	assert.Empty(t, b.Lacks(0, cells[0]), "the whole pattern has all of it")
	assert.Equal(t, []string{"a middle: fingers or strums", "a beat: someone who plays every one"}, b.Lacks(1, cells[1]))
	assert.Len(t, b.Lacks(0, []arrange.Cell{cell(arrange.Rest, 0)}), 3)
	assert.Len(t, b.Lacks(0, []arrange.Cell{cell(arrange.OnStep, 99)}), 3, "a step that’s gone is a rest")
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
			assert.NotContains(rt, b.Lacks(p, cells[p]), "a bass")
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

// Where each part of the song has a figure of its own, each group plays its step in all of them, and a
// pass is judged by the figure that it has: the thumb of the second verse keeps the beat there. Source:
// common practice.
func TestASongOfSeveralFigures(t *testing.T) {
	still, walks := pattern.MustParse("4/4: p . . ."), pattern.MustParse("4/4: p i p' m")
	b := arrange.Band{
		Passes: []arrange.Pass{{Section: 1, Time: 1}, {Section: 2, Time: 1}}, Groups: []arrange.Group{{Name: "Ilse", Best: 0}},
		Rungs: []arrange.Rung{{ID: 1, Name: "two figures", Level: 3, Figure: still, Others: []difficulty.Figure{{Sections: []song.SectionID{2}, Pattern: walks}}}},
	}
	cells := b.Propose()
	for p := range cells {
		assert.Equal(t, arrange.Part{Kind: arrange.OnStep, Step: 1}, cells[p][0].Part)
	}
	assert.Equal(t, still, b.Rungs[0].In(1))
	assert.Equal(t, walks, b.Rungs[0].In(2))
	assert.NotEmpty(t, b.Lacks(0, cells[0]))
	assert.Empty(t, b.Lacks(1, cells[1]))
	assert.Greater(t, b.Density(1, cells[1]), b.Density(0, cells[0]))
}
