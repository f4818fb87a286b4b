package patterns

import (
	"context"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"arplin/core/drill"
	"arplin/core/fretboard"
	"arplin/core/ladder/fit"
	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
	"arplin/core/song"
	"arplin/core/theory"
	"arplin/draw"
	"arplin/letters"
	"arplin/store/ref"
	"arplin/teach/people"
)

// SeriesAsk is what a series is wanted for; what is none is the usual.
type SeriesAsk struct {
	Pattern    string   // up to which it is proposed
	Figures    []string // of the teacher's own choice, by id, in order; none where it is proposed
	Key        string
	Over       string // chords or degrees; empty for the easiest practice progression
	Instrument string
	Colour     drill.Colour
	Weeks      int
}

// SeriesView is a series with the figures that can be in it.
type SeriesView struct {
	Ask          SeriesAsk
	Instrument   string
	Weeks        []SeriesLine
	Patterns     []catalogue.Entry
	Keys         []string
	Instruments  []fretboard.Instrument
	Progressions []string
	Colours      []drill.NamedColour
	Begins       string // why a proposal begins where it does
	Problem      string // with what was typed; what was typed is kept
	Max          int
}

// SeriesLine is a week of it.
type SeriesLine struct {
	drill.SeriesWeek
	Number     int
	Lane       draw.SVG
	instrument string
}

// Hear is the address of the week's figure over its progression.
func (l SeriesLine) Hear() string {
	return "/bench/score?" + url.Values{"notation": {l.Entry.Notation}, "over": {strings.Join(l.Chords, " | ")}, "instrument": {l.instrument}}.Encode()
}

// seriesKey is the key of a series until another is chosen.
const seriesKey = "C"

// Own reports a series of the teacher's own figures.
func (v SeriesView) Own() bool { return len(v.Ask.Figures) > 0 }

// OwnAt is the address of the form in which a teacher chooses the figures; it is asked for when it is
// opened.
func (v SeriesView) OwnAt() string {
	return "/term/series?" + url.Values{
		"pattern": {v.Ask.Pattern}, "weeks": {strconv.Itoa(v.Ask.Weeks)}, "key": {v.Ask.Key}, "over": {v.Ask.Over}, "instrument": {v.Ask.Instrument}, "colour": {string(v.Ask.Colour)},
	}.Encode()
}

// Series makes a series for a class, in its schools.
func (t *Room) Series(ctx context.Context, teacher ref.Teacher, c people.Class, ask SeriesAsk, now time.Time) (SeriesView, error) {
	v := SeriesView{Ask: ask, Patterns: catalogue.All, Keys: []string{"C", "G", "D", "A", "E", "F", "Bb", "Eb", "Am", "Em", "Dm", "Bm"}, Max: drill.MaxSeries, Colours: drill.Colours}
	key, err := theory.ParseKey(ask.Key)
	if err != nil || !slices.Contains(v.Keys, key.Symbol()) {
		key, _ = theory.ParseKey(seriesKey)
	}
	if ask.Weeks < drill.MinSeries || ask.Weeks > drill.MaxSeries {
		v.Ask.Weeks = drill.UsualSeries
	}
	ins := c.Instrument(ask.Instrument)
	v.Ask.Key, v.Ask.Instrument, v.Instrument, v.Instruments, v.Progressions = key.Symbol(), ins.ID, ins.Name, c.Instruments(), drill.Progressions(key)
	l := drill.Learners{Instrument: ins, School: c.School(), Weights: c.Weigh()}
	over := drill.OverEasiest(key, ins)
	if v.Ask.Over = strings.TrimSpace(ask.Over); v.Ask.Over != "" {
		if chosen, err := drill.ParseOver(v.Ask.Over, key); err == nil {
			over = chosen
		} else {
			v.Problem = letters.Capital(err.Error())
		}
	}
	figures, err := t.seriesOf(ctx, teacher, c, &v, over, key, l, now)
	if err != nil {
		return v, err
	}
	for i, w := range drill.Series(figures, key, over, v.Ask.Colour, l) {
		var fresh map[pattern.Place]bool
		if i > 0 && !w.Coloured && w.Entry.Pattern.Meter == v.Weeks[i-1].Entry.Pattern.Meter {
			fresh = pattern.New(w.Entry.Pattern, v.Weeks[i-1].Entry.Pattern)
		}
		v.Weeks = append(v.Weeks, SeriesLine{w, i + 1, draw.Lane(w.Entry.Pattern, fresh, w.Entry.Pattern.Aloud()), ins.ID})
	}
	return v, nil
}

// seriesOf are the figures of a series: the teacher's own, or a chain up to the one that is chosen, or up
// to one that begins where the class stands.
func (t *Room) seriesOf(ctx context.Context, teacher ref.Teacher, c people.Class, v *SeriesView, over drill.Over, key theory.Key, l drill.Learners, now time.Time) ([]catalogue.Entry, error) {
	var own []catalogue.Entry
	for _, id := range v.Ask.Figures {
		if e, ok := catalogue.ByID(id); ok && len(own) < drill.MaxSeries {
			own = append(own, e)
		}
	}
	v.Ask.Figures = nil
	for _, e := range own {
		v.Ask.Figures = append(v.Ask.Figures, e.ID)
	}
	if len(own) > 0 {
		return own, nil
	}
	if e, ok := catalogue.ByID(v.Ask.Pattern); ok {
		return drill.Chain(e, v.Ask.Weeks), nil
	}
	class, err := t.Learners(ctx, teacher, c, song.Song{Meter: pattern.Meter{Beats: 4, Unit: 4}, Tempo: 80}, now)
	if err != nil {
		return nil, err
	}
	level, heard := middle(class.Heard)
	v.Begins = "It starts from the beginning, as nothing is logged for this class yet."
	if heard {
		v.Begins = "It starts around the middle of the class."
	}
	var chain []catalogue.Entry
	for _, id := range seriesGoals {
		e, ok := catalogue.ByID(id)
		if !ok {
			continue
		}
		chain = drill.Chain(e, v.Ask.Weeks)
		v.Ask.Pattern = id
		if weeks := drill.Series(chain[:1], key, over, drill.Plain, l); weeks[0].Level >= level-nearby {
			break
		}
	}
	return chain, nil
}

// seriesGoals are the figures up to which a series is proposed, from the first: each begins further on.
// Source: common practice, the sequence of the alternating thumb.
var seriesGoals = []string{"thumb-pinch-two", "thumb-one-between", "thumb-two-between", "thumb-filled", "thumb-two-bars", "thumb-rising-two-bars"}

// nearby is by how much below what the class plays a series may begin, in levels: it is revised first.
// From memory.
const nearby = 0.5

// middle is the level of the middle one of those who were heard.
func middle(list []fit.Heard) (level float64, heard bool) {
	var levels []float64
	for _, h := range list {
		if h.Level > 0 {
			levels = append(levels, h.Level)
		}
	}
	if len(levels) == 0 {
		return 0, false
	}
	slices.Sort(levels)
	return levels[len(levels)/2], true
}
