package variation

import (
	"slices"

	"arplin/core/pattern"
)

// Rules of how often a figure comes: in a bar, over two bars, in the same time. Source: common practice.
var (
	secondBar = Rule{ID: "second-bar", Ladder: true,
		less: one(onlyFirstBar), more: one(answered),
		More: Words{"second bar", "The other bar of the pattern follows. Keep counting across the bar line.", ""},
		Less: Words{"first bar alone", "Loop one bar of the pattern until it’s secure.", ""},
		How:  "Play each bar alone until it’s secure. Then loop the last beat of the first and the first beat of the second.",
	}
	sixteenths = Rule{ID: "sixteenths", Ladder: true,
		less: one(inEighths), more: one(inSixteenths),
		More: Words{"sixteenth notes", "The same strokes twice as fast, so they come twice in the bar.", ""},
		Less: Words{"eighth notes", "The same strokes at half the speed: once in the bar.", ""},
		How:  "Your hand moves twice as fast and half as far. Start at half the tempo, where nothing is faster than before.",
	}
	figureAgain = Rule{ID: "the-figure-again", Ladder: true,
		less: one(fingersInFirstHalf), more: one(fingersAgain),
		More: Words{"the pattern twice a bar", "The fingers come in the second half of the bar, too.", ""},
		Less: Words{"the pattern once a bar", "The fingers play in the first half of the bar. Let the second half ring.", ""},
		How:  "Play the first half until it’s secure, then the second alone. Then play both, leading from the last note of one to the first of the other.",
	}
	everyBeat = Rule{ID: "every-beat", Ladder: true,
		less: one(everyBeatOut), more: one(onEveryBeat),
		More: Words{"every beat", "The same stroke on every beat, as even as a clock.", ""},
		Less: Words{"once a bar", "One stroke on 1. Count the rest.", ""},
		How:  "Walk on the spot and play with your steps.",
	}
	middleOfBar = Rule{ID: "second-half-of-the-bar", Ladder: true, notes: true,
		less: one(onceOfTwo), more: one(againAtHalf),
		More: Words{"the middle of the bar", "The stroke comes again in the middle of the bar.", ""},
		Less: Words{"the first half only", "The stroke comes once a bar. Let the second half ring.", ""},
		How:  "Count the bar aloud. Play on 1 and in the middle.",
	}
	strokeAgain = Rule{ID: "the-stroke-again", Ladder: true, notes: true,
		less: one(onceABar), more: atPlaces(againLater),
		More: Words{"again later in the bar", "The stroke comes again later in the bar.", ""},
		Less: Words{"the stroke once", "The stroke comes once a bar, on 1.", ""},
		How:  "Count aloud. Play on 1, and where it’s new.",
	}
	lastEighth = Rule{ID: "the-last-eighth", notes: true,
		less: one(lastOut), more: one(fillLast),
		More: Words{"last eighth note", "The last eighth note is played, so there’s less time to change.", ""},
		Less: Words{"last eighth note left out", "The last eighth note is left out, so your left hand has twice the time to reach the next chord.", ""},
	}
	twiceTheNotes = Rule{ID: "twice-the-notes",
		less: one(halfAsDense), more: anyOf(twiceInABar, twoBarsInOne),
		More: Words{"twice the notes", "The pattern goes by twice as fast under the same beat.", ""},
		Less: Words{"half the notes", "The same pattern, each note twice as long.", ""},
	}
	regrouped = Rule{ID: "regrouped-in-threes",
		less: one(inFours), more: one(inThreesAndTwo),
		More: Words{"regrouped three-three-two", "Groups of three, three and two notes against four beats. The thumb moves with the groups.", ""},
		Less: Words{"regrouped in fours", "Twice four notes, each group on its beat.", ""},
	}
)

func onlyFirstBar(p pattern.Pattern) (pattern.Pattern, bool) {
	if len(p.Bars) < 2 {
		return p, false
	}
	q := p.Clone()
	q.Bars = q.Bars[:1]
	return q, q.Count() > 0
}

// The directions of the rules for ladders that add something; table: rules.go.

// answered gives a figure of one bar a second one: the fingers the other way
// round, or a strum that leaves beat three out.
func answered(p pattern.Pattern) (pattern.Pattern, bool) {
	if len(p.Bars) != 1 {
		return p, false
	}
	answer, ok := turnedRound(p)
	if !ok {
		answer = p.Clone()
		slot := 2 * p.SlotsPerBeat()
		ok = slot < p.Grid() && beatLeftOut(p, answer.Bars[0], slot)
	}
	q := p.Clone()
	q.Bars = append(q.Bars, answer.Bars[0])
	return q, ok
}

// inHalves: a plucked figure of one bar with a half that begins on a beat, other
// than an alternating thumb, which is taken apart by its off-beats.
func inHalves(p pattern.Pattern) bool {
	return plucked(p) && len(p.Bars) == 1 && p.Meter.TappedBeats()%2 == 0 && !(pulseKept(p) && p.SlotsPerBeat() == 2)
}

