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
	"Pluck each string of a new shape alone, so you’ll hear dead notes at once.",
	"One chord only, counting aloud, without a metronome, until it runs by itself.",
	"Two chords, two bars each, then one bar each. Keep the rhythm going through the change.",
	"The song at the slow tempo. Clean three times? Go to the next tempo.",
}

// HowToTune is the order in which a station of a tune is practised.
var HowToTune = []string{
	"Sing the line before you play it.",
	"Play the new part on its own, in one bar, until you can do it without looking.",
	"Line by line without a metronome, then from line to line.",
	"The song at the slow tempo. Clean three times? Go to the next tempo.",
}

// oneChordOnly ends the order of work for a step on one chord.
const oneChordOnly = "Then play it with the song. Where another chord is sung, rest or play the root on 1."

// beforeStrings is the order of work before the strings, by way of playing.
var beforeStrings = map[difficulty.Play][]string{
	difficulty.Swings: {
		"One bar, slowly, standing: down on the beat, up after it. Don’t stop your hand.",
		"Four bars without stopping, counting aloud. Then say “now” where a strum comes.",
		"Someone sings the song while you keep going.",
	},
	difficulty.Said: {
		"One bar, slowly, walking on the spot to the beat.",
		"Four bars without stopping. Then softer and softer, until you only hear the notes.",
		"Someone sings the song while you keep counting.",
	},
	difficulty.Tapped: {
		"One hand alone, then the other, then both. Keep counting aloud.",
		"Four bars without stopping, then counting in your head.",
		"Someone sings the song while you keep tapping.",
	},
	difficulty.Muted: {
		"One bar, counting aloud, without a metronome, until it runs by itself.",
		"Two bars, four bars, then tap your foot instead of counting.",
		"Someone sings the song while you keep going.",
	},
}

// Care is shown wherever practice is planned.
var Care = []string{
	"Warm up first: a few slow, soft minutes.",
	"Sit and hold the instrument without tension: shoulders down, wrist relaxed.",
	"Play in short bursts with breaks. Build up slowly.",
	"Stop if you feel pain, tingling or numbness. If it doesn’t go away, see a doctor or a physiotherapist.",
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
		return fmt.Sprintf("you keep your hand moving for 4 bars at %d BPM", goal)
	case difficulty.Said:
		return fmt.Sprintf("you play 4 clean bars at %d BPM, then 4 without the metronome", goal)
	case difficulty.Tapped:
		return fmt.Sprintf("you stay in time for 4 bars at %d BPM, counting aloud", goal)
	}
	return fmt.Sprintf("you play it cleanly three times at %d BPM, counting aloud", goal)
}

// FallBack names the step to go back to when one falls apart.
func FallBack(steps []ladder.Step, i int, t difficulty.Task) string {
	switch {
	case i == 0 && (steps[0].Play == difficulty.Said || steps[0].Play == difficulty.Swings):
		return "just count the beats and walk on them"
	case i == 0:
		return "say the count and tap it, then go back to one note"
	}
	return fmt.Sprintf("go back to step %d (%s)", i, ladder.Describe(steps, i-1, t).Name)
}

// Why says why a step stands where it does: how much harder it is than the one
// below and what makes it so.
func Why(steps []ladder.Step, i int, here, below difficulty.Reading) string {
	if i == 0 {
		return fmt.Sprintf("At %.1f, the easiest step still in time with the song.", here.Level)
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
		return fmt.Sprintf("From %.1f to %.1f, mainly because of %s: %s.", below.Level, here.Level, here.Parts[most].Label, here.Parts[most].Says)
	case s.Goal(100) < under.Goal(100):
		return fmt.Sprintf("At %.1f, after %.1f: the chords are new, so it’s slower than the step below.", here.Level, below.Level)
	case here.Level > below.Level:
		return fmt.Sprintf("From %.1f to %.1f.", below.Level, here.Level)
	}
	return fmt.Sprintf("At %.1f, no harder than the step below (%.1f). It comes here because of the order you chose.", here.Level, below.Level)
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
