package listen

import (
	"fmt"
	"math"
	"slices"

	"arplin/core/bpm"
)

// Room is whether a class that plays without the click holds its beat: all that can be told of many players at once.
type Room struct {
	From, To float64 // BPM at the beginning and at the end; 0 where there is no beat that all have
	asked    int
	silent   bool
}

// How the beat of a room is looked for, and what holds it, from memory.
const (
	roomWide     = 0.25 // a tempo is looked for so far from what was asked, to both sides
	roomBend     = 0.30 // and may change by so much from the beginning to the end
	roomLeast    = 6    // beats
	roomContrast = 3.3  // of what comes new on the beat, against what comes at any other time
	roomHolds    = 0.04 // of the tempo: less is no change that a class hears
)

// HearRoom judges a recording of a class that was counted in at a tempo, in beats a minute, and played on without the click.
func HearRoom(s Sound, tempo int) (r Room, err error) {
	r.asked = tempo
	if err := s.check(); err != nil {
		return r, err
	}
	if tempo < bpm.Min || tempo > bpm.Max {
		return r, fmt.Errorf("a tempo is %d to %d BPM, and this one is %d", bpm.Min, bpm.Max, tempo)
	}
	samples := resampled(s.Samples, s.Rate)
	if quiet(samples) {
		r.silent = true
		return r, nil
	}
	flux := fluxOf(samples)
	for f, usual := range usualOf(flux) { // what comes new in hiss is no beginning
		flux[f] = max(0, flux[f]-usual)
	}
	flux = spread(flux)
	beat := 60_000 / float64(tempo) / hopMS // in frames
	if float64(len(flux)) < roomLeast*beat {
		return r, nil
	}
	best := fitBeat(flux, beat)
	mean := 0.0
	for _, x := range flux {
		mean += x
	}
	if mean /= float64(len(flux)); mean == 0 || best.score < roomContrast*mean {
		return r, nil
	}
	r.From = float64(tempo) * beat / best.gap(0)
	r.To = float64(tempo) * beat / best.gap(best.beats-1)
	return r, nil
}

// pulse is where beats come: the k-th at first + k*every + k*k*bend, in frames.
type pulse struct {
	first, every, bend float64
	score              float64 // what comes new on its beats, in the middle
	beats              int
}

// gap is how long the beat before the k-th is.
func (p pulse) gap(k int) float64 { return p.every + float64(2*k)*p.bend }

// over is what comes new on its beats, in the middle, and how many there are.
func (p pulse) over(flux []float64) (mean float64, beats int) {
	end := float64(len(flux))
	for at, gap := p.first, p.every+p.bend; at < end && gap > 1; beats++ {
		mean += flux[int(at)]
		at, gap = at+gap, gap+2*p.bend
	}
	return mean / float64(max(1, beats)), beats
}

// fitBeat finds the pulse on which most comes new: coarsely, then finer around the best.
func fitBeat(flux []float64, beat float64) (best pulse) {
	try := func(p pulse) {
		mean, n := p.over(flux)
		if p.score, p.beats = mean, n; n >= roomLeast && mean > best.score {
			best = p
		}
	}
	beats := float64(len(flux)) / beat
	for every := beat * (1 - roomWide); every <= beat*(1+roomWide); every += 0.01 * beat {
		for change := -roomBend; change <= roomBend; change += 0.02 {
			for first := 0.0; first < every; first += 2 {
				try(pulse{first: first, every: every, bend: change * every / (2 * beats)})
			}
		}
	}
	for range 3 {
		around := best
		for i := -6; i <= 6; i++ {
			for j := -6; j <= 6; j++ {
				for first := -4.0; first <= 4; first++ {
					p := pulse{first: around.first + first, every: around.every * (1 + 0.0015*float64(i)), bend: around.bend + 0.003*float64(j)*around.every/(2*beats)}
					if p.first >= 0 {
						try(p)
					}
				}
			}
		}
	}
	return best
}

// spread lets what many players begin a little apart count as one beginning.
func spread(flux []float64) []float64 {
	const wide = 4 // frames to each side
	out := make([]float64, len(flux))
	for f := range flux {
		sum, weight := 0.0, 0.0
		for k := max(0, f-wide); k <= min(len(flux)-1, f+wide); k++ {
			w := 1 - math.Abs(float64(k-f))/(wide+1)
			sum, weight = sum+w*flux[k], weight+w
		}
		out[f] = sum / weight
	}
	top := slices.Max(out)
	for f := range out { // one loud hand is not the class
		out[f] = math.Sqrt(out[f] / max(top, 1e-9))
	}
	return out
}

// Holds reports a class that keeps its tempo, whichever it is.
func (r Room) Holds() bool { return r.From > 0 && math.Abs(r.To-r.From) <= roomHolds*r.From }

// Sentence is what a teacher would say.
func (r Room) Sentence() string {
	middle := (r.From + r.To) / 2
	switch {
	case r.silent:
		return "I heard nothing. Is the microphone on?"
	case r.From == 0:
		return "I can’t find one beat that everyone has. Clap it together first, then play it again."
	case !r.Holds() && r.To > r.From:
		return fmt.Sprintf("The class speeds up, from %.0f to %.0f BPM.", r.From, r.To)
	case !r.Holds():
		return fmt.Sprintf("The class slows down, from %.0f to %.0f BPM.", r.From, r.To)
	case math.Abs(middle-float64(r.asked)) > roomHolds*float64(r.asked):
		return fmt.Sprintf("The class holds the beat, but at %.0f BPM and not at %d.", middle, r.asked)
	}
	return fmt.Sprintf("The class holds the beat, at %.0f BPM.", middle)
}
