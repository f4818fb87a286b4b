package difficulty

import (
	"fmt"
	"math"
	"slices"

	"arplin/core/pattern"
	"arplin/core/say"
)

// facts are what can be counted in a figure and its chords, so that the sentence
// beside a part is true of what the teacher sees. The part's value weighs the
// same things; the facts only name them.
type facts struct {
	play                                   Play
	offFingers, offUps, offDowns, offMarks int // between the beats: finger notes, strums that lean on nothing, accents
	pinches, pairs, blocks                 int
	between                                int // finger notes between strokes of a thumb that keeps a pulse
	missed, against                        int
	turns                                  int // of the fingers, in the bar with the most
	falls                                  bool
	accents, soft                          int
	touches                                []string
	kinds, differ, chords                  int
	tune                                   bool
	hardest                                string // the chord that is hardest to hold
	fingers                                []string
	bars                                   int
	mean, busiest                          float64 // strokes a second
}

// touchNames are the kinds of touch in the order in which they are said.
var touchNames = []struct {
	name string
	has  func(pattern.Slot, pattern.Stroke) bool
}{
	{"stops", func(s pattern.Slot, _ pattern.Stroke) bool { return s.Stop }},
	{"palm muting", func(_ pattern.Slot, st pattern.Stroke) bool { return st.Marks.Has(pattern.PalmMuted) }},
	{"chucks", func(_ pattern.Slot, st pattern.Stroke) bool { return st.Marks.Has(pattern.Chuck) }},
	{"brushes with the nails", func(_ pattern.Slot, st pattern.Stroke) bool { return st.Sign == pattern.Nails }},
	{"palm hits", func(_ pattern.Slot, st pattern.Stroke) bool { return st.Sign == pattern.Knock }},
}

var soloNames = []struct {
	sign pattern.Sign
	name string
}{{pattern.Index, "index"}, {pattern.Middle, "middle"}, {pattern.Ring, "ring"}, {pattern.Little, "little finger"}}

func factsOf(t Task) facts {
	p := Coarsest(t.Pattern)
	f := facts{play: t.Play, bars: len(p.Bars)}
	seen := map[pattern.Stroke]bool{}
	for b, bar := range p.Bars {
		thumbs := thumbSlots(bar)
		f.turns, f.falls = max(f.turns, turnsOf(bar)), f.falls || fallsIn(bar)
		if p.HasStrums() {
			for i, slot := range bar {
				if p.OnBeat(i) && slot.Empty() && p.Uses(pattern.Up) {
					f.missed++
				}
			}
		}
		for i, slot := range bar {
			f.slot(p, bar, i, len(thumbs) >= pulse)
			for _, st := range slot.Strokes {
				kind := remembered(st)
				kind.Marks = 0
				seen[kind] = true
			}
			if b > 0 && slotsDiffer(slot, p.Bars[0][i]) {
				f.differ++
			}
		}
	}
	f.tune, f.kinds = t.Tune, len(seen)
	f.mean, f.busiest = p.StrokesPerSecond(t.Tempo), busiestBeat(p)/beatSeconds(t)
	for _, touch := range touchNames {
		if slices.ContainsFunc(p.Bars, func(bar pattern.Bar) bool {
			return slices.ContainsFunc(bar, func(slot pattern.Slot) bool {
				return touch.has(slot, pattern.Stroke{}) || slices.ContainsFunc(slot.Strokes, func(st pattern.Stroke) bool { return touch.has(pattern.Slot{}, st) })
			})
		}) {
			f.touches = append(f.touches, touch.name)
		}
	}
	for _, solo := range soloNames {
		if soloFinger(p, solo.sign) {
			f.fingers = append(f.fingers, solo.name)
		}
	}
	_, chords := lineOf(t)
	f.chords = len(chords)
	hold := 0.0
	for _, c := range chords {
		if c.shape.Hold > hold {
			hold, f.hardest = c.shape.Hold, c.chord.String()
		}
	}
	return f
}

func (f *facts) slot(p pattern.Pattern, bar pattern.Bar, i int, pulsing bool) {
	off := !p.OnBeat(i)
	n, thumb := 0, false
	for _, st := range bar[i].Strokes {
		switch {
		case st.Sign == pattern.Thumb:
			thumb = true
		case isFinger(st):
			n++
			if off {
				f.offFingers++
			}
		case off && st.Sign == pattern.Up && !single(st) && !struckBefore(p, bar, i):
			f.offUps++
		case off && st.Sign == pattern.Down && !single(st) && !struckBefore(p, bar, i):
			f.offDowns++
		}
		if p.AgainstHand(i, st.Sign) {
			f.against++
		}
		if st.Marks.Has(pattern.Accent) {
			f.accents++
			if off {
				f.offMarks++
			}
		}
		if st.Marks.Has(pattern.Soft) {
			f.soft++
		}
	}
	switch {
	case thumb && n > 0:
		f.pinches++
	case n > 2:
		f.blocks++
	case n > 1:
		f.pairs++
	}
	if pulsing && n > 0 && !thumb {
		f.between++
	}
}

// turnsOf counts the turns of the fingers of a bar, fallsIn tells whether they
// come down; orderOf weighs both.
func turnsOf(bar pattern.Bar) int {
	return int(math.Floor(orderOf(onlyFingers(bar)) + 1e-9))
}

