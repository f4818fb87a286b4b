package variation

import (
	"arplin/core/pattern"
)

// Rules of touch: accents, stops, muting, palm and nails. Source: common practice.
var (
	accents = Rule{ID: "accents", Ladder: true,
		less: one(withoutMarks(pattern.Accent)), more: one(backBeat(pattern.Accent)),
		More: Words{"accents", "The same notes, some of them louder.", ""},
		Less: Words{"no accents", "Every note is equally loud for now.", ""},
		How:  "Say the accents louder than the rest, then play them that way. Don’t let the others fade.",
	}
	chuck = Rule{ID: "chuck", Ladder: true,
		less: one(withoutMarks(pattern.Chuck)), more: one(backBeat(pattern.Chuck)),
		More: Words{"chucks", "Your hand mutes the strings as it strums them.", ""},
		Less: Words{"no chucks", "The muted strums ring for now.", ""},
		How:  "Play the chuck alone until only a dry sound is left. Then add one bar of strums around it.",
	}
	palm = Rule{ID: "palm", Ladder: true,
		less: one(withoutMarks(pattern.PalmMuted)), more: one(palmed),
		More: Words{"palm muting", "Rest the edge of your palm on the strings at the bridge.", ""},
		Less: Words{"no palm muting", "Your palm is off the strings, so every note rings.", ""},
		How:  "Find the spot where the note is short but you still hear its pitch, and stay there.",
	}
	stops = Rule{ID: "stops", Ladder: true,
		less: one(withoutStops), more: anyOf(stopped, stoppedLast),
		More: Words{"stops", "Mute the strings in time. The silence is part of the rhythm.", ""},
		Less: Words{"no stops", "The strings ring on where they were muted.", ""},
		How:  "Say “off” where you mute the strings. Don’t lose the next stroke.",
	}
	knock = Rule{ID: "knock", Ladder: true,
		less: one(withoutSign(pattern.Knock)), more: one(knocked),
		More: Words{"palm hit", "Your palm lands on the strings with the stroke.", ""},
		Less: Words{"no palm hit", "Leave out the palm hit. The rest stays the same.", ""},
		How:  "Play the palm hit alone while you count. Then add what comes before it.",
	}
	nails = Rule{ID: "nails", Ladder: true,
		less: one(withoutSign(pattern.Nails)), more: one(nailed),
		More: Words{"brush with the backs of the nails", "A down stroke with the backs of your nails answers the thumb.", ""},
		Less: Words{"no brush", "Thumb and fingers without the brush that answers them.", ""},
		How:  "Flick your fingers open from the knuckles and keep your arm still. Softly first.",
	}
	threeThreeTwoRule = Rule{ID: "three-three-two",
		less: one(withoutThreeThreeTwo), more: one(threeThreeTwo),
		More: Words{"accents three-three-two", "Accents on 1, the “and” of 2, and 4.", ""},
		Less: Words{"accents off", "Every note is equally loud again.", ""},
	}
)

