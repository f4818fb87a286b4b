package phone

import (
	"context"
	"fmt"
	"slices"
	"time"

	"arplin/core/bpm"
	"arplin/core/difficulty"
	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/core/plan"
	"arplin/core/practice"
	"arplin/draw"
	"arplin/letters"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/ladders"
	"arplin/teach/lesson"
	"arplin/teach/paper"
	"arplin/teach/people"
)

// Today is a student's week as a phone shows it, a day at a time. It names nobody.
type Today struct {
	Class    string // what the teacher calls it
	Minutes  int    // a day
	Day      int    // of the week, from 1
	Cards    []Card // of all days, each once
	Days     []Day
	Sent     []Sent // what has arrived this week, from this phone or another
	Cautions []string
	Care     []string
	Made     time.Time
}

// Day is some days that are alike.
type Day struct {
	From  int    `json:"from"`
	To    int    `json:"to"`
	Turns []Turn `json:"turns"`
}

// Turn is a card on a day.
type Turn struct {
	Card    string `json:"card"`
	Minutes int    `json:"minutes"`
	Tempo   int    `json:"tempo"`
	Says    string `json:"says"`
}

// Card is something to practise.
type Card struct {
	Key    string
	Kind   plan.TaskKind
	Ladder ref.Ladder
	Step   ladder.StepID
	Drill  ref.Drill
	Title  string // "Middle finger on 1"
	Of     string // "Nine Umbrellas, step 5"
	Says   string
	Chord  string
	Strip  draw.SVG // or the lane, where there are no strings yet
	Shapes []paper.SheetChord
	Score  string // after the link
	Slow   int
	Goal   int
	Beat   string  // what the tempo counts
	Figure string  // to be tapped; empty where there is nothing
	Strums bool    // it is tapped as down and up
	List   []Piece // of a drill
	Today  *Turn   // on the day on which the page is made; nil on another
	Number int     // of it, from 1
	Open   bool    // the first that is still to do
}

// Tempo is how fast it is played today.
func (c Card) Tempo() int {
	if c.Today != nil && c.Today.Tempo > 0 {
		return c.Today.Tempo
	}
	return c.Goal
}

// Piece is an exercise of a drill.
type Piece struct {
	Title, Over string
	Tempo       int
	Minutes     string
}

// Sent is what has arrived.
type Sent struct {
	ID    string        `json:"id"`
	Card  string        `json:"card"` // its key
	Says  string        `json:"says"`
	At    int64         `json:"at"` // milliseconds, by the server's clock
	Went  practice.Went `json:"went"`
	Tempo int           `json:"tempo"`
	Word  practice.Word `json:"word"`
}

// Load is the week of whose phone it is.
func (t *Room) Load(ctx context.Context, of store.Phone, now time.Time) (d Today, err error) {
	c, err := t.People.Class(ctx, of.Teacher, of.Class)
	if err != nil {
		return d, err
	}
	week, err := t.Lesson.LoadStudentWeek(ctx, of.Teacher, c, of.Student, now)
	if err != nil {
		return d, err
	}
	came, err := t.Home.Week(ctx, of.Teacher, c, of.Student, now)
	if err != nil {
		return d, err
	}
	if d.Day, err = t.dayOf(ctx, of, now); err != nil {
		return d, err
	}
	d.Class, d.Minutes, d.Cautions, d.Care, d.Made = week.Class.Name, week.Week.Minutes, week.Week.Cautions, people.Care, now
	d.Sent = []Sent{}
	made := map[string]int{}
	for _, days := range week.Days {
		day := Day{From: days.From, To: days.To, Turns: []Turn{}}
		for _, task := range days.Tasks {
			card, err := t.card(ctx, of, week, task, now)
			if err != nil {
				return d, err
			}
			if _, there := made[card.Key]; !there {
				made[card.Key] = len(d.Cards)
				d.Cards = append(d.Cards, card)
			}
			tried := came[of.Student].Tries(card.Ladder, func(e store.HomeEntry) bool { return e.Step == card.Step }, ladders.DayOf)
			day.Turns = append(day.Turns, Turn{card.Key, task.Minutes, practice.HomeTempo(task.Tempo, tried), saysOf(task)})
		}
		d.Days = append(d.Days, day)
	}
	for _, e := range came[of.Student].Entries {
		d.Sent = append(d.Sent, Sent{e.ClientID, keyOf(plan.TaskKind(e.Card), e.LadderID, e.Step, e.DrillID), d.title(made, e), e.At.UnixMilli(), e.Went, e.Tempo, e.Word})
	}
	d.order(now)
	return d, nil
}

// order puts the cards of today first, in their order, and opens the first that is not done yet: the page shows the day before
// any script has run.
func (d *Today) order(now time.Time) {
	done := map[string]bool{}
	for _, s := range d.Sent {
		if s.Went != "" && ladders.DayOf(time.UnixMilli(s.At)) == ladders.DayOf(now) {
			done[s.Card] = true
		}
	}
	at := slices.IndexFunc(d.Days, func(day Day) bool { return day.From <= d.Day && d.Day <= day.To })
	if at < 0 {
		return
	}
	opened := false
	for i, turn := range d.Days[at].Turns {
		k := slices.IndexFunc(d.Cards, func(c Card) bool { return c.Key == turn.Card })
		c := &d.Cards[k]
		c.Today, c.Number, c.Open = &turn, i+1, !opened && !done[turn.Card]
		opened = opened || c.Open
	}
	slices.SortStableFunc(d.Cards, func(a, b Card) int {
		switch {
		case (a.Today == nil) != (b.Today == nil):
			if a.Today == nil {
				return 1
			}
			return -1
		}
		return a.Number - b.Number
	})
}

