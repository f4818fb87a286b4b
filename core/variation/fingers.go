package variation

import (
	"arplin/core/pattern"
)

// Rules of the fingers: which of them play, and where. Source: common practice.
var (
	moreOffBeats = Rule{ID: "other-off-beats", Ladder: true, notes: true,
		less: one(laterOffBeatsOut), more: one(fillOffBeats),
		More: Words{"more notes off the beat", "More notes come off the beat. The thumb doesn’t wait for them.", "One more note comes off the beat. The thumb doesn’t wait for it."},
		Less: Words{"one note off the beat", "Only the first off-beat note stays.", ""},
		How:  "Add them one at a time. If the thumb stumbles, play it alone until it’s steady.",
	}
	firstOffBeat = Rule{ID: "first-off-beat", Ladder: true, notes: true,
		less: one(allOffBeatsOut), more: atPlaces(offBeat(true)),
		More: Words{"first note off the beat", "One note comes off the beat. The thumb doesn’t wait for it.", ""},
		Less: Words{"nothing off the beat", "Nothing comes off the beat. Every note is with the thumb.", ""},
		How:  "Play the thumb alone, counting aloud. Say where the new note comes, then play it. Just this bar, ten times.",
	}
	ringJoins = Rule{ID: "ring-finger", Ladder: true, notes: true,
		less: one(withoutFinger(pattern.Ring)), more: atPlaces(withFinger(pattern.Ring, pattern.Middle)),
		More: Words{"ring finger", "The ring finger joins on its string.", ""},
		Less: Words{"without the ring finger", "Leave out the ring finger. The others stay where they are.", ""},
		How:  "Play its note alone with the thumb until it’s as loud as the others.",
	}
	middleJoins = Rule{ID: "middle-finger", Ladder: true, notes: true,
		less: one(withoutFinger(pattern.Middle)), more: atPlaces(withFinger(pattern.Middle, pattern.Index)),
		More: Words{"middle finger", "The middle finger joins on its string.", ""},
		Less: Words{"without the middle finger", "Leave out the middle finger. The others stay where they are.", ""},
		How:  "Play index and middle in turn on open strings, then with the thumb.",
	}
	moreFingers = Rule{ID: "more-finger-notes", Ladder: true, notes: true,
		less: one(laterFingersOut), more: atPlaces(sameFinger),
		More: Words{"more finger notes", "The fingers play more notes besides the first.", "The fingers play one more note."},
		Less: Words{"one finger note only", "Only the first finger note stays.", ""},
		How:  "Count the bar and say each finger’s letter where it plays.",
	}
	firstFingerNote = Rule{ID: "one-finger-note", Ladder: true, notes: true,
		less: one(withoutFingers), more: atPlaces(firstFinger),
		More: Words{"first finger note", "The thumb stays the same.", ""},
		Less: Words{"thumb alone", "The fingers rest. The thumb keeps going.", ""},
		How:  "Play the thumb alone first. Then add the finger every other bar, then every bar.",
	}
	offBeatNote = Rule{ID: "an-off-beat-note", notes: true,
		less: atPlaces(offBeatOut), more: atPlaces(offBeat(false)),
		More: Words{"one more note off the beat", "One more note comes off the beat.", ""},
		Less: Words{"one fewer note off the beat", "One of the off-beat notes is left out.", ""},
	}
	oneFingerMore = Rule{ID: "one-finger-more",
		less: anyOf(ringToIndex, middleToIndex), more: anyOf(ringFinger, middleForIndex),
		More: Words{"one more finger", "Some notes go to another finger, so none plays twice in a row.", ""},
		Less: Words{"one fewer finger", "One fewer finger: its notes go to the index.", ""},
	}
)

// offBeatOut leaves a single finger note between beats out.
func offBeatOut(p pattern.Pattern, bar pattern.Bar, i int) bool {
	if !p.Uses(pattern.Thumb) || p.OnBeat(i) || len(bar[i].Strokes) != 1 || !isFinger(bar[i].Strokes[0]) {
		return false
	}
	bar[i] = pattern.Slot{}
	return true
}

// offBeat adds a note at a free place between two beats: the first one over a
// thumb that keeps time, or one more.
func offBeat(first bool) func(pattern.Pattern, pattern.Bar, int) bool {
	return func(p pattern.Pattern, bar pattern.Bar, i int) bool {
		if !plucked(p) || p.OnBeat(i) || !bar[i].Empty() || first && !pulseKept(p) {
			return false
		}
		bar[i].Strokes = []pattern.Stroke{{Sign: nextFinger(bar, i)}}
		return true
	}
}

// fillOffBeats puts a note at every free place between beats but the last, which
// is left for the change.
func fillOffBeats(p pattern.Pattern) (pattern.Pattern, bool) {
	if !plucked(p) || !pulseKept(p) {
		return p, false
	}
	return everywhere(p, func(bar pattern.Bar, i int) bool {
		return i < len(bar)-1 && offBeat(true)(p, bar, i)
	})
}

// laterOffBeatsOut keeps the first finger note between the beats. It has a hold
// only where thumb or nails keep time; other figures are taken apart by finger.
func laterOffBeatsOut(p pattern.Pattern) (pattern.Pattern, bool) {
	if !pulseKept(p) {
		return p, false
	}
	seen := 0
	return Keep(p, func(_, slot int, st pattern.Stroke) bool {
		if isFinger(st) && !p.OnBeat(slot) {
			seen++
			return seen == 1
		}
		return true
	})
}

func allOffBeatsOut(p pattern.Pattern) (pattern.Pattern, bool) {
	if !pulseKept(p) {
		return p, false
	}
	return Keep(p, func(_, slot int, st pattern.Stroke) bool { return !isFinger(st) || p.OnBeat(slot) })
}

