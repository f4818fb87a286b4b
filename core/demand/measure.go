package demand

import (
	"fmt"
	"math"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/hand"
)

// measured is the values of the parts before they are weighed.
type measured struct {
	values  [numParts]float64
	hardest Place
}

// measure takes every part of a task. Parts that are counted a bar take a
// quarter of their mean and three quarters of their hardest bar, so that one hard
// bar is not averaged away.
func measure(t Task) measured {
	t.Pattern = Coarsest(t.Pattern)
	bars := boundBars(t)
	var m measured
	perBar := make([][numParts]float64, len(bars))
	for i, b := range bars {
		perBar[i] = barParts(t.Pattern, b)
	}
	for part := range m.values {
		sum, most := 0.0, 0.0
		for i := range perBar {
			sum += perBar[i][part]
			most = max(most, perBar[i][part])
		}
		m.values[part] = (sum/float64(len(bars)) + 3*most) / 4
	}
	m.values[rate] = rateOf(t)
	m.values[repeat] = repeatOf(t)
	m.values[fingers] = float64(soloFingers(t.Pattern))
	m.values[touch] = touchOf(t.Pattern)
	m.values[figure] = figureOf(t, bars)
	m.values[shape] = shapeOf(bars)
	work, worst := changeOf(t, bars)
	m.values[change] = work
	m.hardest = hardestPlace(t, bars, perBar, worst)
	return m
}

// boundBar is a bar of the task on its strings.
type boundBar struct {
	pattern int // bar of the pattern
	held    []bind.Held
	events  []bind.Event
	shapes  []fretboard.Voicing
}

func boundBars(t Task) []boundBar {
	n := max(len(t.Bars), len(t.Pattern.Bars))
	if k := len(t.Pattern.Bars); n%k != 0 {
		n += k - n%k // whole figures
	}
	binder := bind.New(t.Instrument, t.School, t.Pattern)
	bars := make([]boundBar, n)
	for i := range bars {
		b := boundBar{pattern: i % len(t.Pattern.Bars)}
		tick := 0
		for _, ch := range t.Bars[i%len(t.Bars)].Changes {
			if c, err := ch.Chord(); err == nil {
				if v, ok := t.Shapes[c]; ok {
					b.held = append(b.held, bind.Held{From: tick, Chord: c, Shape: v.Shape})
					b.shapes = append(b.shapes, v)
				}
			}
			tick += ch.Ticks
		}
		b.events = binder.Bar(b.pattern, b.held).Events
		bars[i] = b
	}
	return bars
}

// Coarsest writes a pattern on the coarsest grid that holds all its strokes: a
// finer grid than needed costs nothing.
func Coarsest(p hand.Pattern) hand.Pattern {
	for _, grid := range p.Meter.Grids() {
		if grid >= p.Grid() {
			break
		}
		if q, lost, err := p.Regrid(grid); err == nil && lost == 0 {
			return q
		}
	}
	return p
}

func isFinger(st hand.Stroke) bool { return st.Sign.Finger() && st.Sign != hand.Thumb }

// barParts counts what is counted a bar.
func barParts(p hand.Pattern, b boundBar) (v [numParts]float64) {
	slots := p.Bars[b.pattern]
	v[offBeat] = offBeatOf(p, slots)
	v[together] = togetherOf(p, slots)
	v[independence] = independenceOf(slots)
	v[order] = orderOf(slots)
	v[direction] = directionOf(p, slots)
	v[dynamics] = dynamicsOf(p, slots)
	v[thumbTravel], v[aim] = travelOf(p, b)
	return v
}

// distance is how far a slot lies from the nearest beat, in beats.
func distance(p hand.Pattern, slot int) float64 {
	n := p.SlotsPerBeat()
	return float64(min(slot%n, n-slot%n)) / float64(n)
}

