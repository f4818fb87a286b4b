package teach

import (
	"context"
	"errors"
	"fmt"
	"strconv"
	"strings"
	"time"

	"arplin/core/ladder"
	"arplin/core/practice"
	"arplin/core/song"
	"arplin/draw"
	"arplin/letters"
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
	State          practice.State // of the step
	Decision       practice.Decision
	To             int // the number of the step to which the decision leads; 0 where it stays
	Next           int // the tempo to try next
	NextWhy        string
}

// Ready are the lines of those who are to move on.
func (d Desk) Ready() (list []DeskLine) {
	for _, l := range d.Lines {
		if l.To > l.Number {
			list = append(list, l)
		}
	}
	return list
}

// Says names the decision that is proposed.
func (l DeskLine) Says() string {
	switch l.Decision.Kind {
	case practice.MoveOn, practice.Jump:
		return fmt.Sprintf("move on to step %d", l.To)
	case practice.Ease:
		return fmt.Sprintf("ease to step %d", l.To)
	}
	return "stay"
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
	tempos, err := t.Store.TriesOn(ctx, teacher, l.ID, since(now))
	if err != nil {
		return d, "", err
	}
	drills, err := t.weekDrills(ctx, teacher, c, now)
	if err != nil {
		return d, "", err
	}
	rows := l.Rows(tempos, drills, dayOf(now))
	lines := keep(t, "desk", rows, func() (lines []DeskLine) {
		of := map[store.StudentID][]store.Entry{}
		for _, e := range tempos {
			of[e.StudentID] = append(of[e.StudentID], e)
		}
		for _, st := range c.Students {
			line := deskLine(l, st, of[st.ID], dayOf(now))
			line.Drills = drills[st.ID]
			lines = append(lines, line)
		}
		return lines
	})
	d.Ladder, d.Part, d.Apart, d.Lines = &l, l.Part(), l.Apart(), lines
	d.Tempos, d.Target = song.TemposFor(l.Song.Tempo), draw.Lane(l.Target, nil, "target: "+l.Target.String())
	return d, rows, nil
}

// dayOf is the day of the practice model.
func dayOf(at time.Time) int { return int(at.Unix() / (24 * 60 * 60)) }

// deskLine is a student with the tempos that were clean; those on the step where the
// student stands lead to what is proposed.
func deskLine(l Ladder, st store.Student, heard []store.Entry, today int) DeskLine {
	line := DeskLine{Student: st, InstrumentName: InstrumentName(st.Instrument)}
	goal, at := l.Song.Tempo, ladder.Find(l.Steps, l.Places[st.ID])
	if at >= 0 {
		goal = l.Steps[at].Goal(goal)
		line.Number, line.Name = at+1, ladder.Describe(l.Steps, at, l.task).Name
		line.Lane = draw.Lane(l.Steps[at].Pattern, freshStrokes(l.Steps, at), l.Steps[at].Pattern.String())
	}
	var tempos []int
	var tries []practice.Try
	for _, e := range heard {
		if !e.Failed {
			tempos = append(tempos, e.Tempo)
		}
		if at >= 0 && e.Step.ID == l.Steps[at].ID {
			tries = append(tries, practice.Try{ID: int64(e.ID), Day: dayOf(e.At), Tempo: e.Tempo, Clean: !e.Failed})
		}
	}
	if at >= 0 {
		s := practice.Stand(tries, goal, today)
		line.Last, line.State, line.Next, line.NextWhy = s.Last, s.State, s.Next, s.NextWhy
		line.Decision = practice.Decide(tries, goal, today, false)
		line.To = l.leadsTo(at, line.Decision.Kind)
		if line.To == 0 { // there is no step further
			line.Decision.Kind = practice.Stay
		}
	}
	line.AtGoal = line.Last > 0 && line.Last >= goal
	line.History = draw.TempoHistory(tempos[max(0, len(tempos)-store.RecentTempos):], goal)
	return line
}

// leadsTo is the number of the step to which a decision leads, 0 for staying.
func (l Ladder) leadsTo(at int, kind practice.Kind) int {
	to := map[practice.Kind]int{practice.MoveOn: at + 1, practice.Jump: at + 2, practice.Ease: at - 1}
	next, moves := to[kind]
	if next = min(next, len(l.Steps)-1); !moves || next < 0 || next == at {
		return 0
	}
	return next + 1
}

// Log is what was typed to log tempos: a line, "pia 72, wim 66 x", or a student's own field.
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
	Entries []store.EntryID
}

