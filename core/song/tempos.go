package song

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
