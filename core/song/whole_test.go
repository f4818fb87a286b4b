package song_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/hand"
	"arplin/core/song"
)

func songOf(t *testing.T, meter, chords string) song.Song {
	t.Helper()
	m, err := hand.ParseMeter(meter)
	require.NoError(t, err)
	bars, err := song.ParseChords(chords, m)
	require.NoError(t, err)
	return song.Song{Meter: m, Tempo: 90, Sections: []song.Section{{Name: "Verse", Bars: bars}}}
}

func chordsOf(sg song.Song) string {
	var bars []string
	for _, b := range sg.Bars() {
		bars = append(bars, song.BarText(b.Changes, sg.Meter))
	}
	return strings.Join(bars, " | ")
}

// Source: common practice. I and IV may become major sevenths, ii iii vi minor
// sevenths, V a dominant seventh; half the changes keep the root where they can.
func TestWholeSongEdits(t *testing.T) {
	for _, c := range []struct{ meter, before, op, text, after string }{
		{"4/4", "C | Am | F | G", song.Recolour, "sevenths", "Cmaj7 | Am7 | Fmaj7 | G7"},
		{"4/4", "Cmaj7 | Am7 | Fmaj7 | G7", song.Recolour, "triads", "C | Am | F | G"},
		{"4/4", "C G | F C | G", song.Halve, "", "C | F | G"},
		{"4/4", "F | G | Dm | C", song.Halve, "", "F | F | Dm | Dm"},
		{"4/4", "C | Am | F | F", song.Halve, "", "Am | Am | F | F"}, // Am holds the root of C
		{"4/4", "G | G7 | C | C", song.Halve, "", "G | G | C | C"},
		{"3/4", "G | D | G", song.Remeter, "6/8: p i m a m i", "G | D | G"},
	} {
		sg, says, err := songOf(t, c.meter, c.before).Apply(song.Edit{Op: c.op, Text: c.text, Words: "six"})
		require.NoError(t, err, c.op)
		assert.NotEmpty(t, says)
		assert.Equal(t, c.after, chordsOf(sg), "%s on %s", c.op, c.before)
		for _, b := range sg.Bars() {
			assert.True(t, b.Adds(sg.Meter), "%s: a bar does not add up", c.op)
		}
	}
	for _, c := range []struct{ before, op, text, want string }{
		{"C | G", song.Recolour, "triads", "the chords are triads already"},
		{"C | G", song.Recolour, "blue", `"blue" is not a colour: sevenths or triads`},
		{"C | C", song.Halve, "", "there is no change that could be left out"},
		{"C | G", song.Remeter, "4/4: p . . .", "the song is in 4/4 already"},
	} {
		_, _, err := songOf(t, "4/4", c.before).Apply(song.Edit{Op: c.op, Text: c.text})
		assert.EqualError(t, err, c.want)
	}
}

// Pairs of bars begin with the first full bar.
func TestHalfTheChangesAfterAPickup(t *testing.T) {
	sg := songOf(t, "4/4", "D | G | C | F | D")
	sg.Sections[0].Bars[0].Role = song.Pickup
	out, _, err := sg.Apply(song.Edit{Op: song.Halve})
	require.NoError(t, err)
	assert.Equal(t, "D | C | C | F | F", chordsOf(out))
}

func TestPatternNamesAreBounded(t *testing.T) {
	long := strings.Repeat("long ", 30)
	for op, notation := range map[string]string{song.SetPattern: "4/4: p . . .", song.Remeter: "3/4: p . ."} {
		_, _, err := songOf(t, "4/4", "C").Apply(song.Edit{Op: op, Section: -1, Text: notation, Words: long})
		assert.EqualError(t, err, "a pattern's name has up to 120 letters")
	}
}

// An eighth of 3/4 at 90 quarters lasts a third of a second; so does that of 6/8
// at 60 dotted quarters.
func TestAnotherMeterKeepsThePace(t *testing.T) {
	sg, _, err := songOf(t, "3/4", "G | D").Apply(song.Edit{Op: song.Remeter, Text: "6/8: p i m a m i", Words: "six"})
	require.NoError(t, err)
	assert.Equal(t, 60, sg.Tempo)
	assert.Equal(t, "six", sg.Sections[0].PatternName)
	p, ok := sg.Sections[0].Hand(sg.Meter)
	assert.True(t, ok)
	assert.Equal(t, "6/8: p i m a m i", p.String())
}

func TestPartOfASong(t *testing.T) {
	sg := songOf(t, "4/4", "C | G")
	sg.Sections = append(sg.Sections, song.Section{Name: "Chorus", Bars: songOf(t, "4/4", "F").Bars()})
	assert.Equal(t, "F", chordsOf(sg.Part("Chorus")))
	assert.Equal(t, chordsOf(sg), chordsOf(sg.Part("")))
	assert.Equal(t, chordsOf(sg), chordsOf(sg.Part("gone")), "a part that was renamed is the whole song")
	assert.Len(t, sg.Sections, 2)
}
