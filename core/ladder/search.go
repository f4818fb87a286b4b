package ladder

import (
	"math"
	"slices"

	"arplin/core/difficulty"
	"arplin/core/pattern"
	"arplin/core/variation"
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
	pattern pattern.Pattern
	level   float64
	below   []edge
}

type edge struct {
	rule    int // place in variation.Rules
	rank    float64
	several bool // it adds more strokes than its name says
	to      *node
}

// search finds the most even way from the target down to a pattern that no rule
// makes simpler, and returns it upwards.
func search(order Order, t difficulty.Task, w difficulty.Weights) []Step {
	root := explore(order, t, w, t.Pattern, map[string]*node{})
	memo := map[state]choice{}
	var steps []Step
	for at, last := root, -1.0; ; {
		c := best(at, last, memo)
		s := Step{Pattern: at.pattern, Level: at.level}
		if c.next == nil {
			s.Adds = []Thing{{Stage: FirstStroke}}
			if at == root {
				s.Adds = []Thing{{Stage: WholeFigure}}
			}
			steps = append(steps, s)
			break
		}
		s.Adds = []Thing{{Rule: variation.Rules[c.rule].ID}}
		steps = append(steps, s)
		at, last = c.next, c.rank
	}
	slices.Reverse(steps)
	return steps
}

// explore builds the patterns below one, each once.
func explore(order Order, t difficulty.Task, w difficulty.Weights, p pattern.Pattern, nodes map[string]*node) *node {
	key := p.String()
	if n, ok := nodes[key]; ok {
		return n
	}
	t.Pattern = p
	n := &node{pattern: p, level: difficulty.LevelOf(t, w)}
	nodes[key] = n
	for i, r := range variation.Rules {
		if !r.Ladder {
			continue
		}
		for _, q := range r.Simpler(p) {
			if len(nodes) >= maxNodes {
				break
			}
			if child := explore(order, t, w, q, nodes); child.level < n.level {
				n.below = append(n.below, edge{i, order.rank(i), r.Single() && strokes(p) > strokes(q)+1, child})
			}
		}
	}
	return n
}

// strokes counts what sounds in a figure.
func strokes(p pattern.Pattern) (n int) {
	p.Each(func(pattern.Place, pattern.Stroke) { n++ })
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
