package vary

import (
	"slices"

	"arplin/core/demand"
	"arplin/core/hand"
	"arplin/core/song"
)

// Siblings of a figure in another meter; a whole class changes over at once.

var (
	threeFour = hand.Meter{Beats: 3, Unit: 4}
	fourFour  = hand.Meter{Beats: 4, Unit: 4}
	sixEight  = hand.Meter{Beats: 6, Unit: 8}
	twelve    = hand.Meter{Beats: 12, Unit: 8}
)

// remetered writes every bar of a figure in another meter.
func remetered(from, to hand.Meter, fits func(hand.Pattern) bool, bar func(hand.Bar) hand.Bar) func(hand.Pattern) (hand.Pattern, bool) {
	return func(p hand.Pattern) (hand.Pattern, bool) {
		if p.Meter != from || !fits(p) {
			return p, false
		}
		q := hand.Pattern{Meter: to, Swing: p.Swing}
		for _, slots := range p.Bars {
			q.Bars = append(q.Bars, bar(slots))
		}
		return q.Clone(), true
	}
}

func same(bar hand.Bar) hand.Bar { return bar }

func always(hand.Pattern) bool { return true }

func inTriplets(p hand.Pattern) bool { return p.SlotsPerBeat() == 3 }

// sixPlucked: six slots without strums, whose hand would turn otherwise.
func sixPlucked(p hand.Pattern) bool { return p.Grid() == 6 && !p.HasStrums() && !p.Swing }

var (
	lastBeatOut      = remetered(fourFour, threeFour, always, func(bar hand.Bar) hand.Bar { return bar[:len(bar)/4*3] })
	lastBeatAgain    = remetered(threeFour, fourFour, always, func(bar hand.Bar) hand.Bar { return slices.Concat(bar, bar[len(bar)/3*2:]) })
	threeToSix       = remetered(threeFour, sixEight, sixPlucked, same)
	sixToThree       = remetered(sixEight, threeFour, sixPlucked, same)
	tripletsToTwelve = remetered(fourFour, twelve, inTriplets, same)
	twelveToTriplets = remetered(twelve, fourFour, inTriplets, same)
)

// With is the task with another pattern. In another meter every chord keeps its
// share of the bar, and the slots keep their pace.
func With(t demand.Task, q hand.Pattern) demand.Task {
	if q.Meter != t.Pattern.Meter {
		bars := make([]song.Bar, len(t.Bars))
		for i, b := range t.Bars {
			b.Changes = song.Fill(b.Changes, q.Meter)
			bars[i] = b
		}
		t.Bars = bars
		t.Tempo = song.Retempo(t.Tempo, t.Pattern.Meter, q.Meter)
	}
	t.Pattern = q
	return t
}
