package pattern_test

import (
	"testing"

	"pgregory.net/rapid"

	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
)

// A pattern on a finer grid and back is the same, and its strokes fall at the
// same time.
func TestAFinerGridAndBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := rapid.SampledFrom(catalogue.All).Draw(t, "entry").Pattern
		grid := rapid.SampledFrom(p.Meter.Grids()).Draw(t, "grid")
		q, lost, err := p.Regrid(grid)
		if err != nil {
			t.Fatal(err)
		}
		if lost > 0 || p.Swing {
			return
		}
		if q.Count() != p.Count() {
			t.Fatalf("%s has %d strokes, %s %d", p, p.Count(), q, q.Count())
		}
		back, lost, err := q.Regrid(p.Grid())
		if err != nil || lost > 0 || !back.Equal(p) {
			t.Fatalf("%s on %d slots and back is %s (%d lost, %v)", p, grid, back, lost, err)
		}
		for b, bar := range p.Bars {
			for i, slot := range bar {
				if !slot.Empty() && q.Bars[b][i*grid/p.Grid()].String() != slot.String() {
					t.Fatalf("%s moved a stroke: %s", p, q)
				}
			}
		}
	})
}

// Every catalogue pattern: the hand goes down on the beats that it strikes down,
// the count has a word for each slot, and its tempo range is one.
func TestTheCatalogueIsWhole(t *testing.T) {
	for _, e := range catalogue.All {
		p := e.Pattern
		if got := len(p.Counts()); got != p.Grid() {
			t.Errorf("%s: %d count words for %d slots", e.ID, got, p.Grid())
		}
		if got := len(p.Motions()); got != p.Grid()*len(p.Bars) {
			t.Errorf("%s: %d motions", e.ID, got)
		}
		if e.Tempo[0] < 20 || e.Tempo[0] >= e.Tempo[1] {
			t.Errorf("%s: tempo from %d to %d", e.ID, e.Tempo[0], e.Tempo[1])
		}
		if (e.Feel == "swung") != p.Swing {
			t.Errorf("%s says %s", e.ID, e.Feel)
		}
		for _, id := range e.After {
			if before, ok := catalogue.ByID(id); !ok || before.ID == e.ID {
				t.Errorf("%s comes after %q", e.ID, id)
			}
		}
		for at, m := range p.Motions() {
			if p.HasStrums() && p.OnBeat(at%p.Grid()) && m == pattern.MoveUp && !p.AgainstHand(at%p.Grid(), pattern.Up) {
				t.Errorf("%s: up on the beat at slot %d", e.ID, at)
			}
		}
	}
}
