package song

import "arplin/core/pattern"

// Played is a bar in the order in which it is sung.
type Played struct {
	Section, Bar int // places in the song, from 0
	Pass         int // which time through the section, from 1
}

// Form lists the bars as they are sung: sections as often as they are played,
// first and second endings in their pass, nothing after an ending bar. A pass
// beyond the last written ending takes that one.
func (s Song) Form() []Played {
	var form []Played
	for i, sec := range s.Sections {
		times := max(1, sec.Times)
		for pass := 1; pass <= times; pass++ {
			ending := min(pass, sec.lastEnding())
			for j, bar := range sec.Bars {
				if bar.Ending != 0 && bar.Ending != ending {
					continue
				}
				form = append(form, Played{i, j, pass})
				if bar.Role == End && pass == times && i == len(s.Sections)-1 {
					return form
				}
			}
		}
	}
	return form
}

// Sung is a bar where it is sung.
type Sung struct {
	Played
	Number int // its place among the bars as they are written, from 0
	From   int // ticks from the beginning of the song
}

// Sung is the song as it is sung, bar after bar: Form with the places and the time.
func (s Song) Sung() []Sung {
	begins := make([]int, len(s.Sections))
	for i := 1; i < len(s.Sections); i++ {
		begins[i] = begins[i-1] + len(s.Sections[i-1].Bars)
	}
	form := s.Form()
	sung, from := make([]Sung, len(form)), 0
	for i, at := range form {
		sung[i] = Sung{at, begins[at.Section] + at.Bar, from}
		from += s.Sections[at.Section].Bars[at.Bar].Ticks()
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
