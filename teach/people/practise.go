package people

import (
	"fmt"
	"slices"

	"arplin/core/difficulty"
	"arplin/core/ladder"
)

// What is said about practising and care, where practice is planned and on every
// sheet. Source: common practice; no medical advice.

// HowTo is the order in which a figure is practised.
var HowTo = []string{
	"Pluck each string of a new shape alone: a dead note shows at once.",
	"One chord only, counting aloud, without a metronome, until it goes by itself.",
	"Two chords, two bars each; then one bar each. The rhythm goes on through the change.",
	"The song at the slow tempo. Three times clean, and the next tempo is yours.",
}

// HowToTune is the order in which a station of a tune is practised.
var HowToTune = []string{
	"Sing the line before you play it.",
	"What is new by itself, in one bar, until it goes without looking.",
	"Line by line, without a metronome; then from line to line.",
	"The song at the slow tempo. Three times clean, and the next tempo is yours.",
}

// oneChordOnly ends the order of work for a step on one chord.
const oneChordOnly = "Then under the song: where another chord is sung, rest or play the root on one."

// beforeStrings is the order of work before the strings, by way of playing.
var beforeStrings = map[difficulty.Play][]string{
	difficulty.Swings: {
		"One bar, slowly, standing: down on the beat, up after it; the hand does not stop.",
		"Four bars without a stop, the count aloud; then “now” where a strum falls.",
		"Somebody sings the song; the hand goes on under it.",
	},
	difficulty.Said: {
		"One bar, slowly, on the spot: the feet have the beat.",
		"Four bars without a stop. Then softer and softer, until only the strokes are heard.",
		"Somebody sings the song; the count goes on under it.",
	},
	difficulty.Tapped: {
		"One hand alone, then the other, then both; the count goes on aloud.",
		"Four bars without a stop, then with the count in the head.",
		"Somebody sings the song; the tapping goes on under it.",
	},
	difficulty.Muted: {
		"One bar, counting aloud, without a metronome, until it goes by itself.",
		"Two bars, four bars; then with the foot instead of the count.",
		"Somebody sings the song; the hand goes on under it.",
	},
}

// Care is shown wherever practice is planned.
var Care = []string{
	"Warm up first: a few slow, soft minutes.",
	"Sit and hold the instrument without tension; shoulders low, wrist easy.",
	"Short sets with breaks. Raise the daily time slowly.",
	"Stop at pain, tingling or numbness. If it stays, see a doctor or a physiotherapist.",
}

// Practise is the order of work on a step, from the first minute to the last.
func Practise(s ladder.Step) []string {
	if list, ok := beforeStrings[s.Play]; ok {
		return list
	}
	if s.Station != "" {
		return HowToTune
	}
	switch s.Over {
	case ladder.OneChord:
		return append(slices.Clone(HowTo[:2]), oneChordOnly)
	case ladder.TwoChords, ladder.TwoChordsABar:
		return HowTo[:3]
	case ladder.AllChords, "":
		return HowTo
	}
	return append(slices.Clone(HowTo[:3]), oneChordOnly) // some chords
}

// ReadyWhen says when a step is safe, by its goal in tapped beats a minute.
func ReadyWhen(s ladder.Step, goal int) string {
	switch s.Play {
	case difficulty.Swings:
		return fmt.Sprintf("four bars at %d in which the hand does not stop", goal)
	case difficulty.Said:
		return fmt.Sprintf("four bars without a slip at %d, then without the metronome", goal)
	case difficulty.Tapped:
		return fmt.Sprintf("four bars in time at %d while the count goes on aloud", goal)
	}
	return fmt.Sprintf("three times clean at %d, counting aloud", goal)
}

// FallBack names the step to go back to when one falls apart.
func FallBack(steps []ladder.Step, i int, t difficulty.Task) string {
	switch {
	case i == 0 && (steps[0].Play == difficulty.Said || steps[0].Play == difficulty.Swings):
		return "count the beats alone and walk on them"
	case i == 0:
		return "say the count and tap it, then one stroke again"
	}
	return fmt.Sprintf("step %d, %s", i, ladder.Describe(steps, i-1, t).Name)
}

// Why says why a step stands where it does: how much harder it is than the one
// below and what makes it so.
func Why(steps []ladder.Step, i int, here, below difficulty.Reading) string {
	if i == 0 {
		return fmt.Sprintf("At %.1f the easiest step that is still in the song's time.", here.Level)
	}
	s, under := steps[i], steps[i-1]
	old := func(difficulty.PartID) bool { return false } // what cannot be what is new
	switch {
	case s.Station != "":
	case s.Over == under.Over: // strokes or tempo: the chords are those of before
		old = func(id difficulty.PartID) bool { return id == "shape" || id == "change" && s.Pace == under.Pace }
	case s.Pattern.Equal(under.Pattern): // chords: the strokes are
		old = func(id difficulty.PartID) bool { return id != "shape" && id != "change" && id != "figure" }
	}
	most := risen(here, below, func(id difficulty.PartID) bool { return old(id) || id == "rate" || id == "repeat" })
	if most < 0 || here.Parts[most].Share-below.Parts[most].Share < tellable {
		most = risen(here, below, old)
	}
	switch {
	case most >= 0 && here.Level > below.Level:
		return fmt.Sprintf("From %.1f to %.1f; what it asks for now is %s: %s.", below.Level, here.Level, here.Parts[most].Label, here.Parts[most].Says)
	case s.Goal(100) < under.Goal(100):
		return fmt.Sprintf("At %.1f, after %.1f: the chords are new, so it’s slower than the step below.", here.Level, below.Level)
	case here.Level > below.Level:
		return fmt.Sprintf("From %.1f to %.1f.", below.Level, here.Level)
	}
	return fmt.Sprintf("At %.1f no harder than the step below, %.1f; it comes here in the order in which the figure grows.", here.Level, below.Level)
}

// tellable is how much a part must rise, in levels, to be named before the speed: that
// there are more strokes a second is no news where what is new is where they fall.
const tellable = 0.04

// risen is the part that has risen most, but for those that are left out; -1 where none
// has.
func risen(here, below difficulty.Reading, leave func(difficulty.PartID) bool) int {
	most, rise := -1, 0.0
	for k, p := range here.Parts {
		if r := p.Share - below.Parts[k].Share; r > rise && !leave(p.ID) {
			most, rise = k, r
		}
	}
	return most
}
