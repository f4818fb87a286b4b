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
	switch {
	case f.hardest == 0:
	case level < f.hardest:
		say(-min(easier, easier/3+f.hardest-level), "easier than what the class plays")
	default:
		say(-farBeyond*max(0, level-f.hardest-1), "")
	}
}

// hardestHad is the level of the hardest figure of the song's meter that the class has had; 0 for none.
func hardestHad(l Learners) (hardest float64) {
	t := l.Task
	for _, p := range l.Had {
		if p.Meter == l.Task.Pattern.Meter {
			t.Pattern = p
			steps := grow.OnOneChord(order.Choice{}, t, l.Weights)
			hardest = max(hardest, steps[len(steps)-1].Level)
		}
	}
	return hardest
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
