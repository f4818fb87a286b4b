package difficulty

import (
	"math"
	"slices"

	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/played"
)

// travel is the way of a bar from string to string.
type travel struct {
	thumb, aim float64
	last       way // where it ends
}

// way is the string that the thumb or the pick was on; zero before the first.
type way struct{ thumb, pick fretboard.String }

// travelOf measures thumb travel and the aim of strokes for one string, from
// where the bar before ended. The thumb's events are those of its own voice.
func travelOf(p pattern.Pattern, thumb, all []played.Event, from way) travel {
	t := travel{last: from}
	for _, e := range thumb {
		if t.last.thumb != 0 {
			t.thumb += crossed(t.last.thumb, e.Strings[0])
		}
		t.last.thumb = e.Strings[0]
	}
	lastKind, lastSlot := played.Kind(""), -2
	for _, e := range all {
		if e.Kind == played.Pluck && e.Finger == "" {
			t.aim += 0.5
			if t.last.pick != 0 {
				t.aim += 0.25 * crossed(t.last.pick, e.Strings[0])
			}
			t.last.pick = e.Strings[0]
		}
		switch {
		case e.Stroke.Sign == pattern.Sweep:
			t.aim += 0.28
		case e.Stroke.Target.Kind == pattern.BassZone || e.Stroke.Target.Kind == pattern.Treble:
			t.aim += zoned
		}
		if e.Kind != played.Pluck && lastKind == played.Pluck && e.Slot == lastSlot+1 && p.SlotsPerBeat() > 1 && p.HasStrums() {
			t.aim += fromBass
		}
		lastSlot = e.Slot
		single := e.Kind == played.Pluck
		if lastKind != "" && single != (lastKind == played.Pluck) && e.Kind != played.Knock && p.HasStrums() {
			t.aim += 0.25
		}
		lastKind = e.Kind
	}
	return t
}

// A strum of one zone must be kept small; one straight after a single string has no time
// to get there. From memory.
const zoned, fromBass = 0.28, 0.25

// crossed counts the strings between, a skipped one twice.
func crossed(a, b fretboard.String) float64 {
	n := math.Abs(float64(a - b))
	return n + max(0, n-1)
}

// travel is the hardest of a bar with each of its chords held through the figure,
// and the way from root to root where the chord changes, also from the bar before
// it. What happens to fall where is not counted: a skip of the thumb, or more
// frequent changes, must not make a figure easier by meeting the next chord.
func (b *barBinder) travel(bb, before *boundBar) (most travel) {
	for _, chord := range bb.chords {
		t := b.round(chord)[bb.pattern]
		most.thumb, most.aim = max(most.thumb, t.thumb), max(most.aim, t.aim)
	}
	last := -1
	if n := len(before.chords); n > 0 {
		last = before.chords[n-1]
	}
	for _, chord := range bb.chords {
		if last >= 0 {
			moved := crossed(b.chords[last].shape.Root, b.chords[chord].shape.Root)
			if b.thumbs {
				most.thumb += moved
			}
			if b.picks {
				most.aim += 0.25 * moved
			}
		}
		last = chord
	}
	return most
}

// picksRoot reports a pick that plays basses.
func picksRoot(p pattern.Pattern) bool {
	for _, bar := range p.Bars {
		for _, slot := range bar {
			if slices.ContainsFunc(slot.Strokes, func(st pattern.Stroke) bool {
				return st.Sign.Strum() && single(st) && st.Target.Strings.Len() == 0
			}) {
				return true
			}
		}
	}
	return false
}

// round is the way of every bar of the figure while one chord is held and the
// figure goes round.
func (b *barBinder) round(chord int) []travel {
	if done, ok := b.rounds[chord]; ok {
		return done
	}
	bars := make([]travel, len(b.task.Pattern.Bars))
	from := way{}
	for range 2 { // where the last bar ends is known after the first time
		for i := range bars {
			held := b.bar(i, lineBar{{0, chord}})
			var thumb, plain []played.Event
			if b.thumbs {
				thumb = b.thumb.Bar(i, held.held).Events
			}
			bars[i] = travelOf(b.task.Pattern, thumb, held.events, from)
			if b.plainThumb != nil { // a low fifth never makes the way shorter: it is a string more to find
				plain = b.plainThumb.Bar(i, held.held).Events
				without := travelOf(b.task.Pattern, plain, nil, from)
				bars[i].thumb = max(bars[i].thumb, without.thumb) + b.lowFifths(thumb, chord)
			}
			from = bars[i].last
		}
	}
	b.rounds[chord] = bars
	return bars
}

// lowFifths is what the low fifths of a bar cost by themselves: a string more to find
// and to leave, and more where a finger must travel to it.
func (b *barBinder) lowFifths(thumb []played.Event, chord int) (cost float64) {
	v := b.chords[chord].shape
	for _, e := range thumb {
		if s := e.Strings[0]; e.Stroke.Target.Kind == pattern.LowFifth && s != v.Root {
			if cost += 2; e.Frets[0] > 0 && v.At(s) != e.Frets[0] {
				cost++
			}
		}
	}
	return cost
}

// withoutLowFifths has the thumb on the root string in their place.
func withoutLowFifths(p pattern.Pattern) pattern.Pattern {
	p = p.Clone()
	for _, bar := range p.Bars {
		for i := range bar {
			for k, st := range bar[i].Strokes {
				if st.Target.Kind == pattern.LowFifth {
					bar[i].Strokes[k].Target = pattern.Target{}
				}
			}
		}
	}
	return p
}

// thumbVoice is what the thumb plays: its way is measured as it is written, also
// where a finger takes its string.
func thumbVoice(p pattern.Pattern) pattern.Pattern {
	p = p.Clone()
	for _, bar := range p.Bars {
		for i := range bar {
			bar[i].Strokes = slices.DeleteFunc(bar[i].Strokes, func(st pattern.Stroke) bool { return st.Sign != pattern.Thumb })
		}
	}
	return p
}
