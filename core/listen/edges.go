package listen

import "math"

// How a beginning is placed: in steps of a millisecond and a half, from what sounds in some milliseconds after it against those before.
const (
	edgeStep   = 32 // samples
	edgeAfter  = 5  // steps
	edgeBefore = 7
	edgeLate   = 10.0 // ms after the place that the frames give
)

// How far before the place that the frames give a beginning may lie, in milliseconds, and what part of the steepest rise it
// has at least: a strum begins with its first string, of several.
const (
	pluckEarly, pluckPart = 16.0, 0.8
	strumEarly, strumPart = 30.0, 0.6
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
func (e edges) near(ms float64, strum bool) float64 {
	const per = 1000.0 * edgeStep / rate
	early, part := pluckEarly, pluckPart
	if strum {
		early, part = strumEarly, strumPart
	}
	from, to := round((ms-early)/per), round((ms+edgeLate)/per)
	rises := make([]float64, to-from+1)
	top := 0.0
	for k := range rises {
		at := from + k
		rises[k] = math.Sqrt(e.mean(at, at+edgeAfter)) - math.Sqrt(e.mean(at-edgeBefore, at))
		top = max(top, rises[k])
	}
	for k, x := range rises {
		if x < part*top {
			continue
		}
		for k+1 < len(rises) && rises[k+1] > rises[k] {
			k++
		}
		return math.Max(0, float64(from+k)*per)
	}
	return ms
}

// loudOver is how long a stroke is listened to for its loudness, in steps.
const loudOver = 28

// loud is how much louder it is after a moment than before it, in the measure of the samples.
func (e edges) loud(ms float64) float64 {
	at := round(ms * rate / 1000 / edgeStep)
	return math.Sqrt(math.Max(0, e.mean(at, at+loudOver)-e.mean(at-edgeBefore, at))) + 1e-9
}
