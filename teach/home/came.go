package home

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"arplin/core/plan"
	"arplin/core/practice"
	"arplin/core/say"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/people"
)

// Recent is how far back the teacher's pages read what came from home.
const Recent = 7 * 24 * time.Hour

// Came is what came from one student's home in a week.
type Came struct {
	store.Student
	Days    int // on which something was played
	Minutes int
	Hurts   bool // said so since the last lesson
	Stopped int  // times that it stopped at a change
	Hard    int  // times that something was too hard
	Takes   int  // that were sent
	Last    store.HomeEntry
	Entries []store.HomeEntry // in the order in which they were played
}

// Week is what came from a class in the last seven days, by student; who sent nothing has none.
func (t *Room) Week(ctx context.Context, teacher ref.Teacher, c people.Class, student ref.Student, now time.Time) (map[ref.Student]Came, error) {
	list, takes, err := t.Store.CameHome(ctx, teacher, c.ID, student, now.Add(-Recent))
	if err != nil {
		return nil, err
	}
	by := map[ref.Student]Came{}
	days := map[ref.Student]map[string]bool{}
	for id, n := range takes {
		came := Came{Takes: n}
		came.Student, _ = c.Student(id)
		came.ID, days[id] = id, map[string]bool{}
		by[id] = came
	}
	for _, e := range list {
		c2 := by[e.StudentID]
		if c2.ID == 0 {
			c2.Student, _ = c.Student(e.StudentID)
			c2.ID = e.StudentID
			days[e.StudentID] = map[string]bool{}
		}
		if e.Went != "" {
			days[e.StudentID][e.At.Local().Format(time.DateOnly)] = true
			c2.Days = len(days[e.StudentID])
			c2.Last = e
		}
		c2.Minutes += e.Minutes
		switch {
		case e.Word == practice.Hurts:
			c2.Hurts = true
		case e.Word == practice.StopsAt:
			c2.Stopped++
		case e.Went == practice.Hard:
			c2.Hard++
		}
		c2.Entries = append(c2.Entries, e)
		by[e.StudentID] = c2
	}
	return by, nil
}

// Says is what came from a student's home, in a line.
func (c Came) Says() string {
	if len(c.Entries) == 0 {
		return ""
	}
	var parts []string
	if c.Days > 0 {
		parts = append(parts, say.Count(c.Days, "day", "days"))
	}
	if c.Last.Tempo > 0 {
		parts = append(parts, fmt.Sprintf("%d on %s", c.Last.Tempo, c.Last.At.Local().Format("Monday")))
	}
	if c.Hurts {
		parts = append(parts, "said it hurts")
	}
	if c.Stopped > 0 {
		parts = append(parts, "stopped at a change")
	}
	if c.Hard > 0 {
		parts = append(parts, "found it too hard")
	}
	return strings.Join(parts, ", ")
}

// Short is what the desk has room for.
func (c Came) Short() string {
	var parts []string
	if c.Days > 0 {
		parts = append(parts, say.Count(c.Days, "day", "days"))
	}
	if c.Days > 0 && c.Last.Tempo > 0 {
		parts = append(parts, fmt.Sprint(c.Last.Tempo))
	}
	if c.Takes > 0 {
		parts = append(parts, say.Count(c.Takes, "take", "takes"))
	}
	if len(parts) == 0 {
		return ""
	}
	return "home " + strings.Join(parts, ", ")
}

// Since is what came after a time.
func (c Came) Since(after time.Time) Came {
	c.Entries = slices.DeleteFunc(slices.Clone(c.Entries), func(e store.HomeEntry) bool { return !e.At.After(after) })
	c.Hurts = slices.ContainsFunc(c.Entries, func(e store.HomeEntry) bool { return e.Word == practice.Hurts })
	return c
}

// Tries are what was played on a step of a ladder, as the model reads it; DayOf counts days.
func (c Came) Tries(on ref.Ladder, entries func(store.HomeEntry) bool, dayOf func(time.Time) int) (list []practice.HomeTry) {
	for _, e := range c.Entries {
		if e.LadderID == on && e.Went != "" && entries(e) {
			list = append(list, practice.HomeTry{Day: dayOf(e.At), Tempo: e.Tempo, Went: e.Went})
		}
	}
	return list
}

// BeforeLesson says in one paragraph what a class did at home: who practised, what stopped, who is hurt. In the
// order of the class, and nobody is compared; empty where nothing came.
func BeforeLesson(c people.Class, by map[ref.Student]Came) string {
	if len(by) == 0 {
		return ""
	}
	var practised, hurt, stopped, hard, sent []string
	for _, st := range c.Students {
		came, there := by[st.ID]
		if !there {
			continue
		}
		if came.Days > 0 {
			on := fmt.Sprintf("%s on %d", st.Name, came.Days)
			if len(practised) == 0 {
				on = fmt.Sprintf("%s practised on %s", st.Name, say.Count(came.Days, "day", "days"))
			}
			practised = append(practised, on)
		}
		if came.Hurts {
			hurt = append(hurt, st.Name)
		}
		if came.Stopped > 0 {
			stopped = append(stopped, st.Name)
		}
		if came.Hard > 0 {
			hard = append(hard, st.Name)
		}
		if came.Takes > 0 {
			sent = append(sent, st.Name)
		}
	}
	var says []string
	if len(hurt) > 0 {
		says = append(says, say.And(hurt)+" said it hurts: ask before anything is played.")
	}
	if len(practised) > 0 {
		says = append(says, say.And(practised)+".")
	}
	if len(stopped) > 0 {
		says = append(says, say.And(stopped)+" stopped at a change.")
	}
	if len(hard) > 0 {
		says = append(says, say.And(hard)+" found something too hard.")
	}
	if len(sent) > 0 {
		says = append(says, say.And(sent)+" sent a take: it’s on the student’s page.")
	}
	return strings.Join(says, " ")
}

// CardName is what a card without a ladder was about.
func CardName(card string) string {
	switch plan.TaskKind(card) {
	case plan.TaskWarmUp:
		return "hands first"
	case plan.TaskDrill:
		return "a drill"
	case "":
		return ""
	}
	return "a step that’s gone"
}

// WentSays says how it went, in the student's words.
func WentSays(e store.HomeEntry) string {
	var says []string
	switch e.Went {
	case practice.Done:
		says = append(says, "done")
	case practice.Again:
		says = append(says, "again tomorrow")
	case practice.Hard:
		says = append(says, "too hard")
	}
	if e.Even > 0 {
		says = append(says, fmt.Sprintf("tapped even within %d ms", e.Even))
	}
	if line, said := e.Word.Line(); said {
		says = append(says, line.Tells)
	}
	return strings.Join(says, ", ")
}
