package plan

import (
	"cmp"
	"slices"

	"arplin/core/practice"
	"arplin/core/practice/fault"
	"arplin/core/say"
)

// A teacher goes round: so many groups at most, so many minutes with each at least.
// Source: common practice.
const (
	mostGroups   = 4
	leastInGroup = 3 // minutes
)

// groups parts those who are on the first song by step: neighbours are put together until
// there are no more groups than the teacher can visit, and nobody sits alone who has a
// neighbour.
func (r reading) groups(p *Piece) {
	if len(r.Songs) == 0 || len(r.on[0]) == 0 {
		p.Does, p.Why = say.Of("groups/pairs"), say.Of("why/nobody")
		return
	}
	p.Song = 0
	heaps := gather(r.on[0], max(1, min(mostGroups, p.Minutes/leastInGroup)))
	needs := make([]int, len(heaps))
	for i, list := range heaps {
		needs[i] = need(list)
	}
	minutes := portions(p.Minutes, needs)
	for i, list := range heaps {
		p.Groups = append(p.Groups, r.group(list, minutes[i]))
		p.Because = append(p.Because, because(list...)...)
	}
	// Where it is needed most, the teacher goes first.
	slices.SortStableFunc(p.Groups, func(a, b Group) int { return cmp.Compare(b.Minutes, a.Minutes) })
	p.Does = say.Of("groups", r.Songs[0].said())
	if p.Why = say.Of("why/one-step"); len(heaps) > 1 {
		p.Why = say.Of("why/most-time", len(steps(r.on[0])), p.Groups[0].names())
	}
}

// Waiting are those who are there and stand on no step: a newcomer has five minutes with the teacher.
// Where nobody stands on one, finding the steps is what is new together.
func (c Class) Waiting() (ids []int64) {
	placed := false
	for i := range c.Students {
		switch st := &c.Students[i]; {
		case len(st.Places) > 0:
			placed = true
		case !st.Away:
			ids = append(ids, st.ID)
		}
	}
	if !placed {
		return nil
	}
	return ids
}

func (g Group) names() say.Arg {
	var all []say.Arg
	for _, m := range g.People {
		all = append(all, say.Person(m.ID))
	}
	return say.Several(all)
}

// steps are the steps in use, the easiest first.
func steps(list []standing) (all []int) {
	for _, s := range list {
		all = append(all, s.Step)
	}
	slices.Sort(all)
	return slices.Compact(all)
}

// gather parts people into groups by step.
func gather(list []standing, most int) (heaps [][]standing) {
	for _, step := range steps(list) {
		heaps = append(heaps, filter(list, func(s standing) bool { return s.Step == step }))
	}
	gap := func(i int) int { return heaps[i+1][0].Step - heaps[i][len(heaps[i])-1].Step }
	alone := func(i int) bool { return len(heaps[i]) == 1 }
	for len(heaps) > 1 {
		join := -1
		for i := range len(heaps) - 1 {
			lonely := gap(i) == 1 && (alone(i) || alone(i+1))
			if len(heaps) <= most && !lonely {
				continue
			}
			if join < 0 || cmp.Or(cmp.Compare(gap(i), gap(join)), cmp.Compare(len(heaps[i])+len(heaps[i+1]), len(heaps[join])+len(heaps[join+1]))) < 0 {
				join = i
			}
		}
		if join < 0 {
			break
		}
		heaps[join] = append(heaps[join], heaps[join+1]...)
		heaps = slices.Delete(heaps, join+1, join+2)
	}
	return heaps
}

// need is how much a group needs the teacher: everybody a little, who fails, begins or
// is to move more.
func need(list []standing) (n int) {
	for _, s := range list {
		n += 2
		switch {
		case s.failing() || s.Kind == practice.Ease || s.Kind == practice.Drill:
			n += 3
		case len(s.Tries) == 0 || s.Kind == practice.MoveOn || s.Kind == practice.Jump:
			n += 2
		}
	}
	return n
}

func (r reading) group(list []standing, minutes int) Group {
	easiest := slices.MinFunc(list, func(a, b standing) int { return cmp.Or(cmp.Compare(a.Step, b.Step), cmp.Compare(a.Next, b.Next)) })
	g := Group{Step: easiest.Step, Tempo: slices.MinFunc(list, func(a, b standing) int { return cmp.Compare(a.Next, b.Next) }).Next, Minutes: minutes}
	for _, s := range list {
		g.People = append(g.People, Member{s.ID, s.Step, s.Kind, s.Why, s.Because})
	}
	g.Meanwhile = r.meanwhile(list, easiest)
	return g
}

// meanwhile is what a group does without the teacher.
func (r reading) meanwhile(list []standing, easiest standing) say.Line {
	tense := filter(list, func(s standing) bool { return s.Tense })
	uneven := filter(list, func(s standing) bool { return s.failing() && s.Tries[len(s.Tries)-1].Fault == fault.Uneven })
	drills := filter(list, func(s standing) bool { return s.Kind == practice.Drill })
	switch {
	case len(tense) > 0:
		return say.Of(say.Verb[say.ID](len(tense), "meanwhile/tense", "meanwhile/tense-many"), names(tense))
	case len(uneven) > 0:
		return say.Of("meanwhile/uneven")
	case len(drills) > 0:
		return say.Of("meanwhile/drill", drills[0].Bar)
	case len(list) == 1:
		return say.Of("meanwhile/alone", easiest.Next)
	case len(steps(list)) > 1:
		return say.Of("meanwhile/two-steps")
	case len(easiest.Tries) == 0:
		return say.Of("meanwhile/new")
	}
	return say.Of("meanwhile/pairs")
}
