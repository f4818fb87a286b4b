package vary

import "arplin/core/hand"

// The directions of the rules that take something away; table: rules.go.

// pulseKept: every beat has the thumb or a strum, so that notes between the beats
// are notes between.
func pulseKept(p hand.Pattern) bool {
	for _, bar := range p.Bars {
		for i, slot := range bar {
			_, thumb := slot.Find(hand.Thumb)
			_, nails := slot.Find(hand.Nails)
			if p.OnBeat(i) && !thumb && !nails {
				return false
			}
		}
	}
	return true
}

// keep returns the pattern with only the strokes that the test lets stand;
// changed tells whether any went, and the result must not be empty.
func keep(p hand.Pattern, stays func(bar, slot int, st hand.Stroke) bool) (hand.Pattern, bool) {
	q := p.Clone()
	changed := false
	for b, bar := range q.Bars {
		for i := range bar {
			left := bar[i].Strokes[:0]
			for _, st := range bar[i].Strokes {
				if stays(b, i, st) {
					left = append(left, st)
				} else {
					changed = true
				}
			}
			if len(left) == 0 {
				left = nil
			}
			bar[i].Strokes = left
		}
	}
	return q, changed && q.Count() > 0
}

func onlyFirstBar(p hand.Pattern) (hand.Pattern, bool) {
	if len(p.Bars) < 2 {
		return p, false
	}
	q := p.Clone()
	q.Bars = q.Bars[:1]
	return q, q.Count() > 0
}

// withoutMarks takes a mark off every stroke.
func withoutMarks(m hand.Marks) func(hand.Pattern) (hand.Pattern, bool) {
	return func(p hand.Pattern) (hand.Pattern, bool) {
		q := p.Clone()
		changed := false
		for _, bar := range q.Bars {
			for _, slot := range bar {
				for i := range slot.Strokes {
					changed = changed || slot.Strokes[i].Marks&m != 0
					slot.Strokes[i].Marks &^= m
				}
			}
		}
		return q, changed
	}
}

func withoutStops(p hand.Pattern) (hand.Pattern, bool) {
	q := p.Clone()
	changed := false
	for _, bar := range q.Bars {
		for i := range bar {
			changed = changed || bar[i].Stop
			bar[i].Stop = false
		}
	}
	return q, changed
}

// withoutSign leaves one kind of stroke out; the first beat keeps its stroke.
func withoutSign(sign hand.Sign) func(hand.Pattern) (hand.Pattern, bool) {
	return func(p hand.Pattern) (hand.Pattern, bool) {
		q, changed := keep(p, func(_, _ int, st hand.Stroke) bool { return st.Sign != sign })
		return q, changed && !q.Bars[0][0].Empty()
	}
}

// onTheBeat thins downs and sweeps that also fall between the beats.
func onTheBeat(p hand.Pattern) (hand.Pattern, bool) {
	return keep(p, func(_, slot int, st hand.Stroke) bool {
		return p.OnBeat(slot) || st.Sign != hand.Down && st.Sign != hand.Sweep
	})
}

// missedDownsFilled puts a down stroke on one of the beats that the hand passes
// in the air, in the zone of the other downs; in every bar the same.
func missedDownsFilled(p hand.Pattern) (list []hand.Pattern) {
	if !p.Uses(hand.Down) || p.Uses(hand.Thumb) || !p.Uses(hand.Up) {
		return nil
	}
	for beat := 0; beat < p.Grid(); beat += p.SlotsPerBeat() {
		q := p.Clone()
		changed := false
		for _, bar := range q.Bars {
			target := hand.Target{}
			if down, ok := bar[0].Find(hand.Down); ok {
				target = down.Target
			}
			if bar[beat].Empty() {
				bar[beat].Strokes = []hand.Stroke{{Sign: hand.Down, Target: target}}
				changed = true
			}
		}
		if changed {
			list = append(list, q)
		}
	}
	return list
}

func laterUpsOut(p hand.Pattern) (hand.Pattern, bool) {
	seen := 0
	q, changed := keep(p, func(_, _ int, st hand.Stroke) bool {
		if st.Sign == hand.Up {
			seen++
			return seen == 1
		}
		return true
	})
	return q, changed
}

func allUpsOut(p hand.Pattern) (hand.Pattern, bool) {
	if !p.Uses(hand.Down) && !p.Uses(hand.Thumb) {
		return p, false // ups alone: nothing would be left to lean on
	}
	return keep(p, func(_, _ int, st hand.Stroke) bool { return st.Sign != hand.Up })
}

// laterOffBeatsOut keeps the first finger note between the beats. It has a hold
// only where thumb or nails keep time; other figures are taken apart by finger.
func laterOffBeatsOut(p hand.Pattern) (hand.Pattern, bool) {
	if !pulseKept(p) {
		return p, false
	}
	seen := 0
	return keep(p, func(_, slot int, st hand.Stroke) bool {
		if isFinger(st) && !p.OnBeat(slot) {
			seen++
			return seen == 1
		}
		return true
	})
}

func allOffBeatsOut(p hand.Pattern) (hand.Pattern, bool) {
	if !pulseKept(p) {
		return p, false
	}
	return keep(p, func(_, slot int, st hand.Stroke) bool { return !isFinger(st) || p.OnBeat(slot) })
}

