package song

import (
	"slices"
)

// SectionID and BarID name a section and a bar of one song through every edit,
// move, undo and redo. The zero value names none.
type (
	SectionID int
	BarID     int
)

// Numbered gives ids to sections and bars that have none yet.
func (s Song) Numbered() Song {
	s = s.Clone()
	for _, sec := range s.Sections {
		s.Next = max(s.Next, int(sec.ID)+1)
		for _, b := range sec.Bars {
			s.Next = max(s.Next, int(b.ID)+1)
		}
	}
	for _, t := range s.Tunes {
		s.Next = max(s.Next, int(t.ID)+1)
	}
	s.Next = max(s.Next, int(s.TuneID)+1, 1)
	for i := range s.Sections {
		if s.Sections[i].ID == 0 {
			s.Sections[i].ID = SectionID(s.Fresh())
		}
		s.numberBars(s.Sections[i].Bars)
	}
	return s
}

// Fresh is an id that the song has never had.
func (s *Song) Fresh() int {
	s.Next = max(s.Next, 1)
	s.Next++
	return s.Next - 1
}

func (s *Song) numberBars(bars []Bar) {
	for i := range bars {
		if bars[i].ID == 0 {
			bars[i].ID = BarID(s.Fresh())
		}
	}
}

// SectionAt finds a section's place, -1 for one that is not there.
func (s Song) SectionAt(id SectionID) int {
	return slices.IndexFunc(s.Sections, func(sec Section) bool { return sec.ID == id && id != 0 })
}

// BarAt finds a bar's place in its section, -1 for one that is not there.
func (s Song) BarAt(id BarID) (section, bar int) {
	for i, sec := range s.Sections {
		if j := slices.IndexFunc(sec.Bars, func(b Bar) bool { return b.ID == id && id != 0 }); j >= 0 {
			return i, j
		}
	}
	return -1, -1
}

// NumberOf is a bar's number as it is counted through the written song, from 1;
// 0 for one that is not there.
func (s Song) NumberOf(id BarID) int {
	for i, b := range s.Bars() {
		if b.ID == id && id != 0 {
			return i + 1
		}
	}
	return 0
}

// Inherit gives the sections and bars of a song the ids of those that they came
// from in the song before it: for songs of a time when there were no ids, whose
// history is all that is known. Equal bars are the same bar; what stands between
// two equal ones in both is the same where there are as many.
func (s Song) Inherit(before Song) Song {
	s = s.Clone()
	s.Next = max(s.Next, before.Next)
	names := func(song Song) (list []string) {
		for _, sec := range song.Sections {
			list = append(list, sec.Name)
		}
		return list
	}
	for to, from := range matched(names(before), names(s)) {
		sec := &s.Sections[to]
		if sec.ID = SectionID(s.taken(int(idOf(before.Sections, from)), int(sec.ID))); from < 0 {
			continue
		}
		texts := func(bars []Bar) (list []string) {
			for _, b := range bars {
				list = append(list, BarText(b.Changes, s.MeterOf(b))+"\n"+b.Words)
			}
			return list
		}
		was := before.Sections[from].Bars
		for i, j := range matched(texts(was), texts(sec.Bars)) {
			if j >= 0 {
				sec.Bars[i].ID = was[j].ID
			}
		}
	}
	return s.Numbered()
}

func idOf(sections []Section, i int) SectionID {
	if i < 0 {
		return 0
	}
	return sections[i].ID
}

func (s *Song) taken(from, own int) int {
	if from != 0 {
		return from
	}
	return own
}

// matched finds for every item of a list the one that it was in the list
// before, -1 for a new one: along a longest common subsequence, and between its
// items by place where both sides have as many.
func matched(was, now []string) []int {
	length := make([][]int, len(was)+1)
	for i := range length {
		length[i] = make([]int, len(now)+1)
	}
	for i := len(was) - 1; i >= 0; i-- {
		for j := len(now) - 1; j >= 0; j-- {
			if was[i] == now[j] {
				length[i][j] = length[i+1][j+1] + 1
			} else {
				length[i][j] = max(length[i+1][j], length[i][j+1])
			}
		}
	}
	found := make([]int, len(now))
	for j := range found {
		found[j] = -1
	}
	i, j, fromI, fromJ := 0, 0, 0, 0
	between := func(toI, toJ int) {
		if toI-fromI == toJ-fromJ {
			for k := range toJ - fromJ {
				found[fromJ+k] = fromI + k
			}
		}
	}
	for i < len(was) && j < len(now) {
		switch {
		case was[i] == now[j]:
			between(i, j)
			found[j] = i
			i, j = i+1, j+1
			fromI, fromJ = i, j
		case length[i+1][j] >= length[i][j+1]:
			i++
		default:
			j++
		}
	}
	between(len(was), len(now))
	return found
}
