// Package letters handles text by what a reader sees as one letter: with its
// accents, or a sign of several parts. It cleans what comes from outside.
package letters

import (
	"strings"
	"unicode"

	"github.com/rivo/uniseg"
	"golang.org/x/text/unicode/norm"
)

// Clean makes text that came from outside fit to be kept: what is no letter in
// UTF-8 becomes the sign for that, letters and their accents are joined, and signs
// that nobody sees and that turn others round are taken out.
func Clean(s string) string {
	s = strings.Map(func(r rune) rune {
		switch {
		case r == '\n' || r == '\t' || r == '\r':
			return r
		case r == '\u200c' || r == '\u200d': // joiners, which some scripts and signs need
			return r
		case unicode.IsControl(r), unicode.Is(unicode.Cf, r):
			return -1
		}
		return r
	}, strings.ToValidUTF8(s, "\uFFFD"))
	return norm.NFC.String(s) // last: what stood apart only by what was taken out is joined
}

// Count counts letters.
func Count(s string) int { return uniseg.GraphemeClusterCount(s) }

// Cut keeps the first letters of a text, as many as have no more than so many code
// points between them, which is what a column of the database counts.
func Cut(s string, most int) string {
	kept, n := 0, 0
	for rest, state := s, -1; rest != ""; {
		var letter string
		letter, rest, _, state = uniseg.FirstGraphemeClusterInString(rest, state)
		if n += len([]rune(letter)); n > most {
			break
		}
		kept += len(letter)
	}
	return s[:kept]
}

// Fold makes texts one that differ in accents, capitals and the form of the apostrophe only:
// "Zoë" and "zoe".
func Fold(s string) string {
	return strings.ToLower(strings.Map(func(r rune) rune {
		if unicode.Is(unicode.Mn, r) {
			return -1
		}
		if r == '’' {
			return '\''
		}
		return r
	}, norm.NFD.String(s)))
}

// Capital begins a text with a capital.
func Capital(s string) string { return first(s, strings.ToUpper) }

// Lower begins it without one.
func Lower(s string) string { return first(s, strings.ToLower) }

func first(s string, change func(string) string) string {
	letter, rest, _, _ := uniseg.FirstGraphemeClusterInString(s, -1)
	return change(letter) + rest
}
