package pattern

import (
	"slices"
	"strings"
)

// Pattern is a right-hand figure of one or more bars of one grid. It repeats as
// a whole. Patterns are values: functions that change one return a copy.
type Pattern struct {
	Meter Meter
	Swing bool
	Bars  []Bar
}

// Bar is one bar of slots.
type Bar []Slot

// Slot is what begins at one place of the grid: a stop, or strokes that sound
// together in canonical order, or nothing.
type Slot struct {
	Stop    bool
	Strokes []Stroke
}

// Stroke is one action of the hand. Comparable.
type Stroke struct {
	Sign   Sign
	Target Target
	Marks  Marks
}

// Sign is who or what strikes, by its letter in the notation.
type Sign byte

// The signs, in canonical order.
const (
	Thumb   Sign = 'p'
	Index   Sign = 'i'
	Middle  Sign = 'm'
	Ring    Sign = 'a'
	Little  Sign = 'c'
	Down    Sign = 'D'
	Up      Sign = 'U'
	Nails   Sign = 'N' // down with the backs of the nails
	AirDown Sign = 'd'
	AirUp   Sign = 'u'
	Sweep   Sign = '~'
	Knock   Sign = 'X'
)

// StopSign stands for a stopped slot where a stroke's place is named; it is no
// stroke.
const StopSign Sign = '='

const signOrder = "pimacDUNdu~X"

func (s Sign) rank() int { return strings.IndexByte(signOrder, byte(s)) }

// String is the sign's letter.
func (s Sign) String() string { return string(rune(s)) }

// Finger reports p i m a c.
func (s Sign) Finger() bool { return strings.IndexByte("pimac", byte(s)) >= 0 }

// Strum reports a stroke across strings that sounds: D U N.
func (s Sign) Strum() bool { return s == Down || s == Up || s == Nails }

// Air reports a strum that does not touch.
func (s Sign) Air() bool { return s == AirDown || s == AirUp }

// TargetKind says how a stroke names its strings.
type TargetKind uint8

// The kinds of target; the zero value leaves it to the chord and the school.
const (
	ByChord   TargetKind = iota
	Root                 // r: a pick on the root string
	Alternate            // ': the alternate bass
	LowFifth             // ,: the low fifth
	Inner                // n
	Outer                // o
	BassZone             // b
	Treble               // t; of a sweep, that it begins at the thin side
	Given                // string numbers
)

// targetLetters has the letter of each kind that has one.
var targetLetters = [...]byte{Root: 'r', Alternate: '\'', LowFifth: ',', Inner: 'n', Outer: 'o', BassZone: 'b', Treble: 't', Given: 0}

// kindOf is the kind of target that a letter names.
func kindOf(letter byte) (TargetKind, bool) {
	i := slices.Index(targetLetters[:], letter)
	return TargetKind(max(0, i)), letter != 0 && i >= 0
}

// Target is where a stroke goes. Comparable.
type Target struct {
	Kind    TargetKind
	Strings StringSet // for Given
}

// StringSet is a set of string numbers 1 to 9.
type StringSet uint16

// Strings returns a set.
func Strings(numbers ...int) (set StringSet) {
	for _, n := range numbers {
		set |= 1 << n
	}
	return set
}

// Has reports whether string n is in the set.
func (s StringSet) Has(n int) bool { return s&(1<<n) != 0 }

// Len is how many strings the set has.
func (s StringSet) Len() (n int) {
	for ; s != 0; s &= s - 1 {
		n++
	}
	return n
}

// List is the numbers, the highest (thickest string) first.
func (s StringSet) List() []int {
	var list []int
	for n := 9; n >= 1; n-- {
		if s.Has(n) {
			list = append(list, n)
		}
	}
	return list
}

// Marks are what is added to a stroke.
type Marks uint8

// The marks, in canonical order.
const (
	Accent    Marks = 1 << iota // !
	Soft                        // ?
	PalmMuted                   // *
	Chuck                       // x
)

const markLetters = "!?*x"

// Has reports whether all of m are set.
func (ms Marks) Has(m Marks) bool { return ms&m == m }

// Grid is the number of slots in a bar.
func (p Pattern) Grid() int { return len(p.Bars[0]) }

// SlotsPerBeat is how many slots a tapped beat has.
func (p Pattern) SlotsPerBeat() int { return p.Meter.SlotsPerBeat(p.Grid()) }

// SlotTicks is the written length of a slot.
func (p Pattern) SlotTicks() int { return p.Meter.BarTicks() / p.Grid() }

// SlotStart is where a slot sounds within its bar, in ticks; swing delays every
// second slot of a pair to two thirds of it.
func (p Pattern) SlotStart(slot int) int {
	t := slot * p.SlotTicks()
	if p.Swing && slot%2 == 1 {
		t += p.SlotTicks() / 3
	}
	return t
}

