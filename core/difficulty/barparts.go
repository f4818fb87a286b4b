package difficulty

import (
	"slices"

	"arplin/core/pattern"
)

func isFinger(st pattern.Stroke) bool { return st.Sign.Finger() && st.Sign != pattern.Thumb }

// barParts counts what is counted a bar.
func barParts(t Task, b boundBar) (v [numParts]float64) {
	p := t.Pattern
	slots := p.Bars[b.pattern]
	v[offBeat] = offBeatOf(p, slots)
	v[together] = togetherOf(p, slots)
	v[independence] = independenceOf(p, b.pattern)
	v[order] = orderOf(slots)
	v[direction] = directionOf(t, slots)
	v[dynamics] = dynamicsOf(p, slots)
	return v
}

// distance is how far a slot lies from the nearest beat, in beats.
func distance(p pattern.Pattern, slot int) float64 {
	n := p.SlotsPerBeat()
	return float64(min(slot%n, n-slot%n)) / float64(n)
}

// swing is what it costs that the notes between the beats wait a little.
const swing = 0.6

// offBeatOf sums the note-to-beat distance 1/T over the fingers' voice, the
// strums and, again, the accents: 0.35 of it for a strum that leans on nothing, 0.4
// for an accent, a twentieth for a finger note, and a fifth more for the
// worst finger note beside a thumb that keeps the pulse: with the first note off
// the beat the hand has found the place, those after it are one stream with the
// thumb. Thumb strokes on the beats hide nothing; a thumb that leaves the beat costs
// more than a finger there.
func offBeatOf(p pattern.Pattern, slots pattern.Bar) (sum float64) {
	worst, swung := 0.0, 0.0
	for i, slot := range slots {
		t := distance(p, i)
		if t == 0 {
			continue
		}
		if hangs(slots, i) {
			sum += 0.6 / t
		}
		if p.Swing && len(slot.Strokes) > 0 {
			swung = swing
		}
		for _, st := range slot.Strokes {
			switch {
			case (st.Sign == pattern.Up || st.Sign == pattern.Down) && !single(st) && !struckBefore(p, slots, i):
				sum += 0.35 / t
				if missesAll(p, slots) { // one after the other, and none else
					sum -= 0.25 / t
				}
			case st.Sign == pattern.Thumb:
				sum += 0.35 / t
			case isFinger(st):
				sum += 0.05 / t
				worst = max(worst, 1/t)
			}
			if st.Marks.Has(pattern.Accent) {
				sum += 0.4 / t
			}
		}
	}
	if len(thumbSlots(slots)) >= pulse {
		sum += 0.2 * worst
	}
	return sum + swung
}

// single reports a pick on one string, whose ups and downs are no strums.
func single(st pattern.Stroke) bool {
	switch st.Target.Kind {
	case pattern.Root, pattern.Alternate, pattern.LowFifth:
		return true
	}
	return st.Target.Strings.Len() == 1
}

// pulse is how many strokes a bar make a thumb that keeps time by itself.
const pulse = 3

func thumbSlots(slots pattern.Bar) (at []int) {
	for i, slot := range slots {
		if _, ok := slot.Find(pattern.Thumb); ok {
			at = append(at, i)
		}
	}
	return at
}

// struckBefore reports a stroke on which a strum between the beats leans: in the slot before, or on
// its beat.
func struckBefore(p pattern.Pattern, slots pattern.Bar, i int) bool {
	return i > 0 && (len(slots[i-1].Strokes) > 0 || len(slots[i-i%p.SlotsPerBeat()].Strokes) > 0)
}

// missesAll reports a bar with nothing on its beats: the hand comes up, again and again.
func missesAll(p pattern.Pattern, slots pattern.Bar) bool {
	for i, slot := range slots {
		if p.OnBeat(i) && !slot.Empty() {
			return false
		}
	}
	return true
}

// hangs reports fingers that pluck together between the beats where the thumb has not just struck.
func hangs(slots pattern.Bar, i int) bool {
	n := 0
	for _, st := range slots[i].Strokes {
		if isFinger(st) {
			n++
		}
	}
	_, thumb := before(slots, i).Find(pattern.Thumb)
	return n > 1 && !thumb
}