// LogTempo logs what was heard on the step on which each student stands: several in one
// line, or one in a field of its own. Of several nothing is logged unless all can be.
func (t *Teach) LogTempo(ctx context.Context, teacher store.TeacherID, c Class, l Log, now time.Time) (Logged, error) {
	students, lines, err := readLog(c, l)
	var logged Logged
	if len(students) > 0 {
		logged.Student = students[0]
	}
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
	var said []string
	var entries []store.Entry
	for i, line := range lines {
		st := students[i]
		at := ladder.Find(on.Steps, places[st.ID])
		if at < 0 {
			return logged, refuse("%s is on no step yet; put %s on one on the ladder page", st.Name, st.Name)
		}
		entries = append(entries, store.Entry{StudentID: st.ID, LadderID: on.ID, Step: on.Steps[at], Tempo: line.Tempo, Failed: !line.Clean, Errors: line.Errors, Minutes: line.Minutes, Word: line.Word, At: now})
		clean := "clean"
		if !line.Clean {
			clean = "not clean"
		}
		said = append(said, fmt.Sprintf("%s: %d, %s, on step %d", st.Name, line.Tempo, clean, at+1))
	}
	for i, e := range entries {
		id := l.ClientID
		if i > 0 {
			id = fmt.Sprintf("%s.%d", id, i)
		}
		entry, err := t.Store.AddEntry(ctx, teacher, e, id)
		if errors.Is(err, store.ErrReused) {
			return logged, refuse("this line was sent before with another name or tempo, which was logged; this one was not: send it again")
		}
		if err != nil {
			return logged, err
		}
		logged.Entries = append(logged.Entries, entry)
	}
	logged.Says = strings.Join(said, "; ") + "."
	return logged, nil
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

// readLog finds whom a log line is about; the student is known even when the tempo
// cannot be read. Accents and capitals of names do not matter.
func readLog(c Class, l Log) (students []store.Student, lines []practice.Line, err error) {
	if l.Student != "" {
		id, _ := strconv.ParseInt(l.Student, 10, 64) // none is in no class
		st, ok := c.Student(store.StudentID(id))
		if !ok {
			return nil, nil, refuse("this student is not in the class any more")
		}
		const name = "_" // the field is the student's own
		lines, err = practice.ParseLines(name+" "+letters.Fold(l.Tempo), []string{name})
		if err == nil && len(lines) > 1 {
			err = fmt.Errorf("one tempo stands in this field")
		}
		return []store.Student{st}, lines, err
	}
	names := make([]string, len(c.Students))
	for i, st := range c.Students {
		names[i] = letters.Fold(st.Name)
	}
	if lines, err = practice.ParseLines(letters.Fold(l.Line), names); err != nil {
		return nil, nil, err
	}
	for _, line := range lines {
		students = append(students, c.Students[line.Who])
	}
	return students, lines, nil
}

// Decide carries out decisions for students of a class on a ladder: what is proposed to
// them now, and of the kind that was sent. What was decided and why is kept.
func (t *Teach) Decide(ctx context.Context, teacher store.TeacherID, l Ladder, sent map[store.StudentID]practice.Kind, now time.Time) (says string, version int, err error) {
	tries, err := t.Store.TriesOn(ctx, teacher, l.ID, since(now))
	if err != nil {
		return "", 0, err
	}
	of := map[store.StudentID][]store.Entry{}
	for _, e := range tries {
		of[e.StudentID] = append(of[e.StudentID], e)
	}
	places := store.Places{}
	var kept []store.Decision
	for _, st := range l.Class.Students {
		kind, wanted := sent[st.ID]
		at := ladder.Find(l.Steps, l.Places[st.ID])
		if !wanted || at < 0 {
			continue
		}
		to := l.leadsTo(at, kind)
		if to == 0 {
			return "", 0, refuse("%s has no step further that way", st.Name)
		}
		why := deskLine(l, st, of[st.ID], dayOf(now)).Decision
		if why.Kind != kind {
			why.Why = "by you"
		}
		places[st.ID] = l.Steps[to-1].ID
		kept = append(kept, store.Decision{StudentID: st.ID, LadderID: l.ID, Step: l.Steps[at].ID, To: l.Steps[to-1].ID, Kind: kind, Why: why.Why, At: now})
	}
	if len(places) == 0 {
		return "", 0, refuse("nobody of this class was meant; load the desk again")
	}
	if says, version, err = t.Place(ctx, teacher, l, places); err != nil {
		return "", 0, err
	}
	return says, version, t.Store.AddDecisions(ctx, teacher, kept)
}
