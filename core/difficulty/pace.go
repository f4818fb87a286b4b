package difficulty

import (
	"arplin/core/pattern"
)

// How much a stroke weighs for the rate: what is plucked counts whole, what goes on over the strings
// to the next one less, since the hand runs by itself, a strum less, too, a stroke of a sweep,
// which is one motion, a third. From memory.
const (
	plucked  = 1.0
	running  = 0.6
	strummed = 0.6
	swept    = 0.35
)

// slotWeights are how much the slots of a bar weigh for the rate. A stroke more never makes them
// weigh less: it weighs at least what the next one saves by running on from it.
func slotWeights(bar pattern.Bar) []float64 {
	weights, way := make([]float64, len(bar)), 0
	for i, slot := range bar {
		for _, st := range slot.Strokes {
			weights[i] = max(weights[i], strokeWeight(st))
		}
		last := way
		if way = 0; weights[i] == plucked && i > 0 {
			if way = runsOn(bar[i-1], slot); way != 0 && last*way >= 0 {
				weights[i] = running
			}
		}
	}
	return weights
}

func strokeWeight(st pattern.Stroke) float64 {
	switch {
	case st.Sign.Air():
		return 0
	case st.Sign == pattern.Sweep:
		return swept
	case st.Sign.Strum(), st.Sign == pattern.Knock:
		return strummed
	}
	return plucked
}

// runsOn is the way, up or down, of a finger by itself that goes on to the string beside the one that
// was struck just before, or answers the thumb; 0 for another.
func runsOn(before, slot pattern.Slot) int {
	if len(before.Strokes) != 1 || len(slot.Strokes) != 1 || before.Stop || slot.Stop {
		return 0
	}
	from, to := before.Strokes[0], slot.Strokes[0]
	if from.Target.Kind != pattern.ByChord || to.Target.Kind != pattern.ByChord || !from.Sign.Finger() || !isFinger(to) {
		return 0
	}
	if from.Sign == pattern.Thumb {
		return 1
	}
	if way := placeOf(to) - placeOf(from); way == 1 || way == -1 {
		return way
	}
	return 0
}

func beatSeconds(t Task) float64 { return 60 / float64(t.Tempo) }

// rateOf is half the mean and half the densest beat, in strokes a second, and what the densest beat
// costs near what a hand can do.
func rateOf(t Task) float64 {
	p := t.Pattern
	n := p.SlotsPerBeat()
	total, dense, most := 0.0, 0.0, 0
	for _, bar := range p.Bars {
		weights := slotWeights(bar)
		for i := 0; i < len(bar); i += n {
			sum, count := 0.0, 0
			for _, w := range weights[i : i+n] {
				sum += w
				if w > 0 {
					count++
				}
			}
			total += sum
			dense, most = max(dense, sum), max(most, count)
		}
	}
	limit, perSecond := handLimit, float64(most)/beatSeconds(t)
	if p.Uses(pattern.Up) { // the arm moves on every slot, whether it strikes or not
		limit, perSecond = armLimit, float64(n)/beatSeconds(t)
	}
	over := max(0, perSecond-limit)
	beats := float64(len(p.Bars) * p.Meter.TappedBeats())
	return (total/beats+dense)/2/beatSeconds(t) + steep*over*over
}

// From so many motions a second on what is asked of an arm, and of a hand, rises steeply. From memory.
const (
	armLimit  = 2.6
	handLimit = 5.5
	steep     = 0.35
)

// busiestBeat is how many strokes the beat has that has most.
func busiestBeat(p pattern.Pattern) float64 {
	most := 0
	for _, bar := range p.Bars {
		for i := 0; i < len(bar); i += p.SlotsPerBeat() {
			struck := 0
			for _, slot := range bar[i : i+p.SlotsPerBeat()] {
				struck += len(slot.Strokes)
			}
			most = max(most, struck)
		}
	}
	return float64(most)
}

// repeatOf is the square of the densest rate at which one finger comes again.
func repeatOf(t Task) float64 {
	p := t.Pattern
	slotSeconds := beatSeconds(t) / float64(p.SlotsPerBeat())
	last := map[pattern.Sign]int{}
	worst := 0.0
	for round := range 2 { // the figure repeats
		for b, bar := range p.Bars {
			for i, slot := range bar {
				at := (round*len(p.Bars)+b)*p.Grid() + i
				for _, st := range slot.Strokes {
					if !st.Sign.Finger() {
						continue
					}
					if before, ok := last[st.Sign]; ok {
						r := 1 / (float64(at-before) * slotSeconds)
						worst = max(worst, r*r)
					}
					last[st.Sign] = at
				}
			}
		}
	}
	return worst
}

// soloFingers counts the fingers that strike by themselves at least once.
func soloFingers(p pattern.Pattern) int {
	solo := map[pattern.Sign]bool{}
	for _, bar := range p.Bars {
		for _, slot := range bar {
			block := 0
			for _, st := range slot.Strokes {
				if isFinger(st) {
					block++
				}
			}
			for _, st := range slot.Strokes {
				if isFinger(st) && block == 1 {
					solo[st.Sign] = true
				}
			}
		}
	}
	return len(solo)
}
