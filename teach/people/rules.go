package people

import (
	"slices"
	"strings"
	"time"
	"unicode/utf8"

	"arplin/core/bind"
	"arplin/core/bpm"
	"arplin/core/fretboard"
	"arplin/core/ladder/order"
	"arplin/core/plan"
	"arplin/core/practice"
	"arplin/core/song"
	"arplin/core/song/hand"
	"arplin/core/theory"
	"arplin/store"
	"arplin/teach/answer"
)

// What a class, a student, a term and an entry of the log can be: one set of rules, whether a
// form or a file brings them. What breaks one is a refusal.

// Limits of what people type.
const (
	MostClassName   = 80 // letters, as the columns of the database count them
	MostStudentName = 40
	MostNote        = 2000
	MinLesson       = 5 // minutes
	MaxLesson       = 240
)

// ShortName is a name that people type, with single blanks.
func ShortName(s, what string, most int) (string, error) {
	name := strings.Join(strings.Fields(s), " ")
	switch {
	case name == "":
		return "", answer.Refuse("%s needs a name", what)
	case utf8.RuneCountInString(name) > most:
		return "", answer.Refuse("that name is longer than %d characters", most)
	}
	return name, nil
}

// CheckClass gives back a class as it can be stored.
func CheckClass(c store.Class) (store.Class, error) {
	var err error
	if c.Name, err = ShortName(c.Name, "the class", MostClassName); err != nil {
		return c, err
	}
	if c.LessonMinutes < MinLesson || c.LessonMinutes > MaxLesson {
		return c, answer.Refuse("a lesson has %d to %d minutes", MinLesson, MaxLesson)
	}
	if _, err := bind.ParseFingerSchool(c.Fingers); err != nil {
		return c, answer.Refused(err)
	}
	if _, err := bind.ParseRollSchool(c.Roll); err != nil {
		return c, answer.Refused(err)
	}
	choice, err := order.Parse(c.Grows, c.StepSize, c.ChordsCome, "")
	if err != nil {
		return c, answer.Refused(err)
	}
	c.Grows, c.ChordsCome = string(choice.Order), string(choice.Chords)
	low, err := theory.ParsePitch(c.SingLow)
	if err != nil {
		return c, answer.Refused(err)
	}
	high, err := theory.ParsePitch(c.SingHigh)
	if err != nil {
		return c, answer.Refused(err)
	}
	if low.MIDI() >= high.MIDI() {
		return c, answer.Refuse("%s is not lower than %s", low, high)
	}
	for part, f := range (Class{Class: c}).FactorsOf() {
		if !slices.Contains(Factors, f) {
			return c, answer.Refuse("%q counts %g times, which no class can choose", part, f)
		}
	}
	return c, nil
}

// CheckStudent gives back a student as they can be stored.
func CheckStudent(st store.Student) (store.Student, error) {
	var err error
	if st.Name, err = ShortName(st.Name, "the student", MostStudentName); err != nil {
		return st, err
	}
	if st.DayMinutes < practice.MinDay || st.DayMinutes > practice.MaxDay {
		return st, answer.Refuse("a day has %d to %d minutes of practice, not %d", practice.MinDay, practice.MaxDay, st.DayMinutes)
	}
	ins, err := fretboard.ByID(st.Instrument)
	if err != nil {
		return st, answer.Refused(err)
	}
	if st.Fingers != "" {
		if _, err := bind.ParseFingerSchool(st.Fingers); err != nil {
			return st, answer.Refused(err)
		}
	}
	own, err := hand.ParseOwn(st.Shapes, ins)
	if err != nil {
		return st, answer.Refused(err)
	}
	st.Shapes = hand.OwnText(own)
	if st.Capo < 0 || st.Capo > song.MaxCapo {
		return st, answer.Refuse("a capo sits on fret 1 to %d, or nowhere, not on %d", song.MaxCapo, st.Capo)
	}
	cannot, err := hand.ParseCannots(st.Cannot)
	if err != nil {
		return st, answer.Refused(err)
	}
	st.Cannot = hand.CannotText(cannot)
	if err := checkNote(st.Note); err != nil {
		return st, err
	}
	return st, nil
}

// CheckTerm gives back a term as it can be stored.
func CheckTerm(t store.Term) (store.Term, error) {
	if t.Begins.IsZero() || t.Concert.IsZero() {
		return t, answer.Refuse("write both days, the first lesson’s and the concert’s")
	}
	if !InOurTime(t.Begins) || !InOurTime(t.Concert) {
		return t, answer.Refuse("a term is between the years %d and %d", firstYear, lastYear)
	}
	if weeks := WeeksBetween(t.Begins, t.Concert); weeks < plan.MinTerm || weeks > plan.MaxTerm {
		return t, answer.Refuse("a term has %d to %d weeks; from %s to %s are %d", plan.MinTerm, plan.MaxTerm, t.Begins.Format("2 January 2006"), t.Concert.Format("2 January 2006"), weeks)
	}
	if utf8.RuneCountInString(t.Name) > MostClassName {
		return t, answer.Refuse("the name of the concert is longer than %d characters", MostClassName)
	}
	if t.Name == "" {
		t.Name = UsualConcert
	}
	if t.At != "" {
		at, err := time.Parse("15:04", t.At)
		if err != nil {
			return t, answer.Refuse("write the hour of the lessons as 17:30")
		}
		t.At = at.Format("15:04")
	}
	if len(t.Off) > plan.MaxTerm || len(t.More) > mostSongs {
		return t, answer.Refuse("a term has at most %d weeks off and %d further songs", plan.MaxTerm, mostSongs)
	}
	for _, off := range t.Off {
		if off.Before(t.Begins) || !off.Before(t.Concert) {
			return t, answer.Refuse("%s, a week off, is not in the term", off.Format("2 January 2006"))
		}
	}
	return t, nil
}

// Years in which lessons are given; others are slips of a file or of the hand.
const (
	firstYear = 1990
	lastYear  = 2100
)

// InOurTime reports a day on which somebody can have played: the database keeps no year 1.
func InOurTime(t time.Time) bool { return t.Year() >= firstYear && t.Year() <= lastYear }

// mostSongs is how many further songs a concert can have: the desk holds no more.
const mostSongs = 10

// CheckEntry refuses an entry of the log that no line could have been.
func CheckEntry(e store.Entry) error {
	switch {
	case e.Tempo < bpm.Min || e.Tempo > bpm.Max:
		return answer.Refuse("%d is not a tempo", e.Tempo)
	case e.Minutes < 0 || e.Minutes > practice.MaxDay:
		return answer.Refuse("%d minutes are more than a day of practice has", e.Minutes)
	case !InOurTime(e.At):
		return answer.Refuse("it is of the year %d", e.At.Year())
	}
	return nil
}

// UsualConcert is what a concert is called until the teacher says otherwise.
const UsualConcert = "the evening"

// DateOf is the day of a time where the program runs, as a date.
func DateOf(at time.Time) time.Time {
	y, m, d := at.Local().Date()
	return time.Date(y, m, d, 0, 0, 0, 0, time.UTC)
}

func WeeksBetween(from, to time.Time) int {
	days := int(to.Sub(from).Hours() / 24)
	return (days + 6) / 7
}

func checkNote(note string) error {
	if n := utf8.RuneCountInString(note); n > MostNote {
		return answer.Refuse("a note has at most %d characters; this one has %d", MostNote, n)
	}
	return nil
}
