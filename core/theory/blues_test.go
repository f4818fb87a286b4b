package theory_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/theory"
)

// Forms from practice, major, minor and of the blues, also such as begin on IV or
// V, with their keys and degrees. Source: common practice.
func TestKeysOfFormsFromPractice(t *testing.T) {
	for chords, want := range map[string][2]string{
		"A7 D7 A7 E7":                         {"A major", "I7 IV7 I7 V7"},
		"E7 A7 B7 E7":                         {"E major", "I7 IV7 V7 I7"},
		"D7 A7 E7 A7":                         {"A major", "IV7 I7 V7 I7"}, // begins on IV
		"E7 D7 A7 A7":                         {"A major", "V7 IV7 I7 I7"}, // and on V
		"C7 C7 C7 C7 F7 F7 C7 C7 G7 F7 C7 G7": {"C major", "I7 I7 I7 I7 IV7 IV7 I7 I7 V7 IV7 I7 V7"},
		"G7 C7 G7 G7 C7 C7 G7 G7 D7 C7 G7 D7": {"G major", "I7 IV7 I7 I7 IV7 IV7 I7 I7 V7 IV7 I7 V7"},
		"E7 E7 E7 E7 A7 A7 E7 E7 B7 A7 E7 B7": {"E major", "I7 I7 I7 I7 IV7 IV7 I7 I7 V7 IV7 I7 V7"},
		"F9 C7 F9 G7 C7":                      {"C major", ""},
		"Am7 Dm7 Am7 E7 Am7":                  {"A minor", "i7 iv7 i7 V7 i7"}, // a minor blues
		"Am Dm Am E7":                         {"A minor", "i iv i V7"},
		"C Am F G7 C":                         {"C major", "I vi IV V7 I"},
		"Dm7 G7 Cmaj7":                        {"C major", "ii7 V7 Imaj7"},
		"A7 D7 G":                             {"G major", "V7/V V7 I"}, // sevenths that lead
		"C E7 A7 D7 G7 C":                     {"C major", ""},          // a chain of them
		"F C G C":                             {"C major", "IV I V I"},  // begins on IV
		"G D Em C G":                          {"G major", "I V vi IV I"},
		"Em C G D Em":                         {"E minor", ""},
		"G7 C F C":                            {"C major", "V7 I IV I"}, // begins on V
		"D G D A7 D":                          {"D major", "I IV I V7 I"},
	} {
		var spans []theory.Span
		for _, symbol := range strings.Fields(chords) {
			c, err := theory.ParseChord(symbol)
			require.NoError(t, err)
			spans = append(spans, theory.Span{Chord: c, Length: 4})
		}
		key := theory.FindKey(spans).Key
		assert.Equal(t, want[0], key.String(), chords)
		var degrees []string
		for _, s := range spans {
			degrees = append(degrees, key.Degree(s.Chord))
		}
		if want[1] != "" {
			assert.Equal(t, want[1], strings.Join(degrees, " "), chords)
		}
	}
}

// A key spells its own notes, up to seven signs. Source: the circle of fifths.
func TestKeysSpellTheirOwnNotes(t *testing.T) {
	for _, c := range []struct{ from, to, chords, want string }{
		{"C", "F#", "C F G/B G7", "F# B C#/E# C#7"},
		{"C", "C#", "C F G/B Dm", "C# F# G#/B# D#m"},
		{"C", "Cb", "C F G Am", "Cb Fb Gb Abm"},
		{"C", "Gb", "C F G Em", "Gb Cb Db Bbm"},
		{"Am", "Ebm", "Am Dm F G", "Ebm Abm Cb Db"},
		{"Am", "Abm", "Am F C", "Abm Fb Cb"},
		{"Am", "A#m", "Am F E7", "A#m F# E#7"},
		{"C", "F#", "Eb Bb", "A E"}, // outside the key, by their usual names
	} {
		from, err := theory.ParseKey(c.from)
		require.NoError(t, err)
		to, err := theory.ParseKey(c.to)
		require.NoError(t, err)
		var got []string
		for _, symbol := range strings.Fields(c.chords) {
			chord, err := theory.ParseChord(symbol)
			require.NoError(t, err)
			moved := chord.Transpose(from, to)
			got = append(got, moved.String())
			back, err := theory.ParseChord(moved.String())
			require.NoError(t, err, moved)
			assert.Equal(t, moved, back)
		}
		assert.Equal(t, c.want, strings.Join(got, " "), c.to)
	}
}
