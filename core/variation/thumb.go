package variation

import (
	"slices"

	"arplin/core/pattern"
)

// Rules of the thumb: how often it plays, and on which strings. Source: common practice.
var (
	lowFifthRule = Rule{ID: "low-fifth", Ladder: true,
		less: one(withoutLowFifth), more: one(lowFifth),
		More: Words{"low fifth", "The thumb plays the fifth below its root string.", ""},
		Less: Words{"no low fifth", "The thumb goes back to its root string.", ""},
		How:  "Play the thumb alone: root, middle, fifth, middle. Look for the fifth before the bar starts.",
	}
	alternatingBass = Rule{ID: "second-bass-string", Ladder: true,
		less: one(withoutAlternation), more: one(alternate),
		More: Words{"alternating bass", "The thumb alternates between its bass strings.", ""},
		Less: Words{"one bass string", "The thumb stays on its root string.", ""},
		How:  "Look at the strings before you start. Play the thumb alone until it finds them without looking.",
	}
	thumbEveryBeat = Rule{ID: "thumb-on-every-beat",
		less: one(thumbOnOne), more: one(thumbOnEveryBeat),
		More: Words{"bass on every beat", "The thumb plays every beat under the fingers.", ""},
		Less: Words{"bass on 1", "The thumb plays on 1 only. The fingers stay the same.", ""},
	}
)

// Both directions of the rules that ladders do without; table: rules.go.

// thumbOnOne leaves the thumb's first stroke of a bar.
func thumbOnOne(p pattern.Pattern) (pattern.Pattern, bool) {
	if _, ok := p.Bars[0][0].Find(pattern.Thumb); !ok {
		return p, false
	}
	return Keep(p, func(_, slot int, st pattern.Stroke) bool { return st.Sign != pattern.Thumb || slot == 0 })
}

func thumbOnEveryBeat(p pattern.Pattern) (pattern.Pattern, bool) {
	if !plucked(p) {
		return p, false
	}
	return everywhere(p, func(bar pattern.Bar, i int) bool {
		if _, has := bar[i].Find(pattern.Thumb); has || !p.OnBeat(i) {
			return false
		}
		bar[i] = pattern.Slot{Strokes: append(slices.Clone(bar[i].Strokes), pattern.Stroke{Sign: pattern.Thumb})}
		return true
	})
}

func lowFifth(p pattern.Pattern) (pattern.Pattern, bool) {
	if !p.UsesTarget(pattern.Alternate, "p") {
		return p, false
	}
	return retarget(p, func(n int) bool { return n == 3 }, pattern.ByChord, pattern.LowFifth)
}

func withoutLowFifth(p pattern.Pattern) (pattern.Pattern, bool) {
	return retarget(p, func(int) bool { return true }, pattern.LowFifth, pattern.ByChord)
}

func alternate(p pattern.Pattern) (pattern.Pattern, bool) {
	return retarget(p, func(n int) bool { return n%2 == 0 }, pattern.ByChord, pattern.Alternate)
}

// withoutAlternation keeps the thumb on the root string.
func withoutAlternation(p pattern.Pattern) (pattern.Pattern, bool) {
	q := p.Clone()
	changed := false
	for _, bar := range q.Bars {
		for _, slot := range bar {
			for i, st := range slot.Strokes {
				if st.Sign == pattern.Thumb && (st.Target.Kind == pattern.Alternate || st.Target.Kind == pattern.LowFifth) {
					slot.Strokes[i].Target = pattern.Target{}
					changed = true
				}
			}
		}
	}
	return q, changed
}

// retarget changes some of a bar's thumb strokes, counted from 1.
func retarget(p pattern.Pattern, which func(n int) bool, from, to pattern.TargetKind) (pattern.Pattern, bool) {
	n := 0
	return everywhere(p, func(bar pattern.Bar, i int) bool {
		if i == 0 {
			n = 0
		}
		for k, st := range bar[i].Strokes {
			if st.Sign != pattern.Thumb {
				continue
			}
			n++
			if which(n) && st.Target.Kind == from {
				bar[i].Strokes[k].Target = pattern.Target{Kind: to}
				return true
			}
		}
		return false
	})
}

// plucked reports a figure of thumb and fingers without strums.
func plucked(p pattern.Pattern) bool { return p.Uses(pattern.Thumb) && !p.HasStrums() }

// The directions of the rules that take something away; table: rules.go.

// pulseKept: every beat has the thumb or a strum, so that notes between the beats
// are notes between.
func pulseKept(p pattern.Pattern) bool {
	for _, bar := range p.Bars {
		for i, slot := range bar {
			_, thumb := slot.Find(pattern.Thumb)
			_, nails := slot.Find(pattern.Nails)
			if p.OnBeat(i) && !thumb && !nails {
				return false
			}
		}
	}
	return true
}
