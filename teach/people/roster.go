package people

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode"

	"arplin/core/fretboard"
	"arplin/core/practice"
	"arplin/core/say"
	"arplin/letters"
	"arplin/store"
	"arplin/teach/answer"
)

// MostPasted is how many students a pasted list can have.
const MostPasted = 60

// maxStudentName is how long a name can be, in letters.
const maxStudentName = 40

// Roster is a list of students as it was pasted.
type Roster struct {
	Students []store.Student
	Surnames bool // some were left out
}

// instrumentWords are how people write what somebody plays, folded. Longer ones first:
// "ukulele low g" is no plain ukulele.
var instrumentWords = []instrumentWord{
	{"ukulele low g", "ukulele-low-g"}, {"low g ukulele", "ukulele-low-g"}, {"uke low g", "ukulele-low-g"}, {"low g", "ukulele-low-g"}, {"baritone ukulele", "baritone"}, {"baritone uke", "baritone"}, {"baritone", "baritone"}, {"bari", "baritone"},
	{"ukulele", "ukulele"}, {"uke", "ukulele"}, {"guitar", "guitar"}, {"gtr", "guitar"},
}

type instrumentWord struct{ word, id string }

// ParseRoster reads a pasted list, a student a line: "Zoë, ukulele", "2. Ben - guitar, left",
// a column of a spreadsheet. Only first names are kept: where two share one, the second
// gets the first letter of the surname. Who plays nothing that is named plays what usual
// is.
func ParseRoster(text, usual string) (r Roster, err error) {
	for n, line := range strings.Split(strings.ReplaceAll(text, "\r", "\n"), "\n") {
		line = strings.TrimLeftFunc(letters.Clean(line), func(c rune) bool {
			return unicode.IsDigit(c) || unicode.IsSpace(c) || strings.ContainsRune(".)-–*•#", c)
		})
		if line == "" || isHead(line) {
			continue
		}
		st, surname, err := readStudent(line, usual)
		if err != nil {
			return r, fmt.Errorf("line %d: %w", n+1, err)
		}
		if taken := func(name string) bool {
			return slices.ContainsFunc(r.Students, func(o store.Student) bool { return strings.EqualFold(o.Name, name) })
		}; taken(st.Name) {
			if surname == "" {
				return r, fmt.Errorf("line %d: there are two called %s; add a letter or a nickname", n+1, st.Name)
			}
			if st.Name += " " + letters.Cut(surname, 1); taken(st.Name) {
				return r, fmt.Errorf("line %d: there are two called %s; add a nickname", n+1, st.Name)
			}
		}
		r.Surnames = r.Surnames || surname != ""
		if r.Students = append(r.Students, st); len(r.Students) > MostPasted {
			return r, fmt.Errorf("a list has at most %d students; paste it in parts", MostPasted)
		}
	}
	if len(r.Students) == 0 {
		return r, errors.New("write a name in each line, such as “Zoë, ukulele”")
	}
	return r, nil
}

// isHead reports the head of a column.
func isHead(line string) bool {
	fields := strings.FieldsFunc(line, parts)
	return len(fields) > 0 && slices.Contains([]string{"name", "names", "first name", "student", "students"}, strings.TrimSpace(letters.Fold(fields[0])))
}

func parts(c rune) bool { return strings.ContainsRune(",;\t(|", c) || c == ')' }

// readStudent reads a line: the name up to a comma, a tab or a word for an instrument, then
// what else is said of somebody.
func readStudent(line, usual string) (st store.Student, surname string, err error) {
	st.Instrument, st.DayMinutes = usual, practice.UsualDay
	fields := strings.FieldsFunc(strings.NewReplacer(" - ", ",", " – ", ",", ": ", ",").Replace(line), parts)
	if len(fields) == 0 {
		return st, "", errors.New("there is no name in it")
	}
	name, told := splitInstrument(fields[0])
	words := strings.Fields(name)
	if len(words) == 0 || slices.ContainsFunc(instrumentWords, func(w instrumentWord) bool { return w.word == letters.Fold(words[0]) }) {
		return st, "", errors.New("there is no name in it")
	}
	st.Name = words[0]
	if len(words) > 1 {
		surname = words[len(words)-1]
	}
	if letters.Count(st.Name) > maxStudentName {
		return st, "", fmt.Errorf("that name is longer than %d letters", maxStudentName)
	}
	for i, field := range append([]string{told}, fields[1:]...) {
		if err := tell(&st, strings.TrimSpace(letters.Fold(field))); err != nil {
			if i == 1 && surname == "" && len(fields) > 1 && isWord(fields[1]) { // a column for the surname
				surname = strings.TrimSpace(fields[1])
				continue
			}
			return st, "", err
		}
	}
	return st, surname, nil
}