// togetherOf counts pinches and pairs; one block again and again counts little.
func togetherOf(p pattern.Pattern, slots pattern.Bar) float64 {
	joined, single := 0.0, 0.0
	for _, slot := range slots {
		n := 0
		for _, st := range slot.Strokes {
			if st.Sign.Finger() {
				n++
			}
		}
		switch {
		case n > 1:
			joined += 1
		case n == 1 && isFinger(slot.Strokes[0]):
			single++
		}
	}
	switch {
	case single > 0:
	case !pinches(slots):
		return joined * 0.25
	case !alone(slots):
		return joined * 0.6
	}
	return joined
}

// alone reports a thumb that also strikes by itself.
func alone(slots pattern.Bar) bool {
	return slices.ContainsFunc(slots, func(s pattern.Slot) bool {
		_, thumb := s.Find(pattern.Thumb)
		return thumb && len(s.Strokes) == 1
	})
}

func pinches(slots pattern.Bar) bool {
	for _, slot := range slots {
		if _, thumb := slot.Find(pattern.Thumb); thumb && len(slot.Strokes) > 1 {
			return true
		}
	}
	return false
}

// independenceOf is what finger notes between strokes of a thumb that keeps a
// pulse cost in a bar; more where the bars of the figure differ. A bar costs no
// more for that than if it held what all bars hold between its own thumb strokes,
// so that a note more, which may make the bars alike, never makes it easier.
func independenceOf(p pattern.Pattern, bar int) float64 {
	const barsVary = 0.3
	thumbs := thumbSlots(p.Bars[bar])
	if len(thumbs) < pulse {
		return 0
	}
	all := make([]bool, p.Grid())
	for _, b := range p.Bars {
		for i, note := range fingerSlots(b) {
			all[i] = all[i] || note
		}
	}
	return min(gapsCost(thumbs, fingerSlots(p.Bars[bar]))+barsVary, gapsCost(thumbs, all))
}

// gapsCost is what the notes in the gaps after each stroke of the thumb cost: much
// for the first, little for another gap, so that strict alternation stays easy;
// more where gaps hold different things. A note that makes two gaps alike saves no
// more than it costs.
func gapsCost(thumbs []int, notes []bool) float64 {
	const first, gap, further, kind = 0.4, 0.15, 0.1, 0.1
	kinds := map[string]bool{}
	count, filled := 0, 0
	for k, from := range thumbs {
		to := len(notes)
		if k+1 < len(thumbs) {
			to = thumbs[k+1]
		}
		content := make([]byte, to-from)
		n := 0
		for i, note := range notes[from+1 : to] {
			if note {
				content[i] = 1
				n++
			}
		}
		if n > 0 {
			kinds[string(content)] = true
			filled++
			count += n
		}
	}
	if filled == 0 {
		return 0
	}
	return first + gap*float64(filled) + further*float64(count-filled) + kind*float64(len(kinds)-1)
}

// fingerSlots tells of every slot whether a finger plays in it.
func fingerSlots(slots pattern.Bar) []bool {
	notes := make([]bool, len(slots))
	for i, slot := range slots {
		notes[i] = slices.ContainsFunc(slot.Strokes, isFinger)
	}
	return notes
}

// orderOf counts the turns of the fingers between two strokes of the thumb: the
// length of the longest subsequence that turns at every step, less the two of a
// plain run, so that p i m a runs however often it comes, and p a i m does not. A
// little for the longest that falls, since a hand that comes down begins with its
// weakest finger; strokes off the finger's usual string count too. Adding a stroke
// never shortens such subsequences.
func orderOf(slots pattern.Bar) float64 {
	turns, up, down, off := 0, 0, 0, 0.0
	last := -1
	var falling [6]int // the longest that ends on each place
	for _, slot := range slots {
		if _, thumb := slot.Find(pattern.Thumb); thumb {
			turns += max(0, max(up, down)-2)
			up, down, last = 0, 0, -1
		}
		for _, st := range slot.Strokes {
			if !isFinger(st) {
				continue
			}
			if st.Target.Kind == pattern.Given {
				off += 0.25
			}
			at := placeOf(st)
			switch {
			case last < 0:
				up, down = 1, 1
			case at > last:
				up = down + 1
			case at < last:
				down = up + 1
			}
			last = at
			longest := 0
			for _, higher := range falling[at+1:] {
				longest = max(longest, higher)
			}
			falling[at] = max(falling[at], longest+1)
		}
	}
	turns += max(0, max(up, down)-2)
	return float64(turns) + fallingCost*float64(max(0, slices.Max(falling[:])-1)) + off
}

