package plan

import (
	"arplin/core/practice"
	"arplin/core/say"
)

// A step that asks for little is not practised for a week: three times clean at its goal in one
// evening, heard by the teacher, is enough. From memory.
const (
	plainLevel = 2.5 // a stroke or two a bar on open chords
	farUnder   = 1.5 // levels under what the student plays elsewhere
	soonTimes  = 3
)

// Sooner proposes to move on from such a step on the evening on which it goes; a hand that was tense,
// or a slip after the last clean try, waits.
func (o On) Sooner(s practice.Standing, d practice.Decision) practice.Decision {
	plain, far := o.Level > 0 && o.Level <= plainLevel, o.Level > 0 && o.Plays-o.Level >= farUnder
	if d.Kind != practice.Stay || s.State != practice.Clean || o.Steps <= 0 || o.Tense || !plain && !far {
		return d
	}
	last := o.Tries[len(o.Tries)-1]
	var because []int64
	for _, t := range o.Tries {
		if t.Day == last.Day && t.Clean && t.Tempo >= o.Goal {
			because = append(because, t.ID)
		}
	}
	if !last.Clean || len(because) < soonTimes {
		return d
	}
	why := say.Of("soon/plain", len(because), o.Goal)
	if far {
		why = say.Of("soon/far-under", len(because), o.Goal)
	}
	return practice.Decision{Kind: practice.MoveOn, Why: why, Because: because}
}
