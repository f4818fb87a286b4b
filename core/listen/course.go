package listen

import (
	"math"
	"slices"
)

// course is where a take is at each asked moment: a line over time, with stops.
type course struct {
	start, slope, bend float64 // ms; ms a ms; ms a ms²
	stops              []stop
}

// stop is a wait before an asked moment.
type stop struct {
	asked int // the moment that comes after it
	at    float64
	ms    float64
}

// When a wait is a stop: from memory, a listener hears a break from a fifth of a second on, in whatever tempo.
const (
	leastStop  = 110.0 // ms
	fewPlaces  = 3     // moments before and after it that are compared
	leastDrift = 2.5   // BPM over a take
)

// at is by how much later than asked the take is at a moment.
func (c course) at(asked float64) float64 {
	off := c.start + c.slope*asked + c.bend*asked*asked
	for _, s := range c.stops {
		if s.at <= asked+1e-6 {
			off += s.ms
		}
	}
	return off
}

// courseOf finds stops, tempo and its drift from pairs. Where a place usually comes does not matter for them: each place is
// compared with itself.
func courseOf(score Score, asked, heard []moment, pairs []pair, sound bool) (c course) {
	off := make([]float64, len(pairs))
	for i, p := range pairs {
		off[i] = heard[p.heard].at - asked[p.asked].at
	}
	for i := 1; i < len(pairs); i++ {
		if off[i]-off[i-1] < leastStop {
			continue
		}
		by := stepAt(asked, pairs, off, i)
		if by >= leastStop {
			c.stops = append(c.stops, stop{pairs[i].asked, asked[pairs[i].asked].at, by})
			for k := i; k < len(off); k++ {
				off[k] -= by
			}
		}
	}
	// Slope and bend from how each place changes from round to round.
	type place struct{ in, slot int }
	var rounds [][]int // of each place, its pairs; in order, so that the same take has the same answer
	of := map[place]int{}
	for i, p := range pairs {
		st := score.Strokes[asked[p.asked].members[0]]
		at, known := of[place{st.In, st.Slot}]
		if !known {
			at = len(rounds)
			of[place{st.In, st.Slot}] = at
			rounds = append(rounds, nil)
		}
		rounds[at] = append(rounds[at], i)
	}
	if len(c.stops) > 0 {
		settle(c.stops, pairs, off, rounds)
	}
	fit := func(bent bool) (slope, bend float64) {
		var xx, xy, xz, zz, yz float64
		for _, list := range rounds {
			if len(list) < 2 {
				continue
			}
			var mx, mz, my float64
			for _, i := range list {
				x := asked[pairs[i].asked].at
				mx, mz, my = mx+x, mz+x*x, my+off[i]
			}
			n := float64(len(list))
			mx, mz, my = mx/n, mz/n, my/n
			for _, i := range list {
				x := asked[pairs[i].asked].at
				dx, dz, dy := x-mx, x*x-mz, off[i]-my
				xx, xy, xz, zz, yz = xx+dx*dx, xy+dx*dy, xz+dx*dz, zz+dz*dz, yz+dz*dy
			}
		}
		if xx == 0 {
			return 0, 0
		}
		if det := xx*zz - xz*xz; bent && det > 1e-9*xx*zz {
			return (xy*zz - yz*xz) / det, (yz*xx - xy*xz) / det
		}
		return xy / xx, 0
	}
	c.slope, c.bend = fit(true)
	end := 0.0
	if len(pairs) > 0 {
		end = asked[pairs[len(pairs)-1].asked].at
	}
	if math.Abs(c.drift(score, end)) < leastDrift || end < 4*score.BarMS() {
		c.slope, c.bend = fit(false)
	}
	var rest, onBeats []float64
	beats := make([]bool, len(pairs))
	for i, p := range pairs {
		x := asked[p.asked].at
		r := off[i] - c.slope*x - c.bend*x*x
		rest = append(rest, r)
		if score.Strokes[asked[p.asked].members[0]].OnBeat {
			onBeats = append(onBeats, r)
			beats[i] = true
		}
	}
	switch {
	case score.Free:
		c.start = delayOf(rounds, rest, beats, -mostFree, mostFree)
	case math.Abs(middle(rest)) > startAt:
		if len(onBeats) == 0 {
			onBeats = rest
		}
		c.start = middle(onBeats)
	case sound:
		c.start = delayOf(rounds, rest, beats, leastDelay, mostDelay)
	}
	return c
}

