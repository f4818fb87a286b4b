package vary

import (
	"slices"

	"arplin/core/hand"
)

// Both directions of the rules that ladders do without; table: rules.go.

// thumbOnOne leaves the thumb's first stroke of a bar.
func thumbOnOne(p hand.Pattern) (hand.Pattern, bool) {
	if _, ok := p.Bars[0][0].Find(hand.Thumb); !ok {
		return p, false
	}
	return keep(p, func(_, slot int, st hand.Stroke) bool { return st.Sign != hand.Thumb || slot == 0 })
}

func thumbOnEveryBeat(p hand.Pattern) (hand.Pattern, bool) {
	if !plucked(p) {
		return p, false
	}
	return everywhere(p, func(bar hand.Bar, i int) bool {
		if _, has := bar[i].Find(hand.Thumb); has || !p.OnBeat(i) {
			return false
		}
		bar[i] = hand.Slot{Strokes: append(slices.Clone(bar[i].Strokes), hand.Stroke{Sign: hand.Thumb})}
		return true
	})
}

func lowFifth(p hand.Pattern) (hand.Pattern, bool) {
	if !p.UsesTarget(hand.Alternate, "p") {
		return p, false
	}
	return retarget(p, func(n int) bool { return n == 3 }, hand.ByChord, hand.LowFifth)
}

func withoutLowFifth(p hand.Pattern) (hand.Pattern, bool) {
	return retarget(p, func(int) bool { return true }, hand.LowFifth, hand.ByChord)
}

// offBeatOut leaves a single finger note between beats out.
func offBeatOut(p hand.Pattern, bar hand.Bar, i int) bool {
	if !p.Uses(hand.Thumb) || p.OnBeat(i) || len(bar[i].Strokes) != 1 || !isFinger(bar[i].Strokes[0]) {
		return false
	}
	bar[i] = hand.Slot{}
	return true
}

func upOut(p hand.Pattern, bar hand.Bar, i int) bool {
	if _, ok := bar[i].Find(hand.Up); !ok || len(bar[i].Strokes) != 1 {
		return false
	}
	bar[i] = hand.Slot{}
	return true
}

// lastOut frees the last place of every bar, where it lies between beats.
func lastOut(p hand.Pattern) (hand.Pattern, bool) {
	return everywhere(p, func(bar hand.Bar, i int) bool {
		if i != len(bar)-1 || p.OnBeat(i) || len(bar[i].Strokes) != 1 {
			return false
		}
		if st := bar[i].Strokes[0]; !isFinger(st) && st.Sign != hand.Up {
			return false
		}
		bar[i] = hand.Slot{}
		return true
	})
}

func fillLast(p hand.Pattern) (hand.Pattern, bool) {
	return everywhere(p, func(bar hand.Bar, i int) bool {
		if i != len(bar)-1 || p.OnBeat(i) || !bar[i].Empty() {
			return false
		}
		st := hand.Stroke{Sign: nextFinger(bar, i)}
		if p.HasStrums() {
			st = hand.Stroke{Sign: hand.Up, Target: upTarget(p)}
		}
		bar[i].Strokes = []hand.Stroke{st}
		return true
	})
}

// resigned gives the notes of one finger to another, where no slot has both.
func resigned(p hand.Pattern, from, to hand.Sign) (hand.Pattern, bool) {
	clash := false
	q, changed := everywhere(p, func(bar hand.Bar, i int) bool {
		changed := false
		_, has := bar[i].Find(to)
		for k, st := range bar[i].Strokes {
			if st.Sign == from && st.Target.Kind == hand.ByChord {
				bar[i].Strokes[k].Sign = to
				changed, clash = true, clash || has
			}
		}
		return changed
	})
	return q, changed && !clash
}

func ringToIndex(p hand.Pattern) (hand.Pattern, bool) { return resigned(p, hand.Ring, hand.Index) }

func middleToIndex(p hand.Pattern) (hand.Pattern, bool) {
	if p.Uses(hand.Ring) {
		return p, false
	}
	return resigned(p, hand.Middle, hand.Index)
}

// ringFinger takes the later of two notes of the index for the ring finger.
func ringFinger(p hand.Pattern) (hand.Pattern, bool) {
	if p.Uses(hand.Ring) || !p.Uses(hand.Middle) {
		return p, false
	}
	last, done := hand.Sign(0), false
	return everywhere(p, func(bar hand.Bar, i int) bool {
		for k, st := range bar[i].Strokes {
			if !isFinger(st) {
				continue
			}
			if !done && last == hand.Middle && st.Sign == hand.Index && st.Target.Kind == hand.ByChord && len(bar[i].Strokes) == 1 {
				bar[i].Strokes[k].Sign = hand.Ring
				done = true
				return true
			}
			last = st.Sign
		}
		return false
	})
}

