package web

import (
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/middleware/session"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/practice"
	"arplin/core/theory"
	"arplin/store"
)

// current is the class that the teacher works with.
type current struct {
	class    store.Class
	students []store.Student
}

var errNoClass = errors.New("there is no class yet")

// currentClass is the class of the session, or the first; errNoClass when the
// teacher has none.
func (s *server) currentClass(c fiber.Ctx) (current, error) {
	classes, err := s.Store.Classes(c.Context(), teacherID(c))
	if err != nil {
		return current{}, err
	}
	if len(classes) == 0 {
		return current{}, errNoClass
	}
	cur := current{class: classes[0]}
	wanted, _ := session.FromContext(c).Get("class").(int64)
	for _, cl := range classes {
		if cl.ID == wanted {
			cur.class = cl
		}
	}
	cur.students, err = s.Store.Students(c.Context(), teacherID(c), cur.class.ID)
	return cur, err
}

func (cur current) school() bind.School {
	return bind.School{Fingers: bind.FingerSchool(cur.class.Fingers), LowFifth: cur.class.LowFifth}
}

// instruments lists the instruments of the class, in the order of Instruments.
func (cur current) instruments() []fretboard.Instrument {
	var list []fretboard.Instrument
	for _, ins := range fretboard.Instruments {
		for _, st := range cur.students {
			if st.Instrument == ins.ID {
				list = append(list, ins)
				break
			}
		}
	}
	for _, st := range cur.students { // tunings of the teacher's own follow
		ins, err := fretboard.ByID(st.Instrument)
		if err == nil && !slices.ContainsFunc(list, func(o fretboard.Instrument) bool { return o.ID == ins.ID }) {
			list = append(list, ins)
		}
	}
	if len(list) == 0 {
		list = fretboard.Instruments[:1]
	}
	return list
}

type classData struct {
	Page
	HasClass    bool
	Class       store.Class
	Classes     []store.Class
	Students    []studentLine
	Instruments []fretboard.Instrument
	Settings    store.Class // as typed, kept after a problem
	Editing     int64       // the student in the form, 0 for a new one
	Name        string      // typed, kept after a problem
	Instrument  string
	Tuning      string // of the teacher's own, "E2 A2 D3 G3 B3 E4"
	LeftHanded  bool
	Fingers     string // the student's own school, empty for the class's
	DayMinutes  string // as typed
	Problem     string
}

type studentLine struct {
	store.Student
	InstrumentName string
}

func (s *server) classPage(c fiber.Ctx) error {
	if err := s.chooseClass(c); err != nil {
		return err
	}
	return s.renderClass(c, classData{Instrument: "guitar", Editing: fiber.Query[int64](c, "student")})
}

// chooseClass makes ?class=… the session's class.
func (s *server) chooseClass(c fiber.Ctx) error {
	id := fiber.Query[int64](c, "class")
	if id == 0 {
		return nil
	}
	if _, err := s.Store.Class(c.Context(), teacherID(c), id); err != nil {
		return err
	}
	session.FromContext(c).Set("class", id)
	return nil
}

func (s *server) renderClass(c fiber.Ctx, data classData) error {
	data.Page = page(c, "Class", "class")
	data.Instruments = fretboard.Instruments
	cur, err := s.currentClass(c)
	if err != nil && !errors.Is(err, errNoClass) {
		return err
	}
	data.HasClass, data.Class = err == nil, cur.class
	if data.Settings.ID == 0 {
		data.Settings = cur.class
	}
	if data.Classes, err = s.Store.Classes(c.Context(), teacherID(c)); err != nil {
		return err
	}
	for _, st := range cur.students {
		data.Students = append(data.Students, studentLine{st, instrumentName(st.Instrument)})
		if st.ID == data.Editing && data.Problem == "" {
			data.Name, data.Instrument, data.LeftHanded, data.Fingers = st.Name, st.Instrument, st.LeftHanded, st.Fingers
			data.DayMinutes = strconv.Itoa(st.DayMinutes)
			if text, own := strings.CutPrefix(st.Instrument, "tuning:"); own {
				data.Tuning = strings.ReplaceAll(text, "-", " ")
			}
		}
	}
	if data.DayMinutes == "" {
		data.DayMinutes = strconv.Itoa(practice.UsualDay)
	}
	if data.Problem != "" {
		c.Status(fiber.StatusUnprocessableEntity)
	}
	return c.Render("class", data)
}

func instrumentName(id string) string {
	ins, err := fretboard.ByID(id)
	if err != nil {
		return id
	}
	return ins.Name
}

// shortName checks a name that people type.
func shortName(s, what string, most int) (string, error) {
	name := strings.Join(strings.Fields(s), " ")
	switch {
	case name == "":
		return "", fmt.Errorf("%s needs a name", what)
	case utf8.RuneCountInString(name) > most:
		return "", fmt.Errorf("that name is longer than %d letters", most)
	}
	return name, nil
}

func (s *server) addClass(c fiber.Ctx) error {
	name, err := shortName(c.FormValue("name"), "the class", 80)
	if err != nil {
		return s.renderClass(c, classData{Name: c.FormValue("name"), Problem: sentenceOf(err)})
	}
	id, err := s.Store.AddClass(c.Context(), teacherID(c), store.Class{Name: name, LessonMinutes: 45, Fingers: string(bind.DefaultSchool.Fingers), LowFifth: bind.DefaultSchool.LowFifth})
	if err != nil {
		return err
	}
	session.FromContext(c).Set("class", id)
	return seeOther(c, "/class")
}

