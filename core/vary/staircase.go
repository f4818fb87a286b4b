package vary

import (
	"fmt"
	"math"
	"slices"

	"arplin/core/bind"
	"arplin/core/demand"
	"arplin/core/fretboard"
	"arplin/core/hand"
	"arplin/core/song"
	"arplin/core/theory"
)

// Stair is a step with what it asks: the pattern, the chords over which it is
// played, and its level.
type Stair struct {
	Step
	Chords []song.Bar
}

// Costs of the search; from memory, set so that steps come out even without
// leaving the order in which teachers build a figure.
const (
	outOfOrder = 1.5  // a rule taken before one that is learned later
	perStep    = 0.02 // so that a step which changes nearly nothing is not worth its place
	// maxNodes bounds the patterns that a search looks at.
	maxNodes = 400
)

// Staircase takes a target apart by the rules and returns the steps, the easiest
// first: the figure on one chord, then on the two easiest chords that follow
// each other, then on the song. Of all ways down through the rules it takes the
// one whose levels rise most evenly; a step that is not harder than the one
// below is left out. Steps below the level from are left out, except the last of
// them.
func Staircase(t demand.Task, w demand.Weights, from float64) []Stair {
	return StaircaseIn(FigureFirst, t, w, from)
}

// Order is where schools differ: what is learned first.
type Order string

// The orders.
const (
	FigureFirst    Order = "figure first"     // the whole figure on one chord, then the chords
	TwoChordsFirst Order = "two chords first" // the second chord as soon as there is a stroke
)

// StaircaseIn is Staircase in an order of the class's school. Without two chords
// to begin with, the figure comes first.
func StaircaseIn(order Order, t demand.Task, w demand.Weights, from float64) []Stair {
	one, two := chordStages(t)
	figure := t
	figure.Bars = t.Bars[:min(1, len(t.Bars))]
	if one != nil {
		figure.Bars = one
	}
	stairs := stairsOver(figure, w, "one chord")
	if order == TwoChordsFirst && two != nil {
		pair := t
		pair.Bars = two
		onTwo := stairsOver(pair, w, "two chords")
		onTwo[0].Adds, onTwo[0].Says = secondChord, secondChordSays
		if onTwo[0].Level > stairs[0].Level {
			stairs = append(stairs[:1], onTwo...)
		}
	}
	add := func(bars []song.Bar, over, adds, says string) {
		task := t
		task.Bars = bars
		if level := demand.Of(task, w).Level; level > stairs[len(stairs)-1].Level {
			stairs = append(stairs, Stair{Step{Pattern: t.Pattern, Adds: adds, Says: says, Over: over, Level: level}, bars})
		}
	}
	if two != nil {
		add(two, "two chords", secondChord, secondChordSays)
	}
	if one != nil {
		add(t.Bars, "all chords", "all chords", "The whole song. The rhythm goes on through every change.")
	}
	for len(stairs) > 1 && stairs[1].Level <= from {
		stairs = stairs[1:]
	}
	return stairs
}

const (
	secondChord     = "the second chord"
	secondChordSays = "The two easiest chords that follow each other. In the other bars rest, or play the root on one."
)

func stairsOver(t demand.Task, w demand.Weights, over string) []Stair {
	stairs := search(t, w)
	for i := range stairs {
		stairs[i].Chords, stairs[i].Over = t.Bars, over
	}
	return stairs
}

// chordStages are the easiest chord alone and the easiest two that follow each
// other; nil where the song has no more than that.
func chordStages(t demand.Task) (one, two []song.Bar) {
	var steps []theory.Chord
	for _, bar := range t.Bars {
		for _, ch := range bar.Changes {
			if c, err := ch.Chord(); err == nil && (len(steps) == 0 || steps[len(steps)-1] != c) {
				steps = append(steps, c)
			}
		}
	}
	different := map[theory.Chord]bool{}
	for _, c := range steps {
		different[c] = true
	}
	if len(different) < 2 {
		return nil, nil
	}
	easiest := steps[0]
	pair, pairHold := [2]theory.Chord{}, math.Inf(1)
	for i, c := range steps {
		if t.Shapes[c].Hold < t.Shapes[easiest].Hold {
			easiest = c
		}
		if i > 0 {
			if hold := t.Shapes[c].Hold + t.Shapes[steps[i-1]].Hold; hold < pairHold {
				pairHold, pair = hold, [2]theory.Chord{steps[i-1], c}
			}
		}
	}
	meter := t.Pattern.Meter
	bar := func(c theory.Chord) song.Bar { return song.Bar{Changes: song.Share(meter, []string{c.String()})} }
	one = []song.Bar{bar(easiest)}
	if len(different) > 2 {
		two = []song.Bar{bar(pair[0]), bar(pair[0]), bar(pair[1]), bar(pair[1])}
	}
	return one, two
}

