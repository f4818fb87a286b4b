package sound

import (
	"math"
	"math/rand/v2"
)

// Click is the metronome: two short sines, high on the first beat of a bar.
func Click(first bool) []float64 {
	hertz := 1200.0
	if first {
		hertz = 1800
	}
	out := make([]float64, Rate/25)
	for i := range out {
		t := float64(i) / Rate
		attack := math.Min(1, t*2000)
		out[i] = 0.4 * attack * math.Exp(-90*t) * math.Sin(2*math.Pi*hertz*t)
	}
	return out
}

// Knock is the palm on the strings: a thump of the body with a little noise.
func Knock() []float64 {
	random := rand.New(rand.NewPCG(1, 1))
	out := make([]float64, Rate/5)
	low := 0.0
	for i := range out {
		t := float64(i) / Rate
		low += 0.08 * (2*random.Float64() - 1 - low)
		out[i] = math.Min(1, t*1500) * (0.38*math.Exp(-22*t)*math.Sin(2*math.Pi*98*t) + 0.9*low*math.Exp(-60*t))
	}
	return out
}
