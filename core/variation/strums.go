package variation

import (
	"arplin/core/pattern"
)

// Rules of strums. Source: common practice.
var (
	missedStrum = Rule{ID: "stroke-left-out", Ladder: true, notes: true,
		less: missedDownsFilled, more: atPlaces(beatLeftOut),
		More: Words{"missed strum", "Let your hand pass the strings on a beat, and keep it moving.", ""},
		Less: Words{"no missed strum", "Strum the beat again. Your hand moves as before.", ""},
		How:  "Keep your hand moving and say “miss” where it passes the strings. The strum after it comes by itself.",
	}
	missedStrums = Rule{ID: "beats-left-out",
		less: one(allBeatsFilled), more: one(allBeatsOut),
		More: Words{"missed beats", "Your hand passes the strings on those beats and keeps moving.", ""},
		Less: Words{"the beats too", "Strum on the beats, too. Your hand goes down there anyway.", ""},
	}
	moreUps = Rule{ID: "more-up-strokes", Ladder: true, notes: true,
		less: one(laterUpsOut), more: one(fillUps),
		More: Words{"more up strums", "Play the strings on the way back up, too.", ""},
		Less: Words{"one up strum only", "Only the first up strum is played.", ""},
		How:  "Make the ups lighter, two or three strings only. Say “down” and “up”.",
	}
	firstUp = Rule{ID: "first-up-stroke", Ladder: true, notes: true,
		less: one(allUpsOut), more: atPlaces(oneUp(true)),
		More: Words{"first up strum", "One up strum: play the strings on the way back up.", ""},
		Less: Words{"down strums only", "Your hand comes back up without touching the strings.", ""},
		How:  "Play the downs as before. On one way back, bring your hand a little closer to the strings.",
	}
	strumsJoin = Rule{ID: "strums", Ladder: true,
		less: one(withoutStrumsAfterBass), more: one(strumsAfterBass),
		More: Words{"strums after the bass", "Light strums answer the bass notes.", "A light strum answers the bass note."},
		Less: Words{"bass alone", "The bass notes without the strums between them.", ""},
		How:  "Bass note, wait, strum. Keep the strum small and light so the bass comes through.",
	}
	betweenBeats = Rule{ID: "twice-as-many", Ladder: true,
		less: one(onTheBeat), more: one(doubledDowns),
		More: Words{"strokes off the beat", "The same stroke also comes off the beat.", ""},
		Less: Words{"on the beat only", "The strokes off the beat are left out.", ""},
		How:  "Go slowly enough to keep your arm loose. Make smaller strokes, not faster ones.",
	}
	twoAndFour = Rule{ID: "two-and-four", Ladder: true,
		less: one(downsOnOneAndThree), more: one(onAllFour),
		More: Words{"beats 2 and 4", "Add strokes on the beats between: four to a bar.", ""},
		Less: Words{"beats 1 and 3 only", "Two strokes a bar, on 1 and 3.", ""},
		How:  "Make all four equally loud. Count aloud.",
	}
	oneMoreUp = Rule{ID: "one-more-up-stroke", notes: true,
		less: atPlaces(upOut), more: atPlaces(oneUp(false)),
		More: Words{"one more up strum", "One more up strum is played.", ""},
		Less: Words{"one fewer up strum", "One of the up strums becomes a missed strum.", ""},
	}
	zonesRule = Rule{ID: "zones",
		less: one(wholeStrums), more: one(zones),
		More: Words{"low downs, high ups", "Downs take the bass strings, ups the thin ones.", ""},
		Less: Words{"all strings", "Every strum takes all strings of the shape.", ""},
	}
)

// upTarget is the zone of the ups; without any, that of the strums after a bass.
func upTarget(p pattern.Pattern) (t pattern.Target) {
	for _, bar := range p.Bars {
		for _, slot := range bar {
			if st, ok := slot.Find(pattern.Up); ok {
				return st.Target
			}
			if st, ok := slot.Find(pattern.Down); ok && p.Uses(pattern.Thumb) {
				t = st.Target
			}
		}
	}
	return t
}

// upFits reports a free slot in which the hand comes up from a stroke.
func upFits(p pattern.Pattern, bar pattern.Bar, i int) bool {
	return p.Uses(pattern.Down) && i > 0 && bar[i].Empty() && !bar[i-1].Empty() && !p.AgainstHand(i, pattern.Up)
}

