package teach

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/core/practice"
	"arplin/core/song"
	"arplin/draw"
	"arplin/letters"
	"arplin/store"
)

// Desk is the class's next lesson: the songs that it is on, one of them in front, or all
// beside one another.
type Desk struct {
	Class   Class
	Players string // "4 guitars, 3 ukuleles"
	Now     []LadderLine
	OnDesk           // the one in front
	Beside  []OnDesk // all of them, where that was asked for
}

// OnDesk is a song of the desk, with a line for each student.
type OnDesk struct {
	Ladder *Ladder
	Part   string
	Apart  string // how the song has moved away from the ladder
	Tempos song.Tempos
	Target draw.SVG
	Lines  []DeskLine // in the order of the class
}

// DeskView is what of the desk is looked at.
type DeskView struct {
	Front  store.LadderID // 0 for the newest
	Beside bool
}

// DeskLine is a student on the desk.
type DeskLine struct {
	store.Student
	InstrumentName string
	Step           ladder.StepID // on which the student stands
	Number         int           // of it, from 1; 0 for one who is on none
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
	Remedy         string // of the fault that the decision is about
	DrillAt        string // the address of the drill that is proposed
}

// Ready are the lines of those who are to move on.
func (d OnDesk) Ready() (list []DeskLine) {
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
	case practice.Drill:
		return fmt.Sprintf("a drill of bar %d", l.Decision.Bar)
	}
	return "stay"
}

// LoadDesk loads and computes the desk. A ladder that is not on it any more gives its
// place in front to the newest.
func (t *Teach) LoadDesk(ctx context.Context, teacher store.TeacherID, c Class, view DeskView, now time.Time) (Desk, Rows, error) {
	d := Desk{Class: c, Players: c.PlayersText()}
	onNow, err := t.Store.OnNow(ctx, teacher, c.ID)
	if err != nil || len(onNow) == 0 {
		return d, rowsOf(c.Class, c.Students), err
	}
	if len(onNow) > 1 { // one song needs no list to choose from
		if d.Now, err = t.ladderLines(ctx, teacher, onNow); err != nil {
			return d, "", err
		}
	}
	people := onPeople{}
	if people.drills, err = t.weekDrills(ctx, teacher, c, now); err != nil {
		return d, "", err
	}
	if people.tense, err = t.Store.Tense(ctx, teacher, c.ID, since(now)); err != nil {
		return d, "", err
	}
	front := max(0, slices.IndexFunc(onNow, func(l store.LadderLine) bool { return l.ID == view.Front }))
	beside := view.Beside && len(onNow) > 1
	rows := []any{onNow, front, beside}
	for i, line := range onNow {
		if i != front && !beside {
			continue
		}
		on, digest, err := t.onDesk(ctx, teacher, c, line.ID, people, now)
		if err != nil {
			return d, "", err
		}
		rows = append(rows, digest)
		if i == front {
			d.OnDesk = on
		}
		if beside {
			d.Beside = append(d.Beside, on)
		}
	}
	return d, rowsOf(rows...), nil
}

// onPeople is what the desk knows of students on every song.
type onPeople struct {
	drills map[store.StudentID][]WeekDrill
	tense  map[store.StudentID]bool // the last time with tension
}

// onDesk computes one song of it.
func (t *Teach) onDesk(ctx context.Context, teacher store.TeacherID, c Class, id store.LadderID, people onPeople, now time.Time) (d OnDesk, rows Rows, err error) {
	l, err := t.LoadLadder(ctx, teacher, c, id)
	if err != nil {
		return d, "", err
	}
	tries, err := t.Store.TriesOn(ctx, teacher, l.ID, since(now))
	if err != nil {
		return d, "", err
	}
	rows = l.Rows(tries, people, dayOf(now))
	lines := keep(t, "desk", rows, func() (lines []DeskLine) {
		of := triesOf(tries)
		for _, st := range c.Students {
			line := deskLine(l, st, of[st.ID], people.tense[st.ID], dayOf(now))
			line.Drills = people.drills[st.ID]
			lines = append(lines, line)
		}
		return lines
	})
	return OnDesk{&l, l.Part(), l.Apart(), song.TemposFor(l.Song.Tempo), draw.Lane(l.Target, nil, "target: "+l.Target.String()), lines}, rows, nil
}

// triesOf parts entries by student.
func triesOf(entries []store.Entry) map[store.StudentID][]store.Entry {
	of := map[store.StudentID][]store.Entry{}
	for _, e := range entries {
		of[e.StudentID] = append(of[e.StudentID], e)
	}
	return of
}