func isFinger(st pattern.Stroke) bool { return st.Sign.Finger() && st.Sign != pattern.Thumb }

// nextFinger is the one that was not heard last before a place in the bar.
func nextFinger(bar pattern.Bar, i int) pattern.Sign {
	for i--; i >= 0; i-- {
		for _, st := range bar[i].Strokes {
			if st.Sign == pattern.Index {
				return pattern.Middle
			} else if isFinger(st) {
				return pattern.Index
			}
		}
	}
	return pattern.Index
}

// withoutFinger leaves one finger out, while another is left beside the thumb.
func withoutFinger(f pattern.Sign) func(pattern.Pattern) (pattern.Pattern, bool) {
	return func(p pattern.Pattern) (pattern.Pattern, bool) {
		others := 0
		for _, sign := range []pattern.Sign{pattern.Index, pattern.Middle, pattern.Ring, pattern.Little} {
			if sign != f && p.Uses(sign) {
				others++
			}
		}
		if others == 0 {
			return p, false
		}
		return Keep(p, func(_, _ int, st pattern.Stroke) bool { return st.Sign != f })
	}
}

// withFinger adds a first note of a finger where another plays already.
func withFinger(f, beside pattern.Sign) func(pattern.Pattern, pattern.Bar, int) bool {
	return func(p pattern.Pattern, bar pattern.Bar, i int) bool {
		if p.HasStrums() || p.Uses(f) || !p.Uses(beside) || i == 0 || !bar[i].Empty() {
			return false
		}
		bar[i].Strokes = []pattern.Stroke{{Sign: f}}
		return true
	}
}

// laterFingersOut keeps one finger note a bar: the one on beat two where there
// is one, since the thumb is settled by then, else the first.
func laterFingersOut(p pattern.Pattern) (pattern.Pattern, bool) {
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
	return Keep(p, func(bar, slot int, st pattern.Stroke) bool { return !isFinger(st) || slot == chosen[bar] })
}

// sameFinger brings the finger of the one note back at a free place after it.
func sameFinger(p pattern.Pattern, bar pattern.Bar, i int) bool {
	if p.HasStrums() || !bar[i].Empty() || len(p.Bars) > 1 {
		return false
	}
	for k := range i {
		for _, st := range bar[k].Strokes {
			if isFinger(st) {
				bar[i].Strokes = []pattern.Stroke{{Sign: st.Sign, Target: st.Target}}
				return true
			}
		}
	}
	return false
}

func withoutFingers(p pattern.Pattern) (pattern.Pattern, bool) {
	return Keep(p, func(_, _ int, st pattern.Stroke) bool { return !isFinger(st) })
}

// firstFinger adds the first finger note to a thumb: a pinch on a beat, a note
// after it between beats.
func firstFinger(p pattern.Pattern, bar pattern.Bar, i int) bool {
	if !plucked(p) || p.Uses(pattern.Index) || p.Uses(pattern.Middle) || p.Uses(pattern.Ring) || p.Uses(pattern.Little) || i == 0 {
		return false
	}
	sign := pattern.Index
	if p.OnBeat(i) {
		sign = pattern.Middle
	}
	bar[i].Strokes = append(bar[i].Strokes, pattern.Stroke{Sign: sign})
	return true
}

// resigned gives the notes of one finger to another, where no slot has both.
func resigned(p pattern.Pattern, from, to pattern.Sign) (pattern.Pattern, bool) {
	clash := false
	q, changed := everywhere(p, func(bar pattern.Bar, i int) bool {
		changed := false
		_, has := bar[i].Find(to)
		for k, st := range bar[i].Strokes {
			if st.Sign == from && st.Target.Kind == pattern.ByChord {
				bar[i].Strokes[k].Sign = to
				changed, clash = true, clash || has
			}
		}
		return changed
	})
	return q, changed && !clash
}

func ringToIndex(p pattern.Pattern) (pattern.Pattern, bool) {
	return resigned(p, pattern.Ring, pattern.Index)
}

func middleToIndex(p pattern.Pattern) (pattern.Pattern, bool) {
	if p.Uses(pattern.Ring) {
		return p, false
	}
	return resigned(p, pattern.Middle, pattern.Index)
}

// ringFinger takes the later of two notes of the index for the ring finger.
func ringFinger(p pattern.Pattern) (pattern.Pattern, bool) {
	if p.Uses(pattern.Ring) || !p.Uses(pattern.Middle) {
		return p, false
	}
	last, done := pattern.Sign(0), false
	return everywhere(p, func(bar pattern.Bar, i int) bool {
		for k, st := range bar[i].Strokes {
			if !isFinger(st) {
				continue
			}
			if !done && last == pattern.Middle && st.Sign == pattern.Index && st.Target.Kind == pattern.ByChord && len(bar[i].Strokes) == 1 {
				bar[i].Strokes[k].Sign = pattern.Ring
				done = true
				return true
			}
			last = st.Sign
		}
		return false
	})
}

// middleForIndex gives every second note of the index to the middle finger.
func middleForIndex(p pattern.Pattern) (pattern.Pattern, bool) {
	if p.Uses(pattern.Middle) {
		return p, false
	}
	n := 0
	return everywhere(p, func(bar pattern.Bar, i int) bool {
		for k, st := range bar[i].Strokes {
			if st.Sign == pattern.Index && st.Target.Kind == pattern.ByChord {
				if n++; n%2 == 0 {
					bar[i].Strokes[k].Sign = pattern.Middle
					return true
				}
			}
		}
		return false
	})
}