// changeClass stores the class's name, minutes, schools and singing range.
func (s *server) changeClass(c fiber.Ctx) error {
	id, err := pathID(c)
	if err != nil {
		return err
	}
	class, err := readClass(c, id)
	if err != nil {
		return s.renderClass(c, classData{Settings: class, Instrument: "guitar", Problem: sentenceOf(err)})
	}
	if err := s.Store.ChangeClass(c.Context(), teacherID(c), class); err != nil {
		return err
	}
	return seeOther(c, "/class")
}

func readClass(c fiber.Ctx, id int64) (store.Class, error) {
	class := store.Class{
		ID: id, Name: c.FormValue("name"), Fingers: c.FormValue("fingers"), LowFifth: c.FormValue("low_fifth") == "yes",
		ThickOnTop: c.FormValue("thick_on_top") == "yes", Lean: c.FormValue("lean") == "yes",
		Anchor: c.FormValue("anchor") == "yes", LongNails: c.FormValue("long_nails") == "yes", Wrist: c.FormValue("wrist") == "yes",
		SingLow: strings.TrimSpace(c.FormValue("sing_low")), SingHigh: strings.TrimSpace(c.FormValue("sing_high")),
	}
	name, err := shortName(class.Name, "the class", 80)
	if err != nil {
		return class, err
	}
	class.Name = name
	if class.LessonMinutes, err = strconv.Atoi(c.FormValue("minutes")); err != nil || class.LessonMinutes < 5 || class.LessonMinutes > 240 {
		return class, fmt.Errorf("a lesson has 5 to 240 minutes")
	}
	if _, err := bind.ParseFingerSchool(class.Fingers); err != nil {
		return class, err
	}
	low, err := theory.ParsePitch(class.SingLow)
	if err != nil {
		return class, err
	}
	high, err := theory.ParsePitch(class.SingHigh)
	if err != nil {
		return class, err
	}
	if low.MIDI() >= high.MIDI() {
		return class, fmt.Errorf("%s is not lower than %s", low, high)
	}
	return class, nil
}

func (s *server) addStudent(c fiber.Ctx) error {
	class, err := pathID(c)
	if err != nil {
		return err
	}
	return s.saveStudent(c, classData{}, func(st store.Student) error {
		st.ClassID = class
		_, err := s.Store.AddStudent(c.Context(), teacherID(c), st)
		return err
	})
}

func (s *server) changeStudent(c fiber.Ctx) error {
	id, err := pathID(c)
	if err != nil {
		return err
	}
	return s.saveStudent(c, classData{Editing: id}, func(st store.Student) error {
		st.ID = id
		return s.Store.ChangeStudent(c.Context(), teacherID(c), st)
	})
}

// saveStudent reads the form and saves; what cannot be saved comes back with a
// sentence and what was typed.
func (s *server) saveStudent(c fiber.Ctx, data classData, save func(store.Student) error) error {
	data.Name, data.Instrument, data.LeftHanded = c.FormValue("name"), c.FormValue("instrument"), c.FormValue("left_handed") != ""
	data.Tuning = strings.TrimSpace(c.FormValue("tuning"))
	if f, err := bind.ParseFingerSchool(c.FormValue("own_fingers")); err == nil {
		data.Fingers = string(f)
	}
	data.DayMinutes = strings.TrimSpace(c.FormValue("day_minutes"))
	day, minutesErr := readDay(data.DayMinutes)
	name, err := shortName(data.Name, "the student", 40)
	if err == nil {
		err = minutesErr
	}
	if err == nil && data.Tuning != "" {
		var tuning []theory.Pitch
		if tuning, err = fretboard.ParseTuning(data.Tuning); err == nil {
			data.Instrument = fretboard.Custom(tuning).ID
		}
	}
	if err == nil {
		_, err = fretboard.ByID(data.Instrument)
	}
	if err != nil {
		data.Problem = sentenceOf(err)
		return s.renderClass(c, data)
	}
	err = save(store.Student{Name: name, Instrument: data.Instrument, LeftHanded: data.LeftHanded, Fingers: data.Fingers, DayMinutes: day})
	if errors.Is(err, store.ErrTaken) {
		data.Problem = fmt.Sprintf("There is a %s in this class already; add a letter or a nickname.", name)
		return s.renderClass(c, data)
	}
	if err != nil {
		return err
	}
	return seeOther(c, "/class#add")
}

// readDay reads the minutes of practice a day; none are the usual ones.
func readDay(text string) (int, error) {
	if text == "" {
		return practice.UsualDay, nil
	}
	n, err := strconv.Atoi(text)
	if err != nil || n < practice.MinDay || n > practice.MaxDay {
		return practice.UsualDay, fmt.Errorf("a day has %d to %d minutes of practice, not %q", practice.MinDay, practice.MaxDay, text)
	}
	return n, nil
}

// sentenceOf makes a sentence of an error's clause.
func sentenceOf(err error) string {
	text := err.Error()
	if text == "" {
		return text
	}
	return strings.ToUpper(text[:1]) + text[1:] + "."
}
