package people

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"arplin/core/fretboard"
	"arplin/core/say"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
)

// AddRoster adds a pasted list to a class and says so. A list of which something is wrong or was left out
// comes back to be looked at, and nobody is added: with sure, those who could be read are.
func (t *Room) AddRoster(ctx context.Context, teacher ref.Teacher, class ref.Class, text string, sure bool, now time.Time) (says string, look *Roster, err error) {
	r, err := ReadRoster(text, fretboard.Instruments[0].ID)
	if err != nil {
		return "", nil, answer.Refused(err)
	}
	there, err := t.Store.AllStudents(ctx, teacher, class)
	if err != nil {
		return "", nil, err
	}
	r.Students = slices.DeleteFunc(r.Students, func(l Listed) bool {
		k := slices.IndexFunc(there, func(o store.Student) bool { return strings.EqualFold(o.Name, l.Name) })
		if k >= 0 {
			r.Wrong = append(r.Wrong, ListLine{l.Line, l.Name, fmt.Sprintf("there’s already a %s in this class, perhaps one who has left or is archived. Add a letter or use a nickname", there[k].Name)})
		}
		return k >= 0
	})
	slices.SortStableFunc(r.Wrong, func(a, b ListLine) int { return a.Line - b.Line })
	if !r.Whole() && !sure || len(r.Students) == 0 {
		return "", &r, nil
	}
	var list []store.Student
	var names []string
	for _, l := range r.Students {
		l.ClassID, l.Joined = class, DateOf(now)
		list, names = append(list, l.Student), append(names, l.Name)
	}
	err = t.Store.AddStudents(ctx, teacher, list)
	if errors.Is(err, store.ErrTaken) {
		return "", nil, answer.Refuse("one of these names is already in this class. Add a letter or use a nickname")
	}
	if err != nil {
		return "", nil, err
	}
	says = fmt.Sprintf("Added %s: %s.", say.Count(len(names), "student", "students"), strings.Join(names, ", "))
	if r.Surnames {
		says += " Surnames were left out; first names are all that Arplin keeps."
	}
	if n := len(r.Wrong); n > 0 {
		says += fmt.Sprintf(" %s not added.", say.Count(n, "line was", "lines were"))
	}
	return says, nil, nil
}
