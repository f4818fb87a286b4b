package web

import (
	"crypto/rand"
	"errors"
	"fmt"
	"strconv"
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/lesson"
	"arplin/teach/people"
)

type lessonPage struct {
	Page
	lesson.Lesson
	Care     []string
	ClientID string // of the log line
	Typed    string // a log line that could not be read
	Asks     *answer.Question
}

// lesson is the plan of the class's next lesson.
func (s *server) lesson(c fiber.Ctx) error {
	return s.showLesson(c, class(c), Page{})
}

// showLesson shows the plan; of the page that is given, note and problem count.
func (s *server) showLesson(c fiber.Ctx, of people.Class, says Page) error {
	if !of.Has {
		return goTo(c, "/class")
	}
	l, err := s.Lesson.Load(c.Context(), who(c), of, time.Now())
	if err != nil {
		return err
	}
	p := lessonPage{Page: page(c, "Lesson", "lesson"), Lesson: l, Care: people.Care}
	if says.Note.Text != "" {
		p.Note = says.Note
	}
	p.Problem = says.Problem
	return render(c, "lesson", "lesson_plan", p.Page, p)
}

// lessonBand is the next lesson in small, for the desk.
func (s *server) lessonBand(c fiber.Ctx) error {
	l, err := s.Lesson.Load(c.Context(), who(c), class(c), time.Now())
	if err != nil {
		return err
	}
	p := lessonPage{Page: page(c, "Next lesson", "lesson"), Lesson: l}
	return render(c, "lesson_band", "lesson_band", p.Page, p)
}

// liveLesson is the lesson that runs, for the room: large, dark, and one piece at a time.
func (s *server) liveLesson(c fiber.Ctx) error {
	return s.showLive(c, class(c), lessonPage{})
}

func (s *server) showLive(c fiber.Ctx, of people.Class, p lessonPage) error {
	if !of.Has {
		return goTo(c, "/class")
	}
	l, err := s.Lesson.Load(c.Context(), who(c), of, time.Now())
	if err != nil {
		return err
	}
	if !l.Running() {
		if p.Note.Text != "" {
			leaveNote(c, p.Note)
		}
		return goTo(c, "/lesson")
	}
	says := p.Page
	p.Page, p.Lesson, p.ClientID = page(c, "The lesson", "lesson"), l, rand.Text()
	p.Stage = true
	if says.Note.Text != "" {
		p.Note = says.Note
	}
	p.Problem = says.Problem
	return render(c, "lesson_live", "lesson_now", p.Page, p)
}

// changeLesson does one thing to the lesson of the class that the form stood on, and
// shows the lesson with what was done or why it was not.
func (s *server) changeLesson(c fiber.Ctx, do func(people.Class, int) (note Note, err error)) error {
	of, err := s.deskClass(c)
	if err != nil {
		return err
	}
	version := formID[int](c, "version")
	note, err := do(of, version)
	var refusal *answer.Refusal
	var asks *answer.Question
	var p Page
	switch {
	case errors.As(err, &asks):
		return s.showLive(c, of, lessonPage{Asks: asks})
	case errors.As(err, &refusal):
		p.Problem = answer.Sentence(refusal.Clause)
	case err != nil:
		return err
	default:
		p.Note = note
	}
	live := c.FormValue("back") == "live"
	if p.Problem == "" && !isPiece(c) {
		if note.Text != "" {
			leaveNote(c, p.Note)
		}
		if live {
			return seeOther(c, "/lesson/live")
		}
		return seeOther(c, "/lesson")
	}
	if live {
		return s.showLive(c, of, lessonPage{Page: p})
	}
	return s.showLesson(c, of, p)
}

// register notes who is away and who is there.
func (s *server) register(c fiber.Ctx) error {
	return s.changeLesson(c, func(of people.Class, _ int) (Note, error) {
		says, err := s.Lesson.SetAway(c.Context(), who(c), of, formID[ref.Student](c, "student"), c.FormValue("away") == "yes", time.Now())
		return Note{Text: says}, err
	})
}

// lessonMinutes moves a border of the band, or makes the whole lesson longer or shorter.
func (s *server) lessonMinutes(c fiber.Ctx) error {
	return s.changeLesson(c, func(of people.Class, version int) (Note, error) {
		if c.FormValue("border") == "" {
			minutes, err := strconv.Atoi(c.FormValue("minutes"))
			if err != nil {
				return Note{}, refuse("write the minutes of the lesson as a number, such as 45")
			}
			return Note{}, s.Lesson.SetMinutes(c.Context(), who(c), of, version, minutes, time.Now())
		}
		border, err := strconv.Atoi(c.FormValue("border"))
		by, errBy := strconv.Atoi(c.FormValue("by"))
		if err != nil || errBy != nil || by == 0 {
			return Note{}, refuse("move a border by a number of minutes")
		}
		return Note{}, s.Lesson.MoveBorder(c.Context(), who(c), of, version, border, by, time.Now())
	})
}

// moveLesson begins the lesson, goes on, back, cuts, extends, or ends it; or takes a cut or the
// end back.
func (s *server) moveLesson(c fiber.Ctx) error {
	do := c.FormValue("do")
	if do == lesson.LiveBegin || do == lesson.LiveUndo { // and over to the room
		of, err := s.deskClass(c)
		if err != nil {
			return err
		}
		done, err := s.Lesson.Live(c.Context(), who(c), of, lesson.LiveAsk{Version: formID[int](c, "version"), Do: do}, time.Now())
		if err != nil {
			return s.changeLesson(c, func(people.Class, int) (Note, error) { return Note{}, err })
		}
		if done.Says != "" {
			leaveNote(c, Note{Text: done.Says})
		}
		return goTo(c, "/lesson/live")
	}
	return s.changeLesson(c, func(of people.Class, version int) (Note, error) {
		done, err := s.Lesson.Live(c.Context(), who(c), of, lesson.LiveAsk{Version: version, Do: do, Sure: c.FormValue("sure") == "yes"}, time.Now())
		note := Note{Text: done.Says}
		if done.Undo {
			note.Undo, note.Version = fmt.Sprintf("/lesson/move?do=undo&back=live&class=%d", of.ID), done.Version
		}
		return note, err
	})
}

type studentWeekPage struct {
	Page
	lesson.StudentWeek
	Care []string
	Way  *phoneWay // to the student's own page; nil where the link is off
}

// studentWeek is a student's week of practice, for paper.
func (s *server) studentWeek(c fiber.Ctx) error {
	id, err := pathID[ref.Student](c)
	if err != nil {
		return err
	}
	w, err := s.Lesson.LoadStudentWeek(c.Context(), who(c), class(c), id, time.Now())
	if err != nil {
		return err
	}
	p := studentWeekPage{page(c, fmt.Sprintf("%s’s week", w.Name), "class"), w, people.Care, nil}
	if p.Way, err = s.wayTo(c, w.Class, id); err != nil {
		return err
	}
	return c.Render("student_week", p)
}
