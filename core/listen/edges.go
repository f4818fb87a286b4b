package listen

import "math"

// How a beginning is placed: in steps of a millisecond and a half, from what sounds in some milliseconds after it against those before.
const (
	edgeStep   = 32 // samples
	edgeAfter  = 5  // steps
	edgeBefore = 7
	edgeEarly  = 45.0 // ms before the place that the frames give, and after it
	edgeLate   = 30.0
	edgePart   = 0.5 // of the steepest rise: a strum begins with its first string
)

// edges are the energy of a sound, the high ones weighing more: that is where strokes are.
type edges struct{ energy []float64 }

func newEdges(samples []float32) edges {
	e := edges{make([]float64, len(samples)/edgeStep+1)}
	last := float32(0)
	for i, x := range samples {
		d := float64(x - last)
		last = x
		e.energy[i/edgeStep] += d * d
	}
	return e
}

func (e edges) mean(from, to int) float64 {
	sum := 0.0
	for k := max(0, from); k < min(len(e.energy), to); k++ {
		sum += e.energy[k]
	}
	return sum / float64(to-from)
}

// near is where the sound begins to rise around a moment, both in milliseconds.
func (e edges) near(ms float64) float64 {
	const per = 1000.0 * edgeStep / rate
	from, to := round((ms-edgeEarly)/per), round((ms+edgeLate)/per)
	rises := make([]float64, to-from+1)
	top := 0.0
	for k := range rises {
		at := from + k
		rises[k] = math.Sqrt(e.mean(at, at+edgeAfter)) - math.Sqrt(e.mean(at-edgeBefore, at))
		top = max(top, rises[k])
	}
	for k, x := range rises {
		if x < edgePart*top {
			continue
		}
		for k+1 < len(rises) && rises[k+1] > rises[k] {
			k++
		}
		return math.Max(0, float64(from+k)*per)
	}
	return ms
}
