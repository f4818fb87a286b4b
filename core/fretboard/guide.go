package fretboard

import "slices"

// What a fingering other than the usual costs, in the points of a change, so that it is taken where
// it spares one; from memory.
const (
	costOtherFinger = 0.12 // for each finger's breadth away from the usual finger
	costTurned      = 0.25 // the thin string of a fret has the finger nearer to the index
	costApart       = 0.3  // a finger each where the usual lays one across two strings
	gainStays       = 1.15 // a finger that stays
	costTucked      = 0.5  // the index lies between two others on one fret, as in an A from which D follows
)

// Guide chooses fingers for shapes that follow each other: one that can stay where it is stays, and
// the hand keeps the usual fingering where nothing is gained by another. Changes are pairs of places
// in the list; a shape that is fixed keeps its fingers. Source: guide fingers, common practice.
func Guide(shapes []Voicing, fixed []bool, changes [][2]int) []Voicing {
	g := guide{changes: changes, choices: make([][]choice, len(shapes)), chosen: make([]int, len(shapes))}
	for i, v := range shapes {
		g.choices[i] = []choice{{Voicing: v}}
		if !fixed[i] {
			g.choices[i] = append(g.choices[i], otherFingers(v)...)
		}
	}
	for range maxRounds {
		if !g.improve() {
			break
		}
	}
	out := make([]Voicing, len(shapes))
	for i := range shapes {
		out[i] = g.choices[i][g.chosen[i]].Voicing
	}
	return out
}

// maxRounds bounds the search; each makes the whole cheaper, and two are usual.
const maxRounds = 8

type guide struct {
	changes [][2]int
	choices [][]choice // of each shape, the usual first
	chosen  []int
}

// choice is a way to finger a shape, with what it costs beside the usual one.
type choice struct {
	Voicing
	cost float64
}

// improve takes the best fingering of each shape, and then of each two that follow each other.
func (g *guide) improve() (better bool) {
	for i := range g.choices {
		better = g.best(i, i) || better
	}
	for _, ch := range g.changes {
		if ch[0] != ch[1] {
			better = g.best(ch[0], ch[1]) || better
		}
	}
	return better
}

// best tries all fingerings of two shapes together, of one where they are the same.
func (g *guide) best(a, b int) bool {
	wasA, wasB := g.chosen[a], g.chosen[b]
	bestA, bestB, least := wasA, wasB, g.around(a, b)-1e-9
	for i := range g.choices[a] {
		for k := range g.choices[b] {
			if g.chosen[b] = k; a != b {
				g.chosen[a] = i
			} else if i > 0 {
				break
			}
			if cost := g.around(a, b); cost < least {
				bestA, bestB, least = g.chosen[a], g.chosen[b], cost
			}
		}
	}
	g.chosen[a] = bestA
	g.chosen[b] = bestB
	return bestA != wasA || bestB != wasB
}

// around is what two shapes cost with the changes from and to them.
func (g *guide) around(a, b int) float64 {
	cost := g.choices[a][g.chosen[a]].cost
	if a != b {
		cost += g.choices[b][g.chosen[b]].cost
	}
	for _, ch := range g.changes {
		if ch[0] == a || ch[0] == b || ch[1] == a || ch[1] == b {
			cost -= guided(g.choices[ch[0]][g.chosen[ch[0]]].Voicing, g.choices[ch[1]][g.chosen[ch[1]]].Voicing)
		}
	}
	return cost
}

// guided is what a change gains by fingers that stay where they are. A finger that was free gains nothing: it is no
// guide.
func guided(from, to Voicing) (gain float64) {
	for finger := int8(1); finger <= 4; finger++ {
		a, wasDown := from.press(finger)
		b, isDown := to.press(finger)
		if wasDown && isDown && a == b {
			gain += gainStays
		}
	}
	return gain
}

// otherFingers are the ways to hold a shape besides the usual: a finger further out on a higher fret,
// and where the usual lays one across two strings, a finger each.
func otherFingers(v Voicing) (list []choice) {
	apart, ok := v.apart()
	if !ok {
		return v.fingeredFrom(list, 0)
	}
	cost := costApart + max(0, apart.Hold-v.Hold)
	list = append(v.fingeredFrom(list, 0), choice{apart, cost})
	return apart.fingeredFrom(list, cost)
}