// HasStrums reports whether any strum sounds, and so whether the hand swings.
func (p Pattern) HasStrums() bool {
	for _, s := range p.strokes() {
		if s.Sign.Strum() {
			return true
		}
	}
	return false
}

// Uses reports whether a finger, strum or other sign occurs.
func (p Pattern) Uses(sign Sign) bool {
	return slices.ContainsFunc(p.strokes(), func(s Stroke) bool { return s.Sign == sign })
}

// UsesTarget reports whether a stroke with one of the signs has the target.
func (p Pattern) UsesTarget(kind TargetKind, signs string) bool {
	return slices.ContainsFunc(p.strokes(), func(s Stroke) bool {
		return s.Target.Kind == kind && strings.IndexByte(signs, byte(s.Sign)) >= 0
	})
}

func (p Pattern) strokes() (all []Stroke) {
	for _, bar := range p.Bars {
		for _, slot := range bar {
			all = append(all, slot.Strokes...)
		}
	}
	return all
}

// Count is how many strokes the pattern has; air strokes are none.
func (p Pattern) Count() (n int) {
	for _, s := range p.strokes() {
		if !s.Sign.Air() {
			n++
		}
	}
	return n
}

// Clone returns a deep copy.
func (p Pattern) Clone() Pattern {
	bars := make([]Bar, len(p.Bars))
	for i, bar := range p.Bars {
		bars[i] = make(Bar, len(bar))
		for j, slot := range bar {
			bars[i][j] = Slot{slot.Stop, slices.Clone(slot.Strokes)}
		}
	}
	p.Bars = bars
	return p
}

// Equal reports whether two patterns are the same.
func (p Pattern) Equal(q Pattern) bool {
	same := func(a, b Bar) bool { return slices.EqualFunc(a, b, Slot.equal) }
	return p.Meter == q.Meter && p.Swing == q.Swing && slices.EqualFunc(p.Bars, q.Bars, same)
}

func (s Slot) equal(o Slot) bool {
	return s.Stop == o.Stop && (s.Stop || slices.Equal(s.Strokes, o.Strokes))
}

// Find returns the stroke with the sign in the slot.
func (s Slot) Find(sign Sign) (Stroke, bool) {
	for _, st := range s.Strokes {
		if st.Sign == sign {
			return st, true
		}
	}
	return Stroke{}, false
}

// Empty reports a slot in which nothing begins.
func (s Slot) Empty() bool { return !s.Stop && len(s.Strokes) == 0 }

// String prints the pattern in the notation, canonically.
func (p Pattern) String() string {
	var b strings.Builder
	b.WriteString(p.Meter.String())
	if p.Swing {
		b.WriteString(" swing")
	}
	b.WriteString(":")
	for i, bar := range p.Bars {
		if i > 0 {
			b.WriteString(" |")
		}
		for _, slot := range bar {
			b.WriteByte(' ')
			b.WriteString(slot.String())
		}
	}
	return b.String()
}

// String prints the slot: ".", "=", or its strokes.
func (s Slot) String() string {
	switch {
	case s.Stop:
		return "="
	case len(s.Strokes) == 0:
		return "."
	}
	parts := make([]string, len(s.Strokes))
	for i, st := range s.Strokes {
		parts[i] = st.String()
	}
	return strings.Join(parts, "+")
}

// String prints the stroke: sign, target, marks.
func (s Stroke) String() string {
	b := []byte{byte(s.Sign)}
	if s.Target.Kind == Given {
		for _, n := range s.Target.Strings.List() {
			b = append(b, byte('0'+n))
		}
	}
	if letter := targetLetters[s.Target.Kind]; letter != 0 {
		b = append(b, letter)
	}
	for i := range markLetters {
		if s.Marks&(1<<i) != 0 {
			b = append(b, markLetters[i])
		}
	}
	return string(b)
}

// In is the pattern as it fills bars of another meter: cut where they are shorter,
// begun again where they are longer. One whose grid does not fit stays as it is.
func (p Pattern) In(m Meter) Pattern {
	n := m.BarTicks() / p.SlotTicks()
	if m == p.Meter || m.BarTicks()%p.SlotTicks() != 0 || !slices.Contains(m.Grids(), n) {
		return p
	}
	q := Pattern{Meter: m, Swing: p.Swing && !m.Compound()}
	for _, bar := range p.Clone().Bars {
		fit := make(Bar, n)
		for i := range fit {
			fit[i] = bar[i%len(bar)]
		}
		q.Bars = append(q.Bars, fit)
	}
	return q
}
