package plan

import (
	"arplin/core/practice"
	"arplin/core/say"
)

// Words are what is said of a lesson, a week and a term: what is done, and why.
var Words = say.Words{
	"step":        "step %s, %s",
	"song-step":   "%s: %s.",
	"with-reason": "%s (%s)",
	"today":       "today",
	"yesterday":   "yesterday",
	"days-ago":    "%s days ago",
	"weeks-ago":   "%s weeks ago",

	"tune":           "Tune up, thickest string first. Say its name before plucking it.",
	"rest":           "Hands down, shoulders loose. Name the parts of the song in order, sing the song, or listen to someone on their own.",
	"warm-up/tense":  "Slow, soft notes on open strings. Shoulders down, shake your hands out.",
	"warm-up/open":   "A few slow, soft notes on open strings, thumb first.",
	"warm-up/step":   "Everyone on %s, softly, counting aloud.",
	"last-time":      "%s: %s, together.",
	"last-time/form": "Say the form and clap the count of the song.",
	"new":            "%s: %s. On one chord, counting aloud; anyone who isn’t ready plays their own step underneath.",
	"new/tapped":     "%s: %s, only said and tapped, so they know what’s coming. Then everyone plays their own step.",
	"new/again":      "%s: %s, once more: say it, tap it, then play it on one chord.",
	"new/placement":  "Five minutes of patterns from easy to hard, to find everyone’s step.",
	"groups":         "Grouped by step, on %s. Go round while the others work at their own tempo.",
	"groups/pairs":   "Pairs: one counts aloud, one plays open strings.",
	"song":           "%s from the top, everyone on their own step.",
	"song/then":      "%s from the top, everyone on their own step. If there’s time: %s.",
	"song/sing":      "Sing the song over the count.",
	"take-home":      "Sheets and week plans: the step, the starting tempo, minutes a day.",

	"why/after-rest":    "continues after the break",
	"why/tune":          "first of all, because nobody hears mistakes on an instrument that’s out of tune",
	"why/rest":          "hands need a break after %s minutes",
	"why/tense":         "tension was noted for %s, so start more softly than usual",
	"why/nobody":        "nobody is on a step yet",
	"why/all-further":   "everyone here is on step %s or higher",
	"why/not-reached":   "“%s” was not reached in the last lesson, %s",
	"why/failed":        "%s: not clean last time. At %s, for %s: %s",
	"why/rusty":         "%s: not played for three weeks or longer. At %s, for %s: %s",
	"why/heard-last":    "%s: last entry logged. At %s, for %s: %s",
	"why/nothing-heard": "nothing logged on these steps yet",
	"why/ready":         "ready for it: %s",
	"why/nobody-ready":  "nobody is ready to move up (most are on step %s: %s)",
	"why/just-come":     "nothing logged on it yet for %s",
	"why/half-can":      "%s of %s can play step %s, so the class moves on",
	"why/not-half":      "it was new last time, and %s of %s can play it",
	"why/slowest-clean": "at %s because %s was clean at %s %s; nobody is slower",
	"why/slowest":       "at %s, for %s: %s",
	"why/as-before":     "everyone stays where they are",
	"why/moved":         "a different sheet from last time: %s",
	"why/one-step":      "everyone is on the same step or next to it",
	"why/most-time":     "%s steps are in use, with most time for %s",

	"meanwhile/tense":      "%s rests the hand and counts aloud for the others.",
	"meanwhile/tense-many": "%s rest their hands and count aloud for the others.",
	"meanwhile/uneven":     "On one chord, slower, counting aloud. No chord changes until it’s even.",
	"meanwhile/drill":      "Drill bar %s with the bars before and after, until it’s clean three times.",
	"meanwhile/alone":      "Alone, counting aloud, at %s. Clean three times? Then a little faster.",
	"meanwhile/two-steps":  "One plays the easier step, another the harder one over it. Then swap.",
	"meanwhile/new":        "In pairs, on one chord: one counts aloud, one plays. Swap after 4 bars.",
	"meanwhile/pairs":      "In pairs: one plays, the other counts the clean ones. Swap after three.",

	"soon/plain":     "clean %s times at %s in one evening, and it’s an easy step",
	"soon/far-under": "clean %s times at %s in one evening, on a step far easier than their others",

	"nearly": "close: clean at %s, with %s days left for %s",

	"day/warm-up":     "Slow, soft notes on open strings.",
	"day/drill":       "The drill: %s.",
	"day/open":        "One open string a beat, counting aloud.",
	"day/song":        "%s from start to finish.",
	"why/hands-first": "hands first",
	"why/due-back":    "not played for %s days, and it was clean at %s",
	"why/on-week":     "on the week plan",
	"why/no-step":     "no step yet",
	"why/first-step":  "no step yet, so begin with the first",
	"why/in-a-song":   "to use the pattern in a song",
	"why/if-clean":    "if clean three times on the days before, otherwise as before",

	"pace/usual": "no pace yet, so the usual days with a wide range",
	"pace/rise":  "going by the tempo on this step: %s× the usual days",
	"pace/own":   "%s took %s× the usual time",
	"ease/step":  "%s may still be on step %s, which is not played with the class: give %s %s for the evening, and begin it now.",
	"ease/tempo": "At %s BPM, %s probably won’t keep up. At %s, everyone with a logged tempo can. Play it at %s, or give them an easier step.",
}.With(practice.Words, kindWords())

// said is a piece of a lesson in a sentence.
func (k Kind) said() say.Line { return say.Of(say.ID("kind/" + k)) }

func kindWords() say.Words {
	words := say.Words{}
	for _, k := range Kinds {
		words[k.Kind.said().ID] = k.Name
	}
	return words
}
