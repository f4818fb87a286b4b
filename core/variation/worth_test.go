package variation_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
	"arplin/core/theory"
	"arplin/core/variation"
)

// No neighbour is offered that changes nothing, or that no hand plays: each of these was. Common practice.
func TestNeighboursThatNobodyShows(t *testing.T) {
	ins, err := fretboard.ByID("guitar")
	assert.NoError(t, err)
	never := []string{"6/8: p i i m a m", "6/8: p m a m i i", "4/4: p i m+a a p i m+a a"}
	for _, e := range catalogue.All {
		around := variation.Neighbours(difficulty.OneChord(e.Pattern, theory.MustChord("C"), ins, bind.DefaultSchool, 80), difficulty.Fitted)
		for _, list := range [][]variation.Variation{around.Simpler, around.Beside, around.Harder} {
			for _, v := range list {
				assert.NotContains(t, never, v.Pattern.String(), e.ID)
				straight, other := v.Pattern, e.Pattern
				straight.Swing, other.Swing = false, false
				off := false
				e.Pattern.Each(func(pl pattern.Place, _ pattern.Stroke) { off = off || !e.Pattern.OnBeat(pl.Slot) })
				assert.False(t, !off && straight.Equal(other), "%s: %s sounds as it did", e.ID, v.Pattern)
				if e.ID == "three-three-two-downs" {
					v.Pattern.Each(func(_ pattern.Place, st pattern.Stroke) {
						assert.False(t, st.Marks.Has(pattern.Chuck), "a chuck inside accents: %s", v.Pattern)
					})
				}
			}
		}
	}
}

// The common strum is offered its downs, and the beat that it misses; an off-beat figure the beats.
// Source: common practice.
func TestWhatAStrumIsOffered(t *testing.T) {
	offered := func(notation string) (list []string) {
		for _, v := range variation.Neighbours(task(t, pattern.MustParse(notation), "C"), difficulty.Fitted).Simpler {
			list = append(list, v.Pattern.String())
		}
		return list
	}
	assert.Subset(t, offered("4/4: D . D U . U D U"), []string{"4/4: D . D . D . D .", "4/4: D . D U D U D U"})
	assert.Contains(t, offered("4/4: . U . U . U . U"), "4/4: D U D U D U D U")
}
