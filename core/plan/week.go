package plan

import (
	"fmt"
	"slices"

	"arplin/core/practice"
	"arplin/core/say"
)

// A week's practice. Source: ten minutes once or twice a day are common practice; that
// what is due back is played on several days is the spacing effect (Cepeda et al. 2006).
const (
	weekDays    = 7
	oneSitting  = 15 // minutes up to which a day is one sitting
	reviewPart  = 5  // a fifth of the day
	songPart    = 4  // a quarter
	leastTask   = 2  // minutes
	warmUpFrom  = 10 // minutes a day
	runPart     = 2  // half of the minutes of a task are playing, half are breath and thought
	raisesAfter = 2  // days at one tempo
	raiseFaster = 1.04
	mostRepeats = 40
)

// Week is a week of practice of one student.
type Week struct {
	Minutes  int // a day
	Sittings int // a day, each without a break
	Days     []Days
	Cautions []string
}

// Days is some days of the week that are alike.
type Days struct {
	From, To int // from 1
	Tasks    []Task
}

// TaskKind is what a task is.
type TaskKind string

// The tasks of a day, in their order.
const (
	TaskWarmUp TaskKind = "warm-up"
	TaskReview TaskKind = "review"
	TaskDrill  TaskKind = "drill"
	TaskStep   TaskKind = "step"
	TaskSong   TaskKind = "song"
)

// Task is what is practised, for how long, at what tempo and how often.
type Task struct {
	Kind       TaskKind
	Minutes    int
	Song, Step int // -1 where it is about none
	Tempo      int // 0 where there is none
	Repeats    int // of the whole song at this tempo; 0 where it is played until the minutes are over
	Does, Why  say.Line
	Because    []int64
}

// NewWeek plans the week of the student at a place in the class. The minutes of each day
// add up to the student's.
func NewWeek(c Class, at int) Week {
	st := c.Students[at]
	st.Away = false // who was not at the lesson practises all the same
	c.Students = []Student{st}
	r := read(c)
	w := Week{Minutes: min(practice.MaxDay, max(practice.MinDay, st.Minutes)), Cautions: cautions(st)}
	w.Sittings = 1
	if w.Minutes > oneSitting {
		w.Sittings = max(2, (w.Minutes+longestPlay-1)/longestPlay)
	}
	all := r.everywhere()
	rusty := filter(all, func(s standing) bool { return s.State == practice.Rusty })
	for from := 1; from <= weekDays; from += raisesAfter {
		d := Days{From: from, To: min(weekDays, from+raisesAfter-1)}
		d.Tasks = r.day(st, all, rusty, (from-1)/raisesAfter, w.Minutes)
		w.Days = append(w.Days, d)
	}
	return w
}

// cautions are what is said of a week beside its minutes. No medical advice.
func cautions(st Student) (list []string) {
	if st.Tense {
		list = append(list, "Tension was noted. Play slower, in short bursts, and stop if it comes back. If it doesn’t go away, see a doctor or a physiotherapist.")
	}
	if most := st.Before + st.Before/practice.GrowthPart; practice.Leap(st.Before, st.Minutes) {
		list = append(list, fmt.Sprintf("From %d to %d minutes a day is more than a fifth more: %d this week, and more week by week.", st.Before, st.Minutes, max(st.Before+1, most)))
	}
	if st.Minutes > longestPlay {
		list = append(list, fmt.Sprintf("Play no longer than %d minutes at a time, with five-minute breaks.", longestPlay))
	}
	return list
}

// day fills one day; part is how many parts of the week went before.
func (r reading) day(st Student, all, rusty []standing, part, minutes int) (tasks []Task) {
	left := minutes
	take := func(t Task, want int) {
		if t.Minutes = min(want, left); t.Minutes > 0 {
			if t.Song >= 0 {
				t.Repeats = repeats(r.Songs[t.Song].Beats, t.Tempo, t.Minutes)
			}
			tasks, left = append(tasks, t), left-t.Minutes
		}
	}
	if minutes >= warmUpFrom {
		take(Task{Kind: TaskWarmUp, Song: -1, Step: -1, Does: say.Of("day/warm-up"), Why: say.Of("why/hands-first")}, leastTask)
	}
	if len(rusty) > 0 && part%2 == 0 { // due back on some days, not on all
		s := rusty[part/2%len(rusty)]
		take(r.task(TaskReview, s, s.Next, say.Of("why/due-back", r.Today-s.Tries[len(s.Tries)-1].Day, s.Last), lastOf(s)), max(leastTask, minutes/reviewPart))
	}
	for _, d := range st.Drills {
		take(Task{Kind: TaskDrill, Song: -1, Step: -1, Does: say.Of("day/drill", d.What), Why: say.Of("why/on-week")}, min(d.Minutes, max(leastTask, left/2)))
	}
	active := filter(all, func(s standing) bool { return s.State != practice.Rusty })
	if len(active) == 0 {
		active = all
	}
	if len(active) == 0 && len(r.Songs) > 0 && len(r.Songs[0].Steps) > 0 { // a newcomer
		first := standing{Student: &st, Place: Place{Song: 0, Step: 0}}
		first.Standing = practice.Stand(nil, r.Songs[0].Steps[0].Goal, r.Today, st.Tense)
		tempo, _ := r.tempoOf(first, part)
		take(r.task(TaskStep, first, tempo, say.Of("why/first-step"), nil), left)
		return tasks
	}
	if len(active) == 0 {
		take(Task{Kind: TaskStep, Song: -1, Step: -1, Does: say.Of("day/open"), Why: say.Of("why/no-step")}, left)
		return tasks
	}
	s := active[part%len(active)]
	song := minutes / songPart
	if song < leastTask || s.State == practice.New {
		song = 0
	}
	tempo, why := r.tempoOf(s, part)
	take(r.task(TaskStep, s, tempo, why, s.Because), left-song)
	take(r.task(TaskSong, s, min(tempo, s.safe()), say.Of("why/in-a-song"), lastOf(s)), left)
	return tasks
}

// tempoOf is the tempo of a part of the week: a little more every other day, never over
// the goal, and never for a hand that was tense.
func (r reading) tempoOf(s standing, part int) (tempo int, why say.Line) {
	tempo, why = s.Next, s.NextWhy
	goal := r.step(s).Goal
	if part == 0 || s.Tense || s.failing() || s.Next >= goal {
		return tempo, why
	}
	for range part {
		tempo = min(goal, max(tempo+1, int(float64(tempo)*raiseFaster)))
	}
	return tempo, say.Of("why/if-clean")
}

func (r reading) task(kind TaskKind, s standing, tempo int, why say.Line, ids []int64) Task {
	t := Task{Kind: kind, Song: s.Song, Step: s.Step, Tempo: tempo, Why: why, Because: slices.Clone(ids)}
	switch kind {
	case TaskSong:
		t.Does = say.Of("day/song", r.Songs[s.Song].said())
	default:
		t.Does = say.Of("song-step", r.Songs[s.Song].said(), r.stepName(s.Song, s.Step))
	}
	return t
}

// repeats is how often some beats go into some minutes at a tempo.
func repeats(beats, tempo, minutes int) int {
	if beats <= 0 {
		return 0
	}
	return max(1, min(mostRepeats, minutes*tempo/beats/runPart))
}
