package arrange

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/song"
	"arplin/core/theory"
)

// Costs of a grip, in the points of core/fretboard: about one for a finger. From memory.
const (
	costHold      = 0.6  // of what the shape asks
	costChange    = 0.7  // of what the change from grip to grip asks
	costThumb     = 1.0  // the thumb takes other strings than in the usual shape
	costOther     = 1.2  // another shape than the usual one
	costThin      = 0.9  // only the bass and the note are held
	costFret      = 0.15 // for each fret up the neck
	costThick     = 0.35 // for each string away from the thinnest
	costUnderBass = 4.0  // the tune lies below the thumb's strings
	costBassSide  = 2.0  // it lies on them, while the thumb rests
	costNoBass    = 9.0  // the thumb waits
	costLeave     = 1000 // a note that goes on, or slides, on another string
)

// How far the search goes.
const (
	maxGrips    = 7  // of a moment
	otherShapes = 12 // of a chord, beside the usual one
	highestFret = 12 // of the tune
)

// grip is a candidate for a moment.
type grip struct {
	fretboard.Voicing
	melody fretboard.String
	thumb  [2]fretboard.String // the root's string, the alternate
	noBass bool
	cost   float64
}

type search struct {
	Task
	line   []moment
	known  map[string][]grip
	shapes map[theory.Chord][]fretboard.Voicing
	change map[[2]fretboard.Shape]float64
	way    []int // the grip of each moment, -1 for none
}

func newSearch(t Task) *search {
	s := &search{Task: t, known: map[string][]grip{}, shapes: map[theory.Chord][]fretboard.Voicing{}, change: map[[2]fretboard.Shape]float64{}}
	s.moments()
	for i := range s.line {
		s.line[i].grips = s.gripsOf(&s.line[i])
	}
	return s
}

// gripsOf are the cheapest grips that hold a moment; where none holds the bass too, those
// without it.
func (s *search) gripsOf(m *moment) []grip {
	pin := s.Pins[At{m.bar, m.tick}]
	key := fmt.Sprint(m.chord, m.usual.Shape, m.hasChord, noteOf(m), pin, needs(m))
	if list, ok := s.known[key]; ok {
		return list
	}
	list := s.withBass(m, pin, false)
	if len(list) == 0 {
		list = s.withBass(m, pin, true)
	}
	slices.SortStableFunc(list, func(a, b grip) int { return cmp.Compare(a.cost, b.cost) })
	list = list[:min(len(list), maxGrips)]
	s.known[key] = list
	return list
}

func noteOf(m *moment) int {
	if m.note == nil {
		return 0
	}
	return m.note.MIDI
}

// needs are the thumb's strings that a moment needs: the root's, the alternate.
func needs(m *moment) (n [2]bool) {
	for _, b := range m.bass {
		if b.alternate {
			n[1] = true
		} else {
			n[0] = true
		}
	}
	return n
}

// thumbStrings are the two strings of the thumb in a shape; the second is 0 where there is none.
func (s *search) thumbStrings(v fretboard.Voicing) [2]fretboard.String {
	root := v.Root
	for root > 1 && !v.Sounds(root) {
		root--
	}
	alternate := bind.AlternateString(s.Instrument, root)
	for alternate >= 1 && (!v.Sounds(alternate) || alternate == root) {
		alternate--
	}
	return [2]fretboard.String{root, max(0, alternate)}
}

func (s *search) withBass(m *moment, pin fretboard.String, without bool) (list []grip) {
	need := needs(m)
	if without {
		need = [2]bool{}
	}
	seen := map[fretboard.Shape]bool{}
	add := func(g grip) {
		if need != ([2]bool{}) && m.hasChord && g.thumb != s.thumbStrings(m.usual) {
			g.cost += costThumb
		}
		if without {
			g.cost += costNoBass
			g.noBass = len(m.bass) > 0
		}
		if !seen[g.Shape] {
			seen[g.Shape] = true
			list = append(list, g)
		}
	}
	shapes := s.shapesOf(m)
	if m.note == nil {
		for _, v := range shapes {
			if need[0] && v.Shape != m.usual.Shape && !s.rooted(m.chord, v) {
				continue
			}
			add(grip{Voicing: v, thumb: s.thumbStrings(v), cost: s.costOf(m, v)})
		}
		return list
	}
	for str := fretboard.String(1); int(str) <= s.Instrument.Strings(); str++ {
		fret := m.note.MIDI - s.Instrument.Open(str).MIDI()
		if fret < 0 || fret > highestFret || pin != 0 && str != pin {
			continue
		}
		for _, v := range shapes {
			thumb := s.thumbStrings(v)
			if need[0] && v.Shape != m.usual.Shape && !s.rooted(m.chord, v) {
				continue
			}
			if need[0] && str == thumb[0] || need[1] && (str == thumb[1] || thumb[1] == 0) {
				continue
			}
			g, ok := s.hold(m, v, str, fretboard.Fret(fret), thumb, need)
			if !ok {
				continue
			}
			under := 0.0
			if m.usual.Root > 0 && str >= m.usual.Root {
				under = costBassSide
			}
			for k, t := range thumb {
				if need[k] && str > t {
					under = costUnderBass
				}
			}
			g.thumb = thumb
			g.cost += costFret*float64(fret) + costThick*float64(str-1) + under
			add(g)
		}
	}
	return list
}

