package grow

import (
	"slices"

	"arplin/core/difficulty"
	"arplin/core/ladder"
	"arplin/core/ladder/order"
	"arplin/core/pattern"
	"arplin/core/variation"
)

// feature is something that is learned on top of a figure.
type feature struct {
	adds ladder.Thing
	off  func(order.Order, pattern.Pattern) (pattern.Pattern, bool)
	put  func(o order.Order, p pattern.Pattern, way []rung) []rung // nil: the target comes on top
}

func (f feature) on(o order.Order, p pattern.Pattern, way []rung) []rung {
	if f.put != nil {
		way = f.put(o, p, way)
	}
	if at := slices.IndexFunc(way, func(r rung) bool { return r.pattern.Equal(p) }); at >= 0 { // it came on the way
		way[at].inner = false // nothing goes on from it but what is taken off next
		return way[:at+1]
	}
	if n := len(way); n > 0 && f.adds.Rule == leftOut && slices.Equal(way[n-1].adds, []ladder.Thing{f.adds}) {
		way[n-1].inner = true // what is left out is one thing to those who take more than a stroke at a time
	}
	return append(way, rung{pattern: p, adds: []ladder.Thing{f.adds}})
}

const leftOut = "stroke-left-out"

func rule(id variation.ID) ladder.Thing { return ladder.Thing{Rule: id} }

// features are in the order in which they are taken off.
var features = []feature{
	{ladder.Thing{Stage: ladder.Swung}, straight, atHome},
	{rule("accents"), withoutMarks(pattern.Accent | pattern.Soft), accentsEarly},
	{rule("palm"), withoutMarks(pattern.PalmMuted), nil},
	{rule("stops"), withoutStops, nil},
	{rule("chuck"), withoutMarks(pattern.Chuck), nil},
	{rule("zones"), wholeStrums, nil},
	{rule("low-fifth"), onlyOne(lowFifthOff), nil},
	{rule(leftOut), onlyOne(full), nil},
	{rule("second-bass-string"), onlyOne(alternationOff), nil},
	{ladder.Thing{Stage: ladder.Pinched}, onlyOne(apart), nil},
	{rule("regrouped-in-threes"), onlyOne(ungrouped), nil},
	{ladder.Thing{Stage: ladder.AtRate}, onlyOne(halfTheRate), nil},
	{rule(leftOut), onlyOne(missedFilled), nil},
}

// onlyOne is for figures of one bar that grow by their strokes: those of several are taken bar by
// bar first.
func onlyOne(off func(order.Order, pattern.Pattern) (pattern.Pattern, bool)) func(order.Order, pattern.Pattern) (pattern.Pattern, bool) {
	return func(o order.Order, p pattern.Pattern) (pattern.Pattern, bool) {
		if len(p.Bars) > 1 || o == order.CellByCell { // in the order of time a stroke comes as it is
			return p, false
		}
		return off(o, p)
	}
}

// straight takes the swing off where there is something to swing.
func straight(_ order.Order, p pattern.Pattern) (pattern.Pattern, bool) {
	q := p.Clone()
	q.Swing = false
	return q, p.Swing
}

// atHome swings what lies on the beats, which sounds the same, and marks what the
// class cannot play together with the rest.
func atHome(_ order.Order, _ pattern.Pattern, way []rung) []rung {
	for i, r := range way {
		if r.pattern.OffBeat() {
			way[i].home = true
		} else if q, err := pattern.Parse(swing(r.pattern)); err == nil {
			way[i].pattern = q
		}
	}
	return way
}

func swing(p pattern.Pattern) string {
	p.Swing = true
	return p.String()
}

// edited changes every stroke of a copy; ok is false when nothing has changed, or when
// what comes out is no pattern.
func edited(p pattern.Pattern, change func(bar, slot int, st pattern.Stroke) pattern.Stroke) (pattern.Pattern, bool) {
	q := p.Clone()
	for b, bar := range q.Bars {
		for i := range bar {
			for k, st := range bar[i].Strokes {
				bar[i].Strokes[k] = change(b, i, st)
			}
		}
	}
	again, err := pattern.Parse(q.String())
	return again, err == nil && !again.Equal(p)
}

func withoutMarks(marks pattern.Marks) func(order.Order, pattern.Pattern) (pattern.Pattern, bool) {
	return func(_ order.Order, p pattern.Pattern) (pattern.Pattern, bool) {
		return edited(p, func(_, _ int, st pattern.Stroke) pattern.Stroke {
			st.Marks &^= marks
			return st
		})
	}
}

