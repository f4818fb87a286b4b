package drill

import (
	"fmt"
	"slices"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/pattern/catalogue"
	"arplin/core/song"
	"arplin/core/theory"
)

// Weeks of a series. Source: common practice; five are usual.
const (
	MinSeries   = 2
	MaxSeries   = 12
	UsualSeries = 5
)

// SeriesWeek is a week of a series: a figure over a practice progression, slow, medium and
// up to tempo.
type SeriesWeek struct {
	Entry    catalogue.Entry
	Chords   []string // a bar each
	Degrees  string
	Coloured bool // the last week: the same figure over coloured chords
	Tempos   song.Tempos
	Level    float64
}

// Learners are who a series is for.
type Learners struct {
	Instrument fretboard.Instrument
	School     bind.School
	Weights    difficulty.Weights
}

// Series is one figure a week up to a figure of the catalogue, as the catalogue says what
// comes before what, over the easiest practice progression of a key; in the last week the
// last figure comes again over coloured chords. A figure with few before it has fewer
// weeks.
func Series(to catalogue.Entry, key theory.Key, l Learners, weeks int) []SeriesWeek {
	chain := []catalogue.Entry{to}
	for len(chain) < min(MaxSeries, max(MinSeries, weeks))-1 {
		before, ok := beforeIt(chain[0])
		if !ok {
			break
		}
		chain = slices.Insert(chain, 0, before)
	}
	degrees := easiestIn(key, l.Instrument, nil)
	if degrees == "" { // an instrument without shapes for any: the figure is shown all the same
		degrees = majorProgressions[0]
	}
	var list []SeriesWeek
	for _, e := range chain {
		list = append(list, l.week(e, key, degrees, false))
	}
	return append(list, l.week(to, key, degrees, true))
}

// beforeIt is the figure that is learned before another, in the same meter.
func beforeIt(e catalogue.Entry) (catalogue.Entry, bool) {
	for _, id := range e.After {
		i := slices.IndexFunc(catalogue.All, func(o catalogue.Entry) bool { return o.ID == id && o.Pattern.Meter == e.Pattern.Meter })
		if i >= 0 {
			return catalogue.All[i], true
		}
	}
	return catalogue.Entry{}, false
}

// easeInto is how far from the slowest to the fastest tempo of a figure a series aims: the
// middle. From memory.
func easeInto(e catalogue.Entry) int { return (e.Tempo[0] + e.Tempo[1]) / 2 }

func (l Learners) week(e catalogue.Entry, key theory.Key, degrees string, coloured bool) SeriesWeek {
	w := SeriesWeek{Entry: e, Chords: inKey(key, degrees), Degrees: degrees, Coloured: coloured, Tempos: song.TemposFor(easeInto(e))}
	if coloured {
		w.Chords, w.Degrees = colour(key, degrees)
	}
	sg := song.Song{Meter: e.Pattern.Meter, Tempo: w.Tempos.Goal}
	if bars, err := song.ParseChords(joined(w.Chords), e.Pattern.Meter); err == nil {
		sg.Sections = []song.Section{{Name: "Series", Bars: bars}}
		w.Level = difficulty.LevelOf(difficulty.NewTask(e.Pattern, sg, l.Instrument, l.School, w.Tempos.Goal), l.Weights)
	}
	return w
}

// colours are how a degree is coloured: I and IV as major sevenths, ii, iii and vi as
// minor sevenths, V as a dominant seventh. Source: common practice.
var colours = map[string]string{
	"I": "maj7", "IV": "maj7", "ii": "7", "iii": "7", "vi": "7", "V": "7", "V7": "7", "I7": "7", "IV7": "7",
	"i": "7", "iv": "7", "VI": "maj7", "III": "maj7", "VII": "7",
}

// colour writes degrees as coloured chords.
func colour(key theory.Key, degrees string) (chords []string, says string) {
	plain := inKey(key, degrees)
	for i, d := range fields(degrees) {
		chord := plain[i]
		if c := colours[d]; c != "" && d[len(d)-1] != '7' {
			chord += c
		}
		chords = append(chords, chord)
	}
	return chords, fmt.Sprintf("%s, in sevenths", degrees)
}