func isFinger(st hand.Stroke) bool { return st.Sign.Finger() && st.Sign != hand.Thumb }

// withoutFinger leaves one finger out, while another is left beside the thumb.
func withoutFinger(f hand.Sign) func(hand.Pattern) (hand.Pattern, bool) {
	return func(p hand.Pattern) (hand.Pattern, bool) {
		others := 0
		for _, sign := range []hand.Sign{hand.Index, hand.Middle, hand.Ring, hand.Little} {
			if sign != f && p.Uses(sign) {
				others++
			}
		}
		if others == 0 {
			return p, false
		}
		return keep(p, func(_, _ int, st hand.Stroke) bool { return st.Sign != f })
	}
}

// laterFingersOut keeps one finger note a bar: the one on beat two where there
// is one, since the thumb is settled by then, else the first.
func laterFingersOut(p hand.Pattern) (hand.Pattern, bool) {
	chosen := make([]int, len(p.Bars))
	for b, bar := range p.Bars {
		chosen[b] = -1
		for i, slot := range bar {
			for _, st := range slot.Strokes {
				if isFinger(st) && (chosen[b] < 0 || i == p.SlotsPerBeat()) {
					chosen[b] = i
				}
			}
		}
	}
	return keep(p, func(bar, slot int, st hand.Stroke) bool { return !isFinger(st) || slot == chosen[bar] })
}

func withoutFingers(p hand.Pattern) (hand.Pattern, bool) {
	return keep(p, func(_, _ int, st hand.Stroke) bool { return !isFinger(st) })
}

// withoutAlternation keeps the thumb on the root string.
func withoutAlternation(p hand.Pattern) (hand.Pattern, bool) {
	q := p.Clone()
	changed := false
	for _, bar := range q.Bars {
		for _, slot := range bar {
			for i, st := range slot.Strokes {
				if st.Sign == hand.Thumb && (st.Target.Kind == hand.Alternate || st.Target.Kind == hand.LowFifth) {
					slot.Strokes[i].Target = hand.Target{}
					changed = true
				}
			}
		}
	}
	return q, changed
}

func withoutStrumsAfterBass(p hand.Pattern) (hand.Pattern, bool) {
	if !p.Uses(hand.Thumb) {
		return p, false
	}
	return keep(p, func(_, _ int, st hand.Stroke) bool { return st.Sign != hand.Down && st.Sign != hand.Up })
}

// downsOnOneAndThree thins downs on four beats; a thumb goes from one to four at once.
func downsOnOneAndThree(p hand.Pattern) (hand.Pattern, bool) {
	if !oneKind(p) || p.Uses(hand.Thumb) || p.Meter.TappedBeats() != 4 {
		return p, false
	}
	return keep(p, func(_, slot int, _ hand.Stroke) bool { return slot%(2*p.SlotsPerBeat()) == 0 })
}

// everyBeatOut goes down to one stroke where every beat has one.
func everyBeatOut(p hand.Pattern) (hand.Pattern, bool) {
	for _, bar := range p.Bars {
		for i, slot := range bar {
			if p.OnBeat(i) && slot.Empty() {
				return p, false
			}
		}
	}
	return onceABar(p)
}

// oneKind reports a pattern that is one stroke again and again.
func oneKind(p hand.Pattern) bool {
	first := hand.Stroke{}
	for _, bar := range p.Bars {
		for _, slot := range bar {
			for _, st := range slot.Strokes {
				if first.Sign == 0 {
					first = st
				}
				if st.Sign != first.Sign {
					return false
				}
			}
		}
	}
	return true
}

// onceABar keeps the first stroke of each bar and lets it ring.
func onceABar(p hand.Pattern) (hand.Pattern, bool) {
	if !oneKind(p) {
		return p, false
	}
	return keep(p, func(_, slot int, _ hand.Stroke) bool { return slot == 0 })
}

// onceOfTwo is onceABar for a stroke on one and in the middle of the bar.
func onceOfTwo(p hand.Pattern) (hand.Pattern, bool) {
	for _, bar := range p.Bars {
		for i, slot := range bar {
			if i != 0 && i != len(bar)/2 && !slot.Empty() {
				return p, false
			}
		}
	}
	return onceABar(p)
}

// inHalves: a plucked figure of one bar with a half that begins on a beat, other
// than an alternating thumb, which is taken apart by its off-beats.
func inHalves(p hand.Pattern) bool {
	return plucked(p) && len(p.Bars) == 1 && p.Meter.TappedBeats()%2 == 0 && !(pulseKept(p) && p.SlotsPerBeat() == 2)
}

// fingersInFirstHalf lets the fingers rest in the second half of the bar.
func fingersInFirstHalf(p hand.Pattern) (hand.Pattern, bool) {
	if !inHalves(p) {
		return p, false
	}
	first := false
	for _, slot := range p.Bars[0][:p.Grid()/2] {
		for _, st := range slot.Strokes {
			first = first || isFinger(st)
		}
	}
	q, changed := keep(p, func(_, slot int, st hand.Stroke) bool { return !isFinger(st) || slot < p.Grid()/2 })
	return q, changed && first
}
