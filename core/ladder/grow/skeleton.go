package grow

import (
	"slices"

	"arplin/core/difficulty"
	"arplin/core/ladder"
	"arplin/core/pattern"
)

// skeleton grows a figure of one bar by its strokes: a roll in the order of its
// strings, a sweep, or groups of strokes that belong together.
func skeleton(p pattern.Pattern) []rung {
	c := difficulty.Coarsest(p)
	var way []rung
	switch {
	case onlySweeps(c):
		way = sweepWay(c)
	case isRoll(c):
		way = rollWay(c)
	default:
		return groupWay(p)
	}
	for i := range way { // on the grid of the figure
		way[i].pattern, _, _ = way[i].pattern.Regrid(p.Grid())
	}
	return way
}

// taking keeps the strokes that are wanted; stops go with the slots that are kept.
func taking(p pattern.Pattern, want func(slot int, st pattern.Stroke) bool) pattern.Pattern {
	q := p.Clone()
	for i := range q.Bars[0] {
		q.Bars[0][i].Strokes = slices.DeleteFunc(q.Bars[0][i].Strokes, func(st pattern.Stroke) bool { return !want(i, st) })
	}
	return q
}

func upTo(p pattern.Pattern, slots int) pattern.Pattern {
	return taking(p, func(i int, _ pattern.Stroke) bool { return i < slots })
}

func onlySweeps(p pattern.Pattern) bool {
	only := p.Count() > 0
	p.Each(func(_ pattern.Place, st pattern.Stroke) { only = only && st.Sign == pattern.Sweep })
	return only
}

// sweepWay is a stroke a beat, then every stroke; each goes on through the strings.
func sweepWay(p pattern.Pattern) []rung {
	way := []rung{{pattern: upTo(p, 1), adds: ladder.Thing{Stage: ladder.FirstStroke}}}
	beats := taking(p, func(i int, _ pattern.Stroke) bool { return p.OnBeat(i) })
	if !beats.Equal(p) {
		way = append(way, rung{pattern: beats, adds: ladder.Thing{Stage: ladder.StrokeABeat}})
	}
	return distinct(append(way, rung{pattern: upTo(p, p.Grid()/2), adds: ladder.Thing{Stage: ladder.Onwards}}, rung{pattern: p, adds: ladder.Thing{Stage: ladder.Onwards}}))
}

// isRoll reports fingers that run from string to string without a gap, the thumb on one
// string: every slot is filled, but for room at the end.
func isRoll(p pattern.Pattern) bool {
	bar := p.Bars[0]
	filled := len(bar)
	for filled > 0 && bar[filled-1].Empty() {
		filled--
	}
	single := 0 // finger notes by themselves
	for _, slot := range bar[:filled] {
		if len(slot.Strokes) == 0 || slot.Stop {
			return false
		}
		if len(slot.Strokes) == 1 && slot.Strokes[0].Sign != pattern.Thumb {
			single++
		}
		for _, st := range slot.Strokes {
			if !st.Sign.Finger() || st.Target.Kind == pattern.Alternate || st.Target.Kind == pattern.LowFifth {
				return false
			}
		}
	}
	_, thumb := bar[0].Find(pattern.Thumb)
	return thumb && single > 1 && filled >= 3 && len(bar)-filled <= 2
}

// unitOf is the length of the shortest part that makes the bar by being repeated; room
// at the end of the bar is no difference.
func unitOf(bar pattern.Bar) int {
	for u := 3; u <= len(bar)/2; u++ {
		if len(bar)%u != 0 {
			continue
		}
		alike := true
		for i := u; i < len(bar) && alike; i++ {
			alike = sameSlot(bar[i], bar[i%u]) || bar[i].Empty() && slices.IndexFunc(bar[i:], func(s pattern.Slot) bool { return !s.Empty() }) < 0
		}
		if alike {
			return u
		}
	}
	return len(bar)
}

