package arrange

import (
	"arplin/core/fretboard"
	"arplin/core/song"
	"arplin/core/theory"
	"math"
)

type search struct {
	Task
	line     []moment
	known    map[string][]grip
	shapes   map[theory.Chord][]fretboard.Voicing
	readings map[reading]fretboard.Voicing // the zero value for a shape that no hand holds
	change   map[[2]fretboard.Shape]float64
	frets    [fretboard.MaxFret + 1]float64 // millimetres from the nut
	way      []int                          // the grip of each moment, -1 for none
}

func newSearch(t Task) *search {
	s := &search{
		Task: t, known: map[string][]grip{}, shapes: map[theory.Chord][]fretboard.Voicing{},
		readings: map[reading]fretboard.Voicing{}, change: map[[2]fretboard.Shape]float64{},
	}
	for fret := range s.frets {
		s.frets[fret] = t.Instrument.FretMM(fret)
	}
	s.moments()
	for i := range s.line {
		s.line[i].grips = s.gripsOf(&s.line[i])
	}
	return s
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
				now[k] += g.hold
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
	cost := to.hold + costChange*s.changeOf(from, to)
	if from.Shape == to.Shape {
		cost = costStays * to.hold
	}
	if a.bar == b.bar {
		cost += costPlace * float64(apartness(from.Shape, to.Shape))
	}
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

// place is how many frets lie between the outer fingers of a hand that keeps its place.
const place = 3

// apartness is by how many frets the hand goes to another place from one shape to the other; an
// open one is held wherever the hand is.
func apartness(a, b fretboard.Shape) int {
	low, high := a.Span()
	toLow, toHigh := b.Span()
	if low == 0 || toLow == 0 {
		return 0
	}
	return max(0, int(max(high, toHigh)-min(low, toLow))-place)
}
