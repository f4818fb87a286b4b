package people

import (
	"slices"
	"strings"
	"unicode"

	"arplin/letters"
)

// instrumentWord is how people write what somebody plays, folded; without an id it is none of ours.
type instrumentWord struct{ word, id string }

// instrumentWords are those words. Longer ones come first: "ukulele low g" is no plain ukulele.
var instrumentWords = []instrumentWord{
	{"ukulele low g", "ukulele-low-g"}, {"low g ukulele", "ukulele-low-g"}, {"uke low g", "ukulele-low-g"}, {"tenor low g", "ukulele-low-g"}, {"low g", "ukulele-low-g"},
	{"baritone ukulele", "baritone"}, {"baritone uke", "baritone"}, {"baritone", "baritone"}, {"bari", "baritone"},
	{"bass guitar", ""}, {"double bass", ""}, {"bass", ""}, {"banjo", ""}, {"mandolin", ""}, {"violin", ""}, {"fiddle", ""}, {"cello", ""}, {"piano", ""}, {"keyboard", ""},
	{"drums", ""}, {"flute", ""}, {"recorder", ""}, {"lute", ""}, {"harp", ""}, {"voice", ""}, {"singing", ""},
	{"tenor ukulele", "ukulele"}, {"tenor uke", "ukulele"}, {"soprano ukulele", "ukulele"}, {"soprano uke", "ukulele"}, {"concert ukulele", "ukulele"}, {"concert uke", "ukulele"},
	{"ukulele", "ukulele"}, {"ukelele", "ukulele"}, {"ukeleli", "ukulele"}, {"ukalele", "ukulele"}, {"uke", "ukulele"}, {"tenor", "ukulele"}, {"soprano", "ukulele"}, {"concert", "ukulele"},
	{"acoustic guitar", "guitar"}, {"classical guitar", "guitar"}, {"electric guitar", "guitar"}, {"spanish guitar", "guitar"}, {"guitar", "guitar"}, {"gtr", "guitar"},
	{"acoustic", "guitar"}, {"classical", "guitar"}, {"electric", "guitar"}, {"nylon", "guitar"}, {"steel", "guitar"},
}

// instrumentOf is the instrument with which some words begin.
func instrumentOf(folded string) (instrumentWord, bool) {
	for _, w := range instrumentWords {
		if rest, ok := strings.CutPrefix(folded, w.word); ok && (rest == "" || !unicode.IsLetter([]rune(rest)[0])) {
			return w, true
		}
	}
	return instrumentWord{}, false
}

// isInstrument reports a word that names an instrument by itself.
func isInstrument(folded string) bool {
	w, ok := instrumentOf(folded)
	return ok && w.word == folded
}

// headWords begin the head of columns.
var headWords = []string{"name", "names", "first name", "firstname", "given name", "last name", "lastname", "surname", "family name", "student", "students", "pupil", "pupils"}

// talkWords begin lines of a mail that are about nobody.
var talkWords = []string{
	"hi", "hello", "hey", "dear", "good morning", "good afternoon", "good evening", "thanks", "thank you", "many thanks", "cheers", "regards", "kind regards", "best wishes",
	"all the best", "see you", "here is", "here are", "heres", "below", "attached", "please", "sent from", "from:", "to:", "cc:", "subject:", "date:", "re:", "fwd:", "fw:", "class list", "class of",
	"tuesday", "monday", "wednesday", "thursday", "friday", "saturday", "sunday",
}

// said of somebody, but no name.
var notNames = []string{"left", "lefty", "right", "beginner", "beginners", "new", "advanced", "adult", "child"}

// isName reports a field that can be a name: one or two words of letters that say nothing else.
func isName(field string) bool {
	words := strings.Fields(field)
	if len(words) == 0 || len(words) > 2 || strings.ContainsFunc(field, unicode.IsDigit) {
		return false
	}
	_, plays := instrumentOf(letters.Fold(field))
	return !plays && unicode.IsUpper([]rune(words[0])[0]) && !slices.ContainsFunc(notNames, func(w string) bool { return strings.HasPrefix(letters.Fold(words[0]), w) })
}