// The delay of a recording: what the way of the sound and how slowly a string speaks add to every stroke, in milliseconds.
const (
	leastDelay, mostDelay = -15.0, 45.0
	sameDelay             = 15.0
	mostFree              = 5000.0
)

// delayOf is the delay on which most places agree.
func delayOf(rounds [][]int, rest []float64, beats []bool, least, greatest float64) float64 {
	var mids, weights []float64
	for _, list := range rounds {
		var offs []float64
		for _, i := range list {
			offs = append(offs, rest[i])
		}
		mids = append(mids, middle(offs))
		weight := 1.0
		if beats[list[0]] {
			weight = 1.1 // where as many agree on one as on another, the beat is right
		}
		weights = append(weights, weight)
	}
	best, most := 0.0, 0.0
	if len(mids) > 0 {
		least, greatest = max(least, slices.Min(mids)), min(greatest, slices.Max(mids))
	}
	for d := least; d <= greatest; d += 2.5 {
		var agree []float64
		weight := 0.0
		for i, mid := range mids {
			if math.Abs(mid-d) <= sameDelay {
				agree = append(agree, mid)
				weight += weights[i]
			}
		}
		if weight > most {
			best, most = middle(agree), weight
		}
	}
	return best
}

// settle measures stops again, each by all that lies between it and the next: by now it is known where a place usually comes.
func settle(stops []stop, pairs []pair, off []float64, rounds [][]int) {
	usual := make([]float64, len(off))
	for _, list := range rounds {
		var of []float64
		for _, i := range list {
			of = append(of, off[i])
		}
		mid := middle(of)
		for _, i := range list {
			usual[i] = mid
		}
	}
	first, before := 0.0, 0.0 // levels of the beginning, and of what came last
	from := 0
	for n := 0; n <= len(stops); n++ {
		to := len(pairs)
		if n < len(stops) {
			to = from
			for to < len(pairs) && pairs[to].asked < stops[n].asked {
				to++
			}
		}
		var rest []float64
		for i := from; i < to; i++ {
			rest = append(rest, off[i]-usual[i])
		}
		level := before
		if len(rest) > 0 {
			level = middle(rest)
		}
		if n == 0 {
			first = level
		} else {
			stops[n-1].ms += level - before
		}
		for i := from; i < to; i++ {
			off[i] -= level - first
		}
		before, from = level, to
	}
}

// stepAt is by how much later than what came before a take is from a pair on, apart from what its tempo does there.
func stepAt(asked []moment, pairs []pair, off []float64, i int) float64 {
	x := func(n int) float64 { return asked[pairs[n].asked].at }
	var rates []float64
	for n := max(1, i-2*fewPlaces); n < min(len(off), i+2*fewPlaces); n++ {
		if n != i && x(n) > x(n-1) {
			rates = append(rates, (off[n]-off[n-1])/(x(n)-x(n-1)))
		}
	}
	rate := middle(rates)
	var before, after []float64
	for n := max(0, i-fewPlaces); n < min(len(off), i+fewPlaces); n++ {
		level := off[n] - rate*(x(n)-x(i))
		if n < i {
			before = append(before, level)
		} else {
			after = append(after, level)
		}
	}
	return min(middle(after)-middle(before), off[i]-off[i-1]-rate*(x(i)-x(i-1))+leastStop/2)
}

// tempo is how fast a take is at a moment.
func (c course) tempo(score Score, at float64) float64 {
	return float64(score.Tempo) / math.Max(0.2, 1+c.slope+2*c.bend*at)
}

// drift is by how many BPM a take is faster at its end than at its beginning.
func (c course) drift(score Score, end float64) float64 {
	return c.tempo(score, end) - c.tempo(score, 0)
}

// deviation is the usual scatter around the middle: 1.48 times the median distance from it, as for a normal
// distribution (the median absolute deviation).
func deviation(list []float64) float64 {
	mid := middle(list)
	far := make([]float64, len(list))
	for i, x := range list {
		far[i] = math.Abs(x - mid)
	}
	slices.Sort(far)
	return 1.4826 * middle(far)
}
