package song_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/song/hand"
)

func inChords(t require.TestingT, chords string) song.Song {
	bars, err := song.ParseChords(chords, pattern.MustParse("4/4: p . . .").Meter)
	require.NoError(t, err)
	return song.Song{Title: "X", Meter: pattern.MustParse("4/4: p . . .").Meter, Tempo: 80, Sections: []song.Section{{Name: "A", Bars: bars}}}
}

// Beginners play F as xx3211 or without a barre at all, and what has no barre stays as it
// is: common practice.
func TestAroundABarre(t *testing.T) {
	guitar, err := fretboard.ByID("guitar")
	require.NoError(t, err)
	sg := inChords(t, "C | F | G | Am")
	own, without := hand.Around(sg, guitar, []hand.Cannot{hand.NoBarre})
	assert.Empty(t, without)
	for chord := range own {
		assert.Contains(t, []string{"F"}, chord, "only what needs a barre is held in another way")
	}
	own, _ = hand.Around(sg, guitar, nil)
	assert.Empty(t, own)
	list, err := hand.ParseCannots("little, barre,little")
	require.NoError(t, err)
	assert.Equal(t, "little,barre", hand.CannotText(list))
	_, err = hand.ParseCannots("nose")
	assert.ErrorContains(t, err, "nose")
}

// Whatever the chords: no shape that is found for a hand asks for what it cannot do, and
// where there is none, that is said.
func TestAroundKeepsItsPromise(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		ins := rapid.SampledFrom(fretboard.Instruments).Draw(rt, "instrument")
		names := rapid.SliceOfN(rapid.SampledFrom([]string{"C", "F", "Bm", "B7", "Eb", "F#m", "Gm", "Ab", "C#m7", "E", "Dmaj7", "Fm", "Bb"}), 1, 4).Draw(rt, "chords")
		cannot := rapid.SampledFrom([][]hand.Cannot{{hand.NoBarre}, {hand.NoLittle}, {hand.NoBarre, hand.NoLittle}}).Draw(rt, "cannot")
		text := ""
		for _, n := range names {
			text += n + " | "
		}
		sg := inChords(rt, text)
		own, without := hand.Around(sg, ins, cannot)
		shapes := sg.HeldBy(ins, own).ShapesOn(ins)
		for c, v := range shapes {
			if slices.Contains(without, c.String()) {
				continue
			}
			if slices.Contains(cannot, hand.NoBarre) && v.Fingering.Barre.From != 0 || slices.Contains(cannot, hand.NoLittle) && slices.Contains(v.Fingering.List(), 4) {
				rt.Fatalf("%s on %s as %s asks for what the hand cannot do", c, ins.Name, v)
			}
		}
	})
}
