package grow

import (
	"slices"

	"arplin/core/ladder"
	"arplin/core/pattern"
)

// skeleton grows a figure of one bar by its strokes: a roll in the order of its
// strings, a sweep, or groups of strokes that belong together.
func skeleton(p pattern.Pattern) []rung {
	switch {
	case onlySweeps(p):
		return sweepWay(p)
	case isRoll(p):
		return rollWay(p)
	}
	return groupWay(p)
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
	var order []group
	p.Each(func(pl pattern.Place, st pattern.Stroke) {
		if st.Sign == pattern.StopSign {
			return
		}
		g := groupOf(p, pl, st)
		if g.rank == ups && !upSeen && pureStrums(p) {
			g.rank, upSeen = firstUp, true
		}
		groups[pl] = g
		if !slices.Contains(order, g) {
			order = append(order, g)
		}
	})
	plain, alternates := oneBass(p)
	if alternates {
		order = append(order, group{rank: alternate})
	}
	slices.SortStableFunc(order, func(a, b group) int { return a.rank - b.rank }) // of one rank, in the order of time
	var list []rung
	whole := plain
	if !alternates {
		whole = p
	}
	for i, g := range order {
		if g.rank == alternate {
			whole = p
		}
		taken := order[:i+1]
		r := rung{adds: stage(ladder.Notes), pattern: taking(whole, func(slot int, st pattern.Stroke) bool {
			return slices.Contains(taken, groups[pattern.Place{Slot: slot, Sign: st.Sign}])
		})}
		switch {
		case i == 0:
			r.adds = stage(ladder.FirstStroke)
		case g.rank == alternate:
			r.adds = []ladder.Thing{rule("second-bass-string")}
		}
		if i+1 < len(order) { // the same stroke comes at further places
			next := order[i+1]
			r.inner = g.rank == middle && next.rank == beats || g.rank == firstUp && next == group{ups, g.key}
		}
		list = append(list, r)
	}
	return distinct(list)
}

// groupOf tells to which group a stroke belongs: those of one group are one finger's, or one kind of
// strum, at the same place of each half or beat.
func groupOf(p pattern.Pattern, pl pattern.Place, st pattern.Stroke) group {
	slot, half := p.Bars[0][pl.Slot], halfOf(p)
	inBeat, inHalf := pl.Slot%p.SlotsPerBeat(), pl.Slot%half
	if half == p.Grid() {
		inHalf = inBeat
	}
	_, thumb := slot.Find(pattern.Thumb)
	beat := p.OnBeat(pl.Slot)
	bass := ladder.IsBass(st)
	whole := bass || alwaysPinched(p) && thumb // a figure whose thumb never plays alone is built of pinches
	finger := ladder.SignAt(st.Sign) + 10*inHalf
	if fingersIn(slot) > 1 { // fingers that pluck together are one stroke of the hand
		finger = 9 + 10*inHalf
	}
	switch {
	case st.Sign == pattern.Nails || st.Sign == pattern.Knock: // the nails by themselves, the palm, or both at once
		return group{nails, inHalf + 100*len(slot.Strokes) + 1000*int(slot.Strokes[0].Sign)}
	case pl.Slot == 0 && (whole || st.Sign.Strum() || !thumb):
		return group{first, 0}
	case whole && !beat:
		return group{offThumb, inHalf}
	case whole && pl.Slot == half, pureStrums(p) && st.Sign == pattern.Down && pl.Slot == half && beat:
		return group{middle, 0}
	case whole, pureStrums(p) && st.Sign == pattern.Down && beat:
		return group{beats, 0}
	case st.Sign == pattern.Sweep:
		return group{notes, 1000 + pl.Slot}
	case st.Sign == pattern.Down && beat:
		return group{downs, 0}
	case st.Sign == pattern.Down:
		return group{offDowns, inBeat}
	case st.Sign == pattern.Up && afterBassStroke(p, pl.Slot):
		return group{afterBass, inBeat}
	case st.Sign == pattern.Up:
		return group{ups, inBeat}
	case thumb:
		return group{together, finger}
	case afterNails(p, pl.Slot):
		return group{behind, finger}
	}
	return group{notes, finger}
}

func fingersIn(slot pattern.Slot) (n int) {
	for _, st := range slot.Strokes {
		if st.Sign.Finger() && st.Sign != pattern.Thumb {
			n++
		}
	}
	return n
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
