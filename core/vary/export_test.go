package vary

import "arplin/core/demand"
import "arplin/core/hand"

// OneRule reports whether the named rule leads from the harder to the simpler pattern.
func OneRule(harder, simpler hand.Pattern, name string) bool {
	for _, r := range Rules {
		if q, ok := r.simplify(harder); ok && r.Name == name && q.Equal(simpler) {
			return true
		}
	}
	return false
}

// Unevenness is the cost of the way that the search takes.
func Unevenness(t demand.Task, w demand.Weights) float64 {
	return best(explore(t, w, t.Pattern, map[string]*node{}), -1, map[state]choice{}).cost
}

// EveryWay visits the cost of every way down without remembering any.
func EveryWay(t demand.Task, w demand.Weights, visit func(cost float64)) {
	var walk func(at *node, last int, cost float64)
	walk = func(at *node, last int, cost float64) {
		if len(at.below) == 0 {
			visit(cost)
		}
		for _, e := range at.below {
			d := at.level - e.to.level
			c := cost + d*d + perStep
			if e.rule < last {
				c += outOfOrder
			}
			walk(e.to, e.rule, c)
		}
	}
	walk(explore(t, w, t.Pattern, map[string]*node{}), -1, 0)
}