// middleForIndex gives every second note of the index to the middle finger.
func middleForIndex(p hand.Pattern) (hand.Pattern, bool) {
	if p.Uses(hand.Middle) {
		return p, false
	}
	n := 0
	return everywhere(p, func(bar hand.Bar, i int) bool {
		for k, st := range bar[i].Strokes {
			if st.Sign == hand.Index && st.Target.Kind == hand.ByChord {
				if n++; n%2 == 0 {
					bar[i].Strokes[k].Sign = hand.Middle
					return true
				}
			}
		}
		return false
	})
}

// neighbour is the finger beside one, away from the thumb.
var neighbour = map[hand.Sign]hand.Sign{hand.Index: hand.Middle, hand.Middle: hand.Ring}

func pairAdded(p hand.Pattern, bar hand.Bar, i int) bool {
	if len(bar[i].Strokes) != 1 || !p.OnBeat(i) {
		return false
	}
	st := bar[i].Strokes[0]
	next, ok := neighbour[st.Sign]
	if !ok || st.Target.Kind != hand.ByChord {
		return false
	}
	bar[i].Strokes = append(bar[i].Strokes, hand.Stroke{Sign: next})
	return true
}

func pairOut(_ hand.Pattern, bar hand.Bar, i int) bool {
	if len(bar[i].Strokes) != 2 || !isFinger(bar[i].Strokes[0]) || !isFinger(bar[i].Strokes[1]) {
		return false
	}
	bar[i].Strokes = bar[i].Strokes[:1]
	return true
}

// pinched reports a thumb with one finger.
func pinched(slot hand.Slot) bool {
	return len(slot.Strokes) == 2 && slot.Strokes[0].Sign == hand.Thumb && isFinger(slot.Strokes[1])
}

func pinchOut(_ hand.Pattern, bar hand.Bar, i int) bool {
	if !pinched(bar[i]) {
		return false
	}
	bar[i].Strokes = bar[i].Strokes[:1]
	return true
}

func pinchAdded(p hand.Pattern, bar hand.Bar, i int) bool {
	if p.HasStrums() || len(bar[i].Strokes) != 1 || bar[i].Strokes[0].Sign != hand.Thumb {
		return false
	}
	bar[i].Strokes = append(bar[i].Strokes, hand.Stroke{Sign: hand.Middle})
	return true
}

func pinchSplit(_ hand.Pattern, bar hand.Bar, i int) bool {
	if !pinched(bar[i]) || i+1 >= len(bar) || !bar[i+1].Empty() {
		return false
	}
	bar[i+1].Strokes = []hand.Stroke{bar[i].Strokes[1]}
	bar[i].Strokes = bar[i].Strokes[:1]
	return true
}

func pinchJoined(_ hand.Pattern, bar hand.Bar, i int) bool {
	if i+1 >= len(bar) || len(bar[i].Strokes) != 1 || bar[i].Strokes[0].Sign != hand.Thumb || len(bar[i+1].Strokes) != 1 || !isFinger(bar[i+1].Strokes[0]) {
		return false
	}
	bar[i].Strokes = append(bar[i].Strokes, bar[i+1].Strokes[0])
	bar[i+1] = hand.Slot{}
	return true
}

// anyPlace moves one stroke that names its string, counted from the numbered
// stroke before it in the bar.
func anyPlace(step func(from, at int) int) func(hand.Pattern) []hand.Pattern {
	return atPlaces(func(_ hand.Pattern, bar hand.Bar, i int) bool {
		before, at := 0, 0
		for k := 0; k <= i; k++ {
			before, at = at, 0
			if len(bar[k].Strokes) == 1 && bar[k].Strokes[0].Target.Strings.Len() == 1 {
				at = bar[k].Strokes[0].Target.Strings.List()[0]
			}
			if at == 0 && k < i {
				at = before
			}
		}
		if at == 0 || before == 0 {
			return false
		}
		to := step(before, at)
		if to < 1 || to > farthestString || to == at {
			return false
		}
		bar[i].Strokes[0].Target.Strings = hand.Strings(to)
		return true
	})
}

// farthestString bounds the way out: no instrument of a class has more.
const farthestString = 6

func nearer(from, at int) int {
	switch {
	case at > from:
		return at - 1
	case at < from:
		return at + 1
	}
	return at
}

