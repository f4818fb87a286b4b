package pattern

import (
	"slices"
)

// UsesFingers reports a pattern in which a finger other than the thumb plucks.
func (p Pattern) UsesFingers() bool {
	return slices.ContainsFunc([]Sign{Index, Middle, Ring, Little}, p.Uses)
}

// OffBeat reports that something lies between the beats, a stop too.
func (p Pattern) OffBeat() bool {
	return p.AnySlot(func(i int, s Slot) bool { return !p.OnBeat(i) && !s.Empty() })
}

// OnlyThumbAndIndex reports a pattern that two fingers play.
func (p Pattern) OnlyThumbAndIndex() bool {
	if !p.Uses(Thumb) && !p.Uses(Index) {
		return false
	}
	for _, st := range p.strokes() {
		if st.Sign != Thumb && st.Sign != Index {
			return false
		}
	}
	return true
}

// Together reports strokes of fingers that sound at once: pinches and pairs.
func (p Pattern) Together() bool {
	for _, bar := range p.Bars {
		for _, slot := range bar {
			fingers := 0
			for _, st := range slot.Strokes {
				if st.Sign.Finger() {
					fingers++
				}
			}
			if fingers > 1 {
				return true
			}
		}
	}
	return false
}

// Skips reports fingers out of running order: two single strokes after each
// other whose fingers are not neighbours in p i m a c. The way back to the thumb
// is no skip.
func (p Pattern) Skips() bool {
	last := -1
	for _, bar := range p.Bars {
		for _, slot := range bar {
			if len(slot.Strokes) != 1 || !slot.Strokes[0].Sign.Finger() {
				if !slot.Empty() {
					last = -1
				}
				continue
			}
			at := slot.Strokes[0].Sign.rank()
			if last >= 0 && at != 0 && (at-last > 1 || last-at > 1) {
				return true
			}
			last = at
		}
	}
	return false
}

// StrokesPerSecond is the mean over the pattern at a tempo of its tapped beat.
func (p Pattern) StrokesPerSecond(tempo int) float64 {
	beats := len(p.Bars) * p.Meter.TappedBeats()
	return float64(p.Count()) * float64(tempo) / 60 / float64(beats)
}

// AnySlot reports a slot of which something holds, by its place in its bar.
func (p Pattern) AnySlot(is func(slot int, s Slot) bool) bool {
	for _, bar := range p.Bars {
		for i, s := range bar {
			if is(i, s) {
				return true
			}
		}
	}
	return false
}