func fallsIn(bar pattern.Bar) bool {
	last := -1
	for _, slot := range bar {
		for _, st := range slot.Strokes {
			if isFinger(st) {
				if at := placeOf(st); at < last {
					return true
				} else {
					last = at
				}
			}
		}
		if _, thumb := slot.Find(pattern.Thumb); thumb {
			last = -1
		}
	}
	return false
}

func onlyFingers(bar pattern.Bar) pattern.Bar {
	out := make(pattern.Bar, len(bar))
	for i, slot := range bar {
		for _, st := range slot.Strokes {
			if st.Target.Kind == pattern.Given && isFinger(st) {
				st.Target = pattern.Target{}
			}
			out[i].Strokes = append(out[i].Strokes, st)
		}
	}
	return out
}

func soloFinger(p pattern.Pattern, sign pattern.Sign) bool {
	for _, bar := range p.Bars {
		for _, slot := range bar {
			n, has := 0, false
			for _, st := range slot.Strokes {
				if isFinger(st) {
					n++
					has = has || st.Sign == sign
				}
			}
			if has && n == 1 {
				return true
			}
		}
	}
	return false
}

func (f facts) sayRate(float64) string {
	says := fmt.Sprintf("%.1f strokes a second", f.mean)
	if f.busiest > f.mean+0.05 {
		says += fmt.Sprintf(", %.1f in the busiest beat", f.busiest)
	}
	return says
}

func (f facts) sayOffBeat(float64) string {
	return f.counted("nothing off the beat", " between the beats",
		count{f.offFingers, "finger note", "finger notes"}, count{f.offUps, "up strum with no strum before it", "up strums with no strum before them"}, count{f.offDowns, "down strum with no strum before it", "down strums with no strum before them"}, count{f.offMarks, "accent", "accents"})
}

func (f facts) sayTogether(float64) string {
	return f.counted("each note on its own", "", count{f.pinches, "pinch", "pinches"}, count{f.pairs, "pair", "pairs"}, count{f.blocks, "block of three or more", "blocks of three or more"})
}

func (f facts) sayIndependence(float64) string {
	if f.between == 0 {
		return "no finger note between strokes of a thumb that keeps the beat"
	}
	return f.counted("", " between strokes of the thumb, which goes on", count{f.between, "finger note", "finger notes"})
}

func (f facts) sayThumbTravel(v float64) string {
	if v < 0.05 {
		return "the thumb stays on its string"
	}
	return fmt.Sprintf("the thumb crosses about %s a bar, counting skipped ones twice", say.Count(int(math.Round(max(v, 1))), "string", "strings"))
}

func (f facts) sayOrder(float64) string {
	switch {
	case f.turns > 0:
		return fmt.Sprintf("the fingers turn back %s in a bar", say.Times(f.turns))
	case f.falls:
		return "the fingers come down, weaker finger first"
	}
	return "the fingers run in order"
}

func (f facts) sayRepeat(v float64) string {
	return fmt.Sprintf("the busiest finger plays up to %.1f times a second", math.Sqrt(v))
}

func (f facts) sayFingers(float64) string {
	if f.tune {
		return "any two fingers play the melody in turn"
	}
	if len(f.fingers) == 0 {
		return "no finger plays on its own"
	}
	verb := " plays on its own"
	if len(f.fingers) > 1 {
		verb = " play on their own"
	}
	return say.And(f.fingers) + verb
}

func (f facts) sayDirection(float64) string {
	return f.counted("the hand strikes as it moves", "", count{f.missed, "missed strum on a beat", "missed strums on the beat"}, count{f.against, "strum against the hand’s direction", "strums against the hand’s direction"})
}

func (f facts) sayAim(v float64) string {
	if v == 0 {
		return "no single string to find with a pick, nothing to sweep"
	}
	return "strings to find one by one, or to change over to from a strum"
}

func (f facts) sayTouch(float64) string {
	if len(f.touches) == 0 {
		return "plain strokes"
	}
	return say.And(f.touches)
}

func (f facts) sayDynamics(float64) string {
	return f.counted("every note equally loud", "", count{f.accents, "accent", "accents"}, count{f.soft, "soft stroke", "soft strokes"})
}

func (f facts) sayFigure(float64) string {
	if f.tune {
		return "no pattern to remember, just the melody"
	}
	says := say.Count(f.kinds, "kind of stroke", "kinds of stroke")
	if f.differ > 0 {
		says += fmt.Sprintf(", bars that differ in %s", say.Count(f.differ, "place", "places"))
	}
	if f.chords > 1 && f.play == OnStrings {
		says += fmt.Sprintf(", %d chords", f.chords)
	}
	return says + " to remember"
}

func (f facts) sayShape(v float64) string {
	if f.hardest == "" || v == 0 {
		return "nothing to hold"
	}
	return f.hardest + " is the hardest to hold"
}

func (f facts) sayChange(v float64) string {
	if v == 0 {
		return "no chord changes"
	}
	return "every change in the time available, hardest weighted most"
}

type count struct {
	n         int
	one, many string
}

// counted lists what there is of some things, or says that there is none.
func (f facts) counted(none, behind string, things ...count) string {
	var list []string
	for _, c := range things {
		if c.n > 0 {
			list = append(list, say.Count(c.n, c.one, c.many))
		}
	}
	if len(list) == 0 {
		return none
	}
	says := say.And(list) + behind
	if f.bars > 1 {
		says += fmt.Sprintf(" in %d bars", f.bars)
	}
	return says
}