// dayOf is the day of the practice model.
func dayOf(at time.Time) int { return int(at.Unix() / (24 * 60 * 60)) }

// deskLine is a student with the tempos that were clean; those on the step where the
// student stands lead to what is proposed.
func deskLine(l Ladder, st store.Student, heard []store.Entry, tense bool, today int) DeskLine {
	line := DeskLine{Student: st, InstrumentName: InstrumentName(st.Instrument)}
	goal, at := l.Song.Tempo, ladder.Find(l.Steps, l.Places[st.ID])
	if at >= 0 {
		goal = l.Steps[at].Goal(goal)
		line.Step, line.Number, line.Name = l.Steps[at].ID, at+1, ladder.Describe(l.Steps, at, l.task).Name
		line.Lane = draw.Lane(l.Steps[at].Pattern, freshStrokes(l.Steps, at), l.Steps[at].Pattern.String())
	}
	var tempos []int
	var tries []practice.Try
	for _, e := range heard {
		if !e.Failed {
			tempos = append(tempos, e.Tempo)
		}
		if at >= 0 && e.Step.ID == l.Steps[at].ID {
			tries = append(tries, practice.Try{ID: int64(e.ID), Day: dayOf(e.At), Tempo: e.Tempo, Clean: !e.Failed, Fault: e.Fault, Bar: l.Song.NumberOf(e.Bar)})
		}
	}
	if at >= 0 {
		s := practice.Stand(tries, goal, today, tense)
		line.Last, line.State, line.Next, line.NextWhy = s.Last, s.State, s.Next, s.NextWhy
		line.Decision = practice.Decide(tries, goal, today, tense)
		fault, _ := line.Decision.Fault.Line()
		line.Remedy = fault.Remedy
		switch line.To = l.leadsTo(at, line.Decision.Kind); {
		case line.Decision.Kind == practice.Drill:
			line.DrillAt = drillAt(l, st.ID, line.Decision)
		case line.To == 0: // there is no step further
			line.Decision.Kind = practice.Stay
		}
	}
	line.AtGoal = line.Last > 0 && line.Last >= goal
	line.History = draw.TempoHistory(tempos[max(0, len(tempos)-store.RecentTempos):], goal)
	return line
}

