// Package vary makes patterns simpler by small named rules, and ladders from a
// first step up to a target pattern.
package vary

import (
	"arplin/core/hand"
)

// Rule is one way to make a pattern simpler. Read upwards, from its result back
// to what it was given, it is the one thing that a step adds.
type Rule struct {
	Name string // what the step above adds: "second bass string"
	Says string // the sentence for that step
	// simplify returns the simpler pattern, or false where the rule has no hold.
	simplify func(hand.Pattern) (hand.Pattern, bool)
}

// Rules stand in the order in which they are tried from the target down: what
// a class learns last is taken away first. Source: common practice, the
// sequences in which teachers take a figure apart.
var Rules = []Rule{
	{"second bar", "The other bar of the figure follows; the count does not stop at the bar line.", onlyFirstBar},
	{"accents", "The strokes stay as they are; only their weight changes.", withoutMarks(hand.Accent)},
	{"chuck", "The hand stops the strings in the moment in which it strikes them.", withoutMarks(hand.Chuck)},
	{"palm", "The edge of the palm rests on the strings at the bridge.", withoutMarks(hand.PalmMuted)},
	{"stops", "The strings are silenced in time; the silence is part of the rhythm.", withoutStops},
	{"knock", "The palm lands on the strings with the stroke.", withoutSign(hand.Knock)},
	{"nails", "A down stroke with the backs of the nails answers the thumb.", withoutSign(hand.Nails)},
	{"stroke left out", "The hand passes a beat in the air and keeps moving.", fillMissedDowns},
	{"more up strokes", "The hand comes back through the strings on its way up.", laterUpsOut},
	{"first up stroke", "One up stroke: the way back up is heard for once.", allUpsOut},
	{"other off-beats", "The remaining notes fall between the beats. The thumb does not wait for them.", laterOffBeatsOut},
	{"first off-beat", "One note falls between the beats. The thumb does not wait for it.", allOffBeatsOut},
	{"ring finger", "The ring finger joins on its string.", withoutFinger(hand.Ring)},
	{"middle finger", "The middle finger joins on its string.", withoutFinger(hand.Middle)},
	{"the finger again", "The same finger comes back later in the bar.", laterFingersOut},
	{"one finger note", "It meets the thumb or follows it; the thumb keeps its walk.", withoutFingers},
	{"second bass string", "The thumb walks between two strings.", withoutAlternation},
	{"strums", "A light strum answers the bass note.", withoutStrumsAfterBass},
	{"twice as many", "The same stroke also falls between the beats.", onTheBeat},
	{"two and four", "The beats between get their strokes: four to a bar.", downsOnOneAndThree},
	{"every beat", "The same stroke on every beat, as even as a clock.", everyBeatOut},
	{"second half of the bar", "The stroke comes again in the middle of the bar.", onceABar},
}

// Keeps its own pulse: the thumb plays on every tapped beat.
func thumbKeepsTime(p hand.Pattern) bool {
	for _, bar := range p.Bars {
		for i, slot := range bar {
			if _, ok := slot.Find(hand.Thumb); p.OnBeat(i) && !ok {
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

// fillMissedDowns puts a down stroke on every beat that the hand passes in the
// air, in the zone of the other downs.
func fillMissedDowns(p hand.Pattern) (hand.Pattern, bool) {
	if !p.Uses(hand.Down) || p.Uses(hand.Thumb) || !p.Uses(hand.Up) {
		return p, false
	}
	q := p.Clone()
	changed := false
	for _, bar := range q.Bars {
		target := hand.Target{}
		if down, ok := bar[0].Find(hand.Down); ok {
			target = down.Target
		}
		for i := range bar {
			if q.OnBeat(i) && bar[i].Empty() {
				bar[i].Strokes = []hand.Stroke{{Sign: hand.Down, Target: target}}
				changed = true
			}
		}
	}
	return q, changed
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
// only where the thumb keeps time; other figures are taken apart by finger.
func laterOffBeatsOut(p hand.Pattern) (hand.Pattern, bool) {
	if !thumbKeepsTime(p) {
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
	if !thumbKeepsTime(p) {
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
	return keep(p, func(_, _ int, st hand.Stroke) bool { return !st.Sign.Strum() })
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