// offBeatOf sums the note-to-beat distance 1/T over the fingers' voice, the
// strums and, again, the accents; a quarter of it where a thumb keeps the pulse,
// so that a plain off-beat eighth counts a half, a twentieth where fingers and
// thumb make one stream. Thumb strokes on the beats hide nothing.
func offBeatOf(p hand.Pattern, slots hand.Bar) (sum float64) {
	for i, slot := range slots {
		t := distance(p, i)
		if t == 0 {
			continue
		}
		for _, st := range slot.Strokes {
			switch {
			case isFinger(st) && len(thumbSlots(slots)) >= pulse, st.Target.Kind == hand.ByChord && st.Sign == hand.Up && !struckBefore(slots, i):
				sum += 0.25 / t
			case isFinger(st):
				sum += 0.05 / t
			}
			if st.Marks.Has(hand.Accent) {
				sum += 0.25 / t
			}
		}
	}
	return sum
}

// pulse is how many strokes a bar make a thumb that keeps time by itself.
const pulse = 3

func thumbSlots(slots hand.Bar) (at []int) {
	for i, slot := range slots {
		if _, ok := slot.Find(hand.Thumb); ok {
			at = append(at, i)
		}
	}
	return at
}

// struckBefore reports a strum in the slot before, on which an up stroke leans.
func struckBefore(slots hand.Bar, i int) bool {
	return i > 0 && len(slots[i-1].Strokes) > 0
}

// togetherOf counts pinches and pairs; one block again and again counts little.
func togetherOf(p hand.Pattern, slots hand.Bar) float64 {
	joined, single := 0.0, 0.0
	for _, slot := range slots {
		n := 0
		for _, st := range slot.Strokes {
			if st.Sign.Finger() {
				n++
			}
		}
		switch {
		case n > 1:
			joined += 1
		case n == 1 && isFinger(slot.Strokes[0]):
			single++
		}
	}
	if single == 0 && !pinches(slots) {
		return joined * 0.25
	}
	return joined
}

func pinches(slots hand.Bar) bool {
	for _, slot := range slots {
		if _, thumb := slot.Find(hand.Thumb); thumb && len(slot.Strokes) > 1 {
			return true
		}
	}
	return false
}

// independenceOf counts finger notes between strokes of a thumb that keeps a
// pulse; one more when the gaps do not all hold the same. Strict alternation
// counts only its notes.
func independenceOf(slots hand.Bar) float64 {
	thumbs := thumbSlots(slots)
	if len(thumbs) < pulse {
		return 0
	}
	count, first, varied := 0.0, "", false
	for k, from := range thumbs {
		to := len(slots)
		if k+1 < len(thumbs) {
			to = thumbs[k+1]
		}
		content := ""
		for i := from + 1; i < to; i++ {
			mark := "."
			for _, st := range slots[i].Strokes {
				if isFinger(st) {
					count++
					mark = "x"
				}
			}
			content += mark
		}
		if k == 0 {
			first = content
		}
		varied = varied || content != first
	}
	if varied && count > 0 {
		return 0.6 * (count + 1)
	}
	return 0.6 * count
}

// orderOf is the length of the longest subsequence of fingers that turns at
// every step (a rising run has two, and one turn more for each turn back), less
// the two of a plain run; strokes off the finger's usual string count too.
// Adding a stroke never shortens such a subsequence.
func orderOf(slots hand.Bar) float64 {
	up, down, off := 0, 0, 0.0
	last := -1
	for _, slot := range slots {
		for _, st := range slot.Strokes {
			if !isFinger(st) {
				continue
			}
			if st.Target.Kind == hand.Given {
				off += 0.25
			}
			rank := map[hand.Sign]int{hand.Index: 1, hand.Middle: 2, hand.Ring: 3, hand.Little: 4}[st.Sign]
			switch {
			case last < 0:
				up, down = 1, 1
			case rank > last:
				up = down + 1
			case rank < last:
				down = up + 1
			}
			last = rank
		}
	}
	return float64(max(0, max(up, down)-2)) + off
}

// directionOf counts strums against the hand, and beats that pass in the air in
// a pattern that also comes up.
func directionOf(p hand.Pattern, slots hand.Bar) (sum float64) {
	if !p.HasStrums() {
		return 0
	}
	for i, slot := range slots {
		for _, st := range slot.Strokes {
			if p.AgainstHand(i, st.Sign) {
				sum += 0.6
			}
		}
		if p.OnBeat(i) && slot.Empty() && p.Uses(hand.Up) {
			sum++
		}
	}
	return sum
}

