package difficulty

import (
	"slices"

	"arplin/core/pattern"
	"arplin/core/song"
)

// Figure is what some parts of a song are played with.
type Figure struct {
	Sections []song.SectionID
	Pattern  pattern.Pattern
}

// FiguresOf are the figures with which a song is written: the first, which parts
// without one of their own have too, and the others with their parts. ok is false for
// a song without figures.
func FiguresOf(sg song.Song) (first pattern.Pattern, others []Figure, ok bool) {
	for _, sec := range sg.Sections {
		p, has := sec.Figure(sg.Meter)
		switch {
		case !has || len(sec.Bars) == 0:
			continue
		case !ok:
			first, ok = p, true
		}
		if p.Equal(first) {
			continue
		}
		i := slices.IndexFunc(others, func(f Figure) bool { return f.Pattern.Equal(p) })
		if i < 0 {
			i, others = len(others), append(others, Figure{Pattern: p})
		}
		others[i].Sections = append(others[i].Sections, sec.ID)
	}
	return first, others, ok
}

// Split gives parts of the song figures of their own; sg is the song of the task. A
// part that is not in it any more is left out.
func (t Task) Split(sg song.Song, others []Figure) Task {
	var of []song.SectionID // by bar
	for _, sec := range sg.Sections {
		for range sec.Bars {
			of = append(of, sec.ID)
		}
	}
	mine := slices.Clone(t.Sung())
	for _, f := range others {
		part := t
		part.Pattern, part.Rest, part.Sections = f.Pattern, nil, f.Sections
		theirs := func(s Sung) bool { return slices.Contains(f.Sections, of[s.Bar]) }
		part.Played = slices.DeleteFunc(slices.Clone(mine), func(s Sung) bool { return !theirs(s) })
		mine = slices.DeleteFunc(mine, theirs)
		if len(part.Played) > 0 {
			t.Rest = append(t.Rest, part)
		}
	}
	t.Played = mine
	return t
}

// further is how much the figures of other parts count beside the hardest one: they
// are played apart, but all of them are to be learned. From memory.
const further = 0.25

// hardestPart measures a task, and where its song has several figures the hardest of
// them with something for the others; it returns the task of that one.
func hardestPart(t Task, w Weights) (measured, Task) {
	m := hardest(t, w)
	if len(t.Rest) == 0 {
		return m, t
	}
	all, tasks := []measured{m}, append([]Task{t}, t.Rest...)
	at := 0
	for i, part := range t.Rest {
		all = append(all, hardest(part, w))
		if all[i+1].weighed(w) > all[at].weighed(w) {
			at = i + 1
		}
	}
	m = all[at]
	for i, other := range all {
		for part := range m.values {
			if i != at {
				m.values[part] += further / float64(len(t.Rest)) * other.values[part]
			}
		}
	}
	return m, tasks[at]
}