// fingersInFirstHalf lets the fingers rest in the second half of the bar.
func fingersInFirstHalf(p pattern.Pattern) (pattern.Pattern, bool) {
	if !inHalves(p) {
		return p, false
	}
	first := false
	for _, slot := range p.Bars[0][:p.Grid()/2] {
		for _, st := range slot.Strokes {
			first = first || isFinger(st)
		}
	}
	q, changed := Keep(p, func(_, slot int, st pattern.Stroke) bool { return !isFinger(st) || slot < p.Grid()/2 })
	return q, changed && first
}

// fingersAgain repeats the fingers of the first half in the second.
func fingersAgain(p pattern.Pattern) (pattern.Pattern, bool) {
	if !inHalves(p) {
		return p, false
	}
	half := p.Grid() / 2
	return everywhere(p, func(bar pattern.Bar, i int) bool {
		if i < half {
			return false
		}
		changed := false
		for _, st := range p.Bars[0][i-half].Strokes {
			if _, has := bar[i].Find(st.Sign); isFinger(st) && !has {
				bar[i] = pattern.Slot{Strokes: append(slices.Clone(bar[i].Strokes), st)}
				changed = true
			}
		}
		return changed
	})
}

// everyBeatOut goes down to one stroke where every beat has one.
func everyBeatOut(p pattern.Pattern) (pattern.Pattern, bool) {
	if !onBeats(p) {
		return p, false
	}
	for _, bar := range p.Bars {
		for i, slot := range bar {
			if p.OnBeat(i) && slot.Empty() {
				return p, false
			}
		}
	}
	return onceABar(p)
}

func onEveryBeat(p pattern.Pattern) (pattern.Pattern, bool) {
	return fillBeats(p, func(int) bool { return true })
}

// fillBeats puts the stroke of beat one on every free beat that is wanted.
func fillBeats(p pattern.Pattern, wanted func(slot int) bool) (pattern.Pattern, bool) {
	if !oneKind(p) {
		return p, false
	}
	return everywhere(p, func(bar pattern.Bar, i int) bool {
		if i == 0 || len(bar[0].Strokes) != 1 || !p.OnBeat(i) || !bar[i].Empty() || !wanted(i) {
			return false
		}
		st := bar[0].Strokes[0]
		st.Marks = 0
		bar[i].Strokes = []pattern.Stroke{st}
		return true
	})
}

// onBeats: nothing falls between the beats.
func onBeats(p pattern.Pattern) bool {
	for _, bar := range p.Bars {
		for i, slot := range bar {
			if !p.OnBeat(i) && !slot.Empty() {
				return false
			}
		}
	}
	return true
}

// oneKind reports a pattern that is one stroke again and again.
func oneKind(p pattern.Pattern) bool {
	first := pattern.Stroke{}
	for _, bar := range p.Bars {
		for _, slot := range bar {
			for _, st := range slot.Strokes {
				if first.Sign == 0 {
					first = st
				}
				if st.Sign != first.Sign {
					return false
				}
			}
		}
	}
	return true
}

// onceABar keeps the first stroke of each bar and lets it ring.
func onceABar(p pattern.Pattern) (pattern.Pattern, bool) {
	if !oneKind(p) {
		return p, false
	}
	return Keep(p, func(_, slot int, _ pattern.Stroke) bool { return slot == 0 })
}

// onceOfTwo is onceABar for a stroke on one and in the middle of the bar.
func onceOfTwo(p pattern.Pattern) (pattern.Pattern, bool) {
	for _, bar := range p.Bars {
		for i, slot := range bar {
			if i != 0 && i != len(bar)/2 && !slot.Empty() {
				return p, false
			}
		}
	}
	return onceABar(p)
}

func againAtHalf(p pattern.Pattern) (pattern.Pattern, bool) {
	if p.Meter.TappedBeats()%2 != 0 {
		return p, false
	}
	return fillBeats(p, func(i int) bool { return i == p.Grid()/2 })
}

// againLater puts the one stroke of a bar on another place than its middle.
func againLater(p pattern.Pattern, bar pattern.Bar, i int) bool {
	if len(p.Bars) != 1 || p.Count() != 1 || !bar[i].Empty() || i == len(bar)/2 || len(bar[0].Strokes) != 1 {
		return false
	}
	bar[i].Strokes = []pattern.Stroke{{Sign: bar[0].Strokes[0].Sign, Target: bar[0].Strokes[0].Target}}
	return true
}

// lastOut frees the last place of every bar, where it lies between beats.
func lastOut(p pattern.Pattern) (pattern.Pattern, bool) {
	return everywhere(p, func(bar pattern.Bar, i int) bool {
		if i != len(bar)-1 || p.OnBeat(i) || len(bar[i].Strokes) != 1 {
			return false
		}
		if st := bar[i].Strokes[0]; !isFinger(st) && st.Sign != pattern.Up {
			return false
		}
		bar[i] = pattern.Slot{}
		return true
	})
}