// withoutMarks takes a mark off every stroke.
func withoutMarks(m pattern.Marks) func(pattern.Pattern) (pattern.Pattern, bool) {
	return func(p pattern.Pattern) (pattern.Pattern, bool) {
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

// backBeat marks the strums on two and four.
func backBeat(m pattern.Marks) func(pattern.Pattern) (pattern.Pattern, bool) {
	return func(p pattern.Pattern) (pattern.Pattern, bool) {
		if p.Meter.TappedBeats() != 4 {
			return p, false
		}
		return everywhere(p, func(bar pattern.Bar, i int) bool {
			if !p.OnBeat(i) || i/p.SlotsPerBeat()%2 == 0 || len(bar[i].Strokes) != 1 {
				return false
			}
			st := &bar[i].Strokes[0]
			if !st.Sign.Strum() || st.Marks&(m|pattern.Accent|pattern.Soft) != 0 {
				return false
			}
			st.Marks |= m
			return true
		})
	}
}

// palmed mutes the thumb or, without one, the downs.
func palmed(p pattern.Pattern) (pattern.Pattern, bool) {
	sign := pattern.Thumb
	if !p.Uses(sign) {
		sign = pattern.Down
	}
	return everywhere(p, func(bar pattern.Bar, i int) bool {
		changed := false
		for k, st := range bar[i].Strokes {
			if st.Sign == sign {
				bar[i].Strokes[k].Marks |= pattern.PalmMuted
				changed = true
			}
		}
		return changed
	})
}

// stopped silences the strings after every down strum that has room for it.
func stopped(p pattern.Pattern) (pattern.Pattern, bool) {
	return everywhere(p, func(bar pattern.Bar, i int) bool {
		if p.OnBeat(i) || !bar[i].Empty() {
			return false
		}
		_, down := bar[i-1].Find(pattern.Down)
		bar[i].Stop = down
		return down
	})
}

func stoppedLast(p pattern.Pattern) (pattern.Pattern, bool) {
	return everywhere(p, func(bar pattern.Bar, i int) bool {
		if i != len(bar)-1 || !bar[i].Empty() {
			return false
		}
		bar[i].Stop = true
		return true
	})
}

func withoutStops(p pattern.Pattern) (pattern.Pattern, bool) {
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
func withoutSign(sign pattern.Sign) func(pattern.Pattern) (pattern.Pattern, bool) {
	return func(p pattern.Pattern) (pattern.Pattern, bool) {
		q, changed := Keep(p, func(_, _ int, st pattern.Stroke) bool { return st.Sign != sign })
		return q, changed && !q.Bars[0][0].Empty()
	}
}

// knocked puts the palm beside the nails or, without nails, on the free beats
// two and four.
func knocked(p pattern.Pattern) (pattern.Pattern, bool) {
	if !p.Uses(pattern.Thumb) || p.Uses(pattern.Knock) {
		return p, false
	}
	nails := p.Uses(pattern.Nails)
	return everywhere(p, func(bar pattern.Bar, i int) bool {
		_, has := bar[i].Find(pattern.Nails)
		if nails && !has || !nails && (!offMain(p, i) || !bar[i].Empty()) {
			return false
		}
		bar[i].Strokes = append(bar[i].Strokes, pattern.Stroke{Sign: pattern.Knock})
		return true
	})
}

func nailed(p pattern.Pattern) (pattern.Pattern, bool) {
	if !p.Uses(pattern.Thumb) || p.HasStrums() {
		return p, false
	}
	return everywhere(p, func(bar pattern.Bar, i int) bool {
		_, knock := bar[i].Find(pattern.Knock)
		if !offMain(p, i) || !bar[i].Empty() && !(knock && len(bar[i].Strokes) == 1) {
			return false
		}
		bar[i].Strokes = append(bar[i].Strokes, pattern.Stroke{Sign: pattern.Nails})
		return true
	})
}

// threeThreeTwo puts accents on the first stroke of each group of 3 + 3 + 2.
func threeThreeTwo(p pattern.Pattern) (pattern.Pattern, bool) {
	if p.Meter.TappedBeats() != 4 || p.Grid() != 8 {
		return p, false
	}
	for _, bar := range p.Bars {
		for i, slot := range bar {
			if len(slot.Strokes) == 0 || slot.Strokes[0].Marks&(pattern.Accent|pattern.Soft) != 0 && inThrees(i) {
				return p, false
			}
		}
	}
	return everywhere(p, func(bar pattern.Bar, i int) bool {
		if !inThrees(i) {
			return false
		}
		bar[i].Strokes[0].Marks |= pattern.Accent
		return true
	})
}

// inThrees: the first of three, three and two eighths.
func inThrees(i int) bool { return i == 0 || i == 3 || i == 6 }

// withoutThreeThreeTwo takes the accents away where they stand so.
func withoutThreeThreeTwo(p pattern.Pattern) (pattern.Pattern, bool) {
	q, changed := withoutMarks(pattern.Accent)(p)
	again, ok := threeThreeTwo(q)
	return q, changed && ok && again.Equal(p)
}