// apart is a shape with a finger on each string; ok is false where the usual has that, where four
// are not enough, and where the index has to lie across the thin strings, as in an F.
func (v Voicing) apart() (Voicing, bool) {
	low, high := v.Span()
	if b := v.Fingering.Barre; b.From != 0 {
		for s := b.To; int(s) <= v.Strings(); s++ {
			if v.At(s) > b.Fret {
				return v, false
			}
		}
	}
	f, finger := Fingering{n: v.n}, int8(0)
	for fret := max(low, 1); fret <= high; fret++ {
		for i := int8(0); i < v.n; i++ {
			if v.frets[i] != fret {
				continue
			}
			if finger++; finger > 4 {
				return v, false
			}
			f.fingers[i] = max(finger, min(4, int8(fret-low)+1))
		}
	}
	if f.Count() == v.Fingering.Count() || f.Count() != int(finger) {
		return v, false
	}
	return v.with(f), true
}

// fingeredFrom adds the ways that differ from one by which finger lies where.
func (v Voicing) fingeredFrom(list []choice, cost float64) []choice {
	var groups []heldBy
	for finger := int8(1); finger <= 4; finger++ {
		if p, down := v.press(finger); down {
			groups = append(groups, heldBy{p, finger})
		}
	}
	if aFret(groups) {
		return list
	}
	var fingers [4]int8
	var used [5]bool
	var place func(at int)
	place = func(at int) {
		if at == len(groups) {
			if c, ok := v.heldWith(groups, fingers[:at]); ok {
				c.cost += cost
				list = append(list, c)
			}
			return
		}
		for finger := int8(1); finger <= 4; finger++ {
			if !used[finger] && (groups[at].from == groups[at].to || finger == groups[at].usual) {
				used[finger], fingers[at] = true, finger
				place(at + 1)
				used[finger] = false
			}
		}
	}
	place(0)
	return list
}

// aFret reports a finger for each fret in its order: no hand takes others; nor does a single finger change.
func aFret(groups []heldBy) bool {
	for i, g := range groups {
		if i > 0 && g.fret != groups[i-1].fret+Fret(g.usual-groups[i-1].usual) || g.from != g.to && g.usual > 1 {
			return false
		}
	}
	return true
}

// heldBy is what one finger of the usual fingering presses.
type heldBy struct {
	press
	usual int8
}

// heldWith is a shape with other fingers; ok is false where no hand would take them, or where they
// are the usual.
func (v Voicing) heldWith(groups []heldBy, fingers []int8) (c choice, ok bool) {
	for i, g := range groups {
		c.cost += costOtherFinger * abs(float64(fingers[i]-g.usual))
		for k, h := range groups[:i] {
			far := float64(g.fret - h.fret)
			reach := float64(fingers[i] - fingers[k])
			usual := float64(g.usual - h.usual)
			switch {
			case far == 0 && (reach < 0) != (usual < 0): // on one fret the other way round
				if abs(float64(g.from-h.from)) == 1 && !tucked(groups, fingers) {
					return c, false
				}
				c.cost += costTurned
			case far == 0:
			case far*reach < 0, abs(far) > max(abs(reach), abs(usual)), abs(reach) > abs(far)+1:
				return c, false // crossed, out of reach, or bunched up
			}
		}
	}
	if c.cost == 0 {
		return c, false
	}
	if tucked(groups, fingers) {
		c.cost = costTucked
	}
	f := v.Fingering
	for i, g := range groups {
		for s := g.from; s >= g.to; s-- {
			if v.Fingering.At(s) == g.usual {
				f.fingers[f.n-int8(s)] = fingers[i]
			}
		}
	}
	c.Voicing = v.with(f)
	c.cost += max(0, c.Hold-v.Hold)
	return c, true
}

// tucked reports three neighbours of one fret under middle, index and ring finger.
func tucked(groups []heldBy, fingers []int8) bool {
	return len(groups) == 3 && slices.Equal(fingers, []int8{2, 1, 3}) && groups[0].fret == groups[2].fret &&
		groups[0].from-groups[1].from == 1 && groups[1].from-groups[2].from == 1
}

// with is the same shape under other fingers. It is never easier than under the usual ones, so that
// a chord does not get easier by the company that it keeps.
func (v Voicing) with(f Fingering) Voicing {
	var was, is strains
	was.hands(v.Shape, v.Fingering)
	is.hands(v.Shape, f)
	v.Fingering = f
	v.Effort += max(0, is.effort()-was.effort())
	v.Hold += max(0, is.hold()-was.hold())
	return v
}

func abs(x float64) float64 { return max(x, -x) }