func fillLast(p pattern.Pattern) (pattern.Pattern, bool) {
	return everywhere(p, func(bar pattern.Bar, i int) bool {
		if i != len(bar)-1 || p.OnBeat(i) || !bar[i].Empty() {
			return false
		}
		st := pattern.Stroke{Sign: nextFinger(bar, i)}
		if p.HasStrums() {
			st = pattern.Stroke{Sign: pattern.Up, Target: upTarget(p)}
		}
		bar[i].Strokes = []pattern.Stroke{st}
		return true
	})
}

// Rules of how many notes pass in the same time; table: rules.go.

// halfAsDense stretches a figure that comes twice in the bar over the whole of
// it, or one bar over two.
func halfAsDense(p pattern.Pattern) (pattern.Pattern, bool) {
	if p.HasStrums() || p.Swing || p.Grid()%2 != 0 || p.SlotsPerBeat()%2 != 0 {
		return p, false
	}
	n := p.Grid() / 2
	q := pattern.Pattern{Meter: p.Meter}
	for _, bar := range p.Clone().Bars {
		first, second := stretched(bar[:n]), stretched(bar[n:])
		q.Bars = append(q.Bars, first)
		if !slices.EqualFunc(first, second, func(a, b pattern.Slot) bool { return a.String() == b.String() }) {
			q.Bars = append(q.Bars, second)
		}
	}
	return q, true
}

// stretched spreads the slots over twice as many.
func stretched(slots pattern.Bar) pattern.Bar {
	bar := make(pattern.Bar, 2*len(slots))
	for i, slot := range slots {
		bar[2*i] = slot
	}
	return bar
}

// squeezed is the opposite; false where something stands between.
func squeezed(bar pattern.Bar) (half pattern.Bar, ok bool) {
	for i, slot := range bar {
		if i%2 == 0 {
			half = append(half, slot)
		} else if !slot.Empty() {
			return nil, false
		}
	}
	return half, true
}

// twiceInABar plays each bar twice as fast, twice.
func twiceInABar(p pattern.Pattern) (pattern.Pattern, bool) { return denser(p, 1) }

// twoBarsInOne joins each two bars into one.
func twoBarsInOne(p pattern.Pattern) (pattern.Pattern, bool) { return denser(p, 2) }

func denser(p pattern.Pattern, bars int) (pattern.Pattern, bool) {
	if p.HasStrums() || p.Swing || p.Grid()%2 != 0 || len(p.Bars)%bars != 0 {
		return p, false
	}
	q := pattern.Pattern{Meter: p.Meter}
	for b := 0; b < len(p.Bars); b += bars {
		first, ok := squeezed(p.Bars[b])
		second, also := squeezed(p.Bars[b+bars-1])
		if !ok || !also {
			return p, false
		}
		q.Bars = append(q.Bars, append(slices.Clone(first), second...))
	}
	return q.Clone(), true
}

// inEighths writes a figure that comes twice in a bar of sixteenths once, in
// eighths; strum directions down and up stay.
func inEighths(p pattern.Pattern) (pattern.Pattern, bool) {
	if p.SlotsPerBeat() != 4 || p.Meter.Compound() || p.Grid()%4 != 0 {
		return p, false
	}
	q := pattern.Pattern{Meter: p.Meter, Swing: p.Swing}
	for _, bar := range p.Bars {
		half := bar[:len(bar)/2]
		if !slices.EqualFunc(half, bar[len(bar)/2:], func(a, b pattern.Slot) bool { return a.String() == b.String() }) {
			return p, false
		}
		q.Bars = append(q.Bars, half)
	}
	return q.Clone(), true
}

func inSixteenths(p pattern.Pattern) (pattern.Pattern, bool) {
	if p.SlotsPerBeat() != 2 || p.Meter.Compound() {
		return p, false
	}
	q := pattern.Pattern{Meter: p.Meter, Swing: p.Swing}
	for _, bar := range p.Bars {
		q.Bars = append(q.Bars, append(slices.Clone(bar), bar...))
	}
	return q.Clone(), true
}

// inThreesAndTwo sets a rocking figure of eight (thumb, a, b, a) in groups of
// three, three and two.
func inThreesAndTwo(p pattern.Pattern) (pattern.Pattern, bool) {
	if !eightPlucked(p) {
		return p, false
	}
	q := p.Clone()
	for b, bar := range p.Bars {
		for i := range bar {
			if bar[i].String() != bar[[]int{0, 1, 2, 1}[i%4]].String() {
				return p, false
			}
			q.Bars[b][i] = bar[i%3]
		}
	}
	return q.Clone(), true
}

// inFours is the opposite.
func inFours(p pattern.Pattern) (pattern.Pattern, bool) {
	if !eightPlucked(p) {
		return p, false
	}
	q := p.Clone()
	for b, bar := range p.Bars {
		for i := range bar {
			if bar[i].String() != bar[i%3].String() {
				return p, false
			}
			q.Bars[b][i] = bar[[]int{0, 1, 2, 1}[i%4]]
		}
	}
	return q.Clone(), true
}

// eightPlucked: eight slots of four beats, plucked, with something in the first
// three.
func eightPlucked(p pattern.Pattern) bool {
	return plucked(p) && p.Meter.TappedBeats() == 4 && p.Grid() == 8
}
