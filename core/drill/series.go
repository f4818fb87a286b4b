package drill

import (
	"fmt"
	"slices"
	"strings"

	"arplin/core/bind"
	"arplin/core/bpm"
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
	Tempos   bpm.Tempos
	Level    float64
}

// Colour is how the last week of a series is coloured.
type Colour string

// The colours: the sevenths that the key's own chords take, all of them dominant, as in a blues, or
// none.
const (
	OwnSevenths Colour = ""
	Dominant    Colour = "dominant"
	Plain       Colour = "plain"
)

// NamedColour is a colour with its name.
type NamedColour struct {
	ID   Colour
	Name string
}

// Colours are the choices with their names, the usual first.
var Colours = []NamedColour{{OwnSevenths, "the key’s own sevenths"}, {Dominant, "all dominant sevenths"}, {Plain, "no coloured week"}}

// ParseColour reads a choice of them; what is none is the usual.
func ParseColour(text string) Colour {
	for _, c := range Colours {
		if string(c.ID) == text {
			return c.ID
		}
	}
	return OwnSevenths
}

// Learners are who a series is for.
type Learners struct {
	Instrument fretboard.Instrument
	School     bind.School
	Weights    difficulty.Weights
}

// Over is what a series is played over: chords, a bar each, with what they are called.
type Over struct {
	Chords []string
	Says   string
}

// OverEasiest is the easiest practice progression of a key on an instrument.
func OverEasiest(key theory.Key, ins fretboard.Instrument) Over {
	degrees := easiestIn(key, ins, nil)
	if degrees == "" { // an instrument without shapes for any: the figure is shown all the same
		degrees = majorProgressions[0]
	}
	return Over{inKey(key, degrees), degrees}
}

// Progressions are the practice progressions of a key, by degree.
func Progressions(key theory.Key) []string {
	if key.Minor {
		return minorProgressions
	}
	return majorProgressions
}

// ParseOver reads what a teacher writes: degrees of the key ("I vi IV V7") or chords ("G | Em | C | D"),
// a bar each.
func ParseOver(text string, key theory.Key) (Over, error) {
	words := strings.FieldsFunc(text, func(r rune) bool { return r == ' ' || r == '|' || r == ',' })
	if len(words) == 0 || len(words) > maxOver {
		return Over{}, fmt.Errorf("write 1 to %d chords, such as G Em C D7, or degrees, such as I vi IV V7", maxOver)
	}
	degrees, chords := true, true
	for _, w := range words {
		degrees = degrees && isDegree(w)
		_, err := theory.ParseChord(w)
		chords = chords && err == nil
	}
	switch {
	case degrees:
		return Over{inKey(key, strings.Join(words, " ")), strings.Join(words, " ")}, nil
	case chords:
		return Over{words, ""}, nil
	}
	for _, w := range words {
		if _, err := theory.ParseChord(w); err != nil && !isDegree(w) {
			return Over{}, fmt.Errorf("“%s” is neither a chord nor a degree such as vi", w)
		}
	}
	return Over{}, fmt.Errorf("write chords or degrees, not both in one line")
}

// maxOver is how many bars a progression has at most: a twelve-bar form, and some.
const maxOver = 16

// isDegree reports a numeral, with a seventh or without.
func isDegree(w string) bool {
	return slices.Contains(numerals, strings.ToUpper(strings.TrimSuffix(w, "7"))) && (strings.ToUpper(w) == w || strings.ToLower(w) == w)
}

// Chain is one figure a week up to a figure of the catalogue, as the catalogue says what comes before
// what. A figure with few before it has fewer.
func Chain(to catalogue.Entry, weeks int) []catalogue.Entry {
	chain := []catalogue.Entry{to}
	for len(chain) < min(MaxSeries, max(MinSeries, weeks))-1 {
		before, ok := beforeIt(chain[0])
		if !ok {
			break
		}
		chain = slices.Insert(chain, 0, before)
	}
	return chain
}

// Series is a figure a week, in the order that is given, over a progression; in the last week the last
// figure comes again over coloured chords, unless none are wanted.
func Series(figures []catalogue.Entry, key theory.Key, over Over, colour Colour, l Learners) []SeriesWeek {
	var list []SeriesWeek
	for _, e := range figures {
		list = append(list, l.week(e, over, false))
	}
	if colour != Plain && len(figures) > 0 {
		list = append(list, l.week(figures[len(figures)-1], over.coloured(key, colour), true))
	}
	return list
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

func (l Learners) week(e catalogue.Entry, over Over, coloured bool) SeriesWeek {
	w := SeriesWeek{Entry: e, Chords: over.Chords, Degrees: over.Says, Coloured: coloured, Tempos: bpm.Of(easeInto(e))}
	sg := song.Song{Meter: e.Pattern.Meter, Tempo: w.Tempos.Goal}
	if bars, err := song.ParseChords(joined(w.Chords), e.Pattern.Meter); err == nil {
		sg.Sections = []song.Section{{Name: "Series", Bars: bars}}
		w.Level = difficulty.LevelOf(difficulty.NewTask(e.Pattern, sg, l.Instrument, l.School, w.Tempos.Goal), l.Weights)
	}
	return w
}

// coloured is a progression with a seventh on each triad: the one that the key's chord takes, a chord
// that is not the key's its dominant one; or all dominant.
func (o Over) coloured(key theory.Key, colour Colour) Over {
	out := Over{Says: "in sevenths"}
	if o.Says != "" {
		out.Says = o.Says + ", in sevenths"
	}
	for _, symbol := range o.Chords {
		c, err := theory.ParseChord(symbol)
		if err == nil {
			seventh, own := key.Colour(c)
			switch {
			case c.Bass != c.Root: // what the bass does is what the chord is for
			case colour == OwnSevenths && own:
				symbol = seventh.String()
			case c.Triad() && !c.Minor():
				symbol += "7"
			case c.Triad() && colour == OwnSevenths:
				symbol += "7" // a minor seventh
			case c.Triad():
				symbol = strings.TrimSuffix(symbol, "m") + "7"
			}
		}
		out.Chords = append(out.Chords, symbol)
	}
	return out
}
