package listen

import (
	"math"
	"math/cmplx"

	"gonum.org/v1/gonum/dsp/fourier"
)

// How the tuning of a recording is found: from the peaks of long frames, each against the nearest semitone.
const (
	tuneFrame = 8192
	tuneLow   = 150.0 // Hz
	tuneHigh  = 1300.0
	tuneSure  = 0.35 // how well the peaks agree, from 0 to 1
	tuneQuiet = 1e-3 // of what full scale gives, some thousand
	peakOver  = 0.05 // of the loudest peak of its frame
)

// tuningOf is by how many cents a recording is higher than notes at A 440 are, from -50 to 50; 0 where its peaks do not agree.
func tuningOf(samples []float32) float64 {
	fft := fourier.NewFFT(tuneFrame)
	window := hann(tuneFrame)
	buf, coef := make([]float64, tuneFrame), make([]complex128, tuneFrame/2+1)
	per := float64(rate) / tuneFrame
	var sum complex128
	all := 0.0
	step := max(tuneFrame/2, len(samples)/120)
	for from := 0; from+tuneFrame <= len(samples); from += step {
		for i := range buf {
			buf[i] = float64(samples[from+i]) * window[i]
		}
		coef = fft.Coefficients(coef, buf)
		loud := func(k int) float64 { return math.Log(cmplx.Abs(coef[k]) + 1e-12) }
		top := math.Inf(-1)
		for k := round(tuneLow / per); k < round(tuneHigh/per); k++ {
			top = max(top, loud(k))
		}
		if top < math.Log(tuneQuiet) {
			continue // nothing sounds in it
		}
		for k := round(tuneLow / per); k < round(tuneHigh/per); k++ {
			a, b, c := loud(k-1), loud(k), loud(k+1)
			if b <= a || b < c || b < top+math.Log(peakOver) {
				continue
			}
			at := float64(k) + 0.5*(a-c)/(a-2*b+c) // the top of a parabola through three
			cents := 1200 * math.Log2(at*per/440)
			weight := math.Exp(b - top)
			sum += cmplx.Rect(weight, 2*math.Pi*cents/100)
			all += weight
		}
	}
	if all == 0 || cmplx.Abs(sum)/all < tuneSure {
		return 0
	}
	return cmplx.Phase(sum) * 100 / (2 * math.Pi)
}

// thin reports a recording whose low notes are missing.
func thin(samples []float32) bool {
	// One pole each way is enough to tell: what is left below, against all.
	k := 1 - math.Exp(-2*math.Pi*phoneLow/2/rate)
	low, below, all := 0.0, 0.0, 0.0
	for _, x := range samples {
		low += k * (float64(x) - low)
		below += low * low
		all += float64(x) * float64(x)
	}
	return below < phonePart*all
}
