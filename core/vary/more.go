package vary

import (
	"slices"

	"arplin/core/hand"
)

// The directions of the rules for ladders that add something; table: rules.go.

// answered gives a figure of one bar a second one: the fingers the other way
// round, or a strum that leaves beat three out.
func answered(p hand.Pattern) (hand.Pattern, bool) {
	if len(p.Bars) != 1 {
		return p, false
	}
	answer, ok := turnedRound(p)
	if !ok {
		answer = p.Clone()
		slot := 2 * p.SlotsPerBeat()
		ok = slot < p.Grid() && beatLeftOut(p, answer.Bars[0], slot)
	}
	q := p.Clone()
	q.Bars = append(q.Bars, answer.Bars[0])
	return q, ok
}

// backBeat marks the strums on two and four.
func backBeat(m hand.Marks) func(hand.Pattern) (hand.Pattern, bool) {
	return func(p hand.Pattern) (hand.Pattern, bool) {
		if p.Meter.TappedBeats() != 4 {
			return p, false
		}
		return everywhere(p, func(bar hand.Bar, i int) bool {
			if !p.OnBeat(i) || i/p.SlotsPerBeat()%2 == 0 || len(bar[i].Strokes) != 1 {
				return false
			}
			st := &bar[i].Strokes[0]
			if !st.Sign.Strum() || st.Marks&(m|hand.Accent|hand.Soft) != 0 {
				return false
			}
			st.Marks |= m
			return true
		})
	}
}

// palmed mutes the thumb or, without one, the downs.
func palmed(p hand.Pattern) (hand.Pattern, bool) {
	sign := hand.Thumb
	if !p.Uses(sign) {
		sign = hand.Down
	}
	return everywhere(p, func(bar hand.Bar, i int) bool {
		changed := false
		for k, st := range bar[i].Strokes {
			if st.Sign == sign {
				bar[i].Strokes[k].Marks |= hand.PalmMuted
				changed = true
			}
		}
		return changed
	})
}

// stopped silences the strings after every down strum that has room for it.
func stopped(p hand.Pattern) (hand.Pattern, bool) {
	return everywhere(p, func(bar hand.Bar, i int) bool {
		if p.OnBeat(i) || !bar[i].Empty() {
			return false
		}
		_, down := bar[i-1].Find(hand.Down)
		bar[i].Stop = down
		return down
	})
}

func stoppedLast(p hand.Pattern) (hand.Pattern, bool) {
	return everywhere(p, func(bar hand.Bar, i int) bool {
		if i != len(bar)-1 || !bar[i].Empty() {
			return false
		}
		bar[i].Stop = true
		return true
	})
}

// offMain reports the beats two and four (in three, two and three) of a bar.
func offMain(p hand.Pattern, i int) bool {
	beat := i / p.SlotsPerBeat()
	return p.OnBeat(i) && beat > 0 && (p.Meter.TappedBeats() == 3 || beat%2 == 1)
}

// knocked puts the palm beside the nails or, without nails, on the free beats
// two and four.
func knocked(p hand.Pattern) (hand.Pattern, bool) {
	if !p.Uses(hand.Thumb) || p.Uses(hand.Knock) {
		return p, false
	}
	nails := p.Uses(hand.Nails)
	return everywhere(p, func(bar hand.Bar, i int) bool {
		_, has := bar[i].Find(hand.Nails)
		if nails && !has || !nails && (!offMain(p, i) || !bar[i].Empty()) {
			return false
		}
		bar[i].Strokes = append(bar[i].Strokes, hand.Stroke{Sign: hand.Knock})
		return true
	})
}

func nailed(p hand.Pattern) (hand.Pattern, bool) {
	if !p.Uses(hand.Thumb) || p.HasStrums() {
		return p, false
	}
	return everywhere(p, func(bar hand.Bar, i int) bool {
		_, knock := bar[i].Find(hand.Knock)
		if !offMain(p, i) || !bar[i].Empty() && !(knock && len(bar[i].Strokes) == 1) {
			return false
		}
		bar[i].Strokes = append(bar[i].Strokes, hand.Stroke{Sign: hand.Nails})
		return true
	})
}

// beatLeftOut lets the hand pass a later beat in the air.
func beatLeftOut(p hand.Pattern, bar hand.Bar, i int) bool {
	if !p.Uses(hand.Up) || p.Uses(hand.Thumb) || i == 0 || !p.OnBeat(i) || bar[i].Empty() {
		return false
	}
	bar[i] = hand.Slot{}
	return true
}

