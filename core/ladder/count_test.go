package ladder_test

import (
	"flag"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"arplin/core/difficulty"
	"arplin/core/ladder"
	"arplin/core/ladder/grow"
	"arplin/core/ladder/order"
	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
)

// stroke by stroke, and a motion or a finger's part; big steps are two of those.
var oneThingSizes = []order.Size{order.Small, order.Usual}

// countTwo counts the steps that add more than one thing, and names the first of them.
func countTwo(steps []ladder.Step) (n int, first error) {
	for i := 1; i < len(steps); i++ {
		if err := oneThing(steps[i-1], steps[i]); err != nil && !steps[i].Brings(ladder.OtherBar) { // another bar is a feature, whatever is in it
			if n++; first == nil {
				first = err
			}
		}
	}
	return n, first
}

// No step of the catalogue adds more than one thing, in any way, on four songs at three tempos, whenever
// the chords come. Source: common practice.
func TestNoStepOfTheCatalogueAddsTwoThings(t *testing.T) {
	if testing.Short() {
		t.Skip("in make test")
	}
	songs, tempos := []string{"C", "A | A | D | D", "C | Am | F | G7", "Em | C | G D | Em"}, []int{60, 80, 132}
	turn := 0
	for _, e := range catalogue.All {
		for _, o := range order.All {
			for _, size := range oneThingSizes {
				n, first := countTwo(grow.Figures(order.Choice{Order: o.Value, Size: size}, e.Pattern))
				assert.Zero(t, n, "%s, %s, %s: %v", e.ID, o.Name, size, first)
			}
			for _, chords := range songs {
				turn++
				choice := order.Choice{Order: o.Value, Size: oneThingSizes[turn%2], Chords: order.ChordsCome[turn%3].Value}
				tk := task(t, e.Pattern, chords)
				tk.Tempo = tempos[turn/3%3]
				n, first := countTwo(grow.Build(choice, tk, difficulty.Fitted, 0))
				assert.Zero(t, n, "%s, %v on %s at %d: %v", e.ID, choice, chords, tk.Tempo, first)
			}
		}
	}
}

// Nor does a step of a thousand figures that nobody has written, the same thousand each time; of others
// TestNoStepOfFurtherFigures looks for one, for as long as it is asked (make fuzz).
func TestNoStepOfAnyFigureAddsTwoThings(t *testing.T) {
	if testing.Short() {
		t.Skip("in make test")
	}
	figures := rapid.Custom(randomFigure)
	for seed := range 1000 {
		noneAddsTwo(t, figures.Example(seed))
	}
}

// further is how many figures beyond the thousand are tried.
var further = flag.Int("further", 0, "patterns beyond the thousand")

func TestNoStepOfFurtherFigures(t *testing.T) {
	figures := rapid.Custom(randomFigure)
	for seed := range *further {
		noneAddsTwo(t, figures.Example(1000+seed))
	}
}

func noneAddsTwo(t *testing.T, p pattern.Pattern) {
	t.Helper()
	for _, o := range order.All {
		for _, size := range oneThingSizes {
			n, first := countTwo(grow.Figures(order.Choice{Order: o.Value, Size: size}, p))
			assert.Zero(t, n, "%s, %s, %s: %v", p, o.Name, size, first)
		}
	}
}

// The second half is one motion, of which a stroke is where the first half had it, too.
func TestAMotionOverAStrokeThatStays(t *testing.T) {
	p := pattern.MustParse("12/8: m2 i3 p5 p5 i3 mo i i3 m2 p mo .")
	n, first := countTwo(grow.Figures(order.Choice{Order: order.FullFirst, Size: order.Small}, p))
	assert.Zero(t, n, "%v", first)
}

// A figure that came on the way is a step, though its stroke went on from there.
func TestWhatCameOnTheWayIsAStep(t *testing.T) {
	n, first := countTwo(grow.Figures(order.Choice{Order: order.FullFirst, Size: order.Usual}, pattern.MustParse("4/4: D = D .")))
	assert.Zero(t, n, "%v", first)
}
