package practice

import "slices"

// Fault is what failed in a try, as a teacher hears and sees it.
type Fault string

// The faults; the zero value is none, or not said.
const (
	WrongBass Fault = "wrong-bass"
	Stopped   Fault = "stopped"
	Uneven    Fault = "uneven"
	Loud      Fault = "loud"
	Neighbour Fault = "neighbour"
	Grabbing  Fault = "grabbing"
	LostCount Fault = "lost-count"
	Tension   Fault = "tension"
)

// FaultLine is a fault with the two keys that say it, and what is done about it.
type FaultLine struct {
	Fault        Fault
	Keys         string
	Name, Remedy string
}

// Faults lists them. Source of the remedies: common practice.
var Faults = []FaultLine{
	{WrongBass, "wb", "wrong bass string", "Say the bass string before each chord; the thumb alone through the changes, then the fingers again."},
	{Stopped, "sc", "stopped at the change", "The two chords alone, one stroke each on one, until the hand goes without looking; then the figure again."},
	{Uneven, "un", "uneven", "Slower, counting aloud, on one chord; no changes while the tone is uneven."},
	{Loud, "lf", "one finger loud", "All strokes even first: that finger alone and soft, then in the figure. Accents come later."},
	{Neighbour, "ns", "neighbour string hit", "One string at a time, slowly; the finger pulls out and away from the instrument, not up along it."},
	{Grabbing, "gb", "grabbing or a bobbing hand", "Only the fingers move, the knuckles stay. The back of the hand looks at the ceiling."},
	{LostCount, "lc", "lost count", "Count aloud, then tap the foot. Say the bars before playing them: one bar, two, four."},
	{Tension, "te", "tension or numbness", "Stop and rest. Slower and shorter next time; an anchor that makes the hand tense is given up. If it stays, see a doctor or a physiotherapist."},
}

// Line finds what is said of a fault; ok is false for none.
func (f Fault) Line() (line FaultLine, ok bool) {
	i := slices.IndexFunc(Faults, func(l FaultLine) bool { return l.Fault == f })
	if i < 0 {
		return line, false
	}
	return Faults[i], true
}

// AtChange tells whether a fault belongs to the way into a bar rather than to the bar.
func (f Fault) AtChange() bool { return f == Stopped || f == WrongBass }

// FaultByKeys reads the two keys.
func FaultByKeys(keys string) (Fault, bool) {
	i := slices.IndexFunc(Faults, func(l FaultLine) bool { return l.Keys == keys })
	if i < 0 {
		return "", false
	}
	return Faults[i].Fault, true
}
