package patterns

import (
	"context"
	"encoding/json"
	"slices"
	"strings"
	"time"

	"arplin/core/drill"
	"arplin/core/pattern/catalogue"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/people"
)

// KeptSeries is a series on the term of a class, as it is stored.
type KeptSeries struct {
	Begins     string       `json:"begins"` // the day on which its first week begins
	Figures    []string     `json:"figures"`
	Key        string       `json:"key"`
	Over       string       `json:"over"` // chords or degrees, a bar each
	Instrument string       `json:"instrument"`
	Colour     drill.Colour `json:"colour,omitempty"`
	Before     *KeptSeries  `json:"before,omitempty"` // what it took the place of
}

// SeriesOnTerm is the series of a class with its weeks.
type SeriesOnTerm struct {
	SeriesView
	Begins time.Time
	Week   int // of now, from 1; 0 before and after it
}

// On is the day on which a week, from 1, begins.
func (s SeriesOnTerm) On(week int) time.Time { return s.Begins.AddDate(0, 0, 7*(week-1)) }

// Now is the line of this week; nil before and after the series.
func (s *SeriesOnTerm) Now() *SeriesLine {
	if s == nil || s.Week == 0 {
		return nil
	}
	return &s.Weeks[s.Week-1]
}

// At is the name of the figure of a day; empty where there is none.
func (s *SeriesOnTerm) At(day time.Time) string {
	if s == nil {
		return ""
	}
	if week := weekOf(s.Begins, day); week >= 0 && week < len(s.Weeks) {
		return s.Weeks[week].Entry.Name
	}
	return ""
}

// weekOf counts the weeks from a day to another, from 0; -1 before it.
func weekOf(begins, day time.Time) int {
	if day.Before(begins) {
		return -1
	}
	return int(day.Sub(begins).Hours()/24) / 7
}

// SeriesOf is the series on the term of a class, nil where there is none.
func (t *Room) SeriesOf(ctx context.Context, teacher ref.Teacher, c people.Class, now time.Time) (*SeriesOnTerm, error) {
	kept, ok := readSeries(c.Series)
	if !ok {
		return nil, nil
	}
	begins, err := time.Parse(time.DateOnly, kept.Begins)
	if err != nil {
		return nil, nil // a series that cannot be read is none
	}
	if !slices.ContainsFunc(kept.Figures, known) { // of another version of the program
		return nil, nil
	}
	v, err := t.Series(ctx, teacher, c, SeriesAsk{Figures: kept.Figures, Key: kept.Key, Over: kept.Over, Instrument: kept.Instrument, Colour: kept.Colour}, now)
	if err != nil || len(v.Weeks) == 0 {
		return nil, err
	}
	s := SeriesOnTerm{SeriesView: v, Begins: begins}
	if week := weekOf(begins, people.DateOf(now)); week >= 0 && week < len(v.Weeks) {
		s.Week = week + 1
	}
	return &s, nil
}

func known(id string) bool { _, ok := catalogue.ByID(id); return ok }

// CheckSeries refuses the series of a class in a file that this program could not have kept.
func CheckSeries(text string) error {
	k, ok := readSeries(text)
	if _, err := time.Parse(time.DateOnly, k.Begins); text != "" && (!ok || err != nil || !slices.ContainsFunc(k.Figures, known) || len(k.Figures) > drill.MaxSeries) {
		return answer.Refuse("its series cannot be read")
	}
	return nil
}

func readSeries(text string) (k KeptSeries, ok bool) {
	return k, text != "" && json.Unmarshal([]byte(text), &k) == nil && len(k.Figures) > 0
}

// PutSeries puts a series on the term of a class, from today on, or from the first day of a term that
// has not begun.
func (t *Room) PutSeries(ctx context.Context, teacher ref.Teacher, c people.Class, ask SeriesAsk, now time.Time) error {
	v, err := t.Series(ctx, teacher, c, ask, now)
	if err != nil {
		return err
	}
	if v.Problem != "" || len(v.Weeks) == 0 {
		return answer.Refuse("choose the patterns and the chords of the series first")
	}
	begins := people.DateOf(now)
	term, err := t.Store.TermOf(ctx, teacher, c.ID)
	if found, err := answer.Found(err); err != nil {
		return err
	} else if found && term.Begins.After(begins) {
		begins = term.Begins
	}
	k := KeptSeries{Begins: begins.Format(time.DateOnly), Key: v.Ask.Key, Over: v.Ask.Over, Instrument: v.Ask.Instrument, Colour: v.Ask.Colour}
	for _, w := range v.Weeks {
		if !w.Coloured {
			k.Figures = append(k.Figures, w.Entry.ID)
		}
	}
	if first := v.Weeks[0]; k.Over == "" { // the easiest stays what it is now
		if k.Over = first.Degrees; k.Over == "" {
			k.Over = strings.Join(first.Chords, " ")
		}
	}
	if before, had := readSeries(c.Series); had {
		before.Before = nil
		k.Before = &before
	}
	text, err := json.Marshal(k)
	if err != nil {
		return err
	}
	return t.Store.SetSeries(ctx, teacher, c.ID, string(text))
}

// DropSeries takes the series off the term; back puts the one before it in its place, and had says
// whether there was one.
func (t *Room) DropSeries(ctx context.Context, teacher ref.Teacher, c people.Class, back bool) (had bool, err error) {
	text := ""
	if k, ok := readSeries(c.Series); ok && back && k.Before != nil {
		before, err := json.Marshal(k.Before)
		if err != nil {
			return false, err
		}
		text, had = string(before), true
	}
	return had, t.Store.SetSeries(ctx, teacher, c.ID, text)
}
