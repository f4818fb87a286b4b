package lesson

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"golang.org/x/sync/errgroup"

	"arplin/core/ladder"
	"arplin/core/plan"
	"arplin/core/plan/sim"
	"arplin/core/practice"
	"arplin/core/say"
	"arplin/draw"
	"arplin/format/ical"
	"arplin/letters"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/ladders"
	"arplin/teach/patterns"
	"arplin/teach/people"
)

// Term is the weeks of a class up to a concert.
type Term struct {
	store.Term
	Class    people.Class
	Ladders  []ladders.Ladder // on the desk: one of them is the concert's
	TermPart                  // the song in front
	Others   []TermPart       // further songs of the concert
	Weeks    int
	Week     int                    // of now, from 1; 0 before the term and after it
	Failing  []answer.Failing       // what it is planned without
	Series   *patterns.SeriesOnTerm // nil for none
}

// TermPart is a song of the term.
type TermPart struct {
	Ladder    *ladders.Ladder // nil where there is none yet
	Picture   draw.SVG
	Plan      plan.Term
	Forecasts []TermForecast
	Eases     []string        // what to make easier now, so that everybody plays
	Waiting   []store.Student // who is on no step of the song
}

// TermForecast is where a student is likely to be by the concert.
type TermForecast struct {
	plan.Forecast
	Name, Why string
	Steps     int
	Span      draw.SVG
	Likely    string // the name of the step
	DaysNow   string // how long the step of now is still likely to take
}

// LoadTerm forecasts the term of a class; until one is stored, twelve weeks from now with
// the newest song.
func (t *Room) LoadTerm(ctx context.Context, teacher ref.Teacher, c people.Class, now time.Time) (Term, error) {
	v, p, err := t.termOf(ctx, teacher, c, now)
	if err != nil || v.Ladder == nil {
		return v, err
	}
	v.TermPart = p.part(v, now)
	for _, id := range v.More {
		if id != v.LadderID && slices.ContainsFunc(v.Ladders, func(l ladders.Ladder) bool { return l.ID == id }) {
			other := p
			other.Students = clonePlaces(p.Students)
			other.front(id)
			v.Others = append(v.Others, other.part(v, now))
		}
	}
	return v, nil
}

// clonePlaces is students whose places can be counted anew.
func clonePlaces(students []plan.Student) []plan.Student {
	students = slices.Clone(students)
	for i := range students {
		students[i].Places = slices.Clone(students[i].Places)
	}
	return students
}

// part is the song in front over the weeks of a term.
func (p planning) part(term Term, now time.Time) (v TermPart) {
	c := term.Class
	v.Ladder = &p.ladders[0]
	sg := p.termSong()
	v.Plan = plan.NewTerm(p.Class, sg, term.left(now))
	shown := namesOf(c, titlesOf(p.ladders))
	lessons := term.lessonsFrom(now)
	var threads []draw.TermThread
	for _, th := range v.Plan.Threads {
		row := draw.TermThread{Name: letters.Capital(th.Name)}
		for _, k := range th.Knots {
			row.Knots = append(row.Knots, draw.Knot{Week: lessons[min(k.Week, len(lessons))-1] + 1, Kind: string(k.Kind)})
		}
		threads = append(threads, row)
	}
	v.Picture = draw.Term(threads, term.Weeks, term.Week, term.Concert.Format("2 Jan"), term.offWeeks()...)
	for _, f := range v.Plan.Forecasts {
		v.Forecasts = append(v.Forecasts, TermForecast{f, shown.Person(f.ID), shown.says(f.Why), len(sg.Steps), draw.StepSpan(f.Now, f.Low, f.Likely, f.High, len(sg.Steps)), sg.Steps[f.Likely].Name, SpanText(f.Days)})
	}
	for _, line := range v.Plan.Eases {
		v.Eases = append(v.Eases, shown.says(line))
	}
	for _, st := range c.Students {
		if !slices.ContainsFunc(v.Forecasts, func(f TermForecast) bool { return f.ID == int64(st.ID) }) {
			v.Waiting = append(v.Waiting, st)
		}
	}
	return v
}

// SpanText says a range of days.
func SpanText(s practice.Span) string {
	if s.Low == s.High {
		return say.Count(s.Days, "day", "days")
	}
	return fmt.Sprintf("%d to %d days", s.Low, s.High)
}

