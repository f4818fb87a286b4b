package drill_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/bind"
	"arplin/core/demand"
	"arplin/core/drill"
	"arplin/core/fretboard"
	"arplin/core/hand"
	"arplin/core/song"
)

func task(t *testing.T, pattern, chords string) demand.Task {
	t.Helper()
	p := hand.MustParse(pattern)
	bars, err := song.ParseChords(chords, p.Meter)
	require.NoError(t, err)
	ins, _ := fretboard.ByID("guitar")
	return demand.NewTask(p, song.Song{Meter: p.Meter, Tempo: 80, Sections: []song.Section{{Bars: bars}}}, ins, bind.DefaultSchool, 80)
}

// Source: common practice, the order in which a trouble spot is worked on.
func TestBarDrill(t *testing.T) {
	tk := task(t, "4/4: p . p'+m . p i p' . | p+m . p' i p m p' .", "C | Am | F | G7 | C")
	list, err := drill.Bar(tk, 2, 10)
	require.NoError(t, err)
	var titles []string
	minutes := 0.0
	for _, e := range list {
		titles = append(titles, e.Title)
		minutes += e.Minutes
		assert.Positive(t, e.Repeats)
		assert.NotEmpty(t, e.Why)
		_, err := hand.Parse(e.Pattern.String())
		assert.NoError(t, err)
	}
	assert.Equal(t, []string{"The figure on open strings", "On one easy shape", "On a shape that moves", "Over an easy progression", "The bar itself", "With the bar before", "With the bar after", "The phrase"}, titles)
	assert.InDelta(t, 10, minutes, 1e-9, "the minutes fit the day")
	for _, e := range list[:5] {
		assert.Equal(t, "4/4: p . p'+m . p i p' .", e.Pattern.String(), "the figure is unchanged in %s", e.Title)
	}
	assert.Equal(t, "Am | F", list[5].Over)
	assert.Equal(t, "4/4: p+m . p' i p m p' . | p . p'+m . p i p' .", list[5].Pattern.String(), "the second bar of the figure comes first")
	assert.Equal(t, "xx2323", list[2].Over)
	assert.Equal(t, 80, list[7].Tempo)
	_, err = drill.Bar(tk, 9, 10)
	assert.EqualError(t, err, "bar: the song has bars 1 to 5, not 10")
}

func TestTheFirstBarHasNoneBefore(t *testing.T) {
	list, err := drill.Bar(task(t, "4/4: D . D U . U D U", "C | G"), 0, 0)
	require.NoError(t, err)
	for _, e := range list {
		assert.NotEqual(t, "With the bar before", e.Title)
	}
}

func TestChangeDrill(t *testing.T) {
	tk := task(t, "4/4: p i m a p i m a", "C | Am | Am")
	list, err := drill.ChangeTo(tk, 1, 6)
	require.NoError(t, err)
	assert.Contains(t, list[0].Why, "Index and middle stay where they are")
	assert.Equal(t, 0, list[0].Pattern.Count(), "the hand is silent first")
	assert.Equal(t, 1, list[1].Pattern.Count())
	_, err = drill.ChangeTo(tk, 2, 6)
	assert.EqualError(t, err, "bar: no chord changes at bar 3")
}