// isWord reports what could be a surname.
func isWord(s string) bool {
	return len(strings.Fields(s)) > 0 && !strings.ContainsFunc(s, unicode.IsDigit)
}

// splitInstrument parts "Ben guitar" into the name and what else it says.
func splitInstrument(text string) (name, told string) {
	words := strings.Fields(text)
	for i := 1; i < len(words); i++ {
		rest := letters.Fold(strings.Join(words[i:], " "))
		if unicode.IsDigit([]rune(words[i])[0]) || strings.HasPrefix(rest, "left") {
			return strings.Join(words[:i], " "), rest
		}
		for _, w := range instrumentWords {
			if strings.HasPrefix(rest, w.word) {
				return strings.Join(words[:i], " "), rest
			}
		}
	}
	return text, ""
}

// tell takes what one field says of a student.
func tell(st *store.Student, field string) error {
	for _, w := range instrumentWords {
		if rest, ok := strings.CutPrefix(field, w.word); ok {
			st.Instrument = w.id
			return tell(st, strings.Trim(rest, " ,"))
		}
	}
	switch field {
	case "", "right", "right-handed", "right handed":
		return nil
	case "left", "left-handed", "left handed", "lefty":
		st.LeftHanded = true
		return nil
	}
	minutes, isMinutes := strings.CutSuffix(strings.TrimSuffix(strings.TrimSpace(strings.TrimSuffix(field, "utes")), "in"), "m")
	if n, err := strconv.Atoi(strings.TrimSpace(minutes)); err == nil && isMinutes && n >= practice.MinDay && n <= practice.MaxDay {
		st.DayMinutes = n
		return nil
	}
	if left, ok := strings.CutPrefix(field, "left"); ok {
		st.LeftHanded = true
		return tell(st, strings.Trim(left, " ,"))
	}
	return fmt.Errorf("%q is no instrument that a list can have; write guitar, ukulele, ukulele low g or baritone, and other tunings on the student’s own form", field)
}

// AddRoster adds a pasted list to a class, all of it or nothing, and says so.
func (t *Room) AddRoster(ctx context.Context, teacher store.TeacherID, class store.ClassID, text string, now time.Time) (says string, err error) {
	r, err := ParseRoster(text, fretboard.Instruments[0].ID)
	if err != nil {
		return "", answer.Refused(err)
	}
	there, err := t.Store.AllStudents(ctx, teacher, class)
	if err != nil {
		return "", err
	}
	var names []string
	for i := range r.Students {
		r.Students[i].ClassID, r.Students[i].Joined = class, DateOf(now)
		if k := slices.IndexFunc(there, func(o store.Student) bool { return strings.EqualFold(o.Name, r.Students[i].Name) }); k >= 0 {
			return "", answer.Refuse("there is a %s in this class already, perhaps among those who have left or the archived; add a letter or a nickname", there[k].Name)
		}
		names = append(names, r.Students[i].Name)
	}
	err = t.Store.AddStudents(ctx, teacher, r.Students)
	if errors.Is(err, store.ErrTaken) {
		return "", answer.Refuse("one of these names is in this class already; add a letter or a nickname")
	}
	if err != nil {
		return "", err
	}
	says = fmt.Sprintf("%s: %s.", say.Count(len(names), "student more", "students more"), strings.Join(names, ", "))
	if r.Surnames {
		says += " Surnames were left out; first names are all that Arplin keeps."
	}
	return says, nil
}