// rollWay is the roll a stroke a beat; up through its strings; once; and as often as it
// comes.
func rollWay(p pattern.Pattern) []rung {
	bar, n := p.Bars[0], p.Grid()
	u := unitOf(bar)
	way := []rung{{pattern: upTo(p, 1), adds: ladder.Thing{Stage: ladder.FirstStroke}}}
	add := func(q pattern.Pattern, stage ladder.Stage) {
		way = append(way, rung{pattern: q, adds: ladder.Thing{Stage: stage}})
	}
	if p.SlotsPerBeat() == 2 && !p.Meter.Compound() { // half the rate: the first strokes, one a beat
		slow := taking(p, func(int, pattern.Stroke) bool { return false })
		for i := 0; i < n; i += 2 {
			slow.Bars[0][i] = slices.Clone(bar)[i/2]
		}
		for to := 4; to <= n; to += 2 { // a finger more each time
			add(upTo(slow, to), ladder.Notes)
		}
	}
	top := apex(bar[:u])
	switch {
	case u == n && n%4 == 0 && n >= 8: // a bar without repeats: its first half, that twice, and all
		add(upTo(p, n/2), ladder.Onwards)
		twice := p.Clone()
		twice.Bars[0] = slices.Concat(p.Clone().Bars[0][:n/2], p.Clone().Bars[0][:n/2])
		add(twice, ladder.Again)
		add(p, ladder.Onwards)
	case u > 4:
		add(upTo(p, 3), ladder.Onwards)
		add(upTo(p, top), ladder.Onwards)
		add(upTo(p, u), ladder.Onwards)
	case u == n: // few strokes; where they are a stroke a beat, each has a name
		stage := ladder.Onwards
		if p.SlotsPerBeat() == 1 {
			stage = ladder.Notes
		}
		for to := 2; to <= n; to++ {
			add(upTo(p, to), stage)
		}
	default:
		add(upTo(p, u), ladder.Onwards)
	}
	for times := 2; times*u < n; times++ {
		add(upTo(p, times*u), ladder.Again)
	}
	if u < n {
		add(p, ladder.Again)
	}
	return distinct(way)
}

// apex is how many strokes it takes to the finger that lies furthest out.
func apex(bar pattern.Bar) int {
	most, at := -1, 0
	for i, slot := range bar {
		for _, st := range slot.Strokes {
			if far := ladder.SignAt(st.Sign); far > most {
				most, at = far, i+1
			}
		}
	}
	return max(at, min(3, len(bar)))
}

// distinct leaves out a figure that is the one before.
func distinct(way []rung) []rung {
	return slices.CompactFunc(way, func(a, b rung) bool { return a.pattern.Equal(b.pattern) })
}

// group is strokes that are learned at once.
type group struct {
	rank, key int
}

// The ranks of groups, in the order in which they are learned. Source: common practice.
const (
	first     = iota // what begins the bar
	middle           // the thumb, or the downs, in the middle of the bar
	beats            // on every beat
	alternate        // the thumb turns to its second string: no stroke of its own
	downs            // down strums that answer the bass
	together         // fingers with the thumb
	nails            // the backs of the nails and the palm
	behind           // finger notes straight after them
	notes            // other finger notes
	offDowns         // downs between the beats
	firstUp          // one up strum
	ups              // the other up strums
	afterBass        // up strums straight after a bass note
	offThumb         // the thumb between the beats
)

