package desk

import (
	"cmp"
	"context"
	"fmt"
	"maps"
	"math"
	"slices"
	"time"

	"arplin/core/ladder"
	"arplin/core/plan"
	"arplin/core/practice"
	"arplin/core/practice/fault"
	"arplin/draw"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/home"
	"arplin/teach/ladders"
	"arplin/teach/lesson"
	"arplin/teach/people"
)

// Student is a student's page: every song with its step, the tempos over the weeks, what
// was heard and what was decided.
type Student struct {
	store.Student
	Class          people.Class
	InstrumentName string
	Songs          []StudentSong
	Heard          []HeardLine // the newest first
	Decided        []DecidedLine
	Takes          []TakeLine // that were kept, the newest first
	Home           []HomeLine // of the last seven days, the newest first
	Tense          bool       // the last that was heard was with tension
	Minutes        WeekMinutes
	Away           int // from how many lessons
}

// StudentSong is a song that a student plays, or has played.
type StudentSong struct {
	Ladder store.Ladder
	Part   string
	Number int // of the step, from 1
	Name   string
	Weeks  draw.SVG
	Stands practice.Standing
	Takes  string // how long the step is still likely to take
	Gains  int    // beats a minute a week on the step; 0 where it stands still or nothing is known
	Goal   int
	// Failing is set where the ladder could not be computed.
	Failing *answer.Failing
}

// HeardLine is an entry of the log, in words.
type HeardLine struct {
	At    time.Time
	Song  string
	Step  string // "step 4"; the step may be gone since
	Tempo int
	Says  string
}

// HomeLine is what came from home, in words.
type HomeLine struct {
	At    time.Time
	What  string // "Song, step 4"
	Tempo int
	Says  string
}

// DecidedLine is a decision, in words.
type DecidedLine struct {
	At   time.Time
	Song string
	Says string
	Why  string
	Back bool // taken back since
}

// LoadStudent reads a student's page, in the student's own class.
func (t *Room) LoadStudent(ctx context.Context, teacher ref.Teacher, at people.Class, id ref.Student, now time.Time) (p Student, err error) {
	if p.Student, err = t.Store.Student(ctx, teacher, id); err != nil {
		return p, err
	}
	if p.Class, err = t.People.ClassOf(ctx, teacher, p.ClassID, at); err != nil {
		return p, err
	}
	p.InstrumentName = people.InstrumentName(p.Instrument)
	entries, err := t.Store.EntriesOf(ctx, teacher, id, ladders.Since(now))
	if err != nil {
		return p, err
	}
	decisions, err := t.Store.Decisions(ctx, teacher, id)
	if err != nil {
		return p, err
	}
	stands, err := t.Store.Stands(ctx, teacher, id)
	if err != nil {
		return p, err
	}
	all, err := t.Ladders.LaddersOf(ctx, teacher, p.Class, laddersIn(entries, decisions, stands))
	if err != nil {
		return p, err
	}
	away, err := t.Store.AwayOften(ctx, teacher, p.ClassID)
	if err != nil {
		return p, err
	}
	p.Away = away[id]
	p.Tense = len(entries) > 0 && entries[0].Fault == fault.Tension
	on := map[ref.Ladder][]store.Entry{}
	for _, e := range entries {
		on[e.LadderID] = append(on[e.LadderID], e)
		p.Heard = append(p.Heard, heardLine(e, all[e.LadderID]))
	}
	for _, d := range decisions {
		l := all[d.LadderID]
		p.Decided = append(p.Decided, DecidedLine{d.At.Local(), l.SongTitle, decided(d, l), plan.Words.Say(d.Why), d.TakenBack})
	}
	if err := t.homeLines(ctx, teacher, &p, all, now); err != nil {
		return p, err
	}
	if err := t.takeLines(ctx, teacher, &p); err != nil {
		return p, err
	}
	p.Minutes = weekMinutes(entries, ladders.DayOf(now))
	own := lesson.Paces(oldestFirst(decisions), slices.Collect(maps.Values(all)))[id]
	for id, step := range stands {
		var sg StudentSong
		if failing := t.Computes(all[id].ID, all[id].SongTitle, func() { sg = studentSong(all[id], step, on[id], p.Tense, own, ladders.DayOf(now)) }); failing != nil {
			sg = StudentSong{Ladder: all[id].Ladder, Failing: failing}
		}
		p.Songs = append(p.Songs, sg)
	}
	order := []store.Progress{store.Now, store.Aside, store.Finished}
	slices.SortFunc(p.Songs, func(a, b StudentSong) int {
		return cmp.Or(slices.Index(order, a.Ladder.Progress)-slices.Index(order, b.Ladder.Progress), cmp.Compare(b.Ladder.ID, a.Ladder.ID))
	})
	return p, nil
}

