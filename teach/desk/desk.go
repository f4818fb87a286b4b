package desk

import (
	"context"
	"fmt"
	"slices"
	"strconv"
	"time"

	"arplin/core/bpm"
	"arplin/core/ladder"
	"arplin/core/plan"
	"arplin/core/practice"
	"arplin/core/practice/fault"
	"arplin/core/say"
	"arplin/draw"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/home"
	"arplin/teach/ladders"
	"arplin/teach/people"
)

// Desk is the class's next lesson: the songs that it is on, one of them in front, or all
// beside one another.
type Desk struct {
	Class  people.Class
	Now    []ladders.Ladder
	OnDesk          // the one in front
	Beside []OnDesk // all of them, where that was asked for
}

// OnDesk is a song of the desk, with a line for each student.
type OnDesk struct {
	Ladder *ladders.Ladder
	Part   string
	Apart  string // how the song has moved away from the ladder
	// Failing is set where the ladder could not be computed: then the lines are names only.
	Failing *answer.Failing
	Tempos  bpm.Tempos
	Weeks   int      // to the concert; 0 where there is none to come
	Columns []Column // the steps, the easiest first
	Waiting []store.Student
	Lines   []DeskLine // in the order of the class
}

// Column is a step of the ladder, as high as its level, with those who are on it.
type Column struct {
	Step     ladder.StepID
	Number   int
	Name     string
	Level    string
	High     int // of a hundred
	Students []store.Student
}

// DeskView is what of the desk is looked at.
type DeskView struct {
	Front  ref.Ladder // 0 for the newest
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
	Drills         []ladders.WeekDrill
	State          practice.State // of the step
	Decision       practice.Decision
	To             int    // the number of the step to which the decision leads; 0 where it stays
	Next           int    // the tempo to try next
	Remedy         string // of the fault that the decision is about
	DrillAt        string // the address of the drill that is proposed
	Home           string // what came from home this week, in a few words
}

// Rivals are the other ladders of the song in front that are on the desk, with how many stand on each:
// which of them counts is the teacher's to say.
func (d Desk) Rivals() (list []ladders.Ladder) {
	if d.Ladder == nil {
		return nil
	}
	for _, l := range d.Now {
		if l.SongID == d.Ladder.SongID && l.ID != d.Ladder.ID {
			list = append(list, l)
		}
	}
	return list
}

// Twin reports a ladder of the desk whose song has another one there.
func (d Desk) Twin(l ladders.Ladder) bool {
	return slices.ContainsFunc(d.Now, func(o ladders.Ladder) bool { return o.SongID == l.SongID && o.ID != l.ID })
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
	case practice.MoveOn:
		return fmt.Sprintf("move up to step %d", l.To)
	case practice.Jump:
		return fmt.Sprintf("skip ahead to step %d", l.To)
	case practice.Ease:
		return fmt.Sprintf("drop back to step %d", l.To)
	case practice.Drill:
		return fmt.Sprintf("drill bar %d", l.Decision.Bar)
	}
	return "stay"
}

// Load loads and computes the desk. A ladder that is not on it any more gives its
// place in front to the newest.
func (t *Room) Load(ctx context.Context, teacher ref.Teacher, c people.Class, view DeskView, now time.Time) (Desk, answer.Rows, error) {
	d := Desk{Class: c}
	all, err := t.Ladders.LaddersNow(ctx, teacher, c)
	if err != nil || len(all) == 0 {
		return d, answer.RowsOf(c.Class, c.Students), err
	}
	people := onPeople{stays: map[stay]staying{}, plays: ladders.PlaysOf(all)}
	if people.drills, err = t.Ladders.WeekDrills(ctx, teacher, c, all...); err != nil {
		return d, "", err
	}
	heard, err := t.Store.HeardNow(ctx, teacher, c.ID, ladders.Since(now), now.AddDate(0, 0, -7*stayed))
	if err != nil {
		return d, "", err
	}
	people.tense = heard.Tense
	for _, d := range heard.Stays {
		people.stays[stay{d.StudentID, d.LadderID}] = staying{d.Step, d.At}
	}
	if people.home, err = t.Home.Week(ctx, teacher, c, 0, now); err != nil {
		return d, "", err
	}
	on := map[ref.Ladder][]store.Entry{}
	for _, e := range heard.Tries {
		on[e.LadderID] = append(on[e.LadderID], e)
	}
	front := max(0, slices.IndexFunc(all, func(l ladders.Ladder) bool { return l.ID == view.Front }))
	beside := view.Beside && len(all) > 1
	rows := []any{front, beside}
	for i, l := range all {
		rows = append(rows, l.ID, l.Version)
		if len(all) > 1 { // one song needs no list to choose from
			d.Now = append(d.Now, l)
		}
		if i != front && !beside {
			continue
		}
		var shown OnDesk
		var digest answer.Rows
		if failing := t.Computes(l.ID, l.SongTitle, func() { shown, digest = t.onDesk(c, l, on[l.ID], people, now) }); failing != nil {
			shown, digest = unknownOnDesk(c, l, failing), answer.RowsOf("failing", c.Class, c.Students)
		}
		rows = append(rows, digest)
		if i == front {
			d.OnDesk = shown
		}
		if beside {
			d.Beside = append(d.Beside, shown)
		}
	}
	return d, answer.RowsOf(rows...), nil
}

