package listen

import "math"

// rate is how many samples a second the ear works with: guitars give little of use above 10 kHz.
const rate = 22050

// resampled is a sound at the ear's rate: a windowed sinc (Smith and Gossett, "A flexible sampling-rate conversion
// method", ICASSP 1984).
func resampled(samples []float32, from int) []float32 {
	if from == rate || len(samples) == 0 {
		return samples
	}
	// The places between two samples repeat: at 44.1 kHz there is one, at 48 kHz there are 147. Each has its filter.
	per, places := from/gcd(from, rate), rate/gcd(from, rate)
	wide := max(1, float64(from)/rate) // the filter is as much wider as the rate is higher
	half := int(math.Ceil(lobes * wide))
	filters := make([][]float32, places)
	out := make([]float32, len(samples)*places/per)
	for i := range out {
		place := i % places
		if filters[place] == nil {
			filters[place] = sinc(half, float64(i*per%places)/float64(places), wide)
		}
		first := i*per/places - half + 1 // of the samples under the filter
		filter := filters[place][max(0, -first):min(2*half, len(samples)-first)]
		var sum float32
		for k, s := range samples[max(0, first):][:len(filter)] {
			sum += s * filter[k]
		}
		out[i] = sum
	}
	return out
}

const lobes = 12 // of the filter, on each side

// sinc is the filter for a place so far behind the sample in its middle.
func sinc(half int, between, wide float64) []float32 {
	filter := make([]float32, 2*half)
	for k := range filter {
		x := math.Abs(float64(k-half+1)-between) / wide
		w := 0.5 + 0.5*math.Cos(math.Pi*min(1, x/lobes))
		s := 1.0
		if x > 0 {
			s = math.Sin(math.Pi*x) / (math.Pi * x)
		}
		filter[k] = float32(w * s / wide)
	}
	return filter
}

func gcd(a, b int) int {
	for b != 0 {
		a, b = b, a%b
	}
	return a
}
