package vary

import (
	"slices"

	"arplin/core/demand"
	"arplin/core/hand"
)

// OneRule reports whether the named rule leads from the harder to the simpler pattern.
func OneRule(harder, simpler hand.Pattern, name string) bool {
	r, ok := byName(name)
	return ok && slices.ContainsFunc(r.Simpler(harder), simpler.Equal)
}

// Unevenness is the cost of the way that the search takes.
func Unevenness(t demand.Task, w demand.Weights) float64 {
	return best(explore(ThumbFirst, t, w, t.Pattern, map[string]*node{}), -1, map[state]choice{}).cost
}

// EveryWay visits the cost of every way down without remembering any.
func EveryWay(t demand.Task, w demand.Weights, visit func(cost float64)) {
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
