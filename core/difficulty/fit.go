package difficulty

import "slices"

// Fitting finds weights under which every chain rises. The weights stay near a
// prior, so that orders which it has not seen come out right too, and what may
// never lower the level is kept: no weight is negative.

// Prior is where the fit starts and what it is pulled back to; from memory of
// what costs learners most.
var Prior = Weights{
	rate: 0.5, offBeat: 0.6, together: 0.65, independence: 0.5, thumbTravel: 0.2, order: 0.15, repeat: 0.03, fingers: 0.35,
	direction: 0.6, aim: 0.4, touch: 1.1, dynamics: 0.4, figure: 0.3, shape: 0.25, change: 0.6,
}

const (
	margin     = 0.35 // a step must be harder by this much, in units of the sum
	pull       = 0.02 // strength of the prior
	fitRounds  = 4000
	learnSpeed = 0.01
)

// pair is two neighbouring steps of a chain, as the difference of their parts.
type pair struct {
	chain  int
	weight float64
	diff   [numParts]float64
}

// Of an order of many figures any two that are so many places apart count, each a little.
const (
	apart     = 8
	rankShare = 0.006
)

// ranked are the pairs of an order of many, as those of no chain.
func ranked(order []Task) (pairs []pair) {
	values := make([][numParts]float64, len(order))
	for i, t := range order {
		values[i] = measure(t).values
		for j := range i - apart + 1 {
			p := pair{weight: rankShare}
			for k := range p.diff {
				p.diff[k] = values[i][k] - values[j][k]
			}
			pairs = append(pairs, p)
		}
	}
	return pairs
}

func pairsOf(chains []Chain) []pair {
	var pairs []pair
	for c, chain := range chains {
		var before [numParts]float64
		for i, t := range chain.Tasks {
			now := measure(t).values
			if i > 0 {
				p := pair{chain: c, weight: 1}
				for k := range now {
					p.diff[k] = now[k] - before[k]
				}
				pairs = append(pairs, p)
			}
			before = now
		}
	}
	return pairs
}

func (p *pair) rise(w *Weights) (sum float64) {
	for k, d := range p.diff {
		sum += w[k] * d
	}
	return sum
}

// Fit returns weights for the chains and, weakly, for an order of many figures. It is deterministic.
func Fit(chains []Chain, order []Task) Weights {
	return fitPairs(append(pairsOf(chains), ranked(order)...))
}

// fitPairs descends on the hinge of every pair, with the pull of the prior, and projects back onto what
// must hold.
func fitPairs(pairs []pair) Weights {
	w := Prior
	for range fitRounds {
		var slope Weights
		for i := range pairs {
			p := &pairs[i]
			if p.rise(&w) >= margin {
				continue
			}
			for k, d := range p.diff {
				slope[k] -= p.weight * d
			}
		}
		for k := range w {
			scale := Prior[k] * Prior[k] * 10 // parts with large values have small weights and move in small steps
			w[k] -= learnSpeed * scale * (slope[k] + pull*(w[k]-Prior[k])/(Prior[k]*Prior[k]))
		}
		w = w.allowed()
	}
	return w
}

// allowed is the nearest weights under which the promises of docs/difficulty.md hold.
func (w Weights) allowed() Weights {
	for k := range w {
		w[k] = max(w[k], 0.1*Prior[k])
	}
	return w
}

// HeldOut fits without each part of the chains in turn, of so many parts, and returns the share of all
// adjacent pairs that come out in order when their own chain was not seen.
func HeldOut(chains []Chain, order []Task, parts int) float64 {
	pairs, others := pairsOf(chains), ranked(order)
	right := 0
	for part := range parts {
		seen := slices.DeleteFunc(slices.Clone(pairs), func(p pair) bool { return p.chain%parts == part })
		w := fitPairs(append(seen, others...))
		for i := range pairs {
			if p := &pairs[i]; p.chain%parts == part && p.rise(&w) > 0 {
				right++
			}
		}
	}
	return float64(right) / float64(len(pairs))
}

// Baseline is the share that strokes times tempo puts in order.
func Baseline(chains []Chain) float64 {
	right, all := 0, 0
	for _, chain := range chains {
		for i := 1; i < len(chain.Tasks); i++ {
			all++
			if simple(chain.Tasks[i]) > simple(chain.Tasks[i-1]) {
				right++
			}
		}
	}
	return float64(right) / float64(all)
}

func simple(t Task) float64 { return t.Pattern.StrokesPerSecond(t.Tempo) }