// drillAt is the address of the drill that a decision proposes.
func drillAt(l Ladder, student store.StudentID, d practice.Decision) string {
	kind := BarDrill
	if d.Fault.AtChange() && d.Bar > 1 {
		kind = ChangeDrill
	}
	at := fmt.Sprintf("/songs/%d/drill?student=%d&kind=%s&bar=%d", l.SongID, student, kind, d.Bar)
	if i := slices.IndexFunc(pattern.Catalogue, func(e pattern.Entry) bool { return e.Pattern.Equal(l.Target) }); i >= 0 {
		at += "&pattern=" + pattern.Catalogue[i].ID
	}
	return at
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
	Ladder   store.LadderID // the one in front on the page; 0 for the newest
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
	onNow, err := t.Store.OnNow(ctx, teacher, c.ID)
	if err != nil {
		return logged, err
	}
	ids := make([]store.LadderID, len(lines)) // which song each is about
	for i, line := range lines {
		if ids[i], err = t.loggedOn(ctx, teacher, onNow, line.Song, l.Ladder); err != nil {
			return logged, err
		}
	}
	ladders, err := t.Store.LaddersOf(ctx, teacher, ids)
	if err != nil {
		return logged, err
	}
	var said []string
	var entries []store.Entry
	places := map[store.LadderID]store.Places{}
	for i, line := range lines {
		st, on := students[i], ladders[ids[i]]
		if _, known := places[on.ID]; !known {
			if places[on.ID], err = t.Store.Placements(ctx, teacher, on.ID); err != nil {
				return logged, err
			}
		}
		at := ladder.Find(on.Steps, places[on.ID][st.ID])
		if at < 0 {
			return logged, refuse("%s is on no step of “%s” yet; put %s on one on the ladder page", st.Name, on.SongTitle, st.Name)
		}
		bar, err := t.barOf(ctx, teacher, on, line.Bar)
		if err != nil {
			return logged, err
		}
		entries = append(entries, store.Entry{StudentID: st.ID, LadderID: on.ID, Step: on.Steps[at], Tempo: line.Tempo, Failed: !line.Clean, Errors: line.Errors, Minutes: line.Minutes, Fault: line.Fault, Bar: bar, Word: line.Word, At: now})
		clean, where := "clean", ""
		if !line.Clean {
			clean = "not clean"
		}
		if fault, ok := line.Fault.Line(); ok {
			clean += ", " + fault.Name
		}
		if line.Bar > 0 {
			clean += fmt.Sprintf(", bar %d", line.Bar)
		}
		if line.Song != "" {
			where = " of " + on.SongTitle
		}
		said = append(said, fmt.Sprintf("%s: %d, %s, on step %d%s", st.Name, line.Tempo, clean, at+1, where))
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

// loggedOn is the ladder on the desk that a line is about: the one whose song it names,
// else the one that the page showed, else the newest.
func (t *Teach) loggedOn(ctx context.Context, teacher store.TeacherID, onNow []store.LadderLine, named string, shown store.LadderID) (store.LadderID, error) {
	if named != "" {
		return namedOn(onNow, named)
	}
	if shown == 0 {
		if len(onNow) == 0 {
			return 0, refuse("make a ladder first; a tempo belongs to a step of it")
		}
		return onNow[0].ID, nil
	}
	if !slices.ContainsFunc(onNow, func(l store.LadderLine) bool { return l.ID == shown }) {
		if _, err := t.Store.Ladder(ctx, teacher, shown); err != nil {
			return 0, err
		}
		return 0, refuse("the ladder of this page is not on the class’s desk any more; load the desk again")
	}
	return shown, nil
}

// barOf finds a bar of a ladder's song by its number; 0 is none.
func (t *Teach) barOf(ctx context.Context, teacher store.TeacherID, on store.Ladder, number int) (song.BarID, error) {
	if number == 0 {
		return 0, nil
	}
	sg, err := t.Store.Song(ctx, teacher, on.SongID)
	if err != nil {
		return 0, err
	}
	bars := sg.Bars()
	if number > len(bars) {
		return 0, refuse("“%s” has %d bars", on.SongTitle, len(bars))
	}
	return bars[number-1].ID, nil
}

// namedOn finds a ladder on the desk by the beginning of its song's title, or of a word
// in it.
func namedOn(onNow []store.LadderLine, named string) (store.LadderID, error) {
	var matches []store.LadderLine
	for _, l := range onNow {
		if title := letters.Fold(l.SongTitle); strings.HasPrefix(title, named) || strings.Contains(title, " "+named) {
			matches = append(matches, l)
		}
	}
	switch len(matches) {
	case 0:
		return 0, refuse("no song on the desk is called “%s”; a song stands between the name and the tempo, what else there is to say after it", named)
	case 1:
		return matches[0].ID, nil
	}
	return 0, refuse("“%s” could be %s on %s, or %s on %s; put the one that is meant in front", named, matches[0].PatternName, matches[0].SongTitle, matches[1].PatternName, matches[1].SongTitle)
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

// Deciding is a decision as a page sent it: for a student on the step that it showed.
type Deciding struct {
	Kind practice.Kind
	Step ladder.StepID
}

// Decide carries out decisions for students of a class on a ladder, and keeps what was
// decided and why. Who has been moved since the page was loaded is not moved again, so
// that what is sent twice is done once.
func (t *Teach) Decide(ctx context.Context, teacher store.TeacherID, l Ladder, sent map[store.StudentID]Deciding, now time.Time) (says string, version int, err error) {
	tries, err := t.Store.TriesOn(ctx, teacher, l.ID, since(now))
	if err != nil {
		return "", 0, err
	}
	tense, err := t.Store.Tense(ctx, teacher, l.ClassID, since(now))
	if err != nil {
		return "", 0, err
	}
	of := triesOf(tries)
	places := store.Places{}
	var kept []store.Decision
	for _, st := range l.Class.Students {
		wanted, ok := sent[st.ID]
		at := ladder.Find(l.Steps, l.Places[st.ID])
		if !ok || at < 0 || l.Steps[at].ID != wanted.Step {
			continue
		}
		kind := wanted.Kind
		to := l.leadsTo(at, kind)
		if to == 0 {
			return "", 0, refuse("%s has no step further that way", st.Name)
		}
		why := deskLine(l, st, of[st.ID], tense[st.ID], dayOf(now)).Decision
		if why.Kind != kind {
			why.Why = "by you"
		}
		places[st.ID] = l.Steps[to-1].ID
		kept = append(kept, store.Decision{StudentID: st.ID, LadderID: l.ID, Step: l.Steps[at].ID, To: l.Steps[to-1].ID, Kind: kind, Why: why.Why, At: now})
	}
	const stale = "this was decided already, or somebody was moved since; load the desk again"
	if len(places) == 0 {
		return "", 0, refuse(stale)
	}
	says, version, err = t.Place(ctx, teacher, l, places, kept...)
	if errors.Is(err, store.ErrMoved) { // between this reading and the move
		return "", 0, refuse(stale)
	}
	return says, version, err
}