// placeOf is how far out a finger's stroke lies, from 0: the place of the string
// that is written, else of the finger, i on 3, m on 2, a on 1. Two fingers that
// take turns on one string stay where they are.
func placeOf(st pattern.Stroke) int {
	if st.Target.Kind == pattern.Given {
		return max(0, 5-st.Target.Strings.List()[0])
	}
	return map[pattern.Sign]int{pattern.Index: 2, pattern.Middle: 3, pattern.Ring: 4, pattern.Little: 5}[st.Sign]
}

// fallingCost is for each further finger of a falling run; from memory.
const fallingCost = 0.15

// A beat that the hand passes in the air, and each further one of the bar, where not all of them are.
const missed, missedToo = 2.0, 0.4

// inTime is by how much more a missed beat costs at double the walking rate: the arm has less time to pass.
const inTime = 0.4

// fromSilence is a strum between the beats that the hand finds after it passed twice in the air.
const fromSilence = 0.5

// wayBack is that the strings are met on the way up, too.
const wayBack = 0.5

// walking is how many downs a second leave the way back up to go by itself.
const walking = 2.8

// directionOf counts strums against the hand, and beats that pass in the air in
// a pattern that also comes up. A hand that strums only downs goes down on every one
// of them; what costs is the way back in between, when it is fast.
func directionOf(t Task, slots pattern.Bar) (sum float64) {
	p := t.Pattern
	if !p.HasStrums() {
		return 0
	}
	if !p.Uses(pattern.Up) {
		perSecond := float64(p.SlotsPerBeat()) / beatSeconds(t)
		for i := range slots {
			if i > 0 && p.AgainstHand(i, pattern.Down) && isStruck(slots[i]) && isStruck(slots[i-1]) {
				sum += 0.25 * max(0, perSecond-walking)
			}
		}
		return sum
	}
	if slices.ContainsFunc(slots, func(s pattern.Slot) bool { _, up := s.Find(pattern.Up); return up }) {
		sum += wayBack
	}
	perSecond := float64(p.SlotsPerBeat()) / beatSeconds(t)
	fast := 1 + inTime*max(0, perSecond/walking-1)
	cost := missed * fast
	for i, slot := range slots {
		for _, st := range slot.Strokes {
			if p.AgainstHand(i, st.Sign) {
				sum += 0.6
			}
			if !p.OnBeat(i) && st.Sign.Strum() && i > 1 && slots[i-1].Empty() && slots[i-2].Empty() {
				sum += fromSilence
			}
			if _, down := before(slots, i).Find(pattern.Down); st.Sign == pattern.Down && down {
				sum += 0.25 * max(0, perSecond-walking)
			}
		}
		if p.OnBeat(i) && slot.Empty() && p.Uses(pattern.Up) {
			sum += cost
			if cost = missedToo * fast; missesAll(p, slots) {
				cost = 0
			}
		}
	}
	return sum
}

func before(slots pattern.Bar, i int) pattern.Slot {
	if i == 0 {
		return pattern.Slot{}
	}
	return slots[i-1]
}

func isStruck(slot pattern.Slot) bool {
	return slices.ContainsFunc(slot.Strokes, func(st pattern.Stroke) bool { return st.Sign.Strum() })
}

// uneven is that strokes are not as loud as each other at all.
const uneven = 0.4

// dynamicsOf counts accents and soft strokes, those off the beat four times.
func dynamicsOf(p pattern.Pattern, slots pattern.Bar) (sum float64) {
	for i, slot := range slots {
		for _, st := range slot.Strokes {
			if st.Marks&(pattern.Accent|pattern.Soft) != 0 {
				sum += 0.3
				if !p.OnBeat(i) {
					sum += 0.9
				}
			}
		}
	}
	if sum > 0 {
		sum += uneven
	}
	return sum
}
