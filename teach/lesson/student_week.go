package lesson

import (
	"context"
	"encoding/json"
	"slices"
	"time"

	"arplin/core/plan"
	"arplin/draw"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/ladders"
	"arplin/teach/people"
)

// StudentWeek is a student's week of practice, with what was missed by one who was away.
type StudentWeek struct {
	store.Student
	Class    people.Class
	Week     plan.Week
	Days     []WeekDays
	Missed   []LessonPiece // of the last lesson, for one who was away from it
	MissedOn time.Time
	Failing  []answer.Failing // what the week does without
	ladders  []ladders.Ladder // by the songs of the tasks
}

// WeekDays is some days that are alike.
type WeekDays struct {
	From, To int
	Tasks    []WeekTask
}

// WeekTask is a task with its lane.
type WeekTask struct {
	plan.Task
	Does, Why string
	Lane      draw.SVG
	Hear      string // the address of its score
	Along     string // the file to play along with, where the week goes home
	Ladder    ref.Ladder
	Drill     ref.Drill // of a drill on the week
	Beat      string    // what the tempo counts
}

// LadderOf is the ladder that a task plays; false for one that plays none.
func (w StudentWeek) LadderOf(t WeekTask) (ladders.Ladder, bool) {
	if t.Song < 0 || t.Song >= len(w.ladders) {
		return ladders.Ladder{}, false
	}
	return w.ladders[t.Song], true
}

// LoadStudentWeek plans the week of one student from the log.
func (t *Room) LoadStudentWeek(ctx context.Context, teacher ref.Teacher, at people.Class, id ref.Student, now time.Time) (w StudentWeek, err error) {
	var here bool
	if w.Student, here = at.Student(id); !here { // one of another class
		if w.Student, err = t.Store.Student(ctx, teacher, id); err != nil {
			return w, err
		}
	}
	if w.Class, err = t.People.ClassOf(ctx, teacher, w.ClassID, at); err != nil {
		return w, err
	}
	p, err := t.planClass(ctx, teacher, w.Class, now)
	if err != nil {
		return w, err
	}
	i := slices.IndexFunc(p.Students, func(st plan.Student) bool { return st.ID == int64(id) })
	if i < 0 { // one who has left, or is archived, has no week
		return w, store.ErrNotFound
	}
	drills, err := t.Ladders.WeekDrills(ctx, teacher, w.Class)
	if err != nil {
		return w, err
	}
	for _, d := range drills[id] {
		p.Students[i].Drills = append(p.Students[i].Drills, plan.Drill{What: d.What + " of " + d.SongTitle + " (" + d.Of + ")", Minutes: d.Minutes})
	}
	w.ladders, w.Failing = p.ladders, p.failing
	shown := namesOf(w.Class, titlesOf(p.ladders))
	w.Week = plan.NewWeek(p.Class, i)
	for _, d := range w.Week.Days {
		days := WeekDays{From: d.From, To: d.To}
		own := drills[id] // the drills of a day come in this order
		for _, task := range d.Tasks {
			out := WeekTask{Task: task, Does: shown.says(task.Does), Why: shown.says(task.Why)}
			if task.Kind == plan.TaskDrill && len(own) > 0 {
				out.Drill, own = own[0].ID, own[1:]
			}
			if task.Song >= 0 {
				l := p.ladders[task.Song]
				out.Ladder, out.Beat = l.ID, l.Song.Meter.BeatName()
				out.Lane, _ = p.lane(l.ID, l.Steps[task.Step].ID)
				out.Hear = ladders.StepScoreAt(l.ID, l.Steps[task.Step].ID, w.Student.ID)
			}
			days.Tasks = append(days.Tasks, out)
		}
		w.Days = append(w.Days, days)
	}
	return w, t.missed(ctx, teacher, &w, p, now)
}

// toCatchUp are the pieces of a lesson that somebody can do at home.
var toCatchUp = []plan.Kind{plan.LastTime, plan.NewThing, plan.Together}

// missed is what the last lesson had for one who was away from it.
func (t *Room) missed(ctx context.Context, teacher ref.Teacher, w *StudentWeek, p planning, now time.Time) error {
	lessons, err := t.Store.Lessons(ctx, teacher, w.Class.ID, 2, now)
	if err != nil {
		return err
	}
	over := slices.IndexFunc(lessons, func(l store.Lesson) bool { return !l.Ended.IsZero() })
	if over < 0 || !slices.Contains(lessons[over].Away, w.Student.ID) {
		return nil
	}
	var kept keptLesson
	if err := json.Unmarshal([]byte(lessons[over].Body), &kept); err != nil {
		return nil // a lesson that cannot be read has nothing to catch up with
	}
	l := lessonPlan{Lesson: Lesson{Class: w.Class, Lesson: lessons[over]}, kept: kept}
	for i, piece := range l.view(p, lessons[over].Ended).Pieces {
		if i <= lessons[over].At && !slices.Contains(kept.Cut, i) && slices.Contains(toCatchUp, piece.Kind) {
			w.Missed = append(w.Missed, piece)
		}
	}
	w.MissedOn = lessons[over].Ended.Local()
	return nil
}