// rooted reports a shape on whose root string the thumb finds the chord's bass; on a ukulele
// the thumb takes its string as it is.
func (s *search) rooted(c theory.Chord, v fretboard.Voicing) bool {
	if s.Instrument.ThumbStays() {
		return true
	}
	return v.Sounds(v.Root) && (s.Instrument.Open(v.Root).MIDI()+int(v.At(v.Root)))%12 == c.Bass.Class()
}

// shapesOf are the usual shape of a moment's chord and the easiest others; without a chord,
// open strings.
func (s *search) shapesOf(m *moment) []fretboard.Voicing {
	if !m.hasChord {
		open := make([]fretboard.Fret, s.Instrument.Strings())
		sh, err := fretboard.NewShape(open...)
		if err != nil {
			return nil
		}
		return []fretboard.Voicing{{Shape: sh}}
	}
	others, ok := s.shapes[m.chord]
	if !ok {
		others = fretboard.Find(s.Instrument, m.chord, otherShapes)
		s.shapes[m.chord] = others
	}
	list := []fretboard.Voicing{m.usual}
	for _, v := range others {
		if v.Shape != m.usual.Shape {
			list = append(list, v)
		}
	}
	return list
}

func (s *search) costOf(m *moment, v fretboard.Voicing) float64 {
	cost := costHold * v.Hold
	if v.Shape != m.usual.Shape {
		cost += costOther
	}
	return cost
}

// hold refits a shape so that a string carries the note: the whole shape where a hand can hold
// it, else the thumb's strings and the note alone.
func (s *search) hold(m *moment, v fretboard.Voicing, str fretboard.String, fret fretboard.Fret, thumb [2]fretboard.String, need [2]bool) (grip, bool) {
	if v.At(str) == fret {
		return grip{Voicing: v, melody: str, cost: s.costOf(m, v)}, true
	}
	whole := v.With(str, fret)
	for t := fretboard.String(1); t < str; t++ { // nothing sounds above the tune
		if whole.Sounds(t) && s.Instrument.Open(t).MIDI()+int(whole.At(t)) > m.note.MIDI {
			whole = whole.With(t, fretboard.Muted)
		}
	}
	for k, t := range thumb {
		if need[k] && !whole.Sounds(t) {
			return grip{}, false // the thumb's string would sound above the tune
		}
	}
	if g, ok := s.read(m, whole, str); ok {
		if m.hasChord {
			g.cost += costOther
		}
		return g, true
	}
	thin := whole
	for t := fretboard.String(1); int(t) <= thin.Strings(); t++ {
		if t != str && !(need[0] && t == thumb[0]) && !(need[1] && t == thumb[1]) && thin.At(t) > 0 {
			thin = thin.With(t, fretboard.Muted)
		}
	}
	g, ok := s.read(m, thin, str)
	g.cost += costOther + costThin
	return g, ok
}

// maxReach is how far a hand opens for a tune over a bass, in millimetres between the outer
// fingers: as for shapes of core/fretboard.
const maxReach = 125.0

func (s *search) read(m *moment, sh fretboard.Shape, str fretboard.String) (grip, bool) {
	if !m.hasChord { // a finger and a string
		f, ok := fretboard.Finger(sh)
		return grip{Voicing: fretboard.Voicing{Shape: sh, Fingering: f}, melody: str, cost: costHold * float64(f.Count())}, ok
	}
	low, high := sh.Span()
	if low > 0 && s.Instrument.FretMM(int(high))-s.Instrument.FretMM(int(low)) > maxReach {
		return grip{}, false
	}
	if _, ok := fretboard.Finger(sh); !ok {
		return grip{}, false
	}
	v := fretboard.Read(s.Instrument, m.chord, sh)
	return grip{Voicing: v, melody: str, cost: costHold * v.Hold}, true
}

// run finds the cheapest way from grip to grip.
func (s *search) run() {
	s.way = make([]int, len(s.line))
	back := make([][]int, len(s.line))
	var costs []float64
	before := -1 // the last moment that has grips
	for i, m := range s.line {
		s.way[i] = -1
		if len(m.grips) == 0 {
			continue
		}
		now := make([]float64, len(m.grips))
		back[i] = make([]int, len(m.grips))
		for k, g := range m.grips {
			now[k] = g.cost
			if before < 0 {
				continue
			}
			best := math.Inf(1)
			for j, from := range s.line[before].grips {
				if c := costs[j] + s.step(s.line[before], from, m, g); c < best {
					best, back[i][k] = c, j
				}
			}
			now[k] += best
		}
		costs, before = now, i
	}
	if before < 0 {
		return
	}
	at := 0
	for k, c := range costs {
		if c < costs[at] {
			at = k
		}
	}
	for i := before; i >= 0; i-- {
		if len(s.line[i].grips) == 0 {
			continue
		}
		s.way[i] = at
		at = back[i][at]
	}
}

// step is what it costs to go from one grip to the next.
func (s *search) step(a moment, from grip, b moment, to grip) float64 {
	cost := costChange * s.changeOf(from, to)
	if b.note == nil || a.note == nil {
		return cost
	}
	switch {
	case b.held && (from.melody != to.melody):
		cost += costLeave
	case b.note.Mark != song.Struck && !b.held && from.melody != to.melody:
		cost += costLeave
	}
	return cost
}

func (s *search) changeOf(from, to grip) float64 {
	key := [2]fretboard.Shape{from.Shape, to.Shape}
	c, ok := s.change[key]
	if !ok {
		c = fretboard.ChangeBetween(s.Instrument, from.Voicing, to.Voicing).Effort
		s.change[key] = c
	}
	return c
}
