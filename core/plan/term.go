package plan

import (
	"fmt"
	"slices"
	"strings"

	"arplin/core/practice"
	"arplin/core/say"
)

// Limits of a term, in weeks.
const (
	MinTerm   = 2
	MaxTerm   = 26
	UsualTerm = 12
)

// Term is the weeks up to a concert, for one song.
type Term struct {
	Weeks     int
	Threads   []Thread
	Forecasts []Forecast
	Tempo     int        // at which everybody who is likely to play will keep up
	Eases     []say.Line // what to make easier now, so that everybody plays
}

// Thread is a skill over the weeks.
type Thread struct {
	Name  string
	Knots []Knot
}

// KnotKind is what a week has of a thread.
type KnotKind string

// The knots.
const (
	Introduced KnotKind = "new"
	Practised  KnotKind = "practised"
	DueBack    KnotKind = "back"
)

// Knot is a week with something of a thread in it.
type Knot struct {
	Week int // from 1
	Kind KnotKind
}

// Forecast is where a student is likely to be at the end, with the range that holds
// eight times in ten. Steps count from 0.
type Forecast struct {
	ID                int64
	Now               int
	Low, Likely, High int
	Clean             int           // the furthest step that is clean by then nine times in ten; -1 for none
	Days              practice.Span // that the step of now is still likely to take
	Why               say.Line
}

// TermSong is the song of a term, with what its steps are threads of.
type TermSong struct {
	Song
	Threads []string // by step: the skill that it brings
	Play    []bool   // by step: it can be played with the class
}

// NewTerm forecasts the weeks. The students' places on the song are those of the class's
// first song.
func NewTerm(c Class, sg TermSong, weeks int) Term {
	weeks = min(MaxTerm, max(MinTerm, weeks))
	c.Songs = []Song{sg.Song}
	for i := range c.Students {
		c.Students[i].Away = false
	}
	t := Term{Weeks: weeks, Tempo: sg.Tempo}
	r := read(c)
	for _, s := range r.on[0] {
		t.Forecasts = append(t.Forecasts, r.forecast(s, 7*weeks))
	}
	t.Threads = threads(sg, t.Forecasts, r.on[0], weeks, c.Today)
	t.ease(r, sg)
	return t
}

// forecast walks up the steps as long as the days last.
func (r reading) forecast(s standing, days int) Forecast {
	steps := r.Songs[0].Steps
	f := Forecast{ID: s.ID, Now: s.Step, Low: s.Step, Likely: s.Step, High: s.Step, Clean: s.Step - 1}
	usual := []int{daysLeft(r.step(s), s.Standing)}
	pace := r.paced(s)
	f.Days = pace.Likely(usual...)
	for next := s.Step + 1; next <= len(steps); next++ {
		span := fromLessonToLesson(pace.Likely(usual...), len(usual))
		if span.Low > days {
			break
		}
		if span.High <= days {
			f.Clean = next - 1
		}
		if next == len(steps) {
			break
		}
		f.High = next
		if span.Days <= days {
			f.Likely = next
		}
		if fromLessonToLesson(pace.Slower(slowRisk).Likely(usual...), len(usual)).High <= days {
			f.Low = next
		}
		usual = append(usual, steps[next].Usual)
	}
	switch known := pace != s.Pace; {
	case s.Pace.Steps == 0 && known:
		f.Why = say.Of("pace/rise", fmt.Sprintf("%.1f", pace.Times))
	case s.Pace.Steps == 0:
		f.Why = say.Of("pace/usual")
	default:
		f.Why = say.Of("pace/own", say.Count(s.Pace.Steps, "step", "steps"), fmt.Sprintf("%.1f", s.Pace.Times))
	}
	return f
}

// slowRisk is how uncertain a pace is on its slow side, at least: steps that were taken in time to be
// ready for a date can make the later ones slow. From memory, checked on simulated students.
const slowRisk = 0.6

// fromLessonToLesson is a span of some steps when somebody goes on at lessons, a week
// apart: one step a lesson is likely, two where it goes very well.
func fromLessonToLesson(span practice.Span, steps int) practice.Span {
	span.Low = max(span.Low, 7*steps/2)
	span.Days = max(span.Days, 7*steps)
	span.High = max(span.High, span.Days)
	return span
}

// DaysLeft is how long a step is still likely to take somebody, at the own pace.
func DaysLeft(step Step, s practice.Standing, pace practice.Pace) practice.Span {
	return pace.Likely(daysLeft(step, s))
}

// daysLeft is how many usual days of a step are still to come: who is near the goal has
// most of it behind.
func daysLeft(step Step, s practice.Standing) int {
	switch s.State {
	case practice.Secure:
		return 1
	case practice.Clean:
		return max(1, step.Usual/4)
	}
	begin := slowStart(step.Goal)
	if s.Now <= begin || step.Goal <= begin {
		return step.Usual
	}
	return max(step.Usual/4, step.Usual*(step.Goal-s.Now)/(step.Goal-begin))
}