// dynamicsOf counts accents and soft strokes, those off the beat twice.
func dynamicsOf(p hand.Pattern, slots hand.Bar) (sum float64) {
	for i, slot := range slots {
		for _, st := range slot.Strokes {
			if st.Marks&(hand.Accent|hand.Soft) != 0 {
				sum += 0.5
				if !p.OnBeat(i) {
					sum += 0.5
				}
			}
		}
	}
	return sum
}

// travelOf measures the thumb's way and the aim of strokes for one string.
func travelOf(p hand.Pattern, b boundBar) (thumb, aims float64) {
	last, lastPick, lastKind := fretboard.String(0), fretboard.String(0), bind.Kind("")
	for _, e := range b.events {
		switch {
		case e.Finger == "p":
			s := e.Strings[0]
			if last != 0 {
				thumb += crossed(last, s)
			}
			last = s
		case e.Kind == bind.Pluck && e.Finger == "":
			aims += 0.5
			if lastPick != 0 {
				aims += 0.25 * crossed(lastPick, e.Strings[0])
			}
			lastPick = e.Strings[0]
		}
		if e.Stroke.Sign == hand.Sweep {
			aims += 0.25
		}
		single := e.Kind == bind.Pluck
		if lastKind != "" && single != (lastKind == bind.Pluck) && e.Kind != bind.Knock && p.HasStrums() {
			aims += 0.25
		}
		lastKind = e.Kind
	}
	return thumb, aims
}

// crossed counts the strings between, a skipped one twice.
func crossed(a, b fretboard.String) float64 {
	n := math.Abs(float64(a - b))
	return n + max(0, n-1)
}

// slotWeight is how much a slot weighs for the rate: what is plucked counts
// whole, a strum half.
func slotWeight(slot hand.Slot) (w float64) {
	for _, st := range slot.Strokes {
		switch {
		case st.Sign.Air():
		case st.Sign.Strum(), st.Sign == hand.Knock:
			w = max(w, 0.5)
		default:
			w = max(w, 1)
		}
	}
	return w
}

func beatSeconds(t Task) float64 { return 60 / float64(t.Tempo) }

// rateOf is half the mean and half the densest beat, in strokes a second.
func rateOf(t Task) float64 {
	p := t.Pattern
	n := p.SlotsPerBeat()
	total, dense := 0.0, 0.0
	for _, bar := range p.Bars {
		for i, slot := range bar {
			total += slotWeight(slot)
			if i%n == 0 {
				sum := 0.0
				for _, s := range bar[i : i+n] {
					sum += slotWeight(s)
				}
				dense = max(dense, sum)
			}
		}
	}
	beats := float64(len(p.Bars) * p.Meter.TappedBeats())
	return (total/beats + dense) / 2 / beatSeconds(t)
}

// repeatOf is the square of the densest rate at which one finger comes again.
func repeatOf(t Task) float64 {
	p := t.Pattern
	slotSeconds := beatSeconds(t) / float64(p.SlotsPerBeat())
	last := map[hand.Sign]int{}
	worst := 0.0
	for round := range 2 { // the figure repeats
		for b, bar := range p.Bars {
			for i, slot := range bar {
				at := (round*len(p.Bars)+b)*p.Grid() + i
				for _, st := range slot.Strokes {
					if !st.Sign.Finger() {
						continue
					}
					if before, ok := last[st.Sign]; ok {
						r := 1 / (float64(at-before) * slotSeconds)
						worst = max(worst, r*r)
					}
					last[st.Sign] = at
				}
			}
		}
	}
	return worst
}

// soloFingers counts the fingers that strike by themselves at least once.
func soloFingers(p hand.Pattern) int {
	solo := map[hand.Sign]bool{}
	for _, bar := range p.Bars {
		for _, slot := range bar {
			block := 0
			for _, st := range slot.Strokes {
				if isFinger(st) {
					block++
				}
			}
			for _, st := range slot.Strokes {
				if isFinger(st) && block == 1 {
					solo[st.Sign] = true
				}
			}
		}
	}
	return len(solo)
}

