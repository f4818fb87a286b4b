package vary

import "arplin/core/hand"

// pickString is the string that a pick takes for a finger: those of the
// fingers that keep their strings.
var pickString = map[hand.Sign]int{hand.Index: 3, hand.Middle: 2, hand.Ring: 1}

// pickForFingers plays a figure of single notes with a pick, in the natural
// motion of the hand.
func pickForFingers(p hand.Pattern) (hand.Pattern, bool) {
	if !plucked(p) {
		return p, false
	}
	possible := true
	q, changed := everywhere(p, func(bar hand.Bar, i int) bool {
		if len(bar[i].Strokes) == 0 {
			return false
		}
		st := bar[i].Strokes[0]
		possible = possible && len(bar[i].Strokes) == 1 && st.Sign.Finger()
		switch {
		case st.Sign == hand.Thumb && st.Target.Kind == hand.ByChord:
			st.Target.Kind = hand.Root
		case st.Sign == hand.Thumb:
		case st.Target.Kind == hand.ByChord && pickString[st.Sign] > 0:
			st.Target = hand.Target{Kind: hand.Given, Strings: hand.Strings(pickString[st.Sign])}
		default:
			possible = false
		}
		st.Sign = hand.Down
		if p.AgainstHand(i, hand.Down) {
			st.Sign = hand.Up
		}
		bar[i].Strokes = []hand.Stroke{st}
		return true
	})
	return q, changed && possible
}

// fingersForPick is the opposite: thumb and fingers for a pick that takes one
// string at a time.
func fingersForPick(p hand.Pattern) (hand.Pattern, bool) {
	if p.Uses(hand.Thumb) {
		return p, false
	}
	fingers := map[int]hand.Sign{}
	for f, n := range pickString {
		fingers[n] = f
	}
	possible := true
	q, changed := everywhere(p, func(bar hand.Bar, i int) bool {
		if len(bar[i].Strokes) == 0 {
			return false
		}
		st := bar[i].Strokes[0]
		possible = possible && len(bar[i].Strokes) == 1 && (st.Sign == hand.Down || st.Sign == hand.Up) && !st.Marks.Has(hand.Chuck)
		switch st.Target.Kind {
		case hand.Root:
			st = hand.Stroke{Sign: hand.Thumb, Marks: st.Marks}
		case hand.Alternate, hand.LowFifth:
			st.Sign = hand.Thumb
		case hand.Given:
			n := st.Target.Strings.List()
			f, ok := fingers[n[0]]
			switch {
			case len(n) > 1:
				possible = false
			case ok:
				st = hand.Stroke{Sign: f, Marks: st.Marks}
			default:
				st.Sign = hand.Thumb
			}
		default:
			possible = false
		}
		bar[i].Strokes = []hand.Stroke{st}
		return true
	})
	return q, changed && possible
}