// upTarget is the zone of the ups; without any, that of the strums after a bass.
func upTarget(p hand.Pattern) (t hand.Target) {
	for _, bar := range p.Bars {
		for _, slot := range bar {
			if st, ok := slot.Find(hand.Up); ok {
				return st.Target
			}
			if st, ok := slot.Find(hand.Down); ok && p.Uses(hand.Thumb) {
				t = st.Target
			}
		}
	}
	return t
}

// upFits reports a free slot in which the hand comes up from a stroke.
func upFits(p hand.Pattern, bar hand.Bar, i int) bool {
	return p.Uses(hand.Down) && i > 0 && bar[i].Empty() && !bar[i-1].Empty() && !p.AgainstHand(i, hand.Up)
}

func fillUps(p hand.Pattern) (hand.Pattern, bool) {
	target := upTarget(p)
	return everywhere(p, func(bar hand.Bar, i int) bool {
		if !upFits(p, bar, i) {
			return false
		}
		bar[i].Strokes = []hand.Stroke{{Sign: hand.Up, Target: target}}
		return true
	})
}

// oneUp adds a single up stroke: the first, or one more.
func oneUp(first bool) func(hand.Pattern, hand.Bar, int) bool {
	return func(p hand.Pattern, bar hand.Bar, i int) bool {
		if first == p.Uses(hand.Up) || !upFits(p, bar, i) {
			return false
		}
		bar[i].Strokes = []hand.Stroke{{Sign: hand.Up, Target: upTarget(p)}}
		return true
	}
}

// nextFinger is the one that was not heard last before a place in the bar.
func nextFinger(bar hand.Bar, i int) hand.Sign {
	for i--; i >= 0; i-- {
		for _, st := range bar[i].Strokes {
			if st.Sign == hand.Index {
				return hand.Middle
			} else if isFinger(st) {
				return hand.Index
			}
		}
	}
	return hand.Index
}

// plucked reports a figure of thumb and fingers without strums.
func plucked(p hand.Pattern) bool { return p.Uses(hand.Thumb) && !p.HasStrums() }

// offBeat adds a note at a free place between two beats: the first one over a
// thumb that keeps time, or one more.
func offBeat(first bool) func(hand.Pattern, hand.Bar, int) bool {
	return func(p hand.Pattern, bar hand.Bar, i int) bool {
		if !plucked(p) || p.OnBeat(i) || !bar[i].Empty() || first && !pulseKept(p) {
			return false
		}
		bar[i].Strokes = []hand.Stroke{{Sign: nextFinger(bar, i)}}
		return true
	}
}

// fillOffBeats puts a note at every free place between beats but the last, which
// is left for the change.
func fillOffBeats(p hand.Pattern) (hand.Pattern, bool) {
	if !plucked(p) || !pulseKept(p) {
		return p, false
	}
	return everywhere(p, func(bar hand.Bar, i int) bool {
		return i < len(bar)-1 && offBeat(true)(p, bar, i)
	})
}

// withFinger adds a first note of a finger where another plays already.
func withFinger(f, beside hand.Sign) func(hand.Pattern, hand.Bar, int) bool {
	return func(p hand.Pattern, bar hand.Bar, i int) bool {
		if p.HasStrums() || p.Uses(f) || !p.Uses(beside) || i == 0 || !bar[i].Empty() {
			return false
		}
		bar[i].Strokes = []hand.Stroke{{Sign: f}}
		return true
	}
}

// sameFinger brings the finger of the one note back at a free place after it.
func sameFinger(p hand.Pattern, bar hand.Bar, i int) bool {
	if p.HasStrums() || !bar[i].Empty() || len(p.Bars) > 1 {
		return false
	}
	for k := range i {
		for _, st := range bar[k].Strokes {
			if isFinger(st) {
				bar[i].Strokes = []hand.Stroke{{Sign: st.Sign, Target: st.Target}}
				return true
			}
		}
	}
	return false
}

// firstFinger adds the first finger note to a thumb: a pinch on a beat, a note
// after it between beats.
func firstFinger(p hand.Pattern, bar hand.Bar, i int) bool {
	if !plucked(p) || p.Uses(hand.Index) || p.Uses(hand.Middle) || p.Uses(hand.Ring) || p.Uses(hand.Little) || i == 0 {
		return false
	}
	sign := hand.Index
	if p.OnBeat(i) {
		sign = hand.Middle
	}
	bar[i].Strokes = append(bar[i].Strokes, hand.Stroke{Sign: sign})
	return true
}