// touchOf counts each kind of touch once and each use a little.
func touchOf(p hand.Pattern) float64 {
	kinds, uses := map[string]bool{}, 0
	for _, bar := range p.Bars {
		for _, slot := range bar {
			if slot.Stop {
				kinds["stop"] = true
				uses++
			}
			for _, st := range slot.Strokes {
				for kind, is := range map[string]bool{"palm": st.Marks.Has(hand.PalmMuted), "chuck": st.Marks.Has(hand.Chuck), "nails": st.Sign == hand.Nails, "knock": st.Sign == hand.Knock} {
					if is {
						kinds[kind] = true
						uses++
					}
				}
			}
		}
	}
	return float64(len(kinds)) + 0.1*float64(uses)/float64(len(p.Bars))
}

// figureOf counts what must be remembered: different strokes, where the bars of
// the figure differ (three differences at most), and different chords.
func figureOf(t Task, bars []boundBar) float64 {
	kinds := map[hand.Stroke]bool{}
	differ := 0.0
	for b, bar := range t.Pattern.Bars {
		for i, slot := range bar {
			for _, st := range slot.Strokes {
				kinds[hand.Stroke{Sign: st.Sign, Target: st.Target}] = true
			}
			if b > 0 && slot.String() != t.Pattern.Bars[0][i].String() {
				differ++
			}
		}
	}
	chords := map[string]bool{}
	for _, b := range bars {
		for _, h := range b.held {
			chords[h.Chord.String()] = true
		}
	}
	return 0.25*float64(len(kinds)) + min(3, differ) + 0.7*float64(max(0, len(chords)-1))
}

// shapeOf is the hardest shape and a little of every different one, in points of
// holding: about one a finger.
func shapeOf(bars []boundBar) float64 {
	seen := map[fretboard.Shape]bool{}
	most, sum := 0.0, 0.0
	for _, b := range bars {
		for _, v := range b.shapes {
			if !seen[v.Shape] {
				seen[v.Shape] = true
				sum += v.Hold
				most = max(most, v.Hold)
			}
		}
	}
	return most + 0.1*sum
}

// changeOf is the work of the changes against the time there is for each: the
// mean a second, and the hardest. The song goes round.
func changeOf(t Task, bars []boundBar) (float64, Place) {
	type struck struct {
		tick, bar, slot int
		shape           fretboard.Voicing
	}
	var line []struck
	barTicks := t.Pattern.Meter.BarTicks()
	for i, b := range bars {
		for _, e := range b.events {
			v := fretboard.Voicing{}
			for k, h := range b.held {
				if h.From <= e.Slot*t.Pattern.SlotTicks() {
					v = b.shapes[k]
				}
			}
			line = append(line, struck{i*barTicks + e.Tick, i, e.Slot, v})
		}
	}
	var worst Place
	total, most := 0.0, 0.0
	seconds := beatSeconds(t) / float64(t.Pattern.Meter.BeatTicks())
	for i, now := range line {
		before := line[(i+len(line)-1)%len(line)]
		if now.shape.Shape == before.shape.Shape {
			continue
		}
		gap := now.tick - before.tick
		if gap <= 0 {
			gap += len(bars) * barTicks
		}
		work := fretboard.ChangeBetween(t.Instrument, before.shape, now.shape).Effort
		total += work
		if hard := work / (1 + float64(gap)*seconds); hard > most {
			most = hard
			worst = Place{now.bar, now.slot, fmt.Sprintf("the change to bar %d has %.1f seconds", now.bar+1, float64(gap)*seconds)}
		}
	}
	return total/(float64(len(bars)*barTicks)*seconds) + most/2, worst
}

// hardestPlace is the hardest change, or else the densest bar of the figure.
func hardestPlace(t Task, bars []boundBar, perBar [][numParts]float64, worst Place) Place {
	if worst.Why != "" {
		return worst
	}
	place, most := Place{Why: "the whole figure is even"}, 0.0
	for i, b := range bars {
		for s, slot := range t.Pattern.Bars[b.pattern] {
			hard := slotWeight(slot) * float64(len(slot.Strokes))
			if !t.Pattern.OnBeat(s) {
				hard *= 1.5
			}
			if hard > most {
				most = hard
				why := "the stroke falls off the beat"
				switch {
				case len(slot.Strokes) > 1:
					why = "strokes fall together here"
				case t.Pattern.OnBeat(s):
					why = "the first stroke must be in time"
				}
				place = Place{i, s, why}
			}
		}
	}
	return place
}
