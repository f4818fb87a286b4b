package practice

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"arplin/core/bpm"
	"arplin/core/practice/fault"
)

// Errors is how many mistakes there were, as a teacher hears them.
type Errors string

// The amounts; the zero value is none, or not said.
const (
	NoErrors Errors = ""
	Few      Errors = "few"
	Many     Errors = "many"
)

// ParseErrors reads an amount.
func ParseErrors(s string) (Errors, bool) {
	e := Errors(s)
	return e, slices.Contains([]Errors{NoErrors, Few, Many}, e)
}

// Line is what is written in the log about one student.
type Line struct {
	Who     int    // the place of the name
	Song    string // words between the name and the tempo, as typed: which song is meant
	Tempo   int
	Clean   bool
	Errors  Errors
	Minutes int         // of practice, 0 where nothing is said
	Fault   fault.Fault // what failed
	Bar     int         // where, from 1; 0 where nothing is said
	Word    string
}

// MaxTries is how many tempos one line can hold: a large class, everyone twice.
const MaxTries = 60

// MaxWord is how long the word beside a tempo can be, in letters.
const MaxWord = 60

// ParseTempo reads a tempo.
func ParseTempo(s string) (int, error) {
	n, err := strconv.Atoi(strings.TrimSpace(s))
	if err != nil || n < bpm.Min || n > bpm.Max {
		return 0, fmt.Errorf("“%s” isn’t a tempo. Use %d to %d BPM", strings.TrimSpace(s), bpm.Min, bpm.Max)
	}
	return n, nil
}

// ParseLines reads log lines, separated by commas: the beginning of a name, a tempo, and
// what else is to be kept: "pia 72", "wim waltz 66 x", "ida 84 wb b5", "jo 60 few 12m Asleep".
// Names, songs and keys are compared as fold makes them; a remark stays as it was written.
// Titles are the songs that can be meant: a number in one of them is no tempo.
func ParseLines(text string, names, titles []string, fold func(string) string) ([]Line, error) {
	folded := make([]string, len(names))
	for i, name := range names {
		folded[i] = fold(name)
	}
	var lines []Line
	all := tries(text)
	if len(all) > MaxTries {
		return nil, fmt.Errorf("a line holds up to %d tempos. This one has %d, so nothing was logged", MaxTries, len(all))
	}
	for _, fields := range all {
		at := tempoAt(foldAll(fields, fold), 1, foldAll(titles, fold))
		if at < 0 {
			if at = len(fields) - 1; at == 0 { // a name alone
				return nil, fmt.Errorf("write a name and a tempo, such as %q", example(names))
			}
		}
		l, err := readTry(fields, at, folded, fold)
		if err != nil {
			return nil, err
		}
		if l.Who, l.Song, err = findName(foldAll(fields[:at], fold), folded, names); err != nil {
			return nil, err
		}
		lines = append(lines, l)
	}
	if len(lines) == 0 {
		return nil, fmt.Errorf("write a name and a tempo, such as %q", example(names))
	}
	return lines, nil
}

// ParseOwn reads what stands in a student's own field: a line without the name.
func ParseOwn(text string, titles []string, fold func(string) string) (l Line, err error) {
	list := tries(text)
	if len(list) != 1 {
		return l, fmt.Errorf("write one tempo here, such as %q", "72")
	}
	at := tempoAt(foldAll(list[0], fold), 0, foldAll(titles, fold))
	if at < 0 {
		at = len(list[0]) - 1 // what stands there is said to be none
	}
	if l, err = readTry(list[0], at, nil, fold); err != nil {
		return l, err
	}
	l.Song = strings.Join(foldAll(list[0][:at], fold), " ")
	return l, nil
}

// tries parts a text at commas, and each part at spaces; empty ones are left out.
func tries(text string) (list [][]string) {
	for _, part := range strings.FieldsFunc(text, func(r rune) bool { return r == ',' || r == ';' || r == '\n' }) {
		if fields := strings.Fields(strings.ReplaceAll(part, ":", " ")); len(fields) > 0 {
			list = append(list, fields)
		}
	}
	return list
}

