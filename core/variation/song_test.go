package variation_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/song/edit"
	"arplin/core/song/keys"
	"arplin/core/variation"
)

func movesOn(t *testing.T, p pattern.Pattern, key, chords string) (sg song.Song, level float64, moves map[string]variation.Move) {
	t.Helper()
	bars, err := song.ParseChords(chords, p.Meter)
	require.NoError(t, err)
	guitar, _ := fretboard.ByID("guitar")
	sg = song.Song{Key: key, Meter: p.Meter, Tempo: 80, Sections: []song.Section{{Name: "Verse", Bars: bars}}}.Numbered()
	moves = map[string]variation.Move{}
	for _, m := range variation.Moves(sg, p, guitar, []keys.Players{{Instrument: guitar, Count: 4}}, bind.DefaultSchool, difficulty.Fitted) {
		moves[m.Name] = m
	}
	return sg, difficulty.Of(difficulty.NewTask(p, sg, guitar, bind.DefaultSchool, 80), difficulty.Fitted).Level, moves
}

// Common practice: an easier Bm, a capo for chords with flats, fewer changes.
func TestMovesOfASong(t *testing.T) {
	p := pattern.MustParse("3/4: p i m a m i")
	sg, level, moves := movesOn(t, p, "D", "D | Bm | G | A")
	require.Contains(t, moves, "easier Bm")
	assert.Less(t, moves["easier Bm"].Level, level)
	assert.Contains(t, moves["easier Bm"].Says, "gives up")
	assert.Less(t, moves["half the chord changes"].Level, level)
	require.Contains(t, moves, "sevenths for triads")
	assert.NotContains(t, moves, "plain triads", "they are plain already")
	require.Contains(t, moves, "in 6/8")
	assert.True(t, moves["in 6/8"].Class)
	assert.Equal(t, "The last beat comes twice.", moves["in 4/4"].Says)
	_, _, back := movesOn(t, pattern.MustParse("4/4: p . i . m . a ."), "C", "C | G")
	assert.Equal(t, "The last beat is left out.", back["in 3/4"].Says)
	for name, m := range moves {
		changed, says, err := sg.Apply(m.Edit)
		require.NoError(t, err, name)
		assert.NotEmpty(t, edit.DoneWords.Say(says))
		for _, b := range changed.Bars() {
			assert.True(t, b.Adds(changed.Meter), name)
		}
	}
	_, flat, flats := movesOn(t, p, "Eb", "Eb | Cm | Ab | Bb")
	found := false
	for name, m := range flats {
		if m.ID == variation.Capo {
			found = true
			assert.Contains(t, name, "capo")
			assert.Less(t, m.Level, flat, "barre chords become open ones")
			assert.Contains(t, m.Says, "sounds as before")
		}
	}
	assert.True(t, found)
}
