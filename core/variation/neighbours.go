package variation

import (
	"cmp"
	"math"
	"slices"

	"arplin/core/difficulty"
	"arplin/core/pattern"
)

// Variation is a pattern one rule away from another, or two.
type Variation struct {
	Pattern  pattern.Pattern
	Changes  []Change // one, or two where it lies two rules away
	Level    float64
	Together bool // can be played together with the pattern it comes from
}

// Change is a rule in one of its directions, with the words that are true of
// the figures that it leads from and to.
type Change struct {
	Rule   ID
	Harder bool
	Words
}

// Name is what was changed, one thing after the other.
func (v Variation) Name() string {
	name := v.Changes[0].Name
	for _, c := range v.Changes[1:] {
		name += ", then " + c.Name
	}
	return name
}

// Says is the sentence about it.
func (v Variation) Says() string {
	says := v.Changes[0].Says
	for _, c := range v.Changes[1:] {
		says += " " + c.Says
	}
	return says
}

// Around is what lies about a pattern: the simpler ones from the hardest down,
// the harder ones from the easiest up, and those that are just as hard.
type Around struct {
	Level                   float64 // of the pattern itself
	Simpler, Beside, Harder []Variation
}

// ByTenths counts as just as hard what is the same to a tenth of a level: nobody
// feels less, or takes a simpler figure that is as hard as the one before.
func (a Around) ByTenths() Around {
	rounded := Around{Level: a.Level}
	for _, v := range slices.Concat(a.Harder, a.Beside, a.Simpler) {
		switch {
		case tenths(v.Level) < tenths(a.Level):
			rounded.Simpler = append(rounded.Simpler, v)
		case tenths(v.Level) > tenths(a.Level):
			rounded.Harder = append(rounded.Harder, v)
		default:
			rounded.Beside = append(rounded.Beside, v)
		}
	}
	return rounded
}

func tenths(level float64) float64 { return math.Round(10 * level) }

// Neighbours lists what lies one rule away. Everything is measured as the task
// is, on its chords and at its tempo: the side is the level's, not the rule's.
func Neighbours(t difficulty.Task, w difficulty.Weights) Around {
	return around(t, w, func(visit func(Variation)) {
		for _, r := range Rules {
			for _, q := range r.Simpler(t.Pattern) {
				visit(Variation{Pattern: q, Changes: []Change{{r.ID, false, r.Down(t.Pattern, q)}}})
			}
			for _, q := range r.Harder(t.Pattern) {
				visit(Variation{Pattern: q, Changes: []Change{{r.ID, true, r.Up(t.Pattern, q)}}})
			}
		}
	})
}

// Deeper lists what lies two rules away and not one: on each side what a second
// rule of the same direction leads to.
func Deeper(t difficulty.Task, w difficulty.Weights) Around {
	first := Neighbours(t, w)
	near := map[string]bool{}
	for _, v := range slices.Concat(first.Simpler, first.Beside, first.Harder) {
		near[v.Pattern.String()] = true
	}
	return around(t, w, func(visit func(Variation)) {
		onward := func(list []Variation, side func(Around) []Variation) {
			for _, v := range PerRule(list) {
				if !v.Together {
					continue
				}
				for _, u := range PerRule(side(Neighbours(With(t, v.Pattern), w))) {
					if u.Together && !near[u.Pattern.String()] {
						visit(Variation{Pattern: u.Pattern, Changes: slices.Concat(v.Changes, u.Changes)})
					}
				}
			}
		}
		onward(first.Simpler, func(a Around) []Variation { return a.Simpler })
		onward(first.Harder, func(a Around) []Variation { return a.Harder })
	})
}

// around measures what collect visits, each pattern once, and sorts it by level.
func around(t difficulty.Task, w difficulty.Weights, collect func(visit func(Variation))) (a Around) {
	a.Level = difficulty.LevelOf(t, w)
	seen := map[string]bool{t.Pattern.String(): true}
	collect(func(v Variation) {
		key := v.Pattern.String()
		if seen[key] || !worthOffering(t.Pattern, v.Pattern) {
			return
		}
		seen[key] = true
		v.Level = difficulty.LevelOf(With(t, v.Pattern), w)
		v.Together = Together(t.Pattern, v.Pattern)
		switch {
		case v.Level < a.Level:
			a.Simpler = append(a.Simpler, v)
		case v.Level > a.Level:
			a.Harder = append(a.Harder, v)
		default:
			a.Beside = append(a.Beside, v)
		}
	})
	slices.SortStableFunc(a.Simpler, func(x, y Variation) int { return cmp.Compare(y.Level, x.Level) })
	slices.SortStableFunc(a.Harder, func(x, y Variation) int { return cmp.Compare(x.Level, y.Level) })
	return a
}

// PerRule keeps the first result of every rule and direction, so that a rule
// with many places does not fill the list.
func PerRule(list []Variation) []Variation {
	type way struct {
		first, last Change
		n           int
	}
	seen := map[way]bool{}
	var out []Variation
	for _, v := range list {
		key := way{n: len(v.Changes)}
		key.first.Rule, key.first.Harder = v.Changes[0].Rule, v.Changes[0].Harder
		last := v.Changes[len(v.Changes)-1]
		key.last.Rule, key.last.Harder = last.Rule, last.Harder
		if !seen[key] {
			seen[key] = true
			out = append(out, v)
		}
	}
	return out
}
