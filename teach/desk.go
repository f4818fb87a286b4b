package teach

import (
	"context"
	"errors"
	"fmt"
	"strconv"
	"time"

	"arplin/core/ladder"
	"arplin/core/practice"
	"arplin/core/song"
	"arplin/draw"
	"arplin/store"
)

// Desk is the class's next lesson.
type Desk struct {
	Class   Class
	Players string // "4 guitars, 3 ukuleles"
	Ladder  *Ladder
	Part    string
	Apart   string // how the song has moved away from the ladder
	Tempos  song.Tempos
	Target  draw.SVG
	Lines   []DeskLine
}

// DeskLine is a student on the desk.
type DeskLine struct {
	store.Student
	InstrumentName string
	Number         int // of the step, from 1; 0 for one who is on none
	Name           string
	Lane           draw.SVG
	Last           int // the last clean tempo on this step; 0 when nothing was heard on it
	History        draw.SVG
	AtGoal         bool // the last clean tempo is the goal or more
	Drills         []WeekDrill
}

// LoadDesk loads and computes the desk: the newest ladder and a line for each
// student.
func (t *Teach) LoadDesk(ctx context.Context, teacher store.TeacherID, c Class, now time.Time) (Desk, Rows, error) {
	d := Desk{Class: c, Players: c.PlayersText()}
	newest, err := t.Store.NewestLadder(ctx, teacher, c.ID)
	if ok, err := found(err); !ok {
		return d, rowsOf(c.Class, c.Students), err
	}
	l, err := t.withSong(ctx, teacher, c, newest)
	if err != nil {
		return d, "", err
	}
	tempos, err := t.Store.TemposOn(ctx, teacher, l.ID, since(now))
	if err != nil {
		return d, "", err
	}
	drills, err := t.weekDrills(ctx, teacher, c, now)
	if err != nil {
		return d, "", err
	}
	rows := l.Rows(tempos, drills)
	lines := keep(t, "desk", rows, func() (lines []DeskLine) {
		of := map[store.StudentID][]store.Entry{}
		for _, e := range tempos {
			of[e.StudentID] = append(of[e.StudentID], e)
		}
		for _, st := range c.Students {
			line := deskLine(l, st, of[st.ID])
			line.Drills = drills[st.ID]
			lines = append(lines, line)
		}
		return lines
	})
	d.Ladder, d.Part, d.Apart, d.Lines = &l, l.Part(), l.Apart(), lines
	d.Tempos, d.Target = song.TemposFor(l.Song.Tempo), draw.Lane(l.Target, nil, "target: "+l.Target.String())
	return d, rows, nil
}

// deskLine is a student with the tempos that were clean; the last one counts for
// the step on which it was played.
func deskLine(l Ladder, st store.Student, heard []store.Entry) DeskLine {
	line := DeskLine{Student: st, InstrumentName: InstrumentName(st.Instrument)}
	goal, at := l.Song.Tempo, ladder.Find(l.Steps, l.Places[st.ID])
	if at >= 0 {
		goal = l.Steps[at].Goal(goal)
		line.Number, line.Name = at+1, ladder.Describe(l.Steps, at, l.task).Name
		line.Lane = draw.Lane(l.Steps[at].Pattern, freshStrokes(l.Steps, at), l.Steps[at].Pattern.String())
	}
	var tempos []int
	for _, e := range heard {
		tempos = append(tempos, e.Tempo)
		if at >= 0 && e.Step.ID == l.Steps[at].ID {
			line.Last = e.Tempo
		}
	}
	line.AtGoal = line.Last > 0 && line.Last >= goal
	line.History = draw.TempoHistory(tempos[max(0, len(tempos)-store.RecentTempos):], goal)
	return line
}

// Log is what was typed to log a tempo: a line, "pia 72", or a student's own field.
type Log struct {
	Line     string
	Student  string // an id; empty for the line
	Tempo    string
	Ladder   store.LadderID // the one that the page showed; 0 for the newest
	ClientID string
}

// Logged is what was logged, or whom it would have been about.
type Logged struct {
	Student store.Student
	Says    string
	Entry   store.EntryID
}

// LogTempo logs a clean tempo on the step on which the student stands.
func (t *Teach) LogTempo(ctx context.Context, teacher store.TeacherID, c Class, l Log, now time.Time) (Logged, error) {
	student, tempo, err := readLog(c, l)
	logged := Logged{Student: student}
	if err != nil {
		return logged, refused(err)
	}
	on, err := t.loggedOn(ctx, teacher, c, l.Ladder)
	if err != nil {
		return logged, err
	}
	places, err := t.Store.Placements(ctx, teacher, on.ID)
	if err != nil {
		return logged, err
	}
	at := ladder.Find(on.Steps, places[student.ID])
	if at < 0 {
		return logged, refuse("%s is on no step yet; put %s on one on the ladder page", student.Name, student.Name)
	}
	logged.Entry, err = t.Store.AddEntry(ctx, teacher, store.Entry{StudentID: student.ID, LadderID: on.ID, Step: on.Steps[at], Tempo: tempo, At: now}, l.ClientID)
	if errors.Is(err, store.ErrReused) {
		return logged, refuse("this line was sent before with another name or tempo, which was logged; this one was not: send it again")
	}
	logged.Says = fmt.Sprintf("%s: %d, clean, on step %d.", student.Name, tempo, at+1)
	return logged, err
}

// loggedOn is the ladder that the page showed, in its class; without one the
// newest.
func (t *Teach) loggedOn(ctx context.Context, teacher store.TeacherID, c Class, id store.LadderID) (on store.Ladder, err error) {
	if id == 0 {
		on, err = t.Store.NewestLadder(ctx, teacher, c.ID)
	} else {
		on, err = t.Store.Ladder(ctx, teacher, id)
	}
	switch ok, err := found(err); {
	case err != nil:
		return on, err
	case !ok:
		return on, refuse("make a ladder first; a tempo belongs to a step of it")
	case on.ClassID != c.ID || on.Archived:
		return on, refuse("the ladder of this page is not the class’s any more; load the desk again")
	}
	return on, nil
}

// readLog finds whom a log entry is about; the student is known even when the
// tempo cannot be read.
func readLog(c Class, l Log) (store.Student, int, error) {
	if l.Student == "" {
		names := make([]string, len(c.Students))
		for i, st := range c.Students {
			names[i] = st.Name
		}
		who, tempo, err := practice.ParseLine(l.Line, names)
		if err != nil {
			return store.Student{}, 0, err
		}
		return c.Students[who], tempo, nil
	}
	id, _ := strconv.ParseInt(l.Student, 10, 64) // none is in no class
	st, ok := c.Student(store.StudentID(id))
	if !ok {
		return store.Student{}, 0, refuse("this student is not in the class any more")
	}
	tempo, err := practice.ParseTempo(l.Tempo)
	return st, tempo, err
}