// node is a pattern of the search with what lies below it.
type node struct {
	pattern hand.Pattern
	level   float64
	below   []edge
}

type edge struct {
	rule int
	to   *node
}

// search finds the most even way from the target down to a pattern that no rule
// makes simpler.
func search(t demand.Task, w demand.Weights) []Stair {
	nodes := map[string]*node{}
	root := explore(t, w, t.Pattern, nodes)
	memo := map[state]choice{}
	var stairs []Stair
	for at, last := root, -1; ; {
		c := best(at, last, memo)
		s := Stair{Step: Step{Pattern: at.pattern, Level: at.level}}
		if c.next == nil {
			s.Adds, s.Says = "the first stroke of the bar", "One stroke at the beginning of each bar, and time to hear it."
			if at == root {
				s.Adds, s.Says = "the whole figure", "The figure is as simple as the rules make it."
			}
			stairs = append(stairs, s)
			break
		}
		s.Adds, s.Says = Rules[c.rule].Name, Rules[c.rule].Says
		stairs = append(stairs, s)
		at, last = c.next, c.rule
	}
	slices.Reverse(stairs)
	return stairs
}

// explore builds the patterns below one, each once.
func explore(t demand.Task, w demand.Weights, p hand.Pattern, nodes map[string]*node) *node {
	key := p.String()
	if n, ok := nodes[key]; ok {
		return n
	}
	t.Pattern = p
	n := &node{pattern: p, level: demand.Of(t, w).Level}
	nodes[key] = n
	for i, r := range Rules {
		q, ok := r.simplify(p)
		if !ok || len(nodes) >= maxNodes || !keepsBass(p, q) {
			continue
		}
		if child := explore(t, w, q, nodes); child.level < n.level {
			n.below = append(n.below, edge{i, child})
		}
	}
	return n
}

type state struct {
	at   *node
	last int
}

type choice struct {
	cost float64
	rule int
	next *node
}

// best is the cheapest way on from a node: squared differences of level, a
// little for each step, more for leaving the order of the rules.
func best(at *node, last int, memo map[state]choice) choice {
	key := state{at, last}
	if c, ok := memo[key]; ok {
		return c
	}
	found := choice{cost: math.Inf(1)}
	for _, e := range at.below {
		d := at.level - e.to.level
		cost := d*d + perStep + best(e.to, e.rule, memo).cost
		if e.rule < last {
			cost += outOfOrder
		}
		if cost < found.cost {
			found = choice{cost, e.rule, e.to}
		}
	}
	if found.next == nil {
		found.cost = 0
	}
	memo[key] = found
	return found
}

// Steps is the staircase of a pattern for a song on one instrument, from the
// very first stroke, as it is stored.
func Steps(order Order, target hand.Pattern, sg song.Song, ins fretboard.Instrument, school bind.School, w demand.Weights) []Step {
	t := demand.NewTask(target, sg, ins, school, sg.Tempo)
	var steps []Step
	for _, s := range StaircaseIn(order, t, w, 0) {
		steps = append(steps, s.Step)
	}
	return steps
}

// ReadyWhen says when a step is safe, by its goal in tapped beats a minute.
// Source: common practice.
func ReadyWhen(goal int) string {
	return fmt.Sprintf("three times clean at %d, counting aloud", goal)
}

// FallBack names the step to go back to when one falls apart.
func FallBack(steps []Step, i int) string {
	if i == 0 {
		return "say the count and tap it, then one stroke again"
	}
	return fmt.Sprintf("step %d, %s", i, steps[i-1].Adds)
}