// groupWay adds group after group; the thumb turns to its second string before the
// fingers join.
func groupWay(p pattern.Pattern) []rung {
	groups := map[pattern.Place]group{}
	upSeen := false
	p.Each(func(pl pattern.Place, st pattern.Stroke) {
		g := groupOf(p, pl, st)
		if g.rank == ups && !upSeen && pureStrums(p) {
			g.rank, upSeen = firstUp, true
		}
		groups[pl] = g
	})
	var order []group
	for _, g := range groups {
		if !slices.Contains(order, g) {
			order = append(order, g)
		}
	}
	plain, alternates := oneBass(p)
	if alternates {
		order = append(order, group{rank: alternate})
	}
	slices.SortFunc(order, func(a, b group) int { return (a.rank-b.rank)*1000 + a.key - b.key })
	var way []rung
	whole := plain
	if !alternates {
		whole = p
	}
	for i, g := range order {
		if g.rank == alternate {
			whole = p
		}
		taken := order[:i+1]
		q := taking(whole, func(slot int, st pattern.Stroke) bool {
			return slices.Contains(taken, groups[pattern.Place{Slot: slot, Sign: st.Sign}])
		})
		thing := ladder.Thing{Stage: ladder.Notes}
		switch {
		case len(way) == 0:
			thing = ladder.Thing{Stage: ladder.FirstStroke}
		case g.rank == alternate:
			thing = rule("second-bass-string")
		}
		way = append(way, rung{pattern: q, adds: thing})
	}
	return distinct(way)
}

// groupOf tells to which group a stroke belongs.
func groupOf(p pattern.Pattern, pl pattern.Place, st pattern.Stroke) group {
	slot, half := p.Bars[0][pl.Slot], p.Grid()
	if half%2 == 0 && p.Meter.TappedBeats()%2 == 0 {
		half /= 2
	}
	_, thumb := slot.Find(pattern.Thumb)
	beat := p.OnBeat(pl.Slot)
	bass := ladder.IsBass(st)
	whole := bass || alwaysPinched(p) && thumb // a figure whose thumb never plays alone is built of pinches
	switch {
	case st.Sign == pattern.Nails || st.Sign == pattern.Knock:
		return group{nails, 0}
	case pl.Slot == 0 && (whole || st.Sign.Strum() || !thumb):
		return group{first, 0}
	case whole && !beat:
		return group{offThumb, 0}
	case whole && pl.Slot == half, pureStrums(p) && st.Sign == pattern.Down && pl.Slot == half && beat:
		return group{middle, 0}
	case whole, pureStrums(p) && st.Sign == pattern.Down && beat:
		return group{beats, 0}
	case st.Sign == pattern.Sweep:
		return group{notes, pl.Slot}
	case st.Sign == pattern.Down && beat:
		return group{downs, 0}
	case st.Sign == pattern.Down:
		return group{offDowns, 0}
	case st.Sign == pattern.Up && afterBassStroke(p, pl.Slot):
		return group{afterBass, 0}
	case st.Sign == pattern.Up:
		return group{ups, 0}
	case thumb:
		return group{together, ladder.SignAt(st.Sign) + 10*(pl.Slot%half)}
	case afterNails(p, pl.Slot):
		return group{behind, 0}
	}
	return group{notes, ladder.SignAt(st.Sign) + 10*(pl.Slot%half)}
}

// alwaysPinched reports that the thumb never plays by itself.
func alwaysPinched(p pattern.Pattern) bool {
	pinched, thumbs := true, 0
	for _, slot := range p.Bars[0] {
		if _, thumb := slot.Find(pattern.Thumb); thumb {
			thumbs++
			pinched = pinched && len(slot.Strokes) > 1
		}
	}
	return pinched && thumbs > 1
}

// before is the slot before one; empty before the first.
func before(p pattern.Pattern, slot int) pattern.Slot {
	if slot == 0 {
		return pattern.Slot{}
	}
	return p.Bars[0][slot-1]
}

func afterBassStroke(p pattern.Pattern, slot int) bool {
	return slices.ContainsFunc(before(p, slot).Strokes, ladder.IsBass)
}

func afterNails(p pattern.Pattern, slot int) bool {
	return slices.ContainsFunc(before(p, slot).Strokes, func(st pattern.Stroke) bool {
		return st.Sign == pattern.Nails || st.Sign == pattern.Knock
	})
}