// onPeople is what the desk knows of students on every song.
type onPeople struct {
	drills map[ref.Student][]ladders.WeekDrill
	tense  map[ref.Student]bool // the last time with tension
	stays  map[stay]staying     // who is to stay, until more is heard
	home   map[ref.Student]home.Came
	plays  map[ref.Student]float64 // the hardest level that each has behind them
}

// staying is the step on which somebody is to stay, and since when.
type staying struct {
	step ladder.StepID
	at   time.Time
}

// stay is a student on a ladder.
type stay struct {
	student ref.Student
	on      ref.Ladder
}

// stayed is how many weeks a decision to stay holds where nothing more is heard.
const stayed = 2

// onDesk computes one song of it.
func (t *Room) onDesk(c people.Class, l ladders.Ladder, tries []store.Entry, people onPeople, now time.Time) (d OnDesk, rows answer.Rows) {
	t.Ladders.Measure(&l)
	rows = l.Rows(ladders.EntryIDs(tries), people, ladders.DayOf(now))
	kept := answer.Keep(t.From, "desk", rows, func() (d OnDesk) {
		of := ladders.TriesOf(tries)
		for _, st := range c.Students {
			line := LineOf(l, st, of[st.ID], people.tense[st.ID], people.plays[st.ID], ladders.DayOf(now))
			line.Drills = people.drills[st.ID]
			stays, decided := people.stays[stay{st.ID, l.ID}]
			line.atHome(l, people.home[st.ID], answered(of[st.ID], stays.at))
			if decided && stays.step == line.Step && !line.Decision.Home && line.Decision.Kind != practice.Stay {
				line.Decision, line.To, line.DrillAt, line.Remedy = practice.Decision{Kind: practice.Stay, Why: say.Of("stay/by-you")}, 0, "", ""
			}
			d.Lines = append(d.Lines, line)
		}
		d.stand(l, c)
		return d
	})
	d = OnDesk{Ladder: &l, Part: l.Part(), Apart: l.Apart(), Tempos: bpm.Of(l.Song.Tempo), Columns: kept.Columns, Waiting: kept.Waiting, Lines: kept.Lines}
	if days := l.ConcertDay() - ladders.DayOf(now); l.ConcertDay() > 0 && days >= 0 {
		d.Weeks = (days + 6) / 7
	}
	return d, rows
}

// answered is when the teacher last heard a student, or decided to stay: what came from home before is dealt
// with.
func answered(heard []store.Entry, stays time.Time) time.Time {
	if n := len(heard); n > 0 && heard[n-1].At.After(stays) {
		return heard[n-1].At
	}
	return stays
}

// atHome has what came from home say what it may; what the teacher has answered since then is answered.
func (l *DeskLine) atHome(on ladders.Ladder, came home.Came, answered time.Time) {
	l.Home = came.Short()
	at := ladder.Find(on.Steps, l.Step)
	if at < 0 {
		return
	}
	came = came.Since(answered)
	tries := came.Tries(on.ID, func(e store.HomeEntry) bool { return e.Step == l.Step }, ladders.DayOf)
	if l.Decision = l.Decision.AtHome(tries, on.Steps[at].Goal(on.Song.Tempo), came.Hurts); l.Decision.Home && l.Tense() {
		fault, _ := fault.Tension.Line()
		l.To, l.DrillAt, l.Remedy = 0, "", fault.RemedyFor(on.PlayingAt(at))
	}
}

// stand puts the class on the columns of a ladder.
func (d *OnDesk) stand(l ladders.Ladder, c people.Class) {
	highest := 0.1
	for _, step := range l.Steps {
		highest = max(highest, step.Level)
	}
	for i, step := range l.Steps {
		d.Columns = append(d.Columns, Column{Step: step.ID, Number: i + 1, Name: ladder.Describe(l.Steps, i, l.Task).Name, Level: fmt.Sprintf("%.1f", step.Level), High: int(100 * step.Level / highest)})
	}
	for _, st := range c.Students {
		if at := ladder.Find(l.Steps, l.Places[st.ID]); at >= 0 {
			d.Columns[at].Students = append(d.Columns[at].Students, st)
		} else {
			d.Waiting = append(d.Waiting, st)
		}
	}
}

