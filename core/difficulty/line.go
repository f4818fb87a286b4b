package difficulty

import (
	"slices"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/theory"
)

// line is the chords of a task, bar by bar.
type line []lineBar

// lineBar is what is held in a bar, in order.
type lineBar []held

// held is a chord from a tick of its bar on, by its place among the task's
// different chords.
type held struct{ tick, chord int }

// voiced is a chord with the shape that holds it.
type voiced struct {
	chord theory.Chord
	shape fretboard.Voicing
}

// lineOf reads the bars of a task as they are sung. Chords that cannot be read, or have no shape,
// leave silence.
func lineOf(t Task) (l line, chords []voiced) {
	usual := map[string]int{} // by symbol; -1 for one that leaves silence
	find := func(symbol string, shapes bind.Shapes) int {
		c, err := theory.ParseChord(symbol)
		v, ok := shapes[c]
		if err != nil || !ok {
			return -1
		}
		i := slices.IndexFunc(chords, func(o voiced) bool {
			return o.chord == c && o.shape.Shape == v.Shape && o.shape.Fingering == v.Fingering
		})
		if i < 0 {
			i, chords = len(chords), append(chords, voiced{c, v})
		}
		return i
	}
	for _, at := range t.Sung() {
		bar := t.Bars[at.Bar]
		var lb lineBar
		tick := 0
		for _, ch := range bar.Changes {
			i, known := usual[ch.Symbol]
			if own := len(bar.Shapes[t.Instrument.ID]) > 0; own || !known {
				if i = find(ch.Symbol, bar.In(t.Instrument, t.Shapes)); !own {
					usual[ch.Symbol] = i
				}
			}
			if i >= 0 {
				lb = append(lb, held{tick, i})
			}
			tick += ch.Ticks
		}
		l = append(l, lb)
	}
	if len(l) == 0 { // the figure is played in no bar
		l = line{nil}
	}
	return l, chords
}

// period is the line's shortest part that makes the whole by being repeated, in
// whole figures of some bars: a song goes round, so the rest adds nothing.
func (l line) period(figure int) line {
	for n := figure; n < len(l) && len(l)%figure == 0; n += figure {
		if len(l)%n == 0 && slices.EqualFunc(l[n:], l[:len(l)-n], func(a, b lineBar) bool { return slices.Equal(a, b) }) {
			return l[:n]
		}
	}
	return l
}

// leftOut lists the line with every choice of chords left out: once with the
// chord before held on in their place, once without the bars that hold nothing
// else. A song is never easier than what is left of it, so a further chord never
// makes it so.
func (l line) leftOut(chords int) (lines []line) {
	for _, out := range choices(chords) {
		keep := (1<<chords - 1) &^ out
		lines = append(lines, l.keeping(keep, false), l.keeping(keep, true))
	}
	return lines
}

// Of more chords than anyChoice only one or two are left out, of more than
// countable none: no song has them.
const anyChoice, countable = 5, 63

// choices are the sets of chords that can be left out, by their bits.
func choices(chords int) (sets []uint64) {
	switch {
	case chords > countable:
	case chords > anyChoice:
		for a := range chords {
			sets = append(sets, 1<<a)
			for b := range a {
				sets = append(sets, 1<<a|1<<b)
			}
		}
	default:
		for set := uint64(1); set < 1<<chords-1; set++ {
			sets = append(sets, set)
		}
	}
	return sets
}

// keeping is the line with the chords of a set; cut leaves bars of others out.
func (l line) keeping(set uint64, cut bool) line {
	kept := func(chord int) bool { return set&(1<<chord) != 0 }
	last := -1
	for _, bar := range l { // the song goes round: its last chord sounds into the first bar
		for _, h := range bar {
			if kept(h.chord) {
				last = h.chord
			}
		}
	}
	var out line
	for _, bar := range l {
		if cut && len(bar) > 0 && !slices.ContainsFunc(bar, func(h held) bool { return kept(h.chord) }) {
			continue
		}
		var lb lineBar
		for _, h := range bar {
			if kept(h.chord) {
				last = h.chord
			}
			if n := len(lb); n == 0 || lb[n-1].chord != last {
				lb = append(lb, held{h.tick, last})
			}
		}
		out = append(out, lb)
	}
	return out
}

// barBinder binds bars of a line, each different one once.
type barBinder struct {
	task   Task
	binder *bind.Binder
	thumb  *bind.Binder // of the thumb's voice by itself
	// plainThumb is that voice without its low fifths; nil where it has none.
	plainThumb *bind.Binder
	chords     []voiced
	done       map[string]*boundBar
	key        []byte

	pattern [numParts]float64  // what does not depend on the chords
	efforts map[[2]int]float64 // of changes from one chord to another
	rounds  map[int][]travel   // of chords that are held

	thumbs, picks bool // the pattern has a thumb; a pick that plays basses
}

func newBarBinder(t Task, chords []voiced) *barBinder {
	var plain *bind.Binder
	if t.Pattern.UsesTarget(pattern.LowFifth, "p") {
		plain = bind.New(t.Instrument, t.School, withoutLowFifths(thumbVoice(t.Pattern)))
	}
	return &barBinder{
		plainThumb: plain,
		task:       t, binder: bind.New(t.Instrument, t.School, t.Pattern), thumb: bind.New(t.Instrument, t.School, thumbVoice(t.Pattern)),
		chords: chords, done: map[string]*boundBar{}, pattern: patternParts(t), efforts: map[[2]int]float64{}, rounds: map[int][]travel{},
		thumbs: t.Pattern.Uses(pattern.Thumb), picks: picksRoot(t.Pattern),
	}
}

// bar binds a bar of the pattern to what is held.
func (b *barBinder) bar(pattern int, lb lineBar) *boundBar {
	b.key = append(b.key[:0], byte(pattern))
	for _, h := range lb {
		b.key = append(b.key, byte(h.chord>>8), byte(h.chord), byte(h.tick>>16), byte(h.tick>>8), byte(h.tick))
	}
	if done, ok := b.done[string(b.key)]; ok {
		return done
	}
	bb := &boundBar{pattern: pattern}
	for _, h := range lb {
		v := b.chords[h.chord]
		bb.held = append(bb.held, bind.Held{From: h.tick, Chord: v.chord, Shape: v.shape.Shape})
		bb.shapes = append(bb.shapes, v.shape)
		bb.chords = append(bb.chords, h.chord)
	}
	bb.events = b.binder.Bar(pattern, bb.held).Events
	bb.parts = barParts(b.task, *bb)
	bb.strokes = strokesOf(b.task, bb)
	b.done[string(b.key)] = bb
	return bb
}

// line binds a whole line to whole figures.
func (b *barBinder) line(l line) []*boundBar {
	k := len(b.task.Pattern.Bars)
	l = l.period(k)
	n := max(len(l), k)
	if n%k != 0 {
		n += k - n%k
	}
	bars := make([]*boundBar, n)
	for i := range bars {
		bars[i] = b.bar(i%k, l[i%len(l)])
	}
	return bars
}
