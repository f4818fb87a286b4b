package practice

import "math"

// How long a step takes. Source: common practice says days, a week, or weeks; the
// figures by which a rise in level makes it longer are from memory.
const (
	stepDays     = 7.0 // of a step that rises as most do
	stepRise     = 0.8 // levels, the rise of such a step
	leastDays    = 3
	mostDays     = 42
	usualWeight  = 2.0 // steps: what is known of nobody counts as so many at the usual pace
	paceSpread   = 0.5 // of the logarithm, for somebody of whom nothing is known
	leastSpread  = 0.2
	eightyInHand = 1.28 // standard deviations on each side of eight in ten
)

// Usual is how many days a step takes that is harder than the one below by a rise in
// levels.
func Usual(rise float64) int {
	days := stepDays * (0.5 + 0.5*math.Max(0, rise)/stepRise)
	return min(mostDays, max(leastDays, int(math.Round(days))))
}

// Took is a step that somebody has finished: the days it took, and the usual ones.
type Took struct{ Days, Usual int }

// Pace is a student's own: 1 is the usual one, 2 takes twice as long.
type Pace struct {
	Times  float64
	Steps  int     // that it is known from
	Spread float64 // of its logarithm
}

// PaceOf reads it from the steps that were finished. Few of them say little: the pace is
// drawn towards the usual one, and its range stays wide.
func PaceOf(took []Took) Pace {
	sum, n := 0.0, float64(len(took))
	for _, t := range took {
		sum += math.Log(float64(max(1, t.Days)) / float64(max(1, t.Usual)))
	}
	mean := sum / (n + usualWeight)
	return Pace{math.Exp(mean), len(took), math.Max(leastSpread, paceSpread/math.Sqrt(1+n/usualWeight))}
}

// With is the pace when a step counts as well that is not finished, for a part of one.
func (p Pace) With(t Took, part float64) Pace {
	if p.Times == 0 {
		p = PaceOf(nil)
	}
	n := float64(p.Steps)
	sum := math.Log(p.Times)*(n+usualWeight) + part*math.Log(float64(max(1, t.Days))/float64(max(1, t.Usual)))
	mean := sum / (n + part + usualWeight)
	return Pace{math.Exp(mean), p.Steps, math.Max(leastSpread, paceSpread/math.Sqrt(1+(n+part)/usualWeight))}
}

// Slower is the pace with a spread of at least so much.
func (p Pace) Slower(spread float64) Pace {
	if p.Times == 0 {
		p = PaceOf(nil)
	}
	p.Spread = math.Max(p.Spread, spread)
	return p
}

// Span is a number of days, with the range that holds eight times in ten.
type Span struct{ Low, Days, High int }

// Likely is how long the steps of some usual days take at a pace.
func (p Pace) Likely(usual ...int) Span {
	if p.Times == 0 {
		p = PaceOf(nil)
	}
	sum, square := 0.0, 0.0
	for _, u := range usual {
		sum += float64(u)
		square += float64(u) * float64(u)
	}
	if sum == 0 {
		return Span{}
	}
	// The pace is the same in all steps; what is chance of each evens out over many.
	spread := p.Spread * math.Sqrt(0.5+0.5*square/(sum*sum))
	mid := sum * p.Times
	days := func(x float64) int { return max(1, int(math.Round(x))) }
	return Span{days(mid * math.Exp(-eightyInHand*spread)), days(mid), days(mid * math.Exp(eightyInHand*spread))}
}
