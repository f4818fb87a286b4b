package song_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/song/edit"
)

func songOf(t *testing.T, meter, chords string) song.Song {
	t.Helper()
	m, err := pattern.ParseMeter(meter)
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
	for _, c := range []struct {
		meter, before string
		edit          song.Edit
		after         string
	}{
		{"4/4", "C | Am | F | G", edit.Recolour{Sevenths: true}, "Cmaj7 | Am7 | Fmaj7 | G7"},
		{"4/4", "Cmaj7 | Am7 | Fmaj7 | G7", edit.Recolour{}, "C | Am | F | G"},
		{"4/4", "C G | F C | G", edit.Halve{}, "C | F | G"},
		{"4/4", "F | G | Dm | C", edit.Halve{}, "F | F | Dm | Dm"},
		{"4/4", "C | Am | F | F", edit.Halve{}, "Am | Am | F | F"}, // Am holds the root of C
		{"4/4", "G | G7 | C | C", edit.Halve{}, "G | G | C | C"},
		{"3/4", "G | D | G", edit.Remeter{Pattern: pattern.MustParse("6/8: p i m a m i"), Name: "six"}, "G | D | G"},
	} {
		sg, d, err := songOf(t, c.meter, c.before).Apply(c.edit)
		require.NoError(t, err, c.edit)
		assert.NotEmpty(t, edit.DoneWords.Say(d))
		assert.Equal(t, c.after, chordsOf(sg), "%s on %s", c.edit, c.before)
		for _, b := range sg.Bars() {
			assert.True(t, b.Adds(sg.Meter), "%v: a bar does not add up", c.edit)
		}
	}
	for _, c := range []struct {
		before string
		edit   song.Edit
		want   string
	}{
		{"C | G", edit.Recolour{}, "the chords are triads already"},
		{"C | C", edit.Halve{}, "there is no change that could be left out"},
		{"C | G", edit.Remeter{Pattern: pattern.MustParse("4/4: p . . ."), Name: "six"}, "the song is in 4/4 already"},
	} {
		_, _, err := songOf(t, "4/4", c.before).Apply(c.edit)
		assert.EqualError(t, err, c.want)
	}
}

// Pairs of bars begin with the first full bar.
func TestHalfTheChangesAfterAPickup(t *testing.T) {
	sg := songOf(t, "4/4", "D | G | C | F | D")
	sg.Sections[0].Bars[0].Role = song.Pickup
	out, _, err := sg.Apply(edit.Halve{})
	require.NoError(t, err)
	assert.Equal(t, "D | C | C | F | F", chordsOf(out))
}

func TestPatternNamesAreBounded(t *testing.T) {
	long := strings.Repeat("long ", 30)
	for _, e := range []song.Edit{edit.SetPattern{Pattern: pattern.MustParse("4/4: p . . ."), Name: long}, edit.Remeter{Pattern: pattern.MustParse("3/4: p . ."), Name: long}} {
		_, _, err := songOf(t, "4/4", "C").Apply(e)
		assert.EqualError(t, err, "a pattern's name has up to 120 characters")
	}
}

// An eighth of 3/4 at 90 quarters lasts a third of a second; so does that of 6/8
// at 60 dotted quarters.
func TestAnotherMeterKeepsThePace(t *testing.T) {
	sg, _, err := songOf(t, "3/4", "G | D").Apply(edit.Remeter{Pattern: pattern.MustParse("6/8: p i m a m i"), Name: "six"})
	require.NoError(t, err)
	assert.Equal(t, 60, sg.Tempo)
	assert.Equal(t, "six", sg.Sections[0].PatternName)
	p, ok := sg.Sections[0].Figure(sg.Meter)
	assert.True(t, ok)
	assert.Equal(t, "6/8: p i m a m i", p.String())
}

func TestPartOfASong(t *testing.T) {
	sg := songOf(t, "4/4", "C | G")
	sg.Sections = append(sg.Sections, song.Section{Name: "Chorus", Bars: songOf(t, "4/4", "F").Bars()})
	sg = sg.Numbered()
	chorus := sg.Named("Chorus")
	assert.Equal(t, "F", chordsOf(sg.Part(chorus)))
	assert.Equal(t, chordsOf(sg), chordsOf(sg.Part(nil)))
	assert.Equal(t, chordsOf(sg), chordsOf(sg.Part([]song.SectionID{99})), "sections that are gone leave the whole song")
	renamed, _, err := sg.Apply(edit.RenameSection{Section: chorus[0], Name: "Refrain"})
	require.NoError(t, err)
	assert.Equal(t, "F", chordsOf(renamed.Part(chorus)), "a name is no identity")
	assert.Len(t, sg.Sections, 2)
}
