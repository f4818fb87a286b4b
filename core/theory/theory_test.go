package theory_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/theory"
)

func notesOf(c theory.Chord) string {
	var names []string
	for _, n := range c.Notes() {
		names = append(names, n.String())
	}
	return strings.Join(names, " ")
}

// Source: common practice; spelled by letter, as any harmony book does.
func TestChordNotes(t *testing.T) {
	for symbol, want := range map[string]string{
		"C": "C E G", "Am": "A C E", "F#": "F# A# C#", "Bb": "Bb D F", "Ebm": "Eb Gb Bb", "E-": "E G B",
		"G7": "G B D F", "Cmaj7": "C E G B", "CΔ": "C E G B", "CM7": "C E G B", "Dm7": "D F A C", "Am(maj7)": "A C E G#", "AmM7": "A C E G#",
		"Bdim": "B D F", "B°7": "B D F Ab", "Bø": "B D F A", "Bm7b5": "B D F A", "C+": "C E G#", "Caug7": "C E G# Bb",
		"Dsus2": "D E A", "Dsus4": "D G A", "Dsus": "D G A", "A7sus4": "A D E G", "C5": "C G", "C6": "C E G A", "C6/9": "C E G A D", "C69": "C E G A D",
		"Cadd9": "C E G D", "Cadd11": "C E G F", "Cmadd9": "C Eb G D", "C9": "C E G Bb D", "C13": "C E G Bb D A", "C7b9": "C E G Bb Db",
		"C7#9": "C E G Bb D#", "C7(b9)": "C E G Bb Db", "C7#11": "C E G Bb F#", "C7b13": "C E G Bb Ab", "C7b5": "C E Gb Bb", "C7+": "C E G# Bb", "Cm6": "C Eb G A",
		"D/F#": "D F# A", "C11": "C G Bb D F", "Cno3": "C G", "C7alt": "C E G# Bb D#",
	} {
		c, err := theory.ParseChord(symbol)
		require.NoError(t, err, symbol)
		assert.Equal(t, want, notesOf(c), symbol)
	}
}

func TestUnknownSymbolsNameTheirPlace(t *testing.T) {
	for symbol, want := range map[string]string{
		"H7":     `chord "H7", character 1: "H" is not a note from A to G`,
		"":       `chord "", character 1: a chord begins with a note from A to G`,
		"Cmaj7q": `chord "Cmaj7q", character 6: "q" is not known here`,
		"C7(b9":  `chord "C7(b9", character 6: a bracket is not closed`,
		"C/":     `chord "C/", character 2: the bass note after the slash is missing`,
		"C-5":    `chord "C-5", character 2: "-5" can be read in two ways; write m or b5`,
		"Cadd7":  `chord "Cadd7", character 6: after add comes 2, 4, 6, 9, 11 or 13`,
		"C7b7":   `chord "C7b7", character 3: b7 is not an alteration that chords use`,
		"Cmsus4": `chord "Cmsus4", character 7: a suspended chord has no third to be minor or left out`,
	} {
		_, err := theory.ParseChord(symbol)
		assert.EqualError(t, err, want)
	}
}

// Source: common practice.
func TestDegreesInAKey(t *testing.T) {
	for key, chords := range map[string]map[string]string{
		"C major":  {"C": "I", "Dm": "ii", "Em7": "iii7", "F": "IV", "G7": "V7", "Am": "vi", "Bdim": "vii°", "Fm": "iv", "Bb": "bVII", "D7": "V7/V", "E7": "V7/vi", "C7": "I7", "F7": "IV7", "Fmaj7": "IVmaj7", "Bm7b5": "viiø7"},
		"A minor":  {"Am": "i", "Dm": "iv", "E7": "V7", "E": "V", "F": "VI", "C": "III", "G": "VII", "G#dim7": "#vii°7", "D": "IV"},
		"Eb major": {"Ab": "IV", "Bb7": "V7", "Cm": "vi"},
	} {
		k, err := theory.ParseKey(key)
		require.NoError(t, err)
		for chord, want := range chords {
			assert.Equal(t, want, k.Degree(theory.MustChord(chord)), "%s in %s", chord, key)
		}
	}
}

