package variation

import (
	"slices"

	"arplin/core/difficulty"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/song/edit"
)

// Rules that change the meter or the feel, for a whole class at once. Source: common practice.
var (
	swungRule = Rule{ID: "swung",
		more: one(swung),
		More: Words{"straight or swung", "Straight notes become swung, swung notes straight.", ""},
	}
	fourthBeat = Rule{ID: "a-fourth-beat",
		less: one(lastBeatOut), more: one(lastBeatAgain),
		More: Words{"four beats to a bar", "The last beat comes twice.", ""},
		Less: Words{"three beats to a bar", "The last beat is left out.", ""},
	}
	sixToABar = Rule{ID: "six-to-a-bar",
		less: one(sixToThree), more: one(threeToSix),
		More: Words{"counted in six", "Two beats of three instead of three of two.", ""},
		Less: Words{"counted in three", "Three beats of two instead of two of three.", ""},
	}
	twelveToABar = Rule{ID: "twelve-to-a-bar",
		less: one(twelveToTriplets), more: one(tripletsToTwelve),
		More: Words{"counted in twelve", "The triplets are counted as twelve to a bar.", ""},
		Less: Words{"counted in four with triplets", "The twelve eighths are counted in four with triplets.", ""},
	}
)

// Siblings of a figure in another meter; a whole class changes over at once.

var (
	threeFour = pattern.Meter{Beats: 3, Unit: 4}
	fourFour  = pattern.Meter{Beats: 4, Unit: 4}
	sixEight  = pattern.Meter{Beats: 6, Unit: 8}
	twelve    = pattern.Meter{Beats: 12, Unit: 8}
)

// remetered writes every bar of a figure in another meter.
func remetered(from, to pattern.Meter, fits func(pattern.Pattern) bool, bar func(pattern.Bar) pattern.Bar) func(pattern.Pattern) (pattern.Pattern, bool) {
	return func(p pattern.Pattern) (pattern.Pattern, bool) {
		if p.Meter != from || !fits(p) {
			return p, false
		}
		q := pattern.Pattern{Meter: to, Swing: p.Swing}
		for _, slots := range p.Bars {
			q.Bars = append(q.Bars, bar(slots))
		}
		return q.Clone(), true
	}
}

func same(bar pattern.Bar) pattern.Bar { return bar }

func always(pattern.Pattern) bool { return true }

func inTriplets(p pattern.Pattern) bool { return p.SlotsPerBeat() == 3 }

// sixPlucked: six slots without strums, whose hand would turn otherwise.
func sixPlucked(p pattern.Pattern) bool { return p.Grid() == 6 && !p.HasStrums() && !p.Swing }

var (
	lastBeatOut      = remetered(fourFour, threeFour, always, func(bar pattern.Bar) pattern.Bar { return bar[:len(bar)/4*3] })
	lastBeatAgain    = remetered(threeFour, fourFour, always, func(bar pattern.Bar) pattern.Bar { return slices.Concat(bar, bar[len(bar)/3*2:]) })
	threeToSix       = remetered(threeFour, sixEight, sixPlucked, same)
	sixToThree       = remetered(sixEight, threeFour, sixPlucked, same)
	tripletsToTwelve = remetered(fourFour, twelve, inTriplets, same)
	twelveToTriplets = remetered(twelve, fourFour, inTriplets, same)
)

// With is the task with another pattern. In another meter every chord keeps its
// share of the bar, and the slots keep their pace.
func With(t difficulty.Task, q pattern.Pattern) difficulty.Task {
	if q.Meter != t.Pattern.Meter {
		bars := make([]song.Bar, len(t.Bars))
		for i, b := range t.Bars {
			b.Changes = song.Fill(b.Changes, q.Meter)
			bars[i] = b
		}
		t.Bars = bars
		t.Tempo = edit.Retempo(t.Tempo, t.Pattern.Meter, q.Meter)
	}
	t.Pattern = q
	return t
}

func swung(p pattern.Pattern) (pattern.Pattern, bool) {
	q := p.Clone()
	q.Swing = !p.Swing
	return q, !p.Meter.Compound() && p.SlotsPerBeat() == 2
}