func withoutStops(_ order.Order, p pattern.Pattern) (pattern.Pattern, bool) {
	q := p.Clone()
	for _, bar := range q.Bars {
		for i := range bar {
			bar[i].Stop = false
		}
	}
	return q, !q.Equal(p)
}

// accentsEarly puts the accents on as soon as there are strokes on the beats, where the
// school wants them early and every further step has its strokes at their places.
func accentsEarly(o order.Order, p pattern.Pattern, way []rung) []rung {
	if o != order.AccentsEarly {
		return way
	}
	from := len(way)
	for from > 0 && inPlace(way[from-1].pattern, p) {
		from--
	}
	for i := from; i < len(way); i++ {
		with := markedAs(way[i].pattern, p)
		if way[i].inner || way[i].pattern.Count() < 2 || with.Equal(way[i].pattern) {
			continue
		}
		rest := []rung{{pattern: with, adds: []ladder.Thing{rule("accents")}}}
		for _, later := range way[i+1:] {
			later.pattern = markedAs(later.pattern, p)
			rest = append(rest, later)
		}
		return append(way[:i+1:i+1], rest...)
	}
	return way
}

// inPlace reports a figure whose strokes are all in another, but for accents.
func inPlace(p, target pattern.Pattern) bool {
	if len(p.Bars) != len(target.Bars) || p.Grid() != target.Grid() {
		return false
	}
	all := true
	p.Each(func(pl pattern.Place, st pattern.Stroke) {
		there, ok := target.At(pl)
		there.Marks, st.Marks = 0, 0
		all = all && ok && there.Sign == st.Sign && (there.Target == st.Target || ladder.IsBass(there))
	})
	return all
}

// markedAs gives the strokes of a figure the accents that they have in another.
func markedAs(p, target pattern.Pattern) pattern.Pattern {
	q, _ := edited(p, func(bar, slot int, st pattern.Stroke) pattern.Stroke {
		if there, ok := target.Bars[bar][slot].Find(st.Sign); ok {
			st.Marks |= there.Marks & (pattern.Accent | pattern.Soft)
		}
		return st
	})
	return q
}

// wholeStrums lets zones go where there is no bass to play apart from them.
func wholeStrums(_ order.Order, p pattern.Pattern) (pattern.Pattern, bool) {
	if !pureStrums(p) || alikeAimed(p) { // what is all on the thin strings stays there from the first stroke
		return p, false
	}
	return edited(p, func(_, _ int, st pattern.Stroke) pattern.Stroke {
		if st.Target.Kind == pattern.BassZone || st.Target.Kind == pattern.Treble {
			st.Target = pattern.Target{}
		}
		return st
	})
}

// alikeAimed reports strums that all go to the same strings.
func alikeAimed(p pattern.Pattern) bool {
	aims := map[pattern.Target]bool{}
	p.Each(func(_ pattern.Place, st pattern.Stroke) { aims[st.Target] = true })
	return len(aims) == 1
}

// pureStrums reports a figure of strums alone, none of them on a single bass string.
func pureStrums(p pattern.Pattern) bool {
	pure := p.HasStrums()
	p.Each(func(_ pattern.Place, st pattern.Stroke) {
		pure = pure && (st.Sign == pattern.Down || st.Sign == pattern.Up) && !ladder.IsBass(st) && st.Target.Strings.Len() != 1
	})
	return pure
}

// lowFifthOff puts the alternate bass, or the root, in its place.
func lowFifthOff(_ order.Order, p pattern.Pattern) (pattern.Pattern, bool) {
	alternates := p.UsesTarget(pattern.Alternate, "p") || p.UsesTarget(pattern.Alternate, "DU")
	return edited(p, func(bar, slot int, st pattern.Stroke) pattern.Stroke {
		if st.Target.Kind != pattern.LowFifth {
			return st
		}
		st.Target = rootOf(st)
		if before := bassBefore(p, bar, slot); alternates && before != pattern.Alternate && before != pattern.LowFifth && slot > 0 && !bassOnNext(p, bar, slot) {
			st.Target.Kind = pattern.Alternate
		}
		return st
	})
}

// rootOf is the target of a bass stroke on the root string.
func rootOf(st pattern.Stroke) pattern.Target {
	if st.Sign == pattern.Thumb {
		return pattern.Target{}
	}
	return pattern.Target{Kind: pattern.Root}
}

