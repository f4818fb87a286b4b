package practice

import "arplin/core/say"

// Words are what is said of a decision, of the tempo to try next, and of a fault.
var Words = say.Words{
	"next/slow-first":   "nothing was heard yet: slow first",
	"next/tense":        "tension was noted: a tenth slower, and short",
	"next/failed-again": "not clean %s times in a row: a tenth slower",
	"next/failed-once":  "not clean once: the same again, slowly begun",
	"next/rusty":        "not played for long: where it is likely clean still",
	"next/another-day":  "clean at the goal: again, on another day",
	"next/faster":       "clean at %s: a little faster",

	"move-on":       "%s times clean at %s or more, on %s days",
	"jump":          "clean at %s, far above the goal of %s",
	"ease/fault":    "%s %s times",
	"ease/failed":   "not clean %s times in a row, on %s days",
	"drill/bar":     "%s %s times, at bar %s",
	"stay/tense":    "tension was noted the last time: no faster and no further until the hand is easy",
	"stay/new":      "nothing was heard on this step yet",
	"stay/failed":   "not clean at %s the last time",
	"stay/bar":      "not clean at %s the last time: bar %s",
	"stay/fault":    "not clean at %s the last time: %s",
	"stay/fault-at": "not clean at %s the last time: %s, bar %s",
	"stay/rusty":    "not played for %s days; hear it again first",
	"stay/clean":    "clean at the goal %s so far; ready after %s times on %s days",
	"stay/learning": "clean at %s, the goal is %s",
	"stay/by-you":   "you decided to stay; it is proposed again when more is heard",
	"by-you":        "by you",
}.With(faultWords())

// said is the fault as a line has it.
func (f Fault) said() say.Line { return say.Of(say.ID("fault/" + f)) }

func faultWords() say.Words {
	words := say.Words{}
	for _, line := range Faults {
		words[line.Fault.said().ID] = line.Name
	}
	return words
}
