package variation

import (
	"arplin/core/pattern"
)

// The rule of the pick. Source: common practice.
var (
	pick = Rule{ID: "a-pick",
		less: one(fingersForPick), more: one(pickForFingers),
		More: Words{"with a pick", "The same notes with a pick: down on the beat, up after it.", ""},
		Less: Words{"with the fingers", "Thumb and fingers instead of the pick, each on its string.", ""},
	}
)

// pickString is the string that a pick takes for a finger: those of the
// fingers that keep their strings.
var pickString = map[pattern.Sign]int{pattern.Index: 3, pattern.Middle: 2, pattern.Ring: 1}

// pickForFingers plays a figure of single notes with a pick, in the natural
// motion of the hand.
func pickForFingers(p pattern.Pattern) (pattern.Pattern, bool) {
	if !plucked(p) {
		return p, false
	}
	possible := true
	q, changed := everywhere(p, func(bar pattern.Bar, i int) bool {
		if len(bar[i].Strokes) == 0 {
			return false
		}
		st := bar[i].Strokes[0]
		possible = possible && len(bar[i].Strokes) == 1 && st.Sign.Finger()
		switch {
		case st.Sign == pattern.Thumb && st.Target.Kind == pattern.ByChord:
			st.Target.Kind = pattern.Root
		case st.Sign == pattern.Thumb:
		case st.Target.Kind == pattern.ByChord && pickString[st.Sign] > 0:
			st.Target = pattern.Target{Kind: pattern.Given, Strings: pattern.Strings(pickString[st.Sign])}
		default:
			possible = false
		}
		st.Sign = pattern.Down
		if p.AgainstHand(i, pattern.Down) {
			st.Sign = pattern.Up
		}
		bar[i].Strokes = []pattern.Stroke{st}
		return true
	})
	return q, changed && possible
}

// fingersForPick is the opposite: thumb and fingers for a pick that takes one
// string at a time.
func fingersForPick(p pattern.Pattern) (pattern.Pattern, bool) {
	if p.Uses(pattern.Thumb) {
		return p, false
	}
	fingers := map[int]pattern.Sign{}
	for f, n := range pickString {
		fingers[n] = f
	}
	possible := true
	q, changed := everywhere(p, func(bar pattern.Bar, i int) bool {
		if len(bar[i].Strokes) == 0 {
			return false
		}
		st := bar[i].Strokes[0]
		possible = possible && len(bar[i].Strokes) == 1 && (st.Sign == pattern.Down || st.Sign == pattern.Up) && !st.Marks.Has(pattern.Chuck)
		switch st.Target.Kind {
		case pattern.Root:
			st = pattern.Stroke{Sign: pattern.Thumb, Marks: st.Marks}
		case pattern.Alternate, pattern.LowFifth:
			st.Sign = pattern.Thumb
		case pattern.Given:
			n := st.Target.Strings.List()
			f, ok := fingers[n[0]]
			switch {
			case len(n) > 1:
				possible = false
			case ok:
				st = pattern.Stroke{Sign: f, Marks: st.Marks}
			default:
				st.Sign = pattern.Thumb
			}
		default:
			possible = false
		}
		bar[i].Strokes = []pattern.Stroke{st}
		return true
	})
	return q, changed && possible
}