// bassBefore is the target of the last bass stroke before a slot.
func bassBefore(p pattern.Pattern, bar, slot int) pattern.TargetKind {
	for i := slot - 1; i >= 0; i-- {
		for _, st := range p.Bars[bar][i].Strokes {
			if ladder.IsBass(st) {
				return st.Target.Kind
			}
		}
	}
	return pattern.ByChord
}

// bassOnNext reports that the next bass stroke of the bar is the alternate one.
func bassOnNext(p pattern.Pattern, bar, slot int) bool {
	for _, s := range p.Bars[bar][slot+1:] {
		for _, st := range s.Strokes {
			if ladder.IsBass(st) {
				return st.Target.Kind == pattern.Alternate
			}
		}
	}
	return false
}

// alternationOff keeps the thumb on one string where the school lets it alternate last.
func alternationOff(o order.Order, p pattern.Pattern) (pattern.Pattern, bool) {
	if o != order.AlternationLast {
		return p, false
	}
	return oneBass(p)
}

// oneBass has every bass stroke on the root string.
func oneBass(p pattern.Pattern) (pattern.Pattern, bool) {
	return edited(p, func(_, _ int, st pattern.Stroke) pattern.Stroke {
		if st.Target.Kind == pattern.Alternate || st.Target.Kind == pattern.LowFifth {
			st.Target = rootOf(st)
		}
		return st
	})
}

// apart plays the finger of a pinch on the first beat after the thumb, where that makes
// a plain figure: both halves of the bar alike.
func apart(_ order.Order, p pattern.Pattern) (pattern.Pattern, bool) {
	bar, n := p.Bars[0], p.Grid()
	if n%2 != 0 || len(bar[0].Strokes) != 2 || bar[0].Strokes[0].Sign != pattern.Thumb || !bar[0].Strokes[1].Sign.Finger() || !bar[1].Empty() {
		return p, false
	}
	q := p.Clone()
	q.Bars[0][1].Strokes = []pattern.Stroke{bar[0].Strokes[1]}
	q.Bars[0][0].Strokes = bar[0].Strokes[:1]
	return q, halvesAlike(q)
}

func halvesAlike(p pattern.Pattern) bool {
	bar, n := p.Bars[0], p.Grid()
	return n%2 == 0 && slices.EqualFunc(bar[:n/2], bar[n/2:], sameSlot)
}

// ungrouped is a figure in three, two and three as it goes in fours: the whole group
// twice, with the finger that fills the fourth place.
func ungrouped(_ order.Order, p pattern.Pattern) (pattern.Pattern, bool) {
	bar := p.Bars[0]
	if len(bar) != 8 || !startsAt(bar, 0, 3, 5) {
		return p, false
	}
	group := slices.Clone(bar[:3])
	group = append(group, bar[1]) // back over the string between
	q := p.Clone()
	q.Bars[0] = slices.Concat(group, group)
	again, err := pattern.Parse(q.String())
	return again, err == nil && sameSlot(bar[5], bar[0]) && !again.Equal(p)
}

// startsAt reports that the thumb plays at these slots and no others.
func startsAt(bar pattern.Bar, slots ...int) bool {
	for i, slot := range bar {
		if _, thumb := slot.Find(pattern.Thumb); thumb != slices.Contains(slots, i) {
			return false
		}
	}
	return true
}

// halfTheRate is one half of a bar in sixteenths whose halves are alike, played at
// half the rate.
func halfTheRate(_ order.Order, p pattern.Pattern) (pattern.Pattern, bool) {
	if p.SlotsPerBeat() != 4 || p.Meter.Compound() || difficulty.Coarsest(p).Grid() != p.Grid() || !halvesAlike(p) {
		return p, false
	}
	q := p.Clone()
	for i := range q.Bars[0] {
		q.Bars[0][i] = pattern.Slot{}
		if i%2 == 0 {
			q.Bars[0][i] = p.Bars[0][i/2]
		}
	}
	again, err := pattern.Parse(q.String())
	return again, err == nil
}

// missedFilled strums the last beat that the hand passes in the air.
func missedFilled(_ order.Order, p pattern.Pattern) (pattern.Pattern, bool) {
	if !pureStrums(p) || !p.Uses(pattern.Up) {
		return p, false
	}
	for i := p.Grid() - 1; i >= 0; i-- {
		if p.OnBeat(i) && p.Bars[0][i].Empty() {
			q := p.Clone()
			q.Bars[0][i].Strokes = []pattern.Stroke{{Sign: pattern.Down}}
			return q, true
		}
	}
	return p, false
}