// ToDecide are the lines that ask for a decision, the most urgent first: a hand that hurts, a step
// that does not work, who is ready.
func (d OnDesk) ToDecide() (list []DeskLine) {
	for _, l := range d.Lines {
		if l.Number > 0 && l.urgency() < settled {
			list = append(list, l)
		}
	}
	slices.SortStableFunc(list, func(a, b DeskLine) int { return a.urgency() - b.urgency() })
	return list
}

// settled is the urgency of a line that asks for nothing.
const settled = 9

func (l DeskLine) urgency() int {
	switch {
	case l.Tense() && l.Decision.Home: // nobody has seen it yet
		return -1
	case l.Tense():
		return 0
	case l.Decision.Kind == practice.Ease:
		return 1
	case l.Decision.Kind == practice.Drill:
		return 2
	case l.To > 0:
		return 3
	case l.Remedy != "", l.Decision.Home:
		return 4
	}
	return settled
}

// Tense reports a student whose hand was tense the last time.
func (l DeskLine) Tense() bool {
	return l.Decision.Kind == practice.Stay && l.Decision.Fault == fault.Tension
}

// Ready reports a student who is to move up.
func (l DeskLine) Ready() bool { return l.To > l.Number }

// Plain reports a line whose reason says no more than its tempo and its goal do.
func (l DeskLine) Plain() bool {
	return l.Decision.Kind == practice.Stay && (l.State == practice.New || l.State == practice.Learning) && l.Decision.Fault == "" && !l.Decision.Home
}

// Headline says what is to be decided of a student, after the name.
func (l DeskLine) Headline() string {
	switch l.Decision.Kind {
	case practice.MoveOn:
		return "is ready"
	case practice.Jump:
		return "can skip ahead"
	case practice.Ease:
		return "is stuck on step " + strconv.Itoa(l.Number)
	case practice.Drill:
		return fmt.Sprintf("needs bar %d", l.Decision.Bar)
	}
	switch {
	case l.Tense() && l.Decision.Home:
		return "comes first"
	case l.Tense():
		return "needs a rest"
	case l.Decision.Home:
		return "has practised"
	}
	return "needs a word"
}

// Back is the number of the step below, to which somebody can drop back; 0 on the first.
func (l DeskLine) Back() int { return max(0, l.Number-1) }

// unknownOnDesk is a song whose ladder could not be computed: who is in the class, and why
// nothing more is known.
func unknownOnDesk(c people.Class, l ladders.Ladder, failing *answer.Failing) OnDesk {
	d := OnDesk{Ladder: &l, Failing: failing, Tempos: bpm.Of(l.Song.Tempo)}
	for _, st := range c.Students {
		d.Lines = append(d.Lines, DeskLine{Student: st, InstrumentName: people.InstrumentName(st.Instrument)})
	}
	return d
}

// recentTempos is how many clean tempos of a student the desk draws.
const recentTempos = 6

// LineOf is a student with the tempos that were clean; those on the step where the
// student stands lead to what is proposed.
func LineOf(l ladders.Ladder, st store.Student, heard []store.Entry, tense bool, plays float64, today int) DeskLine {
	line := DeskLine{Student: st, InstrumentName: people.InstrumentName(st.Instrument)}
	goal, at := l.Song.Tempo, ladder.Find(l.Steps, l.Places[st.ID])
	if at >= 0 {
		goal = l.Steps[at].Goal(goal)
		line.Step, line.Number, line.Name = l.Steps[at].ID, at+1, ladder.Describe(l.Steps, at, l.Task).Name
		line.Lane = draw.Lane(l.Steps[at].Pattern, ladders.FreshStrokes(l.Steps, at), l.Steps[at].Pattern.Aloud())
	}
	var tempos []int
	var tries []practice.Try
	for _, e := range heard {
		if !e.Failed {
			tempos = append(tempos, e.Tempo)
		}
		if at >= 0 && e.Step.ID == l.Steps[at].ID {
			tries = append(tries, l.TryOf(e))
		}
	}
	if at >= 0 {
		s, d := plan.On{Tries: tries, Goal: goal, Steps: len(l.Steps) - 1 - at, Concert: l.ConcertDay(), Today: today, Tense: tense, Level: l.Steps[at].Level, Plays: plays}.Decide()
		line.Last, line.State, line.Next, line.Decision = s.Last, s.State, s.Next, d
		fault, _ := line.Decision.Fault.Line()
		line.Remedy = fault.RemedyFor(l.PlayingAt(at))
		switch line.To = l.LeadsTo(at, line.Decision.Kind); {
		case line.Decision.Kind == practice.Drill:
			line.DrillAt = ladders.DrillAt(l, st.ID, line.Decision)
		case line.To == 0: // there is no step further
			line.Decision.Kind = practice.Stay
		}
	}
	line.AtGoal = line.Last > 0 && line.Last >= goal
	line.History = draw.TempoHistory(tempos[max(0, len(tempos)-recentTempos):], goal)
	return line
}
