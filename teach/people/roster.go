package people

import (
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"arplin/core/practice"
	"arplin/core/say"
	"arplin/letters"
	"arplin/store"
)

// MostPasted is how many students a pasted list can have.
const MostPasted = 60

// maxStudentName is how long a name can be, in letters.
const maxStudentName = 40

// Roster is a list of students as it was pasted: every line is in one of its parts.
type Roster struct {
	Students []Listed
	Wrong    []ListLine // lines of which nobody can be made
	Left     []ListLine // what was left out of the others, and lines that are about nobody
	Surnames bool       // some were left out
}

// Listed is a student with the line on which they stand, from 1.
type Listed struct {
	store.Student
	Line int
}

// ListLine is a line of the list, from 1, with what is said of it.
type ListLine struct {
	Line       int
	Text, Says string
}

// Whole reports a list that was read to the last word.
func (r Roster) Whole() bool { return len(r.Wrong) == 0 && len(r.Left) == 0 }

// Problem says all that is wrong with a list, in one sentence.
func (r Roster) Problem() error {
	var parts []string
	for _, w := range r.Wrong {
		parts = append(parts, fmt.Sprintf("line %d: %s", w.Line, w.Says))
	}
	if len(parts) == 0 {
		return nil
	}
	return errors.New(strings.Join(parts, "; "))
}

// listEnds are the ends of lines on all systems.
var listEnds = strings.NewReplacer("\r\n", "\n", "\r", "\n")

// ReadRoster reads a pasted list, a student a line, as it is found in mails, notes and spreadsheets:
// "Zoë, ukulele", "2. Ben - guitar, left", "Brook, Ada", "Jo & Kim", a column of a spreadsheet. Only first
// names are kept: where two share one, the second gets the first letter of the surname. Who plays nothing
// that is named plays what usual is. It fails only where there is no line to read, or too many.
func ReadRoster(text, usual string) (r Roster, err error) {
	var columns []string // of a head, folded
	for n, line := range strings.Split(listEnds.Replace(text), "\n") {
		text := strings.TrimSpace(letters.Clean(line))
		line = strings.TrimLeftFunc(text, func(c rune) bool {
			return unicode.IsDigit(c) || unicode.IsSpace(c) || strings.ContainsRune(".)-–*•#", c)
		})
		switch {
		case line == "":
			if strings.ContainsFunc(text, unicode.IsDigit) && len(text) > 3 {
				r.Left = append(r.Left, ListLine{n + 1, text, "a number"})
			}
			continue
		case isHead(line):
			columns = nil
			for _, f := range fieldsOf(line) {
				columns = append(columns, strings.TrimSpace(letters.Fold(f)))
			}
			continue
		case isTalk(line):
			r.Left = append(r.Left, ListLine{n + 1, text, "nobody’s line"})
			continue
		}
		l := listReader{usual: usual, number: n + 1, text: text, columns: columns}
		r.take(l.read(line), &l)
	}
	if len(r.Students) > MostPasted {
		return r, fmt.Errorf("a list has at most %d students; paste it in parts", MostPasted)
	}
	if len(r.Students)+len(r.Wrong) == 0 {
		return r, errors.New("write a name in each line, such as “Zoë, ukulele”")
	}
	return r, nil
}

// take adds what a line holds; two of one name get a letter of the surname.
func (r *Roster) take(found []person, l *listReader) {
	for _, p := range found {
		taken := func(name string) bool {
			return slices.ContainsFunc(r.Students, func(o Listed) bool { return strings.EqualFold(o.Name, name) })
		}
		if taken(p.Name) {
			other := p.Name
			if p.surname != "" {
				other += " " + letters.Cut(p.surname, 1)
			}
			if taken(other) {
				l.wrong = append(l.wrong, fmt.Sprintf("there are two called %s. Add a letter or use a nickname", other))
				continue
			}
			p.Name = other
		}
		r.Surnames = r.Surnames || p.surname != ""
		r.Students = append(r.Students, Listed{p.Student, l.number})
	}
	for _, says := range l.wrong {
		r.Wrong = append(r.Wrong, ListLine{l.number, l.text, says})
	}
	if len(l.left) > 0 && len(found) > 0 {
		r.Left = append(r.Left, ListLine{l.number, l.text, say.And(l.left)})
	}
}

