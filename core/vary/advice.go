package vary

import (
	"fmt"
	"slices"
	"strings"

	"arplin/core/demand"
	"arplin/core/practice"
)

// ReadyWhen says when a step is safe, by its goal in tapped beats a minute.
// Source: common practice.
func (s Step) ReadyWhen(goal int) string {
	switch s.Play {
	case demand.Said:
		return fmt.Sprintf("four bars without a slip at %d, then without the metronome", goal)
	case demand.Tapped:
		return fmt.Sprintf("four bars in time at %d while the count goes on aloud", goal)
	}
	return fmt.Sprintf("three times clean at %d, counting aloud", goal)
}

// FallBack names the step to go back to when one falls apart.
func FallBack(steps []Step, i int) string {
	switch {
	case i == 0 && steps[0].Play == demand.Said:
		return "count the beats alone and walk on them"
	case i == 0:
		return "say the count and tap it, then one stroke again"
	}
	return fmt.Sprintf("step %d, %s", i, steps[i-1].Adds)
}

// Practise is the order of work on a step, from the first minute to the last.
// Source: common practice.
func (s Step) Practise() []string {
	switch s.Play {
	case demand.Said:
		return []string{
			"One bar, slowly, on the spot: the feet have the beat.",
			"Four bars without a stop. Then softer and softer, until only the strokes are heard.",
			"Somebody sings the song; the count goes on under it.",
		}
	case demand.Tapped:
		return []string{
			"One hand alone, then the other, then both; the count goes on aloud.",
			"Four bars without a stop, then with the count in the head.",
			"Somebody sings the song; the tapping goes on under it.",
		}
	case demand.Muted:
		return []string{
			"One bar, counting aloud, without a metronome, until it goes by itself.",
			"Two bars, four bars; then with the foot instead of the count.",
			"Somebody sings the song; the hand goes on under it.",
		}
	}
	switch s.Over {
	case oneChord:
		return append(slices.Clone(practice.HowTo[:2]), "Then under the song: where another chord is sung, rest or play the root on one.")
	case twoChords, twiceAsOft:
		return practice.HowTo[:3]
	}
	return practice.HowTo
}

// stageHow is how the steps are practised that add no stroke.
var stageHow = map[string]string{
	secondChord:          "The change in silence first, the finger on the bass string before the others; then one stroke a bar; then the figure, two bars a chord.",
	oftener:              "As before, and the change begins on the last eighth: let that stroke go while it is new.",
	allChords:            "Only the changes first, one stroke each, in the order of the song. Then the figure, line by line.",
	"medium tempo":       "Three times clean, and the next tempo is yours. One mistake twice in the same place: back to slow, that bar only.",
	"the goal tempo":     "With the singing. Whoever falls out comes in again on the next one.",
	"the first chord":    "Hold the chord whole and pluck each string once: no dead note. Then the figure, without looking at the right hand.",
	"muted strings":      "Left hand flat across the strings, no pressure. Listen for the rhythm, not for a tone.",
	"the count, said":    "Walk on the spot and say the count; a little louder where a stroke falls.",
	"the rhythm, tapped": "Count aloud, tap under it; two hands where two things happen.",
	"by hand":            "Slowly, counting aloud, on one chord; three times clean before anything gets faster.",
}

// How says how a step is practised. Source: common practice.
func (s Step) How() string {
	name := s.Adds
	for _, prefix := range []string{"up to ", "part of "} {
		name = strings.TrimPrefix(name, prefix)
	}
	if i := strings.LastIndex(name, ", "); i >= 0 && stageHow[name] == "" {
		name = name[i+2:] // of things joined, the one that was this step's own
	}
	if how, ok := stageHow[name]; ok {
		return how
	}
	if r, ok := byName(name); ok && r.How != "" {
		return r.How
	}
	return stageHow["by hand"]
}

// Why says why a step stands where it does: how much harder it is than the one
// below and what makes it so. The task is the target on its song.
func Why(steps []Step, i int, t demand.Task, w demand.Weights) string {
	here := demand.Of(steps[i].Task(t), w)
	if i == 0 {
		return fmt.Sprintf("At %.1f the easiest step that is still in the song's time.", here.Level)
	}
	below := demand.Of(steps[i-1].Task(t), w)
	most := 0
	for k, p := range here.Parts {
		if p.Share-below.Parts[k].Share > here.Parts[most].Share-below.Parts[most].Share {
			most = k
		}
	}
	if rise := here.Level - below.Level; rise > 0 {
		return fmt.Sprintf("From %.1f to %.1f, most of it for this: %s.", below.Level, here.Level, here.Parts[most].Says)
	}
	return fmt.Sprintf("At %.1f no harder than the step below, %.1f; it stands here because you put it here.", here.Level, below.Level)
}
