// Package bpm has tempos, in beats a minute of the beat that a foot taps: their bounds, the slow and the
// medium one of a goal, and when eighths are counted instead.
package bpm

import "arplin/core/pattern"

// Bounds of a tempo, and the one where nothing is said.
const (
	Min   = 20
	Max   = 300
	Usual = 80
)

// Tempos are the three tempos of a goal, in beats a minute: about 60, 80 and
// 100 per cent. Source: common practice.
type Tempos struct{ Slow, Medium, Goal int }

// SlowPercent and MediumPercent are what slow and medium are of the goal.
const SlowPercent, MediumPercent = 60, 80

// Of rounds to whole beats.
func Of(goal int) Tempos {
	return Tempos{Slow: Part(goal, SlowPercent), Medium: Part(goal, MediumPercent), Goal: goal}
}

// Part is some per cent of a tempo, to whole beats.
func Part(tempo, percent int) int { return (tempo*percent + 50) / 100 }

// SlowCompound is the tempo, in dotted quarters a minute, under which the beat of a
// compound meter is too slow to feel, and eighths are counted. Source: common
// practice.
const SlowCompound = 50

// Eighths is how many eighths a minute are counted at a tempo of a meter; 0 where
// its own beat is.
func Eighths(m pattern.Meter, tempo int) int {
	if !m.Compound() || tempo >= SlowCompound {
		return 0
	}
	return 3 * tempo
}
