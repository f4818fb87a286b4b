package listen

import (
	"cmp"
	"math"
	"slices"

	"arplin/core/bind"
	"arplin/core/played"
	"arplin/core/theory"
)

// near is how far from where the take is a note may lie and be that stroke, in milliseconds.
const near = 200.0

// matcher finds strokes among notes, each note once.
type matcher struct {
	score   Score
	notes   []Note // in order
	used    []bool
	taken   map[int]bool    // onsets of a sound that are a stroke
	loud    map[int]float64 // of strokes, where it is known
	course  course
	within  float64
	swing   float64                // by how much the off-beats are late
	sound   bool                   // they come from a sound
	asked   map[place]map[int]bool // the pitches that are asked for in a slot
	pitched bool                   // notes have pitches
}

func newMatcher(score Score, notes []Note, asked []moment, c course, swing float64) *matcher {
	m := &matcher{score: score, notes: notes, used: make([]bool, len(notes)), taken: map[int]bool{}, loud: map[int]float64{}, course: c, swing: swing}
	gap := score.BeatMS()
	for i := 1; i < len(asked); i++ {
		gap = min(gap, asked[i].at-asked[i-1].at)
	}
	m.within = min(near, 0.45*gap)
	m.sound = slices.ContainsFunc(notes, func(n Note) bool { return n.Onset > 0 })
	m.asked = map[place]map[int]bool{}
	for _, st := range score.Strokes {
		at := place{st.Bar, st.Slot}
		if m.asked[at] == nil {
			m.asked[at] = map[int]bool{}
		}
		for _, snd := range st.Sounds {
			m.asked[at][snd.MIDI] = true
		}
	}
	m.pitched = slices.ContainsFunc(notes, func(n Note) bool { return n.MIDI > 0 })
	return m
}

// due is when a stroke comes in this take, without its swing.
func (m *matcher) due(st Stroke) float64 { return st.At + m.course.at(st.At) }

// likely is when it comes with its swing.
func (m *matcher) likely(st Stroke) float64 {
	if st.Offbeat {
		return m.due(st) + m.swing
	}
	return m.due(st)
}

// nearest is the note that is nearest to a moment, of those that fit and were not taken; -1 for none.
func (m *matcher) nearest(due, within float64, fits func(Note) bool) int {
	from, _ := slices.BinarySearchFunc(m.notes, due-within, func(n Note, at float64) int { return cmp.Compare(n.At, at) })
	best := -1
	for i := from; i < len(m.notes) && m.notes[i].At <= due+within; i++ {
		if !m.used[i] && fits(m.notes[i]) && (best < 0 || math.Abs(m.notes[i].At-due) < math.Abs(m.notes[best].At-due)) {
			best = i
		}
	}
	return best
}

func (m *matcher) use(i int) {
	m.used[i] = true
	m.taken[m.notes[i].Onset] = true
}

// match finds each stroke by its pitch and when it is due: then those that hit another string, then what is too much.
func (m *matcher) match(asked []moment, end float64) (list []Heard) {
	var open []int // strokes that were not found
	for _, moment := range asked {
		if moment.at > end+1e-6 {
			break
		}
		for _, k := range moment.members {
			st := m.score.Strokes[k]
			if off, found := m.stroke(k, st); found {
				list = append(list, Heard{k, st.Bar, st.Slot, st.By, m.due(st) + off, off, StateOf(off), ""})
			} else {
				open = append(open, k)
			}
		}
	}
	for _, k := range open {
		st := m.score.Strokes[k]
		h := Heard{k, st.Bar, st.Slot, st.By, 0, 0, Missed, ""}
		if len(st.Sounds) < 3 && m.pitched {
			due := m.likely(st)
			if i := m.nearest(due, min(m.within, 3*onTime), func(n Note) bool { return !n.Maybe && st.gives(n.MIDI) }); i >= 0 {
				m.use(i)
				if twin := m.twin(st, m.notes[i].MIDI, list); twin >= 0 { // that one missed, and what was found is this one
					was := list[twin]
					list[twin].Asked, list[twin].By = k, st.By
					h.Asked, h.By = was.Asked, was.By
				}
				h.State, h.At, h.Off, h.String = Other, m.notes[i].At, m.notes[i].At-m.due(st), theory.PlainPitch(m.notes[i].MIDI).String()
			}
		}
		if off, hidden := m.hidden(st, list); h.State == Missed && hidden {
			h.State, h.At, h.Off = StateOf(off), m.due(st)+off, off
		}
		list = append(list, h)
	}
	list = append(list, m.tooMuch(end)...)
	slices.SortStableFunc(list, func(a, b Heard) int { return cmp.Or(cmp.Compare(a.Bar, b.Bar), cmp.Compare(a.Slot, b.Slot)) })
	return list
}