// Total is the minutes of today.
func (d Today) Total() (n int) {
	for _, c := range d.Cards {
		if c.Today != nil {
			n += c.Today.Minutes
		}
	}
	return n
}

// dayOf is the day of the week's plan: the day after the lesson is the first.
func (t *Room) dayOf(ctx context.Context, of store.Phone, now time.Time) (int, error) {
	lessons, err := t.Store.Lessons(ctx, of.Teacher, of.Class, 2, now)
	if err != nil {
		return 0, err
	}
	for _, l := range lessons {
		if !l.Ended.IsZero() {
			since := ladders.DayOf(now) - ladders.DayOf(l.Ended)
			return 1 + max(0, since-1)%7, nil
		}
	}
	return 1 + (int(now.Weekday())+6)%7, nil // no lesson yet: the week begins on Monday
}

func (d Today) title(made map[string]int, e store.HomeEntry) string {
	if i, there := made[keyOf(plan.TaskKind(e.Card), e.LadderID, e.Step, e.DrillID)]; there {
		return d.Cards[i].Title
	}
	if e.Card == "" {
		return ""
	}
	return "something from last week"
}

func keyOf(kind plan.TaskKind, on ref.Ladder, step ladder.StepID, drill ref.Drill) string {
	return fmt.Sprintf("%s-%d-%d-%d", kind, on, step, drill)
}

// saysOf is what is said of a task besides its name.
func saysOf(task lesson.WeekTask) string {
	switch {
	case task.Kind == plan.TaskWarmUp, task.Kind == plan.TaskDrill: // the card says it
		return ""
	case task.Repeats == 1:
		return "once through"
	case task.Repeats > 1:
		return fmt.Sprintf("%d times through", task.Repeats)
	}
	return task.Why
}

// card makes a task's card.
func (t *Room) card(ctx context.Context, of store.Phone, w lesson.StudentWeek, task lesson.WeekTask, now time.Time) (Card, error) {
	card := Card{Kind: task.Kind, Title: task.Does, Drill: task.Drill}
	l, plays := w.LadderOf(task)
	switch {
	case task.Kind == plan.TaskWarmUp:
		card.Title, card.Says = "Hands first", "slow, soft strokes on open strings"
	case card.Drill != 0:
		d, err := t.Ladders.WeekDrill(ctx, of.Teacher, w.Class, card.Drill, now)
		if err != nil {
			return card, err
		}
		card.draw(d)
	case plays:
		t.step(&card, l, task, of.Student)
	}
	card.Key = keyOf(card.Kind, card.Ladder, card.Step, card.Drill)
	return card, nil
}

// step fills in the card of a step, or of the song with it.
func (t *Room) step(card *Card, l ladders.Ladder, task lesson.WeekTask, student ref.Student) {
	step := l.Steps[task.Step]
	card.Ladder, card.Step, card.Beat = l.ID, step.ID, l.Song.Meter.BeatName()
	tempos := step.Tempos(l.Song.Tempo)
	card.Slow, card.Goal = tempos.Slow, tempos.Goal
	card.Score = fmt.Sprintf("score/%d/%d", l.ID, step.ID)
	sheet := t.Paper.SheetOf(l, paper.Ask{Step: step.ID, Student: student}, nil)
	card.Of = fmt.Sprintf("%s, step %d", l.SongTitle, task.Step+1)
	card.Title = letters.Capital(sheet.Step.Name)
	if task.Kind == plan.TaskSong {
		card.Title, card.Of, card.Says = l.SongTitle, "", "from beginning to end, then sing over it"
		if step.BeforeStrings() {
			card.Says = "from beginning to end, singing"
		}
		return
	}
	card.Says = sheet.How
	switch {
	case len(sheet.Tune) > 0 && len(sheet.Tune[0].Bars) > 0: // a step of a tune shows its first bar; the song card plays all of it
		card.Strip = sheet.Tune[0].Bars[0].Strip
	case step.Play != difficulty.OnStrings:
		card.Strip = sheet.Lane
	case len(sheet.Chords) > 0:
		card.Chord, card.Strip = sheet.Chords[0].Symbol, sheet.Chords[0].Strip
		card.Shapes = sheet.Chords
	}
	if len(sheet.Tune) == 0 {
		card.Figure, card.Strums = step.Pattern.String(), strums(step.Pattern)
	}
}

// strums reports a figure of nothing but strums.
func strums(p pattern.Pattern) bool {
	return !p.Uses(pattern.Thumb) && (p.Uses(pattern.Down) || p.Uses(pattern.Up))
}

// draw fills in the card of a drill.
func (card *Card) draw(d ladders.Drill) {
	what := "bar"
	if d.Kind == ladders.ChangeDrill {
		what = "the change into bar"
	}
	card.Title, card.Of = fmt.Sprintf("Drill: %s %d", what, d.Bar), d.Song.Title
	card.Beat = d.Song.Meter.BeatName()
	for i, e := range d.Exercises {
		card.List = append(card.List, Piece{e.Title, e.Over, e.Tempo, e.Minutes})
		if card.Score == "" && e.Pattern.Count() > 0 {
			card.Score = fmt.Sprintf("drill/%d?exercise=%d", card.Drill, i+1)
			t := bpm.Of(e.Tempo)
			card.Slow, card.Goal = t.Slow, e.Tempo
			if len(e.Strips) > 0 {
				card.Strip, card.Chord = e.Strips[0].SVG, e.Strips[0].Chord
			}
		}
	}
}
