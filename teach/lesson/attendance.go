package lesson

import (
	"context"
	"slices"
	"time"

	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/people"
)

// Attendance is who came to the lessons of a class, the newest lesson first.
type Attendance struct {
	Class   people.Class
	Lessons []Attended
	Rows    []AttendanceRow
}

// Attended is a lesson that is over.
type Attended struct {
	On      time.Time
	Minutes int
	There   int // people
}

// AttendanceRow is a student, with whether they were there, by lesson.
type AttendanceRow struct {
	store.Student
	There  []bool
	Came   int
	Away   int
	InARow int // lessons missed up to the last
}

// shownLessons is how many lessons the page of attendance has: a year of weeks.
const shownLessons = 52

// LoadAttendance reads it. Who joined later was not away before.
func (t *Room) LoadAttendance(ctx context.Context, teacher ref.Teacher, c people.Class, now time.Time) (a Attendance, err error) {
	a.Class = c
	lessons, err := t.Store.Lessons(ctx, teacher, c.ID, shownLessons, now)
	if err != nil {
		return a, err
	}
	lessons = slices.DeleteFunc(lessons, func(l store.Lesson) bool { return l.Ended.IsZero() })
	for _, l := range lessons {
		a.Lessons = append(a.Lessons, Attended{On: l.Ended.Local(), Minutes: l.Minutes})
	}
	for _, st := range byName(c.Students) {
		row := AttendanceRow{Student: st}
		missing := true
		for i, l := range lessons {
			if !st.Joined.IsZero() && l.Ended.Before(st.Joined) {
				break
			}
			there := !slices.Contains(l.Away, st.ID)
			row.There = append(row.There, there)
			if there {
				row.Came++
				a.Lessons[i].There++
				missing = false
				continue
			}
			row.Away++
			if missing {
				row.InARow++
			}
		}
		a.Rows = append(a.Rows, row)
	}
	return a, nil
}
