package difficulty

import (
	"arplin/core/pattern"
)

// slotWeight is how much a slot weighs for the rate: what is plucked counts
// whole, a strum half.
func slotWeight(slot pattern.Slot) (w float64) {
	for _, st := range slot.Strokes {
		switch {
		case st.Sign.Air():
		case st.Sign.Strum(), st.Sign == pattern.Knock:
			w = max(w, 0.5)
		default:
			w = max(w, 1)
		}
	}
	return w
}

func beatSeconds(t Task) float64 { return 60 / float64(t.Tempo) }

// rateOf is half the mean and half the densest beat, in strokes a second.
func rateOf(t Task) float64 {
	p := t.Pattern
	n := p.SlotsPerBeat()
	total, dense := 0.0, 0.0
	for _, bar := range p.Bars {
		for i, slot := range bar {
			total += slotWeight(slot)
			if i%n == 0 {
				sum := 0.0
				for _, s := range bar[i : i+n] {
					sum += slotWeight(s)
				}
				dense = max(dense, sum)
			}
		}
	}
	beats := float64(len(p.Bars) * p.Meter.TappedBeats())
	return (total/beats + dense) / 2 / beatSeconds(t)
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