// retarget changes some of a bar's thumb strokes, counted from 1.
func retarget(p hand.Pattern, which func(n int) bool, from, to hand.TargetKind) (hand.Pattern, bool) {
	n := 0
	return everywhere(p, func(bar hand.Bar, i int) bool {
		if i == 0 {
			n = 0
		}
		for k, st := range bar[i].Strokes {
			if st.Sign != hand.Thumb {
				continue
			}
			n++
			if which(n) && st.Target.Kind == from {
				bar[i].Strokes[k].Target = hand.Target{Kind: to}
				return true
			}
		}
		return false
	})
}

func alternate(p hand.Pattern) (hand.Pattern, bool) {
	return retarget(p, func(n int) bool { return n%2 == 0 }, hand.ByChord, hand.Alternate)
}

func strumsAfterBass(p hand.Pattern) (hand.Pattern, bool) {
	if !plucked(p) {
		return p, false
	}
	return everywhere(p, func(bar hand.Bar, i int) bool {
		if !offMain(p, i) || !bar[i].Empty() {
			return false
		}
		bar[i].Strokes = []hand.Stroke{{Sign: hand.Down, Target: hand.Target{Kind: hand.Treble}}}
		return true
	})
}

func doubledDowns(p hand.Pattern) (hand.Pattern, bool) {
	if p.Uses(hand.Up) || p.Uses(hand.Thumb) || p.SlotsPerBeat() != 2 {
		return p, false
	}
	return everywhere(p, func(bar hand.Bar, i int) bool {
		if i == 0 || !bar[i].Empty() {
			return false
		}
		st, ok := bar[i-1].Find(hand.Down)
		if !ok || !p.OnBeat(i-1) {
			return false
		}
		st.Marks = 0
		bar[i].Strokes = []hand.Stroke{st}
		return true
	})
}

// fillBeats puts the stroke of beat one on every free beat that is wanted.
func fillBeats(p hand.Pattern, wanted func(slot int) bool) (hand.Pattern, bool) {
	if !oneKind(p) {
		return p, false
	}
	return everywhere(p, func(bar hand.Bar, i int) bool {
		if i == 0 || len(bar[0].Strokes) != 1 || !p.OnBeat(i) || !bar[i].Empty() || !wanted(i) {
			return false
		}
		st := bar[0].Strokes[0]
		st.Marks = 0
		bar[i].Strokes = []hand.Stroke{st}
		return true
	})
}

func onAllFour(p hand.Pattern) (hand.Pattern, bool) {
	if p.Meter.TappedBeats() != 4 {
		return p, false
	}
	return fillBeats(p, func(i int) bool { return i%(2*p.SlotsPerBeat()) != 0 })
}

func onEveryBeat(p hand.Pattern) (hand.Pattern, bool) {
	return fillBeats(p, func(int) bool { return true })
}

func againAtHalf(p hand.Pattern) (hand.Pattern, bool) {
	if p.Meter.TappedBeats()%2 != 0 {
		return p, false
	}
	return fillBeats(p, func(i int) bool { return i == p.Grid()/2 })
}

// againLater puts the one stroke of a bar on another place than its middle.
func againLater(p hand.Pattern, bar hand.Bar, i int) bool {
	if len(p.Bars) != 1 || p.Count() != 1 || !bar[i].Empty() || i == len(bar)/2 || len(bar[0].Strokes) != 1 {
		return false
	}
	bar[i].Strokes = []hand.Stroke{{Sign: bar[0].Strokes[0].Sign, Target: bar[0].Strokes[0].Target}}
	return true
}

// fingersAgain repeats the fingers of the first half in the second.
func fingersAgain(p hand.Pattern) (hand.Pattern, bool) {
	if !inHalves(p) {
		return p, false
	}
	half := p.Grid() / 2
	return everywhere(p, func(bar hand.Bar, i int) bool {
		if i < half {
			return false
		}
		changed := false
		for _, st := range p.Bars[0][i-half].Strokes {
			if _, has := bar[i].Find(st.Sign); isFinger(st) && !has {
				bar[i] = hand.Slot{Strokes: append(slices.Clone(bar[i].Strokes), st)}
				changed = true
			}
		}
		return changed
	})
}
