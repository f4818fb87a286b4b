package listen

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/dsp/fourier"
)

// How the ear looks for pitches: what comes new in a long frame after a beginning against one before it, as a sum of strings.
const (
	longFrame  = 4096 // samples, 186 ms
	lowest     = 60.0 // Hz
	topHertz   = 3000.0
	partials   = 14
	keptBefore = 0.8 // of what rang before, how much is taken off
	fitSteps   = 40
)

// slopes are how fast the partials of a string become softer: bright to dull.
var slopes = []float64{0.4, 1.1, 2}

// pitcher finds which of some pitches begin at a moment.
type pitcher struct {
	samples  []float32
	fft      *fourier.FFT
	from, to int // coefficients that are looked at
	pitches  []int
	forms    []form // of each pitch and slope
	buf      []float64
	coef     []complex128
}

// form is what a string gives: its partials, and little between them.
type form struct {
	at   []int
	much []float64
}

// newPitcher listens for pitches, with all of them so many cents higher than they should be.
func newPitcher(samples []float32, pitches []int, cents float64, low float64) *pitcher {
	p := &pitcher{samples: samples, fft: fourier.NewFFT(longFrame), pitches: pitches, buf: make([]float64, longFrame)}
	per := float64(rate) / longFrame
	p.from, p.to = round(low/per), round(topHertz/per)
	for _, midi := range pitches {
		hz := 440 * math.Pow(2, (float64(midi)-69+cents/100)/12)
		for _, slope := range slopes {
			all := make([]float64, p.to-p.from)
			sum := 0.0
			for h := 1.0; h <= partials; h++ {
				at := hz * h * math.Sqrt(1+0.00006*h*h) // strings are a little stiff
				width := 1.6 + at*0.0012/per            // and not quite in tune
				for k := max(p.from, int(at/per-3*width)); k <= min(p.to-1, int(at/per+3*width)+1); k++ {
					x := (float64(k) - at/per) / width
					v := math.Pow(h, -slope) * math.Exp(-x*x/1.2)
					all[k-p.from] += v
					sum += v
				}
			}
			p.forms = append(p.forms, newForm(all, sum))
		}
	}
	return p
}

func newForm(all []float64, sum float64) (f form) {
	for k, x := range all {
		if x > 1e-4 {
			f.at, f.much = append(f.at, k), append(f.much, x/max(sum, 1e-9))
		}
	}
	return f
}

// spectrum is what sounds in some samples.
func (p *pitcher) spectrum(from, n int, out []float64) {
	window := hann(n)
	for i := range p.buf {
		p.buf[i] = 0
		if k := from + i; i < n && k >= 0 && k < len(p.samples) {
			p.buf[i] = float64(p.samples[k]) * window[i]
		}
	}
	p.coef = p.fft.Coefficients(p.coef, p.buf)
	for k := range out {
		c := p.coef[p.from+k]
		out[k] = math.Hypot(real(c), imag(c)) / float64(n)
	}
}

// at is how much of each pitch begins at a moment, the next beginning coming later.
func (p *pitcher) at(ms, next float64) []float64 {
	const skip = 0.008 // seconds of the noise of the stroke
	from := round((ms/1000 + skip) * rate)
	n := min(longFrame, max(longFrame/4, round((next-ms)/1000*rate)-round(skip*rate)))
	now, was := make([]float64, p.to-p.from), make([]float64, p.to-p.from)
	p.spectrum(from, n, now)
	p.spectrum(round(ms/1000*rate)-n-round(0.004*rate), n, was)
	for k := range now {
		now[k] = math.Sqrt(max(0, now[k]-keptBefore*was[k])) // the root, so that loud partials do not hide soft ones
	}
	return p.fit(now)
}

// fit is how much of each pitch a spectrum is made of: the divergence of Kullback and Leibler made small by steps that keep
// everything positive (Lee and Seung, "Algorithms for non-negative matrix factorization", NIPS 2000).
func (p *pitcher) fit(v []float64) []float64 {
	act := make([]float64, len(p.forms))
	for i := range act {
		act[i] = 1
	}
	sum := make([]float64, len(v))
	for range fitSteps {
		for k := range sum {
			sum[k] = 1e-9
		}
		for i, f := range p.forms {
			if act[i] > 1e-7 {
				for n, k := range f.at {
					sum[k] += act[i] * f.much[n]
				}
			}
		}
		for k := range sum {
			sum[k] = v[k] / sum[k]
		}
		for i, f := range p.forms {
			if act[i] > 1e-7 {
				dot := 0.0
				for n, k := range f.at {
					dot += f.much[n] * sum[k]
				}
				act[i] *= dot
			}
		}
	}
	out := make([]float64, len(p.pitches))
	for i, x := range act {
		out[i/len(slopes)] += x
	}
	return out
}

// vocabulary are all pitches that the shapes of a score can give.
func (s Score) vocabulary() (list []int) {
	for _, st := range s.Strokes {
		for _, p := range st.Shape {
			list = append(list, p.MIDI)
		}
		for _, snd := range st.Sounds {
			if snd.MIDI > 0 {
				list = append(list, snd.MIDI)
			}
		}
	}
	slices.Sort(list)
	return slices.Compact(list)
}
