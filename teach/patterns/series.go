package patterns

import (
	"net/url"
	"slices"
	"strings"

	"arplin/core/drill"
	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
	"arplin/core/theory"
	"arplin/draw"
	"arplin/teach/people"
)

// SeriesAsk is what a series is wanted for; what is none is the usual.
type SeriesAsk struct {
	Pattern, Key string
	Weeks        int
}

// SeriesView is a series with the figures that can be its goal.
type SeriesView struct {
	Ask        SeriesAsk
	Instrument string
	Weeks      []SeriesLine
	Patterns   []catalogue.Entry
	Keys       []string
}

// SeriesLine is a week of it.
type SeriesLine struct {
	drill.SeriesWeek
	Number int
	Lane   draw.SVG
}

// Hear is the address of the week's figure over its progression.
func (l SeriesLine) Hear() string {
	return "/bench/score?" + url.Values{"notation": {l.Entry.Notation}, "over": {strings.Join(l.Chords, " | ")}}.Encode()
}

// seriesGoal is the figure that a series leads to until another is chosen, and its key.
const seriesGoal, seriesKey = "thumb-two-between", "C"

// Series makes a series for a class: levels are for its first instrument, in its schools.
func Series(c people.Class, ask SeriesAsk) SeriesView {
	v := SeriesView{Ask: ask, Keys: []string{"C", "G", "D", "A", "E", "F", "Am", "Em", "Dm"}}
	find := func(id string) int {
		return slices.IndexFunc(catalogue.All, func(e catalogue.Entry) bool { return e.ID == id })
	}
	at := find(ask.Pattern)
	if at < 0 {
		at = find(seriesGoal)
	}
	key, err := theory.ParseKey(ask.Key)
	if err != nil || !slices.Contains(v.Keys, key.String()) {
		key, _ = theory.ParseKey(seriesKey)
	}
	if ask.Weeks < drill.MinSeries || ask.Weeks > drill.MaxSeries {
		v.Ask.Weeks = drill.UsualSeries
	}
	v.Ask.Pattern, v.Ask.Key, v.Patterns = catalogue.All[at].ID, key.String(), catalogue.All
	ins := c.Instruments()[0]
	v.Instrument = ins.Name
	for i, w := range drill.Series(catalogue.All[at], key, drill.Learners{Instrument: ins, School: c.School(), Weights: c.Weigh()}, v.Ask.Weeks) {
		var fresh map[pattern.Place]bool
		if i > 0 && !w.Coloured {
			fresh = pattern.New(w.Entry.Pattern, v.Weeks[i-1].Entry.Pattern)
		}
		v.Weeks = append(v.Weeks, SeriesLine{w, i + 1, draw.Lane(w.Entry.Pattern, fresh, w.Entry.Pattern.String())})
	}
	return v
}
