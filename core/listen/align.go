package listen

import (
	"cmp"
	"math"
	"slices"
)

// Note is a string as it was heard. Where nothing but the moment is known, MIDI is 0.
type Note struct {
	At    float64 // milliseconds
	MIDI  int
	Loud  float64 // above 0; 0 where it is not known
	Part  float64 // of a sound: how much of what began is this pitch, 0 to 1
	Onset int     // of a sound, from 1: notes that began in it as one; 0 for notes of their own
	Maybe bool    // heard only by who expects it: it is never too much, nor another string
}

// moment is what sounds together: the strokes of a slot that are asked for, or notes that were heard so.
type moment struct {
	at         float64
	bar        int // of the score; of asked moments only
	pitches    []int
	members    []int // strokes of the score; of asked moments only
	begins, to bool  // the first, the last of its bar
}

// What is heard as one, in milliseconds: a strum of the whole hand takes some 50. From memory.
const (
	togetherGap   = 32.0
	togetherWhole = 90.0
)

// asked are the moments of a score, with its off-beats later by so many milliseconds.
func (s Score) asked(swing float64) (list []moment) {
	for i, st := range s.Strokes {
		if n := len(list); n == 0 || s.Strokes[i-1].Bar != st.Bar || s.Strokes[i-1].Slot != st.Slot {
			m := moment{at: st.At, bar: st.Bar, begins: n == 0 || list[n-1].bar != st.Bar}
			if st.Offbeat {
				m.at += swing
			}
			if m.begins && n > 0 {
				list[n-1].to = true
			}
			list = append(list, m)
		}
		m := &list[len(list)-1]
		m.members = append(m.members, i)
		for _, snd := range st.Sounds {
			m.pitches = append(m.pitches, snd.MIDI)
		}
	}
	return list
}

// heardMoments groups notes, which are in order.
func heardMoments(notes []Note) (list []moment) {
	last := math.Inf(-1)
	for _, n := range notes {
		if k := len(list); k == 0 || n.At-last > togetherGap || n.At-list[k-1].at > togetherWhole {
			list = append(list, moment{at: n.At})
		}
		m := &list[len(list)-1]
		if n.MIDI > 0 {
			m.pitches = append(m.pitches, n.MIDI)
		}
		last = n.At
	}
	return list
}

// What the alignment pays, in milliseconds of being off.
const (
	skipCost  = 140.0 // for a moment of one side that has none on the other
	pitchCost = 70.0  // for other pitches altogether
	stopCost  = 120.0 // for a stop, however long
	backCost  = 190.0 // for coming much too early after what was before
	jumpCost  = 320.0 // for a bar again, or one left out
	startCost = 0.02  // of how far from the beginning a take begins
	widestRun = 4     // moments in a row that are left out, or too much
	beam      = 160   // moments either way of the likeliest
)

// pair is an asked moment with a heard one.
type pair struct{ asked, heard int }

// cell is the cheapest way to an asked moment that is a heard one.
type cell struct {
	cost float64
	from pair
}

// aligner finds which heard moment is which asked one, so that from one to the next little changes: a stop, another tempo,
// a wrong beginning, a bar again are followed. What is asked for after the last that was heard costs nothing.
type aligner struct {
	asked, heard []moment
	barMS        float64
	rows         [][]cell // of each heard moment, from low on
	low          []int
	ends         []int // asked moments that are the last of their bars
}

// align gives the pairs in the order in which they were heard, and what they cost.
func align(asked, heard []moment, barMS float64) ([]pair, float64) {
	a := &aligner{asked: asked, heard: heard, barMS: barMS}
	for i, m := range asked {
		if m.to || i == len(asked)-1 {
			a.ends = append(a.ends, i)
		}
	}
	best, end, likeliest := math.Inf(1), pair{-1, -1}, 0
	for k := range heard {
		low := max(0, likeliest-beam)
		row := make([]cell, max(0, min(len(asked), likeliest+beam)-low))
		here := math.Inf(1)
		for n := range row {
			row[n] = a.reach(low+n, k)
			cost := row[n].cost
			if cost < here {
				here, likeliest = cost, low+n
			}
			if whole := cost + skipCost*float64(len(heard)-1-k); whole < best {
				best, end = whole, pair{low + n, k}
			}
		}
		a.rows, a.low = append(a.rows, row), append(a.low, low)
	}
	var list []pair
	for at := end; at.asked >= 0; {
		list = append(list, at)
		at = a.rows[at.heard][at.asked-a.low[at.heard]].from
	}
	slices.Reverse(list)
	return list, best
}

// at is what it costs that an asked moment is a heard one; false where that was not tried.
func (a *aligner) at(asked, heard int) (float64, bool) {
	n := asked - a.low[heard]
	if n < 0 || n >= len(a.rows[heard]) {
		return 0, false
	}
	return a.rows[heard][n].cost, true
}

// reach is the cheapest way to a pair.
func (a *aligner) reach(i, k int) cell {
	here := a.asked[i]
	off := a.heard[k].at - here.at
	skipped := skipCost * float64(i)
	if here.begins {
		skipped = min(skipped, jumpCost)
	}
	c := cell{cost: skipped + skipCost*float64(k) + startCost*math.Abs(off), from: pair{-1, -1}}
	for b := max(0, k-widestRun); b < k; b++ {
		extra := skipCost * float64(k-b-1)
		for from := max(0, i-widestRun); from < i; from++ {
			before, tried := a.at(from, b)
			if !tried {
				continue
			}
			cost := before + extra + skipCost*float64(i-from-1) + change(off-(a.heard[b].at-a.asked[from].at))
			if cost < c.cost {
				c = cell{cost, pair{from, b}}
			}
		}
		if here.begins {
			a.jump(&c, i, k, b, extra)
		}
	}
	c.cost += pitchCost * unlike(here.pitches, a.heard[k].pitches)
	return c
}

// jump tries to come to the beginning of a bar from the end of any other than the one before.
func (a *aligner) jump(c *cell, i, k, b int, extra float64) {
	first, _ := slices.BinarySearch(a.ends, a.low[b])
	for _, end := range a.ends[first:] {
		before, tried := a.at(end, b)
		if !tried {
			break
		}
		from := a.asked[end]
		if from.bar == a.asked[i].bar-1 {
			continue
		}
		gap := float64(from.bar+1)*a.barMS - from.at + a.asked[i].at - float64(a.asked[i].bar)*a.barMS
		cost := before + extra + jumpCost + change(a.heard[k].at-a.heard[b].at-gap)
		if cost < c.cost {
			*c = cell{cost, pair{end, b}}
		}
	}
}

// change is what it costs that the take comes later, or earlier, by so much than it did before.
func change(by float64) float64 {
	if by >= 0 {
		return min(by, stopCost+0.01*by)
	}
	return min(-by, backCost-0.05*by)
}

// unlike is 0 for the same pitches and 1 for none in common; where none is known, 0.
func unlike(asked, heard []int) float64 {
	if len(heard) == 0 || len(asked) == 0 {
		return 0
	}
	common := 0
	for _, p := range asked {
		if slices.Contains(heard, p) {
			common++
		}
	}
	return 1 - float64(common)/float64(max(len(asked), min(len(heard), len(asked)+2)))
}

// inOrder are notes as they sounded.
func inOrder(notes []Note) []Note {
	notes = slices.Clone(notes)
	slices.SortStableFunc(notes, func(a, b Note) int { return cmp.Compare(a.At, b.At) })
	return notes
}
