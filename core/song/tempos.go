package song

import (
	"arplin/core/pattern"
)

// Tempos are the three tempos of a goal, in beats a minute: about 60, 80 and
// 100 per cent. Source: common practice.
type Tempos struct{ Slow, Medium, Goal int }

// SlowPercent and MediumPercent are what slow and medium are of the goal.
const SlowPercent, MediumPercent = 60, 80

// TemposFor rounds to whole beats.
func TemposFor(goal int) Tempos {
	return Tempos{Slow: PartOf(goal, SlowPercent), Medium: PartOf(goal, MediumPercent), Goal: goal}
}

// PartOf is some per cent of a tempo, to whole beats.
func PartOf(tempo, percent int) int { return (tempo*percent + 50) / 100 }

// SlowCompound is the tempo, in dotted quarters a minute, under which the beat of a
// compound meter is too slow to feel, and eighths are counted. Source: common
// practice.
const SlowCompound = 50

// EighthsAt is how many eighths a minute are counted at a tempo of a meter; 0 where
// its own beat is.
func EighthsAt(m pattern.Meter, tempo int) int {
	if !m.Compound() || tempo >= SlowCompound {
		return 0
	}
	return 3 * tempo
}

// Eighths is EighthsAt for the song's goal.
func (s Song) Eighths() int { return EighthsAt(s.Meter, s.Tempo) }

// SlowEighths is EighthsAt for the song's slow tempo.
func (s Song) SlowEighths() int { return EighthsAt(s.Meter, TemposFor(s.Tempo).Slow) }