// tempoAt finds the tempo in fields from a place on: the first number that is not a word
// of a song's title, where another number comes after it; -1 where there is none.
func tempoAt(fields []string, from int, titles []string) int {
	if from >= len(fields) {
		return -1
	}
	first := slices.IndexFunc(fields[from:], isNumber)
	if first < 0 {
		return -1
	}
	first += from
	for _, title := range titles {
		words := strings.Fields(title)
		for begins := from; begins <= first; begins++ {
			n := 0
			for n < len(words) && begins+n < len(fields) && fields[begins+n] == words[n] {
				n++
			}
			if begins+n <= first {
				continue
			}
			if next := slices.IndexFunc(fields[begins+n:], isNumber); next >= 0 {
				return begins + n + next
			}
		}
	}
	return first
}

func foldAll(words []string, fold func(string) string) []string {
	folded := make([]string, len(words))
	for i, w := range words {
		folded[i] = fold(w)
	}
	return folded
}

func isNumber(s string) bool {
	_, err := strconv.Atoi(s)
	return err == nil
}

// readTry reads the tempo at a place and what stands behind it.
func readTry(fields []string, at int, names []string, fold func(string) string) (l Line, err error) {
	if l.Tempo, err = ParseTempo(fields[at]); err != nil {
		return l, err
	}
	l.Clean = true
	return l, l.rest(fields[at+1:], names, fold)
}

// rest reads what stands after the tempo.
func (l *Line) rest(fields, names []string, fold func(string) string) error {
	var words []string
	for i, written := range fields {
		f := fold(written)
		minutes, isMinutes := strings.CutSuffix(strings.TrimSuffix(f, "in"), "m")
		n, err := strconv.Atoi(minutes)
		bar, isBar := strings.CutPrefix(f, "b")
		at, errBar := strconv.Atoi(bar)
		failed, isFault := fault.ByKeys(f)
		switch {
		case isFault && l.Fault != "" && l.Fault != failed:
			return fmt.Errorf("an entry has one fault. Write %q on its own line", f)
		case isFault:
			l.Fault = failed
			l.Clean = l.Clean && failed == fault.Tension // a clean try can be a tense one
		case isBar && errBar == nil && at > 0:
			l.Bar = at
		case f == "x":
			l.Clean = false
		case f == "ok":
		case f == string(Few) || f == string(Many):
			l.Errors, l.Clean = Errors(f), false
		case isMinutes && err == nil && n >= 1 && n <= MaxDay:
			l.Minutes = n
		case i > 0 && isNumber(f) && slices.ContainsFunc(names, func(name string) bool { return strings.HasPrefix(name, fold(fields[i-1])) }):
			return fmt.Errorf("%q looks like another student. Write a comma before it", fields[i-1]+" "+f)
		default:
			words = append(words, written)
		}
	}
	if l.Word = strings.Join(words, " "); len([]rune(l.Word)) > MaxWord {
		return fmt.Errorf("a note beside a tempo has up to %d characters", MaxWord)
	}
	return nil
}

// findName finds whose name some words begin with; what is left of them is the song. A
// full name is found even when it begins another. Names are folded ones; shown are those
// that a sentence has.
func findName(words, names, shown []string) (who int, song string, err error) {
	var candidates []string
	for n := len(words); n > 0; n-- {
		wanted := strings.Join(words[:n], " ")
		var found []int
		for i, name := range names {
			if name == wanted {
				return i, strings.Join(words[n:], " "), nil
			}
			if strings.HasPrefix(name, wanted) {
				found = append(found, i)
			}
		}
		if len(found) == 1 {
			return found[0], strings.Join(words[n:], " "), nil
		}
		if len(found) > 1 && candidates == nil {
			for _, i := range found {
				candidates = append(candidates, shown[i])
			}
			words = words[:n]
		}
	}
	if candidates != nil {
		return 0, "", fmt.Errorf("%q could be %s. Write more of the name", strings.Join(words, " "), strings.Join(candidates, " or "))
	}
	return 0, "", fmt.Errorf("there’s nobody called %q in this class", words[0])
}

func example(names []string) string {
	if len(names) > 0 {
		return names[0] + " 72"
	}
	return "name 72"
}
