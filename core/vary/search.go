package vary

import (
	"math"
	"slices"

	"arplin/core/demand"
	"arplin/core/hand"
)

// Costs of the search; from memory, set so that steps come out even without
// leaving the order in which teachers build a figure.
const (
	outOfOrder = 1.5  // a rule taken before one that is learned later
	severalOf  = 0.8  // a step with more strokes than its name says
	perStep    = 0.02 // so that a step which changes nearly nothing is not worth its place
	// maxNodes bounds the patterns that a search looks at.
	maxNodes = 400
)

// node is a pattern of the search with what lies below it.
type node struct {
	pattern hand.Pattern
	level   float64
	below   []edge
}

type edge struct {
	rule    int // place in Rules
	rank    float64
	several bool // it adds more strokes than its name says
	to      *node
}

// rank is the place of a rule in an order: what is learned last has the lowest.
func (o Order) rank(rule int) float64 {
	if o == AccentsEarly && Rules[rule].Name == "accents" {
		for i, r := range Rules {
			if r.Name == "two and four" {
				return float64(i) - 0.5 // right after four even strokes
			}
		}
	}
	return float64(rule)
}

// search finds the most even way from the target down to a pattern that no rule
// makes simpler, and returns it upwards.
func search(order Order, t demand.Task, w demand.Weights) []Step {
	root := explore(order, t, w, t.Pattern, map[string]*node{})
	memo := map[state]choice{}
	var steps []Step
	for at, last := root, -1.0; ; {
		c := best(at, last, memo)
		s := Step{Pattern: at.pattern, Level: at.level}
		if c.next == nil {
			s.Adds, s.Says = "the first stroke of the bar", "One stroke at the beginning of each bar, and time to hear it."
			if at == root {
				s.Adds, s.Says = "the whole figure", "The figure is as simple as the rules make it."
			}
			steps = append(steps, s)
			break
		}
		s.Adds, s.Says = Rules[c.rule].Name, Rules[c.rule].Says
		steps = append(steps, s)
		at, last = c.next, c.rank
	}
	slices.Reverse(steps)
	return steps
}

// explore builds the patterns below one, each once.
func explore(order Order, t demand.Task, w demand.Weights, p hand.Pattern, nodes map[string]*node) *node {
	key := p.String()
	if n, ok := nodes[key]; ok {
		return n
	}
	t.Pattern = p
	n := &node{pattern: p, level: demand.Of(t, w).Level}
	nodes[key] = n
	for i, r := range Rules {
		if !r.Ladder {
			continue
		}
		for _, q := range r.Simpler(p) {
			if len(nodes) >= maxNodes {
				break
			}
			if child := explore(order, t, w, q, nodes); child.level < n.level {
				n.below = append(n.below, edge{i, order.rank(i), r.Single && strokes(p) > strokes(q)+1, child})
			}
		}
	}
	return n
}

// strokes counts what sounds in a figure.
func strokes(p hand.Pattern) (n int) {
	each(p, func(Place, hand.Stroke) { n++ })
	return n
}

type state struct {
	at   *node
	last float64
}

type choice struct {
	cost float64
	rule int
	rank float64
	next *node
}

// cost is that of one step down, after a rule of some rank.
func (e edge) cost(from *node, last float64) float64 {
	d := from.level - e.to.level
	cost := d*d + perStep
	if e.rank < last {
		cost += outOfOrder
	}
	if e.several {
		cost += severalOf
	}
	return cost
}

// best is the cheapest way on from a node: squared differences of level, a
// little for each step, more for leaving the order of the rules and for steps that
// add more than they say.
func best(at *node, last float64, memo map[state]choice) choice {
	key := state{at, last}
	if c, ok := memo[key]; ok {
		return c
	}
	found := choice{cost: math.Inf(1)}
	for _, e := range at.below {
		cost := e.cost(at, last) + best(e.to, e.rank, memo).cost
		if cost < found.cost {
			found = choice{cost, e.rule, e.rank, e.to}
		}
	}
	if found.next == nil {
		found.cost = 0
	}
	memo[key] = found
	return found
}
