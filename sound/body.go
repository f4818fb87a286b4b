package sound

import "math"

// resonance is a peak in how strongly a body radiates.
type resonance struct {
	hertz, gain, q float64 // decibels, and how narrow
}

// bodies are the two lowest resonances of an instrument, of the air in it and of its top, and
// the fall of the highs above them. Source of the guitar's: about 100 and 200 Hz (Fletcher and
// Rossing, The Physics of Musical Instruments, the chapter on guitars); those of a small
// ukulele are higher, from memory.
var bodies = map[Strings][]resonance{
	Steel: {{100, 5, 2.5}, {205, 4, 3}, {2600, 2, 0.8}, {9000, -7, 0.7}},
	Nylon: {{285, 5, 2.5}, {480, 4, 3}, {2000, 1.5, 0.8}, {8000, -9, 0.7}},
}

// through sends samples through a resonance: the peaking filter of the Audio EQ Cookbook (W3C
// Group Note, 2021).
func (r resonance) through(samples []float64) {
	amplitude := math.Pow(10, r.gain/40)
	omega := 2 * math.Pi * r.hertz / Rate
	alpha := math.Sin(omega) / (2 * r.q)
	a0 := 1 + alpha/amplitude
	b0, b1, b2 := (1+alpha*amplitude)/a0, -2*math.Cos(omega)/a0, (1-alpha*amplitude)/a0
	a1, a2 := b1, (1-alpha/amplitude)/a0
	var x1, x2, y1, y2 float64
	for i, x := range samples {
		y := b0*x + b1*x1 + b2*x2 - a1*y1 - a2*y2
		x2, x1, y2, y1 = x1, x, y1, y
		samples[i] = y
	}
}