// termOf reads the term with what it is planned from: the class with the paces of its
// students, and the concert's song in front.
func (t *Room) termOf(ctx context.Context, teacher ref.Teacher, c people.Class, now time.Time) (v Term, p planning, err error) {
	v.Class = c
	if p, err = t.planClass(ctx, teacher, c, now); err != nil {
		return v, p, err
	}
	v.Series = p.series
	v.Term, err = t.Store.TermOf(ctx, teacher, c.ID)
	if ok, err := answer.Found(err); err != nil {
		return v, p, err
	} else if !ok {
		today := people.DateOf(now)
		v.Term = store.Term{ClassID: c.ID, Begins: today, Concert: today.AddDate(0, 0, 7*plan.UsualTerm), Name: people.UsualConcert}
		if len(p.ladders) > 0 {
			v.LadderID = p.ladders[0].ID
		}
	}
	p.front(v.LadderID)
	v.Ladders, v.Failing = p.ladders, p.failing
	if len(p.ladders) > 0 {
		v.Ladder, v.LadderID = &p.ladders[0], p.ladders[0].ID // one that is off the desk gives its place to the newest
	}
	v.Weeks = min(plan.MaxTerm, max(plan.MinTerm, people.WeeksBetween(v.Begins, v.Concert)))
	if gone := v.gone(now); gone >= 0 && gone < v.Weeks {
		v.Week = gone + 1
	}
	decisions, err := t.Store.DecisionsOf(ctx, teacher, c.ID, now.AddDate(-1, 0, 0))
	if err != nil {
		return v, p, err
	}
	by := Paces(decisions, p.ladders)
	p.since(decisions)
	for i := range p.Students {
		p.Students[i].Pace = by[ref.Student(p.Students[i].ID)]
	}
	return v, p, nil
}

// gone is how many weeks of the term are over; left, how many are still to come.
func (v Term) gone(now time.Time) int {
	days := int(people.DateOf(now).Sub(v.Begins).Hours() / 24)
	return max(0, min(v.Weeks-1, days/7))
}

func (v Term) left(now time.Time) int { return max(plan.MinTerm, len(v.lessonsFrom(now))) }

// lessonsFrom are the weeks of the term, from 0, that are still to come and have a lesson.
func (v Term) lessonsFrom(now time.Time) (weeks []int) {
	for week := v.gone(now); week < v.Weeks; week++ {
		if !v.isOff(week) {
			weeks = append(weeks, week)
		}
	}
	if len(weeks) == 0 { // every week that is left is off: the last stands for them
		weeks = append(weeks, v.Weeks-1)
	}
	return weeks
}

// isOff reports a week, from 0, without a lesson.
func (v Term) isOff(week int) bool {
	from := v.Begins.AddDate(0, 0, 7*week)
	return slices.ContainsFunc(v.Off, func(day time.Time) bool { return !day.Before(from) && day.Before(from.AddDate(0, 0, 7)) })
}

// offWeeks are those weeks, from 1.
func (v Term) offWeeks() (weeks []int) {
	for week := range v.Weeks {
		if v.isOff(week) {
			weeks = append(weeks, week+1)
		}
	}
	return weeks
}

// OffText is the days off as they are typed.
func (v Term) OffText() string {
	var days []string
	for _, day := range v.Off {
		days = append(days, day.Format(time.DateOnly))
	}
	return strings.Join(days, ", ")
}

// Has reports a ladder among the further songs.
func (v Term) Has(id ref.Ladder) bool { return slices.Contains(v.More, id) }

// termSong is the song in front with its threads.
func (p planning) termSong() plan.TermSong {
	sg := plan.TermSong{Song: p.Songs[0], Threads: ladder.Threads(p.ladders[0].Steps)}
	for _, s := range p.ladders[0].Steps {
		sg.Play = append(sg.Play, !s.Home && !s.BeforeStrings())
	}
	return sg
}

// SetTerm stores when the term begins and ends, with what song and what it is called.
func (t *Room) SetTerm(ctx context.Context, teacher ref.Teacher, term store.Term) error {
	term, err := people.CheckTerm(term)
	if err != nil {
		return err
	}
	err = t.Store.SetTerm(ctx, teacher, term)
	var stale *store.StaleError
	if errors.As(err, &stale) {
		return answer.Refuse("the term was changed in another window. This is the latest version")
	}
	return err
}

