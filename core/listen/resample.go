package listen

import "math"

// rate is how many samples a second the ear works with: guitars give little of use above 10 kHz.
const rate = 22050

// resampled is a sound at the ear's rate: a windowed sinc (Smith and Gossett, "A flexible sampling-rate conversion
// method", ICASSP 1984), from a table.
func resampled(samples []float32, from int) []float32 {
	if from == rate || len(samples) == 0 {
		return samples
	}
	const lobes, fine = 12, 256
	step := float64(from) / rate
	wide := math.Max(1, step) // the filter is as much wider as the rate is higher
	half := int(math.Ceil(lobes * wide))
	table := make([]float32, lobes*fine+2)
	for i := range table {
		x := float64(i) / fine
		w := 0.5 + 0.5*math.Cos(math.Pi*math.Min(1, x/lobes))
		s := 1.0
		if x > 0 {
			s = math.Sin(math.Pi*x) / (math.Pi * x)
		}
		table[i] = float32(w * s / wide)
	}
	out := make([]float32, int(float64(len(samples))/step))
	scale := fine / wide
	for i := range out {
		at := float64(i) * step
		mid := int(at)
		var sum float32
		for k := max(0, mid-half+1); k <= min(len(samples)-1, mid+half); k++ {
			if at := math.Abs(float64(k)-at) * scale; int(at) < lobes*fine {
				sum += samples[k] * table[int(at)]
			}
		}
		out[i] = sum
	}
	return out
}