// dueBack are the weeks after which something returns, each later than the one before:
// the spacing effect (Cepeda et al. 2006). The figures are from memory.
var dueBack = []int{2, 3, 5, 8}

// threads are when the middle of the class meets, practises and takes up again the skills.
func threads(sg TermSong, forecasts []Forecast, on []standing, weeks, today int) (list []Thread) {
	if len(on) == 0 {
		return nil
	}
	arrive := arrivals(sg.Song, on, today)
	seen := map[string]bool{}
	for k, name := range sg.Threads {
		if name == "" || seen[name] {
			continue
		}
		seen[name] = true
		th := Thread{Name: name}
		last := 0
		for i := k; i < len(sg.Threads); i++ {
			if sg.Threads[i] != name || arrive[i] > weeks {
				continue
			}
			until := weeks
			if i+1 < len(arrive) {
				until = min(weeks, arrive[i+1]-1)
			}
			for week := max(1, arrive[i]); week <= max(arrive[i], until); week++ {
				if week <= last || arrive[i] < 1 && until < 1 {
					continue
				}
				kind := Practised
				if len(th.Knots) == 0 && arrive[i] >= 1 {
					kind = Introduced
				}
				th.Knots, last = append(th.Knots, Knot{week, kind}), week
			}
		}
		th.Knots = append(th.Knots, returns(last, th.Knots, weeks)...)
		slices.SortFunc(th.Knots, func(a, b Knot) int { return a.Week - b.Week })
		if len(th.Knots) > 0 {
			list = append(list, th)
		}
	}
	return list
}

// returns are the weeks in which something comes back after it was practised last.
func returns(last int, there []Knot, weeks int) (knots []Knot) {
	at := last
	for _, gap := range dueBack {
		if at += gap; at > weeks {
			break
		}
		if at >= 1 && !slices.ContainsFunc(there, func(k Knot) bool { return k.Week == at }) {
			knots = append(knots, Knot{at, DueBack})
		}
	}
	return knots
}

// arrivals is the week, from 1, in which the middle of the class comes to each step; 0
// and less for steps that it has come to already.
func arrivals(sg Song, on []standing, today int) []int {
	weeks := make([]int, len(sg.Steps))
	r := reading{Class: Class{Songs: []Song{sg}, Today: today}}
	for k := range sg.Steps {
		var days []int
		for _, s := range on {
			if k <= s.Step {
				days = append(days, -7*(s.Step-k)-1)
				continue
			}
			usual := []int{daysLeft(r.step(s), s.Standing)}
			for i := s.Step + 1; i < k; i++ {
				usual = append(usual, sg.Steps[i].Usual)
			}
			days = append(days, fromLessonToLesson(r.paced(s).Likely(usual...), len(usual)).Days)
		}
		slices.Sort(days)
		weeks[k] = days[(len(days)-1)/2]/7 + 1
		if days[(len(days)-1)/2] < 0 {
			weeks[k] = 0
		}
	}
	return weeks
}

// ease finds what would have to be easier so that everybody plays.
func (t *Term) ease(r reading, sg TermSong) {
	first := slices.Index(sg.Play, true)
	var slow []say.Arg
	for i, s := range r.on[0] {
		f := t.Forecasts[i]
		if first >= 0 && f.Low < len(sg.Play) && !sg.Play[f.Low] {
			t.Eases = append(t.Eases, say.Of("ease/step", s.said(), f.Low+1, s.said(), r.stepName(0, withClass(sg.Play, f.Low, first))))
		}
		if s.Now == 0 {
			continue
		}
		then := min(sg.Tempo, s.Now+int(max(0, s.Trend))*t.Weeks)
		if then < sg.Tempo {
			slow = append(slow, s.said())
		}
		t.Tempo = min(t.Tempo, then)
	}
	if len(slow) > 0 && t.Tempo < sg.Tempo {
		t.Eases = append(t.Eases, say.Of("ease/tempo", sg.Tempo, say.Several(slow), t.Tempo, t.Tempo))
	}
}

// withClass is the last step up to one that can be played with the class, else the first.
func withClass(play []bool, upTo, first int) int {
	for k := upTo; k >= 0; k-- {
		if play[k] {
			return k
		}
	}
	return first
}

// Says is what a week, from 1, has of the threads.
func (t Term) Says(week int) string {
	words := []struct {
		kind KnotKind
		says string
	}{{Introduced, "New"}, {Practised, "Practised"}, {DueBack, "Due back"}}
	var parts []string
	for _, w := range words {
		var list []string
		for _, th := range t.Threads {
			if slices.ContainsFunc(th.Knots, func(k Knot) bool { return k.Week == week && k.Kind == w.kind }) {
				list = append(list, th.Name)
			}
		}
		if len(list) > 0 {
			parts = append(parts, fmt.Sprintf("%s: %s.", w.says, say.And(list)))
		}
	}
	return strings.Join(parts, " ")
}