// stroke finds a stroke over one string or several, where at least half of it sounds: by how much it is off.
func (m *matcher) stroke(k int, st Stroke) (float64, bool) {
	due, late := m.likely(st), m.likely(st)-m.due(st)
	var offs []float64
	take := func(i int, due float64) {
		m.use(i)
		offs = append(offs, m.notes[i].At-due+late)
		m.loud[k] = max(m.loud[k], m.notes[i].Loud)
	}
	if !m.pitched || st.Kind == played.Chuck || st.Kind == played.Knock || m.sound && len(st.Sounds) > 2 { // nothing but its moment is known
		if i := m.nearest(due, m.within, func(Note) bool { return true }); i >= 0 {
			for len(st.Sounds) > 1 && i > 0 && !m.used[i-1] && m.notes[i].At-m.notes[i-1].At <= togetherGap && m.notes[i-1].At >= due-m.within {
				i-- // to the first of a stroke over several strings
			}
			take(i, due)
			for n := i + 1; n < len(m.notes) && m.notes[n].At <= m.notes[i].At+togetherWhole && len(st.Sounds) > 1; n++ {
				m.use(n) // of a stroke over several strings
			}
			return offs[0], true
		}
		return 0, false
	}
	for _, snd := range st.Sounds {
		if i := m.nearest(due+snd.Late, m.within, func(n Note) bool {
			return n.MIDI == snd.MIDI && !m.drowned(st, n) || n.MIDI == 0 && n.Onset > 0 && !n.Maybe
		}); i >= 0 {
			take(i, due+snd.Late)
		}
	}
	return middle(offs), len(offs) > 0 && 2*len(offs) >= len(st.Sounds)
}

// twin is a stroke that was found in the same slot and plays the same note on another string, which lies nearer to the one
// that was hit, or is the thumb's: of the two it is the one that missed. -1 where there is none.
func (m *matcher) twin(st Stroke, hit int, found []Heard) int {
	at := slices.IndexFunc(st.Shape, func(p Pitch) bool { return p.MIDI == hit })
	if at < 0 || len(st.Sounds) != 1 {
		return -1
	}
	far := func(snd bind.Sound) int {
		return max(int(snd.String)-int(st.Shape[at].String), int(st.Shape[at].String)-int(snd.String))
	}
	return slices.IndexFunc(found, func(h Heard) bool {
		if h.Asked < 0 || h.Bar != st.Bar || h.Slot != st.Slot || h.State == Missed || h.State == Other {
			return false
		}
		other := m.score.Strokes[h.Asked].Sounds
		if len(other) != 1 || other[0].MIDI != st.Sounds[0].MIDI {
			return false
		}
		nearer := cmp.Compare(far(other[0]), far(st.Sounds[0]))
		return nearer < 0 || nearer == 0 && h.By == bind.ByThumb
	})
}

// hidden reports a stroke of which a recording tells nothing: another hand plays the same notes at the same moment, on other
// strings. It is taken to be there, and as much off.
func (m *matcher) hidden(st Stroke, found []Heard) (off float64, is bool) {
	if !m.sound || !m.pitched {
		return 0, false
	}
	for _, h := range found {
		if h.Asked < 0 || h.Bar != st.Bar || h.Slot != st.Slot || h.State == Missed || h.State == Other {
			continue
		}
		other := m.score.Strokes[h.Asked].Sounds
		if !slices.ContainsFunc(st.Sounds, func(a bind.Sound) bool {
			return !slices.ContainsFunc(other, func(b bind.Sound) bool { return a.MIDI == b.MIDI })
		}) {
			return h.Off, true
		}
	}
	return 0, false
}

// drowned reports a pitch of a sound beside which another one, that is not asked for there, is much louder.
func (m *matcher) drowned(st Stroke, n Note) bool {
	if n.Onset == 0 {
		return false
	}
	from, _ := slices.BinarySearchFunc(m.notes, n.At, func(o Note, at float64) int { return cmp.Compare(o.At, at) })
	for _, o := range m.notes[from:] {
		if o.Onset != n.Onset {
			break
		}
		if o.Part > drownedBy*n.Part && !m.asked[place{st.Bar, st.Slot}][o.MIDI] {
			return true
		}
	}
	return false
}

// drownedBy is how much louder a pitch is that was played in place of another.
const drownedBy = 2.0

// place is a slot of the take.
type place struct{ bar, slot int }

// tooMuch is what belongs to nothing, up to the end; what sounds together is one.
func (m *matcher) tooMuch(end float64) (list []Heard) {
	grid := m.score.Figure.Grid()
	last := math.Inf(-1)
	for i, n := range m.notes {
		if m.used[i] || n.Maybe || n.Onset > 0 && m.taken[n.Onset] || n.At > end+m.course.at(end)+near {
			continue
		}
		if n.At-last > togetherGap {
			slot := int(math.Max(0, math.Round((n.At-m.course.at(n.At))/(m.score.BarMS()/float64(grid)))))
			list = append(list, Heard{Asked: -1, Bar: slot / grid, Slot: slot % grid, At: n.At, State: Extra})
		}
		last = n.At
	}
	return list
}

// StateOf is how a stroke is that is off by so many milliseconds.
func StateOf(off float64) State {
	switch {
	case off < -onTime:
		return Early
	case off > onTime:
		return Late
	}
	return OnTime
}
