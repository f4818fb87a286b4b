package people_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/ladder"
	"arplin/core/ladder/grow"
	"arplin/core/ladder/order"
	"arplin/core/pattern/catalogue"
	"arplin/core/song"
	"arplin/teach/people"
)

// Why a step stands where it does is never something that it cannot have brought: chord changes where no
// chord is new, strokes where only chords are.
func TestWhyIsWhatCanBeNew(t *testing.T) {
	ins, err := fretboard.ByID("guitar")
	require.NoError(t, err)
	labels := map[bool]map[string]bool{true: {}, false: {}} // of what chords bring, and of the rest
	for _, d := range difficulty.Definitions() {
		labels[d.ID == "shape" || d.ID == "change" || d.ID == "figure"][d.Label] = true
	}
	for _, e := range catalogue.All {
		bars, err := song.ParseChords("C | Am | F | G7", e.Pattern.Meter)
		require.NoError(t, err)
		task := difficulty.NewTask(e.Pattern, song.Song{Meter: e.Pattern.Meter, Tempo: 80, Sections: []song.Section{{Bars: bars}}}, ins, bind.DefaultSchool, 80)
		steps := grow.Build(order.Choice{}, task, difficulty.Fitted, 0)
		for i, s := range steps {
			read := func(k int) difficulty.Reading { return difficulty.Of(steps[k].Task(task), difficulty.Fitted) }
			says := people.Why(steps, i, read(i), read(max(0, i-1)))
			require.NotEmpty(t, says)
			if i == 0 {
				continue
			}
			switch under := steps[i-1]; {
			case s.Over == under.Over && s.Pace == under.Pace:
				assert.NotContains(t, says, "chord changes", "%s, step %d: %s", e.ID, i+1, s.Pattern)
				assert.NotContains(t, says, "chord shapes", "%s, step %d: %s", e.ID, i+1, s.Pattern)
			case s.Pattern.Equal(under.Pattern) && s.Over != under.Over:
				for label := range labels[false] {
					assert.NotContains(t, says, "for now is "+label+":", "%s, step %d on %s", e.ID, i+1, s.Over)
				}
			}
		}
	}
	assert.NotContains(t, people.FallBack([]ladder.Step{{Play: difficulty.Swings}}, 0, difficulty.Task{}), "tap")
}
