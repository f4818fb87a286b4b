package song

import (
	"arplin/core/pattern"
)

// Sung is a bar where it is sung.
type Sung struct {
	Section, Bar int // places in the song, from 0
	Pass         int // which time through the section, from 1
	Number       int // its place among all bars as they are written, from 0
	From         int // ticks from the beginning of the song
}

// Sung lists the bars as they are sung: sections as often as they are played,
// first and second endings in their pass, nothing after an ending bar. A pass
// beyond the last written ending takes that one.
func (s Song) Sung() []Sung {
	var sung []Sung
	begins, from := 0, 0
	for i, sec := range s.Sections {
		times := max(1, sec.Times)
		for pass := 1; pass <= times; pass++ {
			ending := min(pass, sec.lastEnding())
			for j, bar := range sec.Bars {
				if bar.Ending != 0 && bar.Ending != ending {
					continue
				}
				sung = append(sung, Sung{i, j, pass, begins + j, from})
				from += bar.Ticks()
				if bar.Role == End && pass == times && i == len(s.Sections)-1 {
					return sung
				}
			}
		}
		begins += len(sec.Bars)
	}
	return sung
}

func (sec Section) lastEnding() (last int) {
	for _, bar := range sec.Bars {
		last = max(last, bar.Ending)
	}
	return last
}

// Adds reports whether the chords of the bar fill it. Pickup and short bars may
// be shorter.
func (b Bar) Adds(m pattern.Meter) bool {
	switch ticks := b.Ticks(); {
	case len(b.Changes) == 0:
		return false
	case b.Role == Pickup || b.Role == Short:
		return ticks <= m.BarTicks()
	default:
		return ticks == m.BarTicks()
	}
}

// Counts is, for each bar of a section, how many bars of a figure have been played before it where
// it is sung for the first time: a second ending goes on from where the first began, and pickups and
// short bars count for nothing.
func (s Section) Counts() []int {
	counts := make([]int, len(s.Bars))
	known := make([]bool, len(s.Bars))
	for pass := 1; pass <= max(1, s.lastEnding()); pass++ {
		n := 0
		for i, b := range s.Bars {
			if b.Ending > 0 && b.Ending != pass {
				continue
			}
			if !known[i] {
				counts[i], known[i] = n, true
			}
			if b.Role != Pickup && b.Role != Short {
				n++
			}
		}
	}
	return counts
}