// laddersIn are the ladders that a student's page speaks of.
func laddersIn(entries []store.Entry, decisions []store.Decision, stands map[ref.Ladder]ladder.StepID) (ids []ref.Ladder) {
	for id := range stands {
		ids = append(ids, id)
	}
	for _, e := range entries {
		ids = append(ids, e.LadderID)
	}
	for _, d := range decisions {
		ids = append(ids, d.LadderID)
	}
	slices.Sort(ids)
	return slices.Compact(ids)
}

// oldestFirst turns a list of decisions round; what was taken back is left out.
func oldestFirst(list []store.Decision) (out []store.Decision) {
	for _, d := range slices.Backward(list) {
		if !d.TakenBack {
			out = append(out, d)
		}
	}
	return out
}

// WeekMinutes are the minutes of practice that were noted, of this week and the one before.
type WeekMinutes struct{ Now, Before int }

// Leap reports more than a fifth more than the week before.
func (m WeekMinutes) Leap() bool { return practice.Leap(m.Before, m.Now) }

func weekMinutes(entries []store.Entry, today int) (m WeekMinutes) {
	for _, e := range entries {
		switch days := today - ladders.DayOf(e.At); {
		case days < 7:
			m.Now += e.Minutes
		case days < 14:
			m.Before += e.Minutes
		}
	}
	return m
}

func studentSong(l ladders.Ladder, step ladder.StepID, entries []store.Entry, tense bool, pace practice.Pace, today int) StudentSong {
	s := StudentSong{Ladder: l.Ladder, Part: l.Part(), Goal: l.Song.Tempo}
	at := ladder.Find(l.Steps, step)
	if at >= 0 {
		l.Task = ladders.LadderTask(l.Target, ladders.PartsOf(l.Steps), l.Begin, l.Song.Song, l.Sections, l.Instrument, l.Class)
		s.Number, s.Name, s.Goal = at+1, ladder.Describe(l.Steps, at, l.Task).Name, l.Steps[at].Goal(s.Goal)
	}
	var heard []draw.Heard
	var tries []practice.Try
	for _, e := range slices.Backward(entries) {
		heard = append(heard, draw.Heard{Days: today - ladders.DayOf(e.At), Tempo: e.Tempo, Clean: !e.Failed, Step: ladder.Find(l.Steps, e.Step.ID) + 1})
		if e.Step.ID == step {
			tries = append(tries, l.TryOf(e))
		}
	}
	s.Stands = practice.Stand(tries, s.Goal, today, tense)
	s.Gains = int(math.Round(s.Stands.Trend))
	if at >= 0 && at < len(l.Steps)-1 {
		below := 0.0
		if at > 0 {
			below = l.Steps[at-1].Level
		}
		span := plan.DaysLeft(plan.Step{Goal: s.Goal, Usual: practice.Usual(l.Steps[at].Level - below)}, s.Stands, pace)
		s.Takes = lesson.SpanText(span)
	}
	day := func(ago int) string { return ladders.DateOf(today - ago).Format("2 Jan") }
	s.Weeks = draw.Weeks{Goal: s.Goal, Weeks: ladders.HistoryWeeks, Day: day}.Draw(heard)
	return s
}

func heardLine(e store.Entry, l ladders.Ladder) HeardLine {
	line := HeardLine{At: e.At.Local(), Song: l.SongTitle, Step: stepOf(l, e.Step.ID), Tempo: e.Tempo, Says: heardWords(e, l.Song)}
	if e.Word != "" {
		line.Says += ": " + e.Word
	}
	return line
}

// homeLines are what came from a student's home.
func (t *Room) homeLines(ctx context.Context, teacher ref.Teacher, p *Student, all map[ref.Ladder]ladders.Ladder, now time.Time) error {
	came, err := t.Home.Week(ctx, teacher, p.Class, p.ID, now)
	for _, e := range slices.Backward(came[p.ID].Entries) {
		line := HomeLine{At: e.At.Local(), Tempo: e.Tempo, What: home.CardName(e.Card), Says: home.WentSays(e)}
		if l, known := all[e.LadderID]; known {
			line.What = l.SongTitle
			if e.Card != string(plan.TaskSong) {
				line.What += ", " + stepOf(l, e.Step)
			}
		}
		p.Home = append(p.Home, line)
	}
	return err
}

// stepOf is where a step is now.
func stepOf(l ladders.Ladder, id ladder.StepID) string {
	if at := ladder.Find(l.Steps, id); at >= 0 {
		return fmt.Sprintf("step %d", at+1)
	}
	return "a step that’s gone"
}

func decided(d store.Decision, l ladders.Ladder) string {
	switch d.Kind {
	case practice.Stay:
		return "stays on " + stepOf(l, d.To)
	case practice.Ease:
		return "dropped back to " + stepOf(l, d.To)
	case practice.Jump:
		return "skipped ahead to " + stepOf(l, d.To)
	}
	return "moved up to " + stepOf(l, d.To)
}
