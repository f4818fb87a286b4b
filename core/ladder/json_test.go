package ladder_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/difficulty"
	"arplin/core/ladder"
	"arplin/core/ladder/order"
	"arplin/core/variation"
)

func TestALadderComesBackAsItWas(t *testing.T) {
	tk, _ := aLadder(t)
	for _, o := range order.All {
		l := newLadder(order.Choice{Order: o.Value, Size: order.Big, Chords: order.Each, Parts: order.ByLevel}, tk)
		l.Steps[1].Pinned = true
		data, err := l.Encode()
		require.NoError(t, err)
		again, err := ladder.Decode(data)
		require.NoError(t, err)
		assert.Equal(t, l, again)
	}
	_, err := ladder.Decode([]byte(`{"format":99,"order":"thumb first"}`))
	assert.EqualError(t, err, "ladder: it is in form 99, and this program reads up to 2")
	_, err = ladder.Decode([]byte(`{"format":2,"order":"sideways"}`))
	assert.ErrorContains(t, err, "is not an order of steps")
}

// Form 1 had English words where ids are now, joined where steps were.
func TestTheFirstFormIsRead(t *testing.T) {
	l, err := ladder.Decode([]byte(`[
		{"pattern":"4/4: p . . .","adds":"the first stroke of the bar","says":"One","over":"one chord","level":1.4},
		{"pattern":"4/4: p p' p p'","adds":"every beat, second bass string","over":"one chord","level":2},
		{"pattern":"4/4: p p' p p'","adds":"the rhythm, tapped, the first chord","over":"two chords, a bar each","play":"tapped"},
		{"pattern":"4/4: p p' p p'","adds":"up to first off-beat","over":"two chords","play":"said","pinned":true},
		{"pattern":"4/4: p p' p p'","adds":"part of other off-beats","over":"two chords"},
		{"pattern":"4/4: p p' p p'","adds":"by hand","over":"all chords","pace":60,"play":"muted strings"},
		{"pattern":"4/4: p p' p p'","adds":"what nobody knows"}]`))
	require.NoError(t, err)
	var adds [][]ladder.Thing
	for i, s := range l.Steps {
		assert.EqualValues(t, i+1, s.ID)
		adds = append(adds, s.Adds)
	}
	rule := func(id variation.ID) ladder.Thing { return ladder.Thing{Rule: id} }
	assert.Equal(t, [][]ladder.Thing{
		{{Stage: ladder.FirstStroke}}, {rule("every-beat"), rule("second-bass-string")}, {{Stage: ladder.Tapped}, {Stage: ladder.FirstChord}},
		{{Rule: "first-off-beat", Short: true}}, {{Rule: "other-off-beats", Short: true}}, {{Stage: ladder.Own}}, {{Stage: ladder.Own}},
	}, adds)
	assert.Equal(t, []ladder.Over{ladder.OneChord, ladder.OneChord, ladder.TwoChordsABar}, []ladder.Over{l.Steps[0].Over, l.Steps[1].Over, l.Steps[2].Over})
	assert.Equal(t, difficulty.Tapped, l.Steps[2].Play)
	assert.Equal(t, difficulty.Muted, l.Steps[5].Play)
	assert.Equal(t, 60, l.Steps[5].Pace)
	assert.Equal(t, 8, l.Next)
}

// Every name of the first form is read, as the program of that day wrote it.
func TestEveryRuleOfTheFirstFormIsRead(t *testing.T) {
	for _, name := range []string{
		"second bar", "accents", "chuck", "palm", "stops", "sixteenths", "stroke left out", "more up strokes", "first up stroke", "other off-beats", "first off-beat", "knock", "nails",
		"the figure again", "ring finger", "middle finger", "more finger notes", "one finger note", "low fifth", "second bass string", "strums", "twice as many", "two and four", "every beat",
		"second half of the bar", "the stroke again",
	} {
		l, err := ladder.Decode([]byte(`[{"pattern":"4/4: p . . .","adds":"` + name + `"}]`))
		require.NoError(t, err)
		r, ok := variation.ByID(l.Steps[0].Adds[0].Rule)
		require.True(t, ok, name)
		assert.True(t, r.Ladder, name)
	}
}

// An order that is a choice of its own now is read as what it was.
func TestTwoChordsFirstIsReadAsAChoice(t *testing.T) {
	l, err := ladder.Decode([]byte(`{"format":2,"order":"two chords first","next":1,"steps":[]}`))
	require.NoError(t, err)
	assert.Equal(t, order.Choice{Order: order.ThumbFirst, Chords: order.Two}, l.Choice)
}
