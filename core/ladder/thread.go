package ladder

import (
	"slices"

	"arplin/core/pattern"
	"arplin/core/pattern/skill"
)

// What steps bring beside coordinations.
const (
	threadCount   = "count and rhythm"
	threadStrokes = "first strokes"
	threadChanges = "chord changes"
	threadTempo   = "tempo"
)

// Threads names, step by step, the skill that each brings: a coordination that the step
// below did not need, else the chords, else the tempo; a step that brings more of what is
// there goes on with the thread below it. Over a term they are what is introduced and
// what is due back.
func Threads(steps []Step) (list []string) {
	var have []skill.Coordination
	thread := threadStrokes
	for i, s := range steps {
		var fresh []skill.Coordination
		for _, figure := range append([]pattern.Pattern{s.Pattern}, partPatterns(s)...) {
			for _, c := range skill.Coordinations(figure) {
				if !slices.Contains(have, c) {
					have, fresh = append(have, c), append(fresh, c)
				}
			}
		}
		switch {
		case s.BeforeStrings():
			thread = threadCount
		case len(fresh) > 0:
			thread = fresh[0].String()
		case i > 0 && s.Over != steps[i-1].Over:
			thread = threadChanges
		case i > 0 && s.Pace != steps[i-1].Pace || s.Brings(GoalTempo) || s.Brings(MediumTempo):
			thread = threadTempo
		case i > 0 && steps[i-1].BeforeStrings():
			thread = threadStrokes
		}
		list = append(list, thread)
	}
	return list
}

func partPatterns(s Step) (list []pattern.Pattern) {
	for _, f := range s.Parts {
		list = append(list, f.Pattern)
	}
	return list
}