func further(from, at int) int {
	if at < from {
		return at - 1
	}
	return at + 1
}

// retargeted changes every target of one kind to another.
func retargeted(from, to hand.TargetKind) func(hand.Pattern) (hand.Pattern, bool) {
	return func(p hand.Pattern) (hand.Pattern, bool) {
		return everywhere(p, func(bar hand.Bar, i int) bool {
			changed := false
			for k, st := range bar[i].Strokes {
				if st.Target.Kind == from {
					bar[i].Strokes[k].Target = hand.Target{Kind: to}
					changed = true
				}
			}
			return changed
		})
	}
}

// threeThreeTwo puts accents on the first stroke of each group of 3 + 3 + 2.
func threeThreeTwo(p hand.Pattern) (hand.Pattern, bool) {
	if p.Meter.TappedBeats() != 4 || p.Grid() != 8 {
		return p, false
	}
	for _, bar := range p.Bars {
		for i, slot := range bar {
			if len(slot.Strokes) == 0 || slot.Strokes[0].Marks&(hand.Accent|hand.Soft) != 0 && inThrees(i) {
				return p, false
			}
		}
	}
	return everywhere(p, func(bar hand.Bar, i int) bool {
		if !inThrees(i) {
			return false
		}
		bar[i].Strokes[0].Marks |= hand.Accent
		return true
	})
}

// inThrees: the first of three, three and two eighths.
func inThrees(i int) bool { return i == 0 || i == 3 || i == 6 }

// withoutThreeThreeTwo takes the accents away where they stand so.
func withoutThreeThreeTwo(p hand.Pattern) (hand.Pattern, bool) {
	q, changed := withoutMarks(hand.Accent)(p)
	again, ok := threeThreeTwo(q)
	return q, changed && ok && again.Equal(p)
}

// inThreesAndTwo sets a rocking figure of eight (thumb, a, b, a) in groups of
// three, three and two.
func inThreesAndTwo(p hand.Pattern) (hand.Pattern, bool) {
	if !eightPlucked(p) {
		return p, false
	}
	q := p.Clone()
	for b, bar := range p.Bars {
		for i := range bar {
			if bar[i].String() != bar[[]int{0, 1, 2, 1}[i%4]].String() {
				return p, false
			}
			q.Bars[b][i] = bar[i%3]
		}
	}
	return q.Clone(), true
}

// inFours is the opposite.
func inFours(p hand.Pattern) (hand.Pattern, bool) {
	if !eightPlucked(p) {
		return p, false
	}
	q := p.Clone()
	for b, bar := range p.Bars {
		for i := range bar {
			if bar[i].String() != bar[i%3].String() {
				return p, false
			}
			q.Bars[b][i] = bar[[]int{0, 1, 2, 1}[i%4]]
		}
	}
	return q.Clone(), true
}

// eightPlucked: eight slots of four beats, plucked, with something in the first
// three.
func eightPlucked(p hand.Pattern) bool {
	return plucked(p) && p.Meter.TappedBeats() == 4 && p.Grid() == 8
}

func zones(p hand.Pattern) (hand.Pattern, bool) {
	if p.Uses(hand.Thumb) || !p.Uses(hand.Down) || !p.Uses(hand.Up) {
		return p, false
	}
	return everywhere(p, func(bar hand.Bar, i int) bool {
		for k, st := range bar[i].Strokes {
			kind := map[hand.Sign]hand.TargetKind{hand.Down: hand.BassZone, hand.Up: hand.Treble}[st.Sign]
			if kind != hand.ByChord && st.Target.Kind == hand.ByChord {
				bar[i].Strokes[k].Target = hand.Target{Kind: kind}
				return true
			}
		}
		return false
	})
}

// wholeStrums lets every strum take all strings; the light strums after a bass
// note keep theirs.
func wholeStrums(p hand.Pattern) (hand.Pattern, bool) {
	if p.Uses(hand.Thumb) || p.UsesTarget(hand.Root, "DU") {
		return p, false
	}
	return everywhere(p, func(bar hand.Bar, i int) bool {
		for k, st := range bar[i].Strokes {
			if st.Target.Kind == hand.BassZone || st.Target.Kind == hand.Treble {
				bar[i].Strokes[k].Target = hand.Target{}
				return true
			}
		}
		return false
	})
}

func swung(p hand.Pattern) (hand.Pattern, bool) {
	q := p.Clone()
	q.Swing = !p.Swing
	return q, !p.Meter.Compound() && p.SlotsPerBeat() == 2
}
