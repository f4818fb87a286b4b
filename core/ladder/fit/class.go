package fit

import (
	"arplin/core/ladder/grow"
	"arplin/core/ladder/order"
	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
)

// hand speaks for what is done with the hand that the class has learned: fingers, or strums.
func (f fitter) hand(e catalogue.Entry, say sayer) {
	strums := e.Pattern.HasStrums()
	if len(f.class.Had) == 0 {
		if strums && !e.Pattern.Uses(pattern.Thumb) && f.class.Task.Instrument.ThumbStays() {
			say(1.5*sameHand, "a ukulele is strummed first")
		}
		return
	}
	for _, p := range f.class.Had {
		if p.HasStrums() != strums {
			return
		}
	}
	if strums {
		say(sameHand, "the class strums")
	} else {
		say(sameHand, "the class plays with the fingers")
	}
}

// afterHad holds a figure against the hardest that the class has had: one that is easier brings it no
// further, one that is far beyond is not the next. Nobody of it was heard.
func (f fitter) afterHad(level float64, say sayer) {
	t, hardest := f.class.Task, 0.0
	for _, p := range f.class.Had {
		if p.Meter == t.Pattern.Meter {
			t.Pattern = p
			steps := grow.OnOneChord(order.Choice{}, t, f.class.Weights)
			hardest = max(hardest, steps[len(steps)-1].Level)
		}
	}
	switch {
	case hardest == 0:
	case level < hardest:
		say(-min(easier, easier/3+hardest-level), "easier than what the class plays")
	default:
		say(-farBeyond*max(0, level-hardest-1), "")
	}
}

// ownTechnique is what speaks against a first figure that needs a technique of its own.
func ownTechnique(p pattern.Pattern) float64 {
	own := 0.0
	for _, bar := range p.Bars {
		for i, slot := range bar {
			if slot.Stop || slot.Empty() && p.OnBeat(i) && p.Uses(pattern.Up) {
				own = technique
			}
			for _, st := range slot.Strokes {
				if st.Marks.Has(pattern.Chuck) || st.Marks.Has(pattern.PalmMuted) || st.Sign == pattern.Nails || st.Sign == pattern.Knock || st.Sign == pattern.Sweep {
					own = technique
				}
			}
			if _, thumb := slot.Find(pattern.Thumb); thumb && len(slot.Strokes) > 1 {
				own = max(own, technique/2)
			}
		}
	}
	return own
}
