package practice_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/bpm"
	"arplin/core/practice"
	"arplin/core/practice/fault"
)

// titles are invented; one begins with a number, one ends with one.
var titles = []string{"99 Kites", "Waltz", "Tram Number 40"}

func TestParseLines(t *testing.T) {
	names := []string{"pia", "jo", "jonas", "anna lena"}
	for text, want := range map[string][]practice.Line{
		"pia 72":                     {{Who: 0, Tempo: 72, Clean: true}},
		"p 60":                       {{Who: 0, Tempo: 60, Clean: true}},
		"jo 84":                      {{Who: 1, Tempo: 84, Clean: true}},
		"jon 84 x":                   {{Who: 2, Tempo: 84}},
		"anna l 90 few 12m":          {{Who: 3, Tempo: 90, Errors: practice.Few, Minutes: 12}},
		"pia waltz 70":               {{Who: 0, Song: "waltz", Tempo: 70, Clean: true}},
		"anna lena old road 70 x":    {{Who: 3, Song: "old road", Tempo: 70}},
		"pia 72, jo 66 ; jonas 58 x": {{Who: 0, Tempo: 72, Clean: true}, {Who: 1, Tempo: 66, Clean: true}, {Who: 2, Tempo: 58}},
		"pia 72 sore thumb 10min":    {{Who: 0, Tempo: 72, Clean: true, Minutes: 10, Word: "sore thumb"}},
		"pia 66 wb b5":               {{Who: 0, Tempo: 66, Fault: fault.WrongBass, Bar: 5}},
		"pia 66 x b12, jo 60 te":     {{Who: 0, Tempo: 66, Bar: 12}, {Who: 1, Tempo: 60, Clean: true, Fault: fault.Tension}},
		"PIA 72 X Asleep":            {{Who: 0, Tempo: 72, Word: "Asleep"}},
		"pia: 72":                    {{Who: 0, Tempo: 72, Clean: true}},
		"pia 72 clean 3 times":       {{Who: 0, Tempo: 72, Clean: true, Word: "clean 3 times"}},
		"pia 99 kites 70":            {{Who: 0, Song: "99 kites", Tempo: 70, Clean: true}},
		"pia 99 70 x":                {{Who: 0, Song: "99", Tempo: 70}},
		"pia 99":                     {{Who: 0, Tempo: 99, Clean: true}},
		"pia tram number 40 66":      {{Who: 0, Song: "tram number 40", Tempo: 66, Clean: true}},
		"pia tram 40":                {{Who: 0, Song: "tram", Tempo: 40, Clean: true}},
		"pia 72,":                    {{Who: 0, Tempo: 72, Clean: true}},
	} {
		got, err := practice.ParseLines(text, names, titles, strings.ToLower)
		require.NoError(t, err, text)
		assert.Equal(t, want, got, text)
	}
	for text, want := range map[string]string{
		"":              `write a name and a tempo, such as "pia 72"`,
		"pia":           `write a name and a tempo, such as "pia 72"`,
		"j 72":          `"j" could be jo or jonas. Write more of the name`,
		"max 72":        `there’s nobody called "max" in this class`,
		"max waltz 72":  `there’s nobody called "max" in this class`,
		"pia fast":      `“fast” isn’t a tempo. Use 20 to 300 BPM`,
		"pia 700":       `“700” isn’t a tempo. Use 20 to 300 BPM`,
		"pia 72 jo 60":  `"jo 60" looks like another student. Write a comma before it`,
		"pia 72 wb sc":  `an entry has one fault. Write "sc" on its own line`,
		"pia 72, max 3": `“3” isn’t a tempo. Use 20 to 300 BPM`,
	} {
		_, err := practice.ParseLines(text, names, titles, strings.ToLower)
		assert.EqualError(t, err, want, text)
	}
}

// A student's own field has one try and no name.
func TestParseOwn(t *testing.T) {
	for text, want := range map[string]practice.Line{
		"72":          {Tempo: 72, Clean: true},
		"66 WB b5":    {Tempo: 66, Fault: fault.WrongBass, Bar: 5},
		"99 Kites 70": {Song: "99 kites", Tempo: 70, Clean: true},
		"Waltz 70 x":  {Song: "waltz", Tempo: 70},
	} {
		got, err := practice.ParseOwn(text, titles, strings.ToLower)
		require.NoError(t, err, text)
		assert.Equal(t, want, got, text)
	}
	for text, want := range map[string]string{
		"":       `write one tempo here, such as "72"`,
		"72, 74": `write one tempo here, such as "72"`,
		"fast":   `“fast” isn’t a tempo. Use 20 to 300 BPM`,
	} {
		_, err := practice.ParseOwn(text, titles, strings.ToLower)
		assert.EqualError(t, err, want, text)
	}
}

// Whatever is typed is understood whole or refused with a sentence: what is understood is
// within its limits.
func FuzzParseLines(f *testing.F) {
	names := []string{"pia", "jo", "jonas", "anna lena"}
	for _, seed := range []string{"pia 72", "jo waltz 66 x, jonas 84 wb b5", "anna l: 60 few 12m asleep", "pia 72 jo 60", ", ;"} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, text string) {
		lines, err := practice.ParseLines(text, names, titles, strings.ToLower)
		if err != nil {
			assert.NotEmpty(t, err.Error())
			return
		}
		assert.NotEmpty(t, lines)
		for _, l := range lines {
			assert.True(t, l.Who >= 0 && l.Who < len(names) && l.Tempo >= bpm.Min && l.Tempo <= bpm.Max && l.Bar >= 0 && l.Minutes >= 0 && len([]rune(l.Word)) <= practice.MaxWord, "%q: %+v", text, l)
		}
	})
}

// A line has room for a large class, everyone twice; a longer one says so.
func TestALineHoldsSixtyTempos(t *testing.T) {
	names := []string{"Pia", "Wim"}
	line := func(n int) string { return strings.TrimSuffix(strings.Repeat("pia 72, ", n), ", ") }
	list, err := practice.ParseLines(line(practice.MaxTries), names, nil, strings.ToLower)
	require.NoError(t, err)
	assert.Len(t, list, 60)
	_, err = practice.ParseLines(line(61), names, nil, strings.ToLower)
	assert.EqualError(t, err, "a line holds up to 60 tempos. This one has 61, so nothing was logged")
}