// isHead reports the head of columns.
func isHead(line string) bool {
	fields := fieldsOf(line)
	return len(fields) > 0 && slices.Contains(headWords, strings.TrimSpace(letters.Fold(fields[0])))
}

func fieldsOf(line string) []string {
	return strings.FieldsFunc(line, func(c rune) bool { return strings.ContainsRune(",;\t(|", c) || c == ')' })
}

// isTalk reports a line of a mail that is about nobody: a greeting, a signature, a sentence.
func isTalk(line string) bool {
	folded := letters.Fold(line)
	for _, begins := range talkWords {
		if rest, ok := strings.CutPrefix(folded, begins); ok && (rest == "" || !unicode.IsLetter([]rune(rest)[0])) {
			return true
		}
	}
	words := strings.Fields(line)
	last := line[len(line)-1]
	if strings.Trim(folded, " ,.!") == "best" {
		return true
	}
	return strings.HasPrefix(line, ">") || len(words) > 3 && strings.IndexByte(".:!?", last) >= 0 && !slices.ContainsFunc(words[1:], func(w string) bool { _, ok := instrumentOf(letters.Fold(w)); return ok })
}

// person is a student of a line, with the surname that is not kept.
type person struct {
	store.Student
	surname string
}

// listReader reads one line.
type listReader struct {
	usual, text string
	number      int
	columns     []string
	left, wrong []string
}

// found are what nobody should keep of a person, by what it is called.
var private = []struct {
	name string
	form *regexp.Regexp
}{
	{"a mail address", regexp.MustCompile(`[^\s,;<(]+@[^\s,;>)]+`)},
	{"a phone number", regexp.MustCompile(`(?:\+|\b0)[\d][\d \t/().-]{5,}\d|\b\d{3,}[ /.-]\d{3,}(?:[ /.-]\d+)*\b`)},
	{"an age", regexp.MustCompile(`(?i)\b(?:aged?|age:)\s*\d{1,2}\b|\b\d{1,2}\s*(?:years? old|years?|yrs?|y\.?o\.?)(?:\b|$)`)},
	{"a birthday", regexp.MustCompile(`\b\d{1,2}[./-]\d{1,2}[./-]\d{2,4}\b|\b\d{4}-\d{2}-\d{2}\b`)},
}

// read reads a line; what cannot be read is said in wrong, what is not kept in left.
func (l *listReader) read(line string) (found []person) {
	for _, p := range private {
		if p.form.MatchString(line) {
			l.left = append(l.left, p.name)
			line = p.form.ReplaceAllString(line, "")
		}
	}
	line = strings.NewReplacer("<", " ", ">", " ", " - ", ",", " – ", ",", ": ", ",").Replace(line)
	tabs := strings.ContainsAny(line, "\t|")
	var fields []string
	for _, f := range fieldsOf(line) {
		if f = strings.Trim(f, " \t-–.:'\"“”"); f != "" {
			fields = append(fields, f)
		}
	}
	if len(fields) == 0 {
		l.left = nil
		l.wrong = append(l.wrong, "there is no name in it")
		return nil
	}
	if !tabs && len(fields) > 2 && !slices.ContainsFunc(fields, func(f string) bool { return !isName(f) || len(strings.Fields(f)) > 1 }) {
		for _, f := range fields { // "Zoë, Ben, Ada": a list in one line
			if letters.Count(f) > maxStudentName {
				l.wrong = append(l.wrong, fmt.Sprintf("a name in it is longer than %d characters", maxStudentName))
				continue
			}
			found = append(found, person{Student: store.Student{Name: f, Instrument: l.usual, DayMinutes: practice.UsualDay}})
		}
		return found
	}
	fields, surname := l.surnameOf(fields, tabs)
	name, told := splitInstrument(fields[0])
	if words := strings.Fields(name); len(words) == 0 || isInstrument(letters.Fold(words[0])) {
		l.wrong = append(l.wrong, "there is no name in it")
		return nil
	}
	st := store.Student{Instrument: l.usual, DayMinutes: practice.UsualDay}
	for _, field := range append([]string{told}, fields[1:]...) {
		if says := l.tell(&st, strings.TrimSpace(letters.Fold(field)), field); says != "" {
			l.wrong = append(l.wrong, says)
			return nil
		}
	}
	for _, part := range splitNames(name) {
		words := strings.Fields(part)
		p := person{Student: st, surname: surname}
		if p.Name = words[0]; len(words) > 1 {
			p.surname = words[len(words)-1]
		}
		if letters.Count(p.Name) > maxStudentName {
			l.wrong = append(l.wrong, fmt.Sprintf("that name is longer than %d characters", maxStudentName))
			return nil
		}
		found = append(found, p)
	}
	return found
}

