package lesson

import (
	"context"
	"errors"
	"fmt"
	"slices"
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
	"arplin/teach/answer"
	"arplin/teach/ladders"
	"arplin/teach/patterns"
	"arplin/teach/people"
)

// Term is the weeks of a class up to a concert.
type Term struct {
	store.Term
	Class     people.Class
	Ladders   []ladders.Ladder // on the desk: one of them is the concert's
	Ladder    *ladders.Ladder  // nil where there is none yet
	Weeks     int
	Week      int // of now, from 1; 0 before the term and after it
	Picture   draw.SVG
	Plan      plan.Term
	Forecasts []TermForecast
	Eases     []string               // what to make easier now, so that everybody plays
	Waiting   []store.Student        // who is on no step of the song
	Failing   []answer.Failing       // what it is planned without
	Series    *patterns.SeriesOnTerm // nil for none
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
func (t *Room) LoadTerm(ctx context.Context, teacher store.TeacherID, c people.Class, now time.Time) (Term, error) {
	v, p, err := t.termOf(ctx, teacher, c, now)
	if err != nil || v.Ladder == nil {
		return v, err
	}
	sg := p.termSong()
	v.Plan = plan.NewTerm(p.Class, sg, v.left(now))
	shown := namesOf(c, titlesOf(p.ladders))
	var threads []draw.TermThread
	for _, th := range v.Plan.Threads {
		row := draw.TermThread{Name: letters.Capital(th.Name)}
		for _, k := range th.Knots {
			row.Knots = append(row.Knots, draw.Knot{Week: k.Week + v.gone(now), Kind: string(k.Kind)})
		}
		threads = append(threads, row)
	}
	v.Picture = draw.Term(threads, v.Weeks, v.Week, v.Concert.Format("2 Jan"))
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
	return v, nil
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
func (t *Room) termOf(ctx context.Context, teacher store.TeacherID, c people.Class, now time.Time) (v Term, p planning, err error) {
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
		p.Students[i].Pace = by[store.StudentID(p.Students[i].ID)]
	}
	return v, p, nil
}

// gone is how many weeks of the term are over; left, how many are still to come.
func (v Term) gone(now time.Time) int {
	days := int(people.DateOf(now).Sub(v.Begins).Hours() / 24)
	return max(0, min(v.Weeks-1, days/7))
}

func (v Term) left(now time.Time) int { return max(plan.MinTerm, v.Weeks-v.gone(now)) }

// termSong is the song in front with its threads.
func (p planning) termSong() plan.TermSong {
	sg := plan.TermSong{Song: p.Songs[0], Threads: ladder.Threads(p.ladders[0].Steps)}
	for _, s := range p.ladders[0].Steps {
		sg.Play = append(sg.Play, !s.Home && !s.BeforeStrings())
	}
	return sg
}

// SetTerm stores when the term begins and ends, with what song and what it is called.
func (t *Room) SetTerm(ctx context.Context, teacher store.TeacherID, term store.Term) error {
	term, err := people.CheckTerm(term)
	if err != nil {
		return err
	}
	err = t.Store.SetTerm(ctx, teacher, term)
	var stale *store.StaleError
	if errors.As(err, &stale) {
		return answer.Refuse("the term was changed in another window; the page shows it as it is now")
	}
	return err
}

// Tried is a term on simulated classes: as planned, and the same for everybody.
type Tried struct {
	Comparisons []sim.Comparison
	Trials      int
	Students    int
}

// trials are how many simulated classes of each kind a page tries.
const trials = 10

// TryTerm tries a class's term on simulated classes that begin where it stands.
func (t *Room) TryTerm(ctx context.Context, teacher store.TeacherID, c people.Class, now time.Time) (Tried, error) {
	v, p, err := t.termOf(ctx, teacher, c, now)
	if err != nil {
		return Tried{}, err
	}
	if v.Ladder == nil {
		return Tried{}, answer.Refuse("put a ladder on the desk first")
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
		return Tried{}, answer.Refuse("put names on steps first")
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
func (t *Room) Calendar(ctx context.Context, teacher store.TeacherID, c people.Class, now time.Time) (string, error) {
	v, err := t.LoadTerm(ctx, teacher, c, now)
	if err != nil {
		return "", err
	}
	if v.Ladder == nil {
		return "", answer.Refuse("put a ladder on the desk first")
	}
	var days []ical.Day
	gone := v.gone(now)
	for week := gone; week < v.Weeks; week++ {
		on := v.Begins.AddDate(0, 0, 7*week)
		if !on.Before(v.Concert) {
			break
		}
		days = append(days, ical.Day{ID: fmt.Sprintf("lesson-%d-%s", c.ID, on.Format(time.DateOnly)), On: on, Title: c.Name + ": lesson", Says: withFigure(v.Plan.Says(week-gone+1), v.Series.At(on))})
	}
	days = append(days, ical.Day{ID: fmt.Sprintf("concert-%d", c.ID), On: v.Concert, Title: fmt.Sprintf("%s: %s", c.Name, v.Name), Says: v.Ladder.SongTitle})
	return ical.Write(c.Name, days, now), nil
}

// withFigure adds the figure of the week to what a lesson of the calendar says.
func withFigure(says, figure string) string {
	switch {
	case figure == "":
		return says
	case says == "":
		return "figure of the week: " + figure
	}
	return says + "; figure of the week: " + figure
}