func fillUps(p pattern.Pattern) (pattern.Pattern, bool) {
	target := upTarget(p)
	return everywhere(p, func(bar pattern.Bar, i int) bool {
		if !upFits(p, bar, i) {
			return false
		}
		bar[i].Strokes = []pattern.Stroke{{Sign: pattern.Up, Target: target}}
		return true
	})
}

// oneUp adds a single up stroke: the first, or one more.
func oneUp(first bool) func(pattern.Pattern, pattern.Bar, int) bool {
	return func(p pattern.Pattern, bar pattern.Bar, i int) bool {
		if first == p.Uses(pattern.Up) || !upFits(p, bar, i) {
			return false
		}
		bar[i].Strokes = []pattern.Stroke{{Sign: pattern.Up, Target: upTarget(p)}}
		return true
	}
}

func laterUpsOut(p pattern.Pattern) (pattern.Pattern, bool) {
	seen := 0
	q, changed := Keep(p, func(_, _ int, st pattern.Stroke) bool {
		if st.Sign == pattern.Up {
			seen++
			return seen == 1
		}
		return true
	})
	return q, changed
}

func allUpsOut(p pattern.Pattern) (pattern.Pattern, bool) {
	if !p.Uses(pattern.Down) && !p.Uses(pattern.Thumb) {
		return p, false // ups alone: nothing would be left to lean on
	}
	q, changed := Keep(p, func(_, _ int, st pattern.Stroke) bool { return st.Sign != pattern.Up })
	if changed && !p.Uses(pattern.Thumb) { // a hand that no longer comes up misses no beat
		beatsFilled(q)
	}
	return q, changed
}

// beatsFilled puts a down stroke on every beat that is empty, in the zone of the other downs, and
// counts them.
func beatsFilled(q pattern.Pattern) (filled int) {
	for _, bar := range q.Bars {
		target := pattern.Target{}
		if down, ok := bar[0].Find(pattern.Down); ok {
			target = down.Target
		}
		for beat := 0; beat < q.Grid(); beat += q.SlotsPerBeat() {
			if bar[beat].Empty() {
				bar[beat].Strokes = []pattern.Stroke{{Sign: pattern.Down, Target: target}}
				filled++
			}
		}
	}
	return filled
}

// allBeatsFilled strums every beat of a figure that misses several.
func allBeatsFilled(p pattern.Pattern) (pattern.Pattern, bool) {
	if p.Uses(pattern.Thumb) || !p.Uses(pattern.Up) {
		return p, false
	}
	q := p.Clone()
	return q, beatsFilled(q) > len(q.Bars)
}

func upOut(p pattern.Pattern, bar pattern.Bar, i int) bool {
	if _, ok := bar[i].Find(pattern.Up); !ok || len(bar[i].Strokes) != 1 {
		return false
	}
	bar[i] = pattern.Slot{}
	return true
}

// beatLeftOut lets the hand pass a later beat in the air.
func beatLeftOut(p pattern.Pattern, bar pattern.Bar, i int) bool {
	if !p.Uses(pattern.Up) || p.Uses(pattern.Thumb) || i == 0 || !p.OnBeat(i) || bar[i].Empty() {
		return false
	}
	bar[i] = pattern.Slot{}
	return true
}

// allBeatsOut lets the hand pass every beat but the first in the air.
func allBeatsOut(p pattern.Pattern) (pattern.Pattern, bool) {
	if p.Uses(pattern.Thumb) || !p.Uses(pattern.Up) {
		return p, false
	}
	out := 0
	q, _ := everywhere(p, func(bar pattern.Bar, i int) bool {
		if i == 0 || !p.OnBeat(i) || bar[i].Empty() {
			return false
		}
		bar[i] = pattern.Slot{}
		out++
		return true
	})
	return q, out > len(p.Bars)
}

// missedDownsFilled puts a down stroke on one of the beats that the hand passes
// in the air, in the zone of the other downs; in every bar the same.
func missedDownsFilled(p pattern.Pattern) (list []pattern.Pattern) {
	if !p.Uses(pattern.Down) || p.Uses(pattern.Thumb) || !p.Uses(pattern.Up) {
		return nil
	}
	for beat := 0; beat < p.Grid(); beat += p.SlotsPerBeat() {
		q := p.Clone()
		changed := false
		for _, bar := range q.Bars {
			target := pattern.Target{}
			if down, ok := bar[0].Find(pattern.Down); ok {
				target = down.Target
			}
			if bar[beat].Empty() {
				bar[beat].Strokes = []pattern.Stroke{{Sign: pattern.Down, Target: target}}
				changed = true
			}
		}
		if changed {
			list = append(list, q)
		}
	}
	return list
}