func spans(chords string) (list []theory.Span) {
	for _, symbol := range strings.Fields(chords) {
		list = append(list, theory.Span{Chord: theory.MustChord(symbol), Length: 4})
	}
	return list
}

// Source: common practice, progressions whose key no musician would doubt.
func TestFindKey(t *testing.T) {
	for chords, want := range map[string]string{
		"C Am F G7 C": "C major", "C Am F G7": "C major", "Am Dm E7 Am": "A minor", "G C D7 G": "G major", "Em C G D": "E minor",
		"D A Bm G": "D major", "E7 A7 B7 E7": "E major", "F Dm Bb C7 F": "F major", "Dm7 G7 Cmaj7": "C major", "Eb Ab Bb7 Eb": "Eb major", "Am F C G": "A minor",
	} {
		guess := theory.FindKey(spans(chords))
		assert.Equal(t, want, guess.Key.String(), chords)
		assert.Positive(t, guess.Confidence, chords)
	}
	assert.Zero(t, theory.FindKey(nil).Confidence)
}

// Source: common practice.
func TestTransposeKeepsTheDegreeAndSpellsForTheKey(t *testing.T) {
	c, _ := theory.ParseKey("C")
	for to, want := range map[string]string{"G": "G Em C D7 F", "Eb": "Eb Cm Ab Bb7 Db", "A": "A F#m D E7 G", "Db": "Db Bbm Gb Ab7 B", "F#": "F# D#m B C#7 E"} {
		key, err := theory.ParseKey(to)
		require.NoError(t, err)
		var got []string
		for _, s := range strings.Fields("C Am F G7 Bb") {
			got = append(got, theory.MustChord(s).Transpose(c, key).String())
		}
		assert.Equal(t, want, strings.Join(got, " "), to)
	}
	assert.Equal(t, "A/C#", theory.MustChord("G/B").Transpose(theory.Key{Tonic: theory.MustNote("G")}, theory.Key{Tonic: theory.MustNote("A")}).String())
	assert.Equal(t, "C major", theory.Key{Tonic: theory.MustNote("D")}.Fingered(2).String())
}

// Source: common practice: I and IV take a major seventh, ii iii vi a minor one, V the dominant.
func TestColourAndBack(t *testing.T) {
	c, _ := theory.ParseKey("C")
	for plain, coloured := range map[string]string{"C": "Cmaj7", "F": "Fmaj7", "Dm": "Dm7", "Em": "Em7", "Am": "Am7", "G": "G7"} {
		got, ok := c.Colour(theory.MustChord(plain))
		assert.True(t, ok)
		assert.Equal(t, coloured, got.String())
		back, ok := got.Plain()
		assert.True(t, ok)
		assert.Equal(t, plain, back.String())
	}
	_, ok := c.Colour(theory.MustChord("Ab"))
	assert.False(t, ok, "not of the key")
}

// Source: the MIDI standard, note 60 is middle C.
func TestPitches(t *testing.T) {
	for name, midi := range map[string]int{"C4": 60, "E2": 40, "A4": 69, "B#3": 60, "Cb4": 59} {
		p, err := theory.ParsePitch(name)
		require.NoError(t, err)
		assert.Equal(t, midi, p.MIDI(), name)
		assert.Equal(t, name, theory.PitchOf(midi, p.Note).String())
	}
	_, err := theory.ParsePitch("E")
	assert.Error(t, err)
}

func FuzzParseChord(f *testing.F) {
	for _, s := range []string{"C", "F#m7b5/A", "Bb6/9", "Am(maj7)", "C7(b9,#11)", "Dsus2sus4", "E♭Δ9"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		c, err := theory.ParseChord(s)
		if err != nil {
			assert.NotEmpty(t, err.Error())
			return
		}
		again, err := theory.ParseChord(c.String())
		require.NoError(t, err, "%q printed as %q", s, c)
		assert.Equal(t, c, again)
		assert.NotEmpty(t, c.Degrees())
	})
}