// surnameOf finds a surname in a field of its own: after the first name in columns, before it where a
// comma stands between them, or as the head of the columns says.
func (l *listReader) surnameOf(fields []string, tabs bool) (rest []string, surname string) {
	if len(fields) < 2 || !isName(fields[1]) || len(strings.Fields(fields[0])) > 2 {
		return fields, ""
	}
	first := slices.IndexFunc(l.columns, func(c string) bool { return strings.Contains(c, "first") || strings.Contains(c, "given") })
	last := slices.IndexFunc(l.columns, func(c string) bool {
		return strings.Contains(c, "last") || strings.Contains(c, "sur") || strings.Contains(c, "family")
	})
	surnameFirst := !tabs
	if first >= 0 && last >= 0 {
		surnameFirst = last < first
	}
	if !surnameFirst {
		return slices.Delete(slices.Clone(fields), 1, 2), fields[1]
	}
	return fields[1:], fields[0]
}

// splitNames parts "Jo & Kim" and "Jo and Kim".
func splitNames(name string) (list []string) {
	for _, part := range strings.FieldsFunc(strings.NewReplacer(" and ", "&", " + ", "&", "/", "&").Replace(" "+name+" "), func(c rune) bool { return c == '&' }) {
		if strings.TrimSpace(part) != "" {
			list = append(list, strings.TrimSpace(part))
		}
	}
	return list
}

// splitInstrument parts "Ben guitar" into the name and what else it says.
func splitInstrument(text string) (name, told string) {
	words := strings.Fields(text)
	for i := 1; i < len(words); i++ {
		rest := letters.Fold(strings.Join(words[i:], " "))
		if unicode.IsDigit([]rune(words[i])[0]) || strings.HasPrefix(rest, "left") || isInstrument(letters.Fold(words[i])) {
			return strings.Join(words[:i], " "), rest
		}
		if _, ok := instrumentOf(rest); ok {
			return strings.Join(words[:i], " "), rest
		}
	}
	return text, ""
}

// tell takes what one field says of a student; it says what is wrong where it cannot.
func (l *listReader) tell(st *store.Student, field, written string) (wrong string) {
	if w, ok := instrumentOf(field); ok {
		if w.id == "" {
			return fmt.Sprintf("“%s” isn’t an instrument Arplin has: only guitars and ukuleles", w.word)
		}
		st.Instrument = w.id
		return l.tell(st, strings.Trim(strings.TrimPrefix(field, w.word), " ,/"), written)
	}
	switch field {
	case "", "right", "right-handed", "right handed":
		return ""
	case "left", "left-handed", "left handed", "lefty":
		st.LeftHanded = true
		return ""
	}
	if left, ok := strings.CutPrefix(field, "left"); ok {
		st.LeftHanded = true
		return l.tell(st, strings.Trim(left, " ,-"), written)
	}
	minutes, isMinutes := strings.CutSuffix(strings.TrimSuffix(strings.TrimSpace(strings.TrimSuffix(field, "utes")), "in"), "m")
	n, err := strconv.Atoi(strings.TrimSpace(minutes))
	switch {
	case err == nil && isMinutes && n >= practice.MinDay && n <= practice.MaxDay:
		st.DayMinutes = n
	case err == nil && !isMinutes && n < 100:
		l.left = append(l.left, "an age")
	default:
		l.left = append(l.left, "“"+strings.TrimSpace(written)+"”")
	}
	return ""
}
