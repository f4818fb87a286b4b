package listen

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/dsp/fourier"
)

// How the ear looks for beginnings: short frames, close together, in bands of a sixth of an octave.
const (
	frame    = 1024 // samples
	hop      = 128  // samples, 5.8 ms
	lowBand  = 70.0 // Hz
	highBand = 9000.0
	perOct   = 6.0
	hopMS    = 1000.0 * hop / rate
)

// onset is a beginning in a sound.
type onset struct {
	at     float64 // milliseconds
	loud   float64 // of what comes, apart from what rings
	unsure bool    // heard only by who expects it
}

// fluxOf is how much comes new in each frame: the rise of the logarithm of each band over what the band and its
// neighbours had shortly before (Böck and Widmer, "Maximum filter vibrato suppression for onset detection", DAFx 2013).
func fluxOf(samples []float32) []float64 {
	frames := len(samples)/hop + 1
	edges := bands()
	window := hann(frame)
	fft := fourier.NewFFT(frame)
	buf, coef := make([]float64, frame), make([]complex128, frame/2+1)
	const lag = 3
	past := make([][]float64, lag)
	for i := range past {
		past[i] = make([]float64, len(edges)-1)
	}
	flux := make([]float64, frames)
	floor := noiseFloor(samples)
	for f := range frames {
		from := f*hop - frame/2
		for i := range buf {
			buf[i] = 0
			if k := from + i; k >= 0 && k < len(samples) {
				buf[i] = float64(samples[k]) * window[i]
			}
		}
		coef = fft.Coefficients(coef, buf)
		now := make([]float64, len(edges)-1)
		for b := range now {
			sum := 0.0
			for k := edges[b]; k < edges[b+1]; k++ {
				sum += real(coef[k])*real(coef[k]) + imag(coef[k])*imag(coef[k])
			}
			now[b] = math.Log10(1 + math.Sqrt(sum)/floor)
		}
		before := past[f%lag]
		for b, x := range now {
			was := before[b]
			if b > 0 {
				was = max(was, before[b-1])
			}
			if b+1 < len(before) {
				was = max(was, before[b+1])
			}
			flux[f] += max(0, x-was)
		}
		past[f%lag] = now
	}
	return flux
}

// noiseFloor is what counts as little in a band: a part of the loudness of the take.
func noiseFloor(samples []float32) float64 {
	sum := 0.0
	for _, x := range samples {
		sum += float64(x) * float64(x)
	}
	return 0.03*math.Sqrt(sum/float64(max(1, len(samples))))*math.Sqrt(frame) + 1e-6
}

// bands are the edges of the bands, as coefficients of the transform; low ones are one coefficient wide.
func bands() (edges []int) {
	for hz := lowBand; hz < highBand; hz *= math.Pow(2, 1/perOct) {
		if k := int(math.Round(hz * float64(frame) / rate)); len(edges) == 0 || k > edges[len(edges)-1] {
			edges = append(edges, k)
		}
	}
	return append(edges, frame/2)
}

func hann(n int) []float64 {
	w := make([]float64, n)
	for i := range w {
		w[i] = 0.5 - 0.5*math.Cos(2*math.Pi*(float64(i)+0.5)/float64(n))
	}
	return w
}

// How onsets are picked from the flux: from the highest within apart, which stand out from what is usual around them.
const (
	apartMS  = 45.0
	aroundMS = 700.0
	leastOf  = 0.09 // of a strong one
	sureBy   = 2.2  // against the usual scatter
	maybeBy  = 0.9
)

// onsetsOf finds beginnings in a sound.
func onsetsOf(samples []float32, strums bool) (list []onset) {
	flux := fluxOf(samples)
	strong := strongOf(flux)
	if strong <= 0 {
		return nil
	}
	edges := newEdges(samples)
	apart, usual := round(apartMS/hopMS), usualOf(flux)
	for f, x := range flux {
		if x <= leastOf*strong || !highest(flux, f, apart) {
			continue
		}
		over := (x - usual[f]) / (0.15*strong + usual[f])
		if over < maybeBy {
			continue
		}
		at := edges.near(float64(f)*hopMS, strums)
		list = append(list, onset{at: at, loud: edges.loud(at), unsure: over < sureBy})
	}
	return list
}

// strongOf is how much comes new in a strong beginning: what few frames have, or a good part of the most of every four seconds,
// where there is but one stroke in a bar and hardly a frame has any.
func strongOf(flux []float64) float64 {
	const whileMS, part = 4000.0, 0.25
	var tops []float64
	while := round(whileMS / hopMS)
	for from := 0; from+while/2 < len(flux); from += while {
		tops = append(tops, slices.Max(flux[from:min(len(flux), from+while)]))
	}
	all := slices.Sorted(slices.Values(flux))
	strong := all[len(all)*98/100]
	if len(tops) > 0 {
		slices.Sort(tops)
		strong = max(strong, part*tops[len(tops)/2])
	}
	return strong
}

// usualOf is what is usual around each frame of a flux.
func usualOf(flux []float64) []float64 {
	const every = 8
	around := round(aroundMS / hopMS)
	scratch := make([]float64, 0, 2*around+1)
	usual := make([]float64, len(flux))
	for f := 0; f < len(flux); f += every {
		scratch = append(scratch[:0], flux[max(0, f-around):min(len(flux), f+around+1)]...)
		slices.Sort(scratch)
		u := scratch[len(scratch)*6/10]
		for k := f; k < min(len(flux), f+every); k++ {
			usual[k] = u
		}
	}
	return usual
}

// highest reports whether a frame is the highest of those around it; of equals it is the first.
func highest(flux []float64, f, apart int) bool {
	for k := max(0, f-apart); k <= min(len(flux)-1, f+apart); k++ {
		if flux[k] > flux[f] || flux[k] == flux[f] && k < f {
			return false
		}
	}
	return true
}

func round(x float64) int { return int(math.Round(x)) }
