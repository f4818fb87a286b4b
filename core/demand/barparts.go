package demand

import (
	"slices"

	"arplin/core/hand"
)

func isFinger(st hand.Stroke) bool { return st.Sign.Finger() && st.Sign != hand.Thumb }

// barParts counts what is counted a bar.
func barParts(p hand.Pattern, b boundBar) (v [numParts]float64) {
	slots := p.Bars[b.pattern]
	v[offBeat] = offBeatOf(p, slots)
	v[together] = togetherOf(p, slots)
	v[independence] = independenceOf(slots)
	v[order] = orderOf(slots)
	v[direction] = directionOf(p, slots)
	v[dynamics] = dynamicsOf(p, slots)
	v[thumbTravel], v[aim] = travelOf(p, b)
	return v
}

// distance is how far a slot lies from the nearest beat, in beats.
func distance(p hand.Pattern, slot int) float64 {
	n := p.SlotsPerBeat()
	return float64(min(slot%n, n-slot%n)) / float64(n)
}

// offBeatOf sums the note-to-beat distance 1/T over the fingers' voice, the
// strums and, again, the accents; a quarter of it where a thumb keeps the pulse,
// so that a plain off-beat eighth counts a half, a twentieth where fingers and
// thumb make one stream. Thumb strokes on the beats hide nothing.
func offBeatOf(p hand.Pattern, slots hand.Bar) (sum float64) {
	for i, slot := range slots {
		t := distance(p, i)
		if t == 0 {
			continue
		}
		for _, st := range slot.Strokes {
			switch {
			case isFinger(st) && len(thumbSlots(slots)) >= pulse, st.Sign == hand.Up && !single(st) && !struckBefore(slots, i):
				sum += 0.25 / t
			case isFinger(st):
				sum += 0.05 / t
			}
			if st.Marks.Has(hand.Accent) {
				sum += 0.25 / t
			}
		}
	}
	return sum
}

// single reports a pick on one string, whose ups and downs are no strums.
func single(st hand.Stroke) bool {
	switch st.Target.Kind {
	case hand.Root, hand.Alternate, hand.LowFifth:
		return true
	}
	return st.Target.Strings.Len() == 1
}

// pulse is how many strokes a bar make a thumb that keeps time by itself.
const pulse = 3

func thumbSlots(slots hand.Bar) (at []int) {
	for i, slot := range slots {
		if _, ok := slot.Find(hand.Thumb); ok {
			at = append(at, i)
		}
	}
	return at
}

// struckBefore reports a strum in the slot before, on which an up stroke leans.
func struckBefore(slots hand.Bar, i int) bool {
	return i > 0 && len(slots[i-1].Strokes) > 0
}

// togetherOf counts pinches and pairs; one block again and again counts little.
func togetherOf(p hand.Pattern, slots hand.Bar) float64 {
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
	if single == 0 && !pinches(slots) {
		return joined * 0.25
	}
	return joined
}

func pinches(slots hand.Bar) bool {
	for _, slot := range slots {
		if _, thumb := slot.Find(hand.Thumb); thumb && len(slot.Strokes) > 1 {
			return true
		}
	}
	return false
}

// independenceOf counts finger notes between strokes of a thumb that keeps a
// pulse; one more when the gaps do not all hold the same. Strict alternation
// counts only its notes.
func independenceOf(slots hand.Bar) float64 {
	thumbs := thumbSlots(slots)
	if len(thumbs) < pulse {
		return 0
	}
	count, first, varied := 0.0, "", false
	for k, from := range thumbs {
		to := len(slots)
		if k+1 < len(thumbs) {
			to = thumbs[k+1]
		}
		content := ""
		for i := from + 1; i < to; i++ {
			mark := "."
			for _, st := range slots[i].Strokes {
				if isFinger(st) {
					count++
					mark = "x"
				}
			}
			content += mark
		}
		if k == 0 {
			first = content
		}
		varied = varied || content != first
	}
	if varied && count > 0 {
		return 0.6 * (count + 1)
	}
	return 0.6 * count
}

// orderOf is the length of the longest subsequence of fingers that turns at
// every step (a rising run has two, and one turn more for each turn back), less
// the two of a plain run; a little for the longest that falls, since a hand that
// comes down begins with its weakest finger; strokes off the finger's usual
// string count too. Adding a stroke never shortens such subsequences.
func orderOf(slots hand.Bar) float64 {
	up, down, off := 0, 0, 0.0
	last := -1
	var falling [5]int // the longest that ends on each finger, from index 1 to little 4
	for _, slot := range slots {
		for _, st := range slot.Strokes {
			if !isFinger(st) {
				continue
			}
			if st.Target.Kind == hand.Given {
				off += 0.25
			}
			rank := map[hand.Sign]int{hand.Index: 1, hand.Middle: 2, hand.Ring: 3, hand.Little: 4}[st.Sign]
			switch {
			case last < 0:
				up, down = 1, 1
			case rank > last:
				up = down + 1
			case rank < last:
				down = up + 1
			}
			last = rank
			longest := 0
			for higher := rank + 1; higher < len(falling); higher++ {
				longest = max(longest, falling[higher])
			}
			falling[rank] = max(falling[rank], longest+1)
		}
	}
	return float64(max(0, max(up, down)-2)) + fallingCost*float64(max(0, slices.Max(falling[:])-1)) + off
}

// fallingCost is for each further finger of a falling run; from memory.
const fallingCost = 0.15

// directionOf counts strums against the hand, and beats that pass in the air in
// a pattern that also comes up.
func directionOf(p hand.Pattern, slots hand.Bar) (sum float64) {
	if !p.HasStrums() {
		return 0
	}
	for i, slot := range slots {
		for _, st := range slot.Strokes {
			if p.AgainstHand(i, st.Sign) {
				sum += 0.6
			}
		}
		if p.OnBeat(i) && slot.Empty() && p.Uses(hand.Up) {
			sum++
		}
	}
	return sum
}

// dynamicsOf counts accents and soft strokes, those off the beat twice.
func dynamicsOf(p hand.Pattern, slots hand.Bar) (sum float64) {
	for i, slot := range slots {
		for _, st := range slot.Strokes {
			if st.Marks&(hand.Accent|hand.Soft) != 0 {
				sum += 0.5
				if !p.OnBeat(i) {
					sum += 0.5
				}
			}
		}
	}
	return sum
}
