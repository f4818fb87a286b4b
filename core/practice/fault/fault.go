// Package fault has what goes wrong in a try, as a teacher hears and sees it: the two keys that log each,
// its name, and what is done about it.
package fault

import (
	"slices"

	"arplin/core/say"
)

// Fault is what failed in a try, as a teacher hears and sees it.
type Fault string

// The faults; the zero value is none, or not said.
const (
	WrongBass  Fault = "wrong-bass"
	Stopped    Fault = "stopped"
	LateChange Fault = "late-change"
	Uneven     Fault = "uneven"
	Rushed     Fault = "rushed"
	Dragging   Fault = "dragging"
	HandStops  Fault = "hand-stops"
	MissedUp   Fault = "missed-up"
	Loud       Fault = "loud"
	TooHard    Fault = "too-hard"
	Buzz       Fault = "buzz"
	Neighbour  Fault = "neighbour"
	Grabbing   Fault = "grabbing"
	LostCount  Fault = "lost-count"
	Tension    Fault = "tension"
)

// Playing is what a fault was heard in.
type Playing struct {
	Strums bool // nothing but strums and what belongs to them; else fingers or the thumb pluck
	Chords int  // 0 where that is not known
}

// Line is a fault with the two keys that say it, and what is done about it.
type Line struct {
	Fault  Fault
	Keys   string
	Name   string
	Remedy string // for what is plucked; for everything where nothing else is said
	Strum  string // for a strum
	One    string // where there is one chord and no change
}

// All lists them. Source of the remedies: common practice.
var All = []Line{
	{
		WrongBass, "wb", "wrong bass string",
		"Say the bass string before each chord. Play the changes with your thumb alone, then add the fingers.",
		"Say the bass string before each chord. Play the bass strokes alone through the changes, then add the strums.",
		"Say the bass strings of the bar. Play them alone, counting, then play everything.",
	}, {
		Stopped, "sc", "stopped at the change",
		"The two chords alone, one stroke each on one, until you can change without looking. Then play the pattern again.",
		"Play the two chords alone, one down each on 1, until you can change without looking. Then strum the pattern again.",
		"Cross the bar line without stopping. One note a bar first, then the pattern.",
	}, {
		LateChange, "la", "late change",
		"Let go after the last note of the bar. Put your bass finger down first and let the others follow, so 1 isn’t late.",
		"Keep your strumming hand going whatever the left hand does. Change on the last up strum, over open strings, and land on 1.",
		"Start the bar on time, even with a note missing. One note a bar first, then the pattern.",
	}, {
		Uneven, "un", "uneven",
		"Play it slower, counting aloud, on one chord. No chord changes until it’s even.", "",
		"Play it slower, counting aloud, until it’s even.",
	}, {
		Rushed, "ru", "rushed",
		"Tap your foot and say every “and”. Wait for the word before each note. Don’t speed up until 4 bars end with your foot.",
		"Tap your foot and say every “and”. Move your hand all the way down and up at one speed. Don’t speed up until 4 bars end with your foot.", "",
	}, {
		Dragging, "dr", "dragging",
		"Play every other note at the tempo, counting aloud, then all of them. If it drags again, go down 5 BPM.",
		"Play the downs alone at the tempo, counting aloud, then add the ups. Smaller strums are faster.", "",
	}, {
		HandStops, "hs", "hand stops",
		"Keep the beat through the gaps: say it aloud and keep your foot going, then play along.",
		"Keep your hand going down and up, even on missed strums. Swing in the air while you count, then touch the strings.", "",
	}, {
		MissedUp, "mu", "missed up",
		"Play the missing note alone with the count, four times, then in the pattern.",
		"Mute the strings and play the ups alone while the hand keeps swinging. Two or three thin strings are enough.", "",
	}, {
		Loud, "lf", "one finger loud",
		"First make every note even. Play that finger alone and softly, then in the pattern. Accents come later.",
		"First make every strum even: all of them soft, then the pattern. Accents come later.", "",
	}, {
		TooHard, "th", "too hard",
		"Play half as loud. Rest the finger on its string first, then just bend it.",
		"Play half as loud, from a loose wrist. Brush the strings, don’t dig in. Hold the pick so it gives.", "",
	}, {
		Buzz, "bz", "buzz or dead string",
		"Put your fingertips close behind the fret. Play the strings one by one until each rings, pressing no harder than you need.", "", "",
	}, {
		Neighbour, "ns", "hitting a neighbouring string",
		"One string at a time, slowly. Pull the finger out and away from the instrument, not up along it.",
		"Start each down at the chord’s bass string. An up catches two or three thin strings. Slowly, out of time first.", "",
	}, {
		Grabbing, "gb", "grabbing or bouncing hand",
		"Move only your fingers and keep the knuckles still. Keep the back of your hand facing the ceiling.",
		"Rest your forearm on the body and turn the wrist; let the hand brush past the strings instead of digging in.", "",
	}, {
		LostCount, "lc", "lost count",
		"Count aloud, then tap your foot. Say the bars before you play them: 1 bar, 2, 4.", "", "",
	}, {
		Tension, "te", "tension or numbness",
		"Stop and rest. Play slower and shorter next time. If anchoring makes your hand tense, stop anchoring. If it doesn’t go away, see a doctor or a physiotherapist.", "", "",
	},
}

// RemedyFor is what is done about a fault in what was played: nothing about a thumb in a strum, nothing
// about two chords where there is one.
func (l Line) RemedyFor(on Playing) string {
	switch {
	case on.Chords == 1 && l.One != "":
		return l.One
	case on.Strums && l.Strum != "":
		return l.Strum
	}
	return l.Remedy
}

// Line finds what is said of a fault; ok is false for none.
func (f Fault) Line() (line Line, ok bool) {
	i := slices.IndexFunc(All, func(l Line) bool { return l.Fault == f })
	if i < 0 {
		return line, false
	}
	return All[i], true
}

// AtChange tells whether a fault belongs to the way into a bar rather than to the bar.
func (f Fault) AtChange() bool { return f == Stopped || f == LateChange || f == WrongBass }

// ByKeys reads the two keys.
func ByKeys(keys string) (Fault, bool) {
	i := slices.IndexFunc(All, func(l Line) bool { return l.Keys == keys })
	if i < 0 {
		return "", false
	}
	return All[i].Fault, true
}

// Said is the fault as a line has it.
func (f Fault) Said() say.Line { return say.Of(say.ID("fault/" + f)) }

// Words are what the faults are called.
func Words() say.Words {
	words := say.Words{}
	for _, line := range All {
		words[line.Fault.Said().ID] = line.Name
	}
	return words
}