// Tried is a term on simulated classes: as planned, and the same for everybody.
type Tried struct {
	Comparisons []sim.Comparison
	Trials      int
	Students    int
}

// Picture draws how many are at the goal in the end.
func (t Tried) Picture() draw.SVG {
	var rows []draw.TriedRow
	for _, c := range t.Comparisons {
		rows = append(rows, draw.TriedRow{Name: letters.Capital(string(c.Law)), Plan: c.Plan, Same: c.Same})
	}
	return draw.Tried(rows, t.Students)
}

// trials are how many simulated classes of each kind a page tries.
const trials = 10

// TryTerm tries a class's term on simulated classes that begin where it stands.
func (t *Room) TryTerm(ctx context.Context, teacher ref.Teacher, c people.Class, now time.Time) (Tried, error) {
	v, p, err := t.termOf(ctx, teacher, c, now)
	if err != nil {
		return Tried{}, err
	}
	if v.Ladder == nil {
		return Tried{}, answer.Refuse("put a ladder on the Desk first")
	}
	var begin []int
	minutes := 0
	for _, st := range p.Students {
		if i := slices.IndexFunc(st.Places, func(pl plan.Place) bool { return pl.Song == 0 }); i >= 0 {
			begin = append(begin, st.Places[i].Step)
			minutes += st.Minutes
		}
	}
	if len(begin) == 0 {
		return Tried{}, answer.Refuse("put students on steps first")
	}
	minutes /= len(begin)
	tried := Tried{Trials: trials, Students: len(begin), Comparisons: make([]sim.Comparison, len(sim.Laws))}
	return answer.KeepUntil(ctx, t.From, "tried", answer.RowsOf(p.ladders[0].Loaded, begin, minutes, v.left(now)), func(stop func() bool) Tried {
		var group errgroup.Group
		for i, law := range sim.Laws {
			group.Go(func() error {
				tried.Comparisons[i] = sim.Compare(law, trials, p.Songs[0], begin, minutes, v.left(now), stop)
				return nil
			})
		}
		_ = group.Wait() // nothing in it fails
		return tried
	})
}

// Calendar is the term for a calendar: a lesson each week with what is new and due back,
// and the concert.
func (t *Room) Calendar(ctx context.Context, teacher ref.Teacher, c people.Class, now time.Time) (string, error) {
	v, err := t.LoadTerm(ctx, teacher, c, now)
	if err != nil {
		return "", err
	}
	if v.Ladder == nil {
		return "", answer.Refuse("put a ladder on the Desk first")
	}
	var days []ical.Day
	hour, hasHour := v.hour()
	for i, week := range v.lessonsFrom(now) {
		on := v.Begins.AddDate(0, 0, 7*week)
		if !on.Before(v.Concert) || v.isOff(week) {
			continue
		}
		minutes := 0
		if hasHour {
			on, minutes = on.Add(hour), c.LessonMinutes
		}
		says := withFigure(v.Plan.Says(i+1), v.Series.At(on))
		for _, other := range v.Others {
			if more := other.Plan.Says(i + 1); more != "" {
				says += " " + other.Ladder.SongTitle + ": " + more
			}
		}
		days = append(days, ical.Day{ID: fmt.Sprintf("lesson-%d-%s", c.ID, on.Format(time.DateOnly)), On: on, Minutes: minutes, Title: c.Name + ": lesson", Says: says})
	}
	songs := []string{v.Ladder.SongTitle}
	for _, other := range v.Others {
		songs = append(songs, other.Ladder.SongTitle)
	}
	days = append(days, ical.Day{ID: fmt.Sprintf("concert-%d", c.ID), On: v.Concert, Title: fmt.Sprintf("%s: %s", c.Name, v.Name), Says: say.And(songs)})
	return ical.Write(c.Name, days, now), nil
}

// hour is when the lessons begin, from midnight on; ok is false where nobody has said.
func (v Term) hour() (after time.Duration, ok bool) {
	at, err := time.Parse("15:04", v.At)
	if err != nil {
		return 0, false
	}
	return time.Duration(at.Hour())*time.Hour + time.Duration(at.Minute())*time.Minute, true
}

// withFigure adds the figure of the week to what a lesson of the calendar says.
func withFigure(says, figure string) string {
	switch {
	case figure == "":
		return says
	case says == "":
		return "pattern of the week: " + figure
	}
	return says + "; pattern of the week: " + figure
}