func strumsAfterBass(p pattern.Pattern) (pattern.Pattern, bool) {
	if !plucked(p) {
		return p, false
	}
	return everywhere(p, func(bar pattern.Bar, i int) bool {
		if !offMain(p, i) || !bar[i].Empty() {
			return false
		}
		bar[i].Strokes = []pattern.Stroke{{Sign: pattern.Down, Target: pattern.Target{Kind: pattern.Treble}}}
		return true
	})
}

func withoutStrumsAfterBass(p pattern.Pattern) (pattern.Pattern, bool) {
	if !p.Uses(pattern.Thumb) {
		return p, false
	}
	return Keep(p, func(_, _ int, st pattern.Stroke) bool { return st.Sign != pattern.Down && st.Sign != pattern.Up })
}

// offMain reports the beats two and four (in three, two and three) of a bar.
func offMain(p pattern.Pattern, i int) bool {
	beat := i / p.SlotsPerBeat()
	return p.OnBeat(i) && beat > 0 && (p.Meter.TappedBeats() == 3 || beat%2 == 1)
}

func doubledDowns(p pattern.Pattern) (pattern.Pattern, bool) {
	if p.Uses(pattern.Up) || p.Uses(pattern.Thumb) || p.SlotsPerBeat() != 2 {
		return p, false
	}
	return everywhere(p, func(bar pattern.Bar, i int) bool {
		if i == 0 || !bar[i].Empty() {
			return false
		}
		st, ok := bar[i-1].Find(pattern.Down)
		if !ok || !p.OnBeat(i-1) {
			return false
		}
		st.Marks = 0
		bar[i].Strokes = []pattern.Stroke{st}
		return true
	})
}

// onTheBeat thins downs and sweeps that also fall between the beats.
func onTheBeat(p pattern.Pattern) (pattern.Pattern, bool) {
	return Keep(p, func(_, slot int, st pattern.Stroke) bool {
		return p.OnBeat(slot) || st.Sign != pattern.Down && st.Sign != pattern.Sweep
	})
}

func onAllFour(p pattern.Pattern) (pattern.Pattern, bool) {
	if p.Meter.TappedBeats() != 4 {
		return p, false
	}
	return fillBeats(p, func(i int) bool { return i%(2*p.SlotsPerBeat()) != 0 })
}

// downsOnOneAndThree thins downs on four beats; a thumb goes from one to four at once.
func downsOnOneAndThree(p pattern.Pattern) (pattern.Pattern, bool) {
	if !oneKind(p) || !onBeats(p) || p.Uses(pattern.Thumb) || p.Meter.TappedBeats() != 4 {
		return p, false
	}
	return Keep(p, func(_, slot int, _ pattern.Stroke) bool { return slot%(2*p.SlotsPerBeat()) == 0 })
}

func zones(p pattern.Pattern) (pattern.Pattern, bool) {
	if p.Uses(pattern.Thumb) || !p.Uses(pattern.Down) || !p.Uses(pattern.Up) {
		return p, false
	}
	return everywhere(p, func(bar pattern.Bar, i int) bool {
		for k, st := range bar[i].Strokes {
			kind := map[pattern.Sign]pattern.TargetKind{pattern.Down: pattern.BassZone, pattern.Up: pattern.Treble}[st.Sign]
			if kind != pattern.ByChord && st.Target.Kind == pattern.ByChord {
				bar[i].Strokes[k].Target = pattern.Target{Kind: kind}
				return true
			}
		}
		return false
	})
}

// wholeStrums lets every strum take all strings; the light strums after a bass
// note keep theirs.
func wholeStrums(p pattern.Pattern) (pattern.Pattern, bool) {
	if p.Uses(pattern.Thumb) || p.UsesTarget(pattern.Root, "DU") {
		return p, false
	}
	return everywhere(p, func(bar pattern.Bar, i int) bool {
		for k, st := range bar[i].Strokes {
			if st.Sign.Strum() && (st.Target.Kind == pattern.BassZone || st.Target.Kind == pattern.Treble) {
				bar[i].Strokes[k].Target = pattern.Target{}
				return true
			}
		}
		return false
	})
}
