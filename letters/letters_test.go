package letters_test

import (
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"arplin/letters"
)

// Source: Unicode Standard Annex #29, extended grapheme clusters; #15, NFC.
func TestLetters(t *testing.T) {
	const family = "\U0001F469\u200D\U0001F467" // one sign of three code points
	assert.Equal(t, 1, letters.Count(family))
	assert.Equal(t, "a"+family, letters.Cut("a"+family+"b", 4))
	assert.Equal(t, "a", letters.Cut("a"+family+"b", 3), "a sign is not cut in half")
	assert.Equal(t, "e\u0301", letters.Cut("e\u0301x", 2), "an accent stays with its letter")
	assert.Equal(t, "Éa", letters.Capital("éa"))
	assert.Equal(t, "éa", letters.Lower("Éa"))
	assert.Equal(t, "", letters.Capital(""))
	assert.Equal(t, "zoe o", letters.Fold("Zo\u00eb \u00d3"))
	assert.Equal(t, "baker's", letters.Fold("Baker\u2019s"))
	assert.Equal(t, "Zo\u00eb", letters.Clean("Zoe\u0308"), "an accent of its own is joined")
	assert.Equal(t, "a\uFFFDb", letters.Clean("a\xffb"))
	assert.Equal(t, "ab", letters.Clean("a\u200b\u202e\x00\ufeffb"), "nobody sees these")
	assert.Equal(t, "a\n\tb", letters.Clean("a\n\tb"))
}

func TestWhatIsCutIsABeginning(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := letters.Clean(rapid.String().Draw(t, "text"))
		most := rapid.IntRange(0, 20).Draw(t, "most")
		cut := letters.Cut(s, most)
		assert.True(t, strings.HasPrefix(s, cut))
		assert.LessOrEqual(t, utf8.RuneCountInString(cut), most)
		assert.Equal(t, s, letters.Clean(s), "clean once is clean")
	})
}

// Source: the Unicode Standard, 3.10 (byte order mark); the WHATWG Encoding Standard, windows-1252.
func TestText(t *testing.T) {
	for data, want := range map[string]string{
		"Zo\xc3\xab":                       "Zoë",
		"\xef\xbb\xbfZo\xc3\xab":           "Zoë",
		"\xff\xfeZ\x00o\x00\xeb\x00":       "Zoë",
		"\xfe\xff\x00Z\x00o\x00\xeb":       "Zoë",
		"Zo\xeb \x93lane\x94 \x96 it\x92s": "Zoë “lane” – it’s",
		"":                                 "",
	} {
		got, err := letters.Text([]byte(data))
		assert.NoError(t, err)
		assert.Equal(t, want, got)
	}
	for _, data := range []string{"\x89PNG\r\n\x1a\n\x00\x00", "a\x00b", "\xff\xfea\x00\x00\x00"} {
		_, err := letters.Text([]byte(data))
		assert.ErrorIs(t, err, letters.ErrNoText, "%q", data)
	}
}
