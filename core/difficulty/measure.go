package difficulty

import (
	"math/bits"
	"slices"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/played"
)

// measured is the values of the parts before they are weighed.
type measured struct {
	values [numParts]float64
	worst  Place // the hardest change; zero where there is none
	bars   []*boundBar
	finer  int // slots of the pattern's own grid in one that was measured
}

func (m measured) weighed(w Weights) (sum float64) {
	for i, v := range m.values {
		sum += w[i] * v
	}
	return sum
}

// measure takes every part of a task as it stands.
func measure(t Task) measured {
	t.Pattern = Coarsest(t.Pattern)
	l, chords := lineOf(t)
	return measureLine(t, newBarBinder(t, chords), l)
}

// hardest measures a task and what is left of it without some of its chords, and
// returns the hardest of them; the hardest place is the task's own.
func hardest(t Task, w Weights) measured {
	grid := t.Pattern.Grid()
	t.Pattern = Coarsest(t.Pattern)
	l, chords := lineOf(t)
	b := newBarBinder(t, chords)
	m := measureLine(t, b, l)
	m.finer = grid / t.Pattern.Grid()
	if len(chords) < 2 || t.Play != OnStrings {
		m.leave(t.Play)
		return m
	}
	most := m.weighed(w)
	for _, less := range l.period(len(t.Pattern.Bars)).leftOut(len(chords)) {
		if part := measureLine(t, b, less); part.weighed(w) > most {
			most, m.values = part.weighed(w), part.values
		}
	}
	return m
}

func measureLine(t Task, b *barBinder, l line) (m measured) {
	bars := b.line(l)
	ways := make([]travel, len(bars))
	for i, bar := range bars {
		ways[i] = b.travel(bar, bars[(i+len(bars)-1)%len(bars)])
	}
	for part := range m.values {
		m.values[part] = overBars(len(bars), func(i int) float64 { return bars[i].parts[part] })
	}
	m.values[thumbTravel] = overBars(len(bars), func(i int) float64 { return ways[i].thumb })
	m.values[aim] = overBars(len(bars), func(i int) float64 { return ways[i].aim })
	for _, part := range []int{rate, repeat, fingers, touch} {
		m.values[part] = b.pattern[part]
	}
	m.values[figure] = b.pattern[figure] + chordsToRemember(t, bars)
	m.values[shape] = shapeOf(bars)
	work, worst := b.changeOf(bars)
	m.values[change] = work
	m.worst, m.bars = worst, bars
	return m
}

// overBars is a quarter of the mean and three quarters of the hardest bar, for
// parts that are counted a bar: one hard bar is not averaged away.
func overBars(n int, value func(bar int) float64) float64 {
	sum, most := 0.0, 0.0
	for i := range n {
		v := value(i)
		sum += v
		most = max(most, v)
	}
	return (sum/float64(n) + 3*most) / 4
}

// boundBar is a bar of the task on its strings.
type boundBar struct {
	pattern int // bar of the pattern
	held    []bind.Held
	events  []played.Event
	shapes  []fretboard.Voicing
	chords  []int // of the task's different chords
	strokes []struck
	parts   [numParts]float64
}

// Coarsest writes a pattern on the coarsest grid that holds all its strokes: a
// finer grid than needed costs nothing.
func Coarsest(p pattern.Pattern) pattern.Pattern {
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

// touchOf counts each kind of touch once and each use a little.
func touchOf(p pattern.Pattern) float64 {
	kinds, uses := map[string]bool{}, 0
	for _, bar := range p.Bars {
		for _, slot := range bar {
			if slot.Stop {
				kinds["stop"] = true
				uses++
			}
			for _, st := range slot.Strokes {
				for kind, is := range map[string]bool{"palm": st.Marks.Has(pattern.PalmMuted), "chuck": st.Marks.Has(pattern.Chuck), "nails": st.Sign == pattern.Nails, "knock": st.Sign == pattern.Knock} {
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

// patternParts are the parts that the pattern and the tempo alone decide; of the
// figure what the right hand has to remember.
func patternParts(t Task) (v [numParts]float64) {
	v[rate] = rateOf(t)
	v[repeat] = repeatOf(t)
	v[fingers] = float64(soloFingers(t.Pattern))
	if t.Pattern.Uses(pattern.Sweep) && !t.School.Pick { // a finger each for the thin strings
		v[fingers] = max(v[fingers], 3)
	}
	v[touch] = touchOf(t.Pattern)
	v[figure] = figureOf(t.Pattern)
	if t.Tune {
		v[fingers], v[figure] = 0, 0
	}
	return v
}

// figureOf counts what the right hand must remember: different strokes, and
// where the bars of the figure differ (three differences at most). What may never
// lower the level is left to other parts, since it could make bars alike: the
// thumb's string, accents, a finger note where another bar has none.
func figureOf(p pattern.Pattern) float64 {
	kinds := map[pattern.Stroke]bool{}
	differ := 0.0
	for b, bar := range p.Bars {
		for i, slot := range bar {
			for _, st := range slot.Strokes {
				kind := remembered(st)
				kind.Marks = 0 // what touch and dynamics count
				kinds[kind] = true
			}
			if b > 0 && slotsDiffer(slot, p.Bars[0][i]) {
				differ++
			}
		}
	}
	return 0.25*float64(len(kinds)) + min(3, differ)
}

// remembered is what of a stroke belongs to the figure.
func remembered(st pattern.Stroke) pattern.Stroke {
	st.Marks &^= pattern.Accent | pattern.Soft
	if st.Sign == pattern.Thumb {
		st.Target = pattern.Target{}
	}
	return st
}

func slotsDiffer(a, b pattern.Slot) bool {
	onlyFingers := func(s pattern.Slot) bool {
		return len(s.Strokes) > 0 && !slices.ContainsFunc(s.Strokes, func(st pattern.Stroke) bool { return !isFinger(st) })
	}
	switch {
	case a.Empty() && onlyFingers(b), b.Empty() && onlyFingers(a):
		return false
	}
	return a.Stop != b.Stop || !slices.EqualFunc(a.Strokes, b.Strokes, func(x, y pattern.Stroke) bool { return remembered(x) == remembered(y) })
}

// chordsToRemember counts the chords after the first; before the strings there
// are none.
func chordsToRemember(t Task, bars []*boundBar) float64 {
	if t.Play != OnStrings {
		return 0
	}
	chords := uint64(0)
	for _, b := range bars {
		for _, c := range b.chords {
			chords |= 1 << min(c, 63)
		}
	}
	return 0.7 * float64(max(0, bits.OnesCount64(chords)-1))
}

// shapeOf is the hardest shape and a little of every different one, in points of
// holding: about one a finger.
func shapeOf(bars []*boundBar) float64 {
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
