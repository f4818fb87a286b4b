package people

import (
	"context"
	"strings"
	"time"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
)

// usualLesson is how long the lessons of a new class are, in minutes.
const usualLesson = 45

// Stored is a class of the teacher's as it is stored, archived or not.
func (t *Room) Stored(ctx context.Context, teacher ref.Teacher, id ref.Class) (store.Class, error) {
	return t.Store.Class(ctx, teacher, id)
}

// AddClass makes a class, with those who are on a pasted list; one that cannot be read makes none.
func (t *Room) AddClass(ctx context.Context, teacher ref.Teacher, name, list string, now time.Time) (id ref.Class, says string, err error) {
	list = strings.TrimSpace(list)
	if name, err = ShortName(name, "the class", MostClassName); err != nil {
		return 0, "", err
	}
	if list != "" {
		r, err := ReadRoster(list, fretboard.Instruments[0].ID)
		if err == nil {
			err = r.Problem()
		}
		if err != nil {
			return 0, "", answer.Refused(err)
		}
	}
	id, err = t.Store.AddClass(ctx, teacher, store.Class{Name: name, LessonMinutes: usualLesson, Fingers: string(bind.DefaultSchool.Fingers), LowFifth: bind.DefaultSchool.LowFifth})
	if err != nil || list == "" {
		return id, "", err
	}
	says, _, err = t.AddRoster(ctx, teacher, id, list, true, now)
	return id, says, err
}

// ChangeClass stores a class by its rules. What another window has stored comes as an
// answer.Stale.
func (t *Room) ChangeClass(ctx context.Context, teacher ref.Teacher, c store.Class) error {
	c, err := CheckClass(c)
	if err != nil {
		return err
	}
	return answer.IfStale(t.Store.ChangeClass(ctx, teacher, c), func() (store.Class, error) { return t.Store.Class(ctx, teacher, c.ID) })
}

// Gone are those who have left a class.
func (t *Room) Gone(ctx context.Context, teacher ref.Teacher, class ref.Class) (gone []store.Student, err error) {
	all, err := t.Store.AllStudents(ctx, teacher, class)
	for _, st := range all {
		if !st.Left.IsZero() {
			gone = append(gone, st)
		}
	}
	return gone, err
}
