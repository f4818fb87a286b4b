package ladder

import (
	"slices"

	"arplin/core/difficulty"
	"arplin/core/pattern"
	"arplin/core/variation"
)

// OneRule reports whether a step adds one rule, and that rule leads from the harder to the simpler pattern.
func OneRule(harder, simpler pattern.Pattern, adds []Thing) bool {
	if len(adds) != 1 {
		return false
	}
	r, ok := variation.ByID(adds[0].Rule)
	return ok && slices.ContainsFunc(r.Simpler(harder), simpler.Equal)
}

// Unevenness is the cost of the way that the search takes.
func Unevenness(t difficulty.Task, w difficulty.Weights) float64 {
	return best(explore(ThumbFirst, t, w, t.Pattern, map[string]*node{}), -1, map[state]choice{}).cost
}

// Looked is how many patterns the search looks at, and how many it may.
func Looked(t difficulty.Task, w difficulty.Weights) (looked, most int) {
	nodes := map[string]*node{}
	explore(ThumbFirst, t, w, t.Pattern, nodes)
	return len(nodes), maxNodes
}

// EveryWay visits the cost of every way down without remembering any.
func EveryWay(t difficulty.Task, w difficulty.Weights, visit func(cost float64)) {
	var walk func(at *node, last, cost float64)
	walk = func(at *node, last, cost float64) {
		if len(at.below) == 0 {
			visit(cost)
		}
		for _, e := range at.below {
			walk(e.to, e.rank, cost+e.cost(at, last))
		}
	}
	walk(explore(ThumbFirst, t, w, t.Pattern, map[string]*node{}), -1, 0)
}
