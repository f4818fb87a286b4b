package arrange

import (
	"arplin/core/bind"
	"arplin/core/fretboard"
)

// Costs of what the thumb takes. From memory.
const (
	costRootOpen  = 0.8 // the root on another open string than the shape has it on
	costRootHigh  = 2.0 // for an octave above that of the usual shape
	costRootHeld  = 2.0 // though an open string has it
	costThumb     = 1.0 // other strings than in the usual shape
	costAltString = 1.0 // another string than the one that answers the root
	costAltOpen   = 0.4 // an open string where the shape holds it
	costAltHeld   = 0.5 // a finger for it alone
	costAltThird  = 0.4 // the third; the fifth is what the ear expects
	costAltRoot   = 1.6 // the root an octave away
	costAltOther  = 2.5 // a seventh, a sixth, a ninth
	costLowFifth  = 2.2 // the fifth below the root, beside the shape
	costAltUnder  = 2.0 // another tone below the root
	costNoFifth   = 4.0 // where the fifth alone answers: in three
	costAltFar    = 2.0 // high above the root: no bass any more
	costRootAgain = 6.0 // the root's own string once more
	costAltBare   = 1.5 // the thumb's notes are held for themselves, outside a shape
)

// thumb is what the thumb has in a shape: the string of the root and that of the alternate, 0 for
// none.
type thumb struct {
	strings [2]fretboard.String
	shape   fretboard.Shape   // that holds both
	from    fretboard.Voicing // the shape that it was made of
	whole   bool              // from, as it is
	cost    float64
}

// thumbs are the ways in which the thumb finds its bass under a note of the tune: in a shape as
// it is, with open strings, which are always free, or for itself.
func (s *search) thumbs(m *moment, keeps [2]bool, str fretboard.String, fret fretboard.Fret) (list []thumb) {
	for _, v := range s.shapesOf(m) {
		list = s.inShape(list, m, v, keeps, str)
	}
	if len(list) == 0 && !keeps[0] { // the tune is where the root is: the answer for itself
		for _, v := range s.shapesOf(m) {
			as := thumb{shape: v.Shape, from: v, whole: true, strings: [2]fretboard.String{v.Root}}
			list = append(list, s.alternates(m, as, str)...)
		}
	}
	if m.hasChord && (keeps[0] || keeps[1]) && !s.Instrument.ThumbStays() {
		list = s.bare(list, m, keeps, str, fret)
	}
	return list
}

// inShape are the ways in a shape.
func (s *search) inShape(list []thumb, m *moment, v fretboard.Voicing, keeps [2]bool, str fretboard.String) []thumb {
	as := thumb{shape: v.Shape, from: v, whole: true}
	if !m.hasChord || keeps == ([2]bool{}) {
		as.strings = s.stays(v)
		return append(list, as)
	}
	if s.Instrument.ThumbStays() { // a string for each: what it sounds is the shape's affair
		as.strings = s.stays(v)
		free := func(on fretboard.String) bool { return on != 0 && on != str && !s.above(m, on, v.At(on)) }
		if keeps[1] && !free(as.strings[1]) {
			as.strings[1], as.cost = as.strings[0], costRootAgain
		}
		for k, on := range as.strings {
			if keeps[k] && !free(on) {
				return list
			}
		}
		return append(list, as)
	}
	for _, root := range s.roots(m, v, str) {
		if !keeps[1] {
			list = append(list, root)
			continue
		}
		list = append(list, s.alternates(m, root, str)...)
	}
	return list
}

// stays are the thumb's two strings in a shape as they lie.
func (s *search) stays(v fretboard.Voicing) [2]fretboard.String {
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

// above reports a bass that would lie on the tune or above it. Where the thumb's string is a high one it
// does so by its nature: what is struck there is a drone.
func (s *search) above(m *moment, on fretboard.String, fret fretboard.Fret) bool {
	return m.note != nil && !s.Instrument.Drones() && s.midi(on, fret) >= m.note.MIDI
}

// roots are where the thumb finds the bass of the chord in a shape.
func (s *search) roots(m *moment, v fretboard.Voicing, str fretboard.String) (list []thumb) {
	as := thumb{shape: v.Shape, from: v, whole: true, strings: [2]fretboard.String{v.Root}}
	class := m.chord.Bass.Class()
	if v.Root != str && v.Sounds(v.Root) && s.midi(v.Root, v.At(v.Root))%12 == class && !s.above(m, v.Root, v.At(v.Root)) {
		as.cost = s.rootCost(m, v.Root, v.At(v.Root))
		if s.stays(v) != s.stays(m.usual) {
			as.cost += costThumb
		}
		list = append(list, as)
	}
	for _, on := range s.bassStrings() {
		if on != str && on != v.Root && v.At(on) != 0 && s.midi(on, 0)%12 == class && !s.above(m, on, 0) {
			list = append(list, thumb{
				shape: v.With(on, 0), from: v, strings: [2]fretboard.String{on}, cost: costRootOpen + s.rootCost(m, on, 0),
			})
		}
	}
	return list
}

// rootCost is what it costs that the root lies higher than in the usual shape, or is held where that
// has it on an open string.
func (s *search) rootCost(m *moment, on fretboard.String, fret fretboard.Fret) float64 {
	usual := m.usual.At(m.usual.Root)
	higher := s.midi(on, fret) - s.midi(m.usual.Root, max(0, usual))
	cost := costRootHigh * float64(max(0, higher)) / 12
	if fret > 0 && usual == 0 {
		cost += costRootHeld
	}
	return cost
}

// alternates are what the thumb answers its root with: that of the usual shape, another tone of
// the chord, an open string, or the root again.
func (s *search) alternates(m *moment, root thumb, str fretboard.String) (list []thumb) {
	again := root
	again.strings[1], again.cost = root.strings[0], root.cost+costRootAgain
	if root.strings[0] != 0 && root.strings[0] != str && root.shape.Sounds(root.strings[0]) && !s.above(m, root.strings[0], root.shape.At(root.strings[0])) {
		list = append(list, again)
	}
	add := func(on fretboard.String, fret fretboard.Fret, whole bool, cost float64) {
		answer, ok := s.answerCost(m, root, on, fret)
		if !ok || on == str || s.above(m, on, fret) {
			return
		}
		t := root
		t.strings[1], t.cost = on, root.cost+cost+answer
		if !whole {
			t.shape, t.whole = root.shape.With(on, fret), false
		}
		list = append(list, t)
	}
	for _, on := range s.answerStrings(root.strings[0]) {
		if root.shape.Sounds(on) {
			add(on, root.shape.At(on), true, 0)
		}
		if root.shape.At(on) != 0 {
			cost := 0.0
			if root.shape.Sounds(on) {
				cost = costAltOpen
			}
			add(on, 0, false, cost)
		}
		if on > root.strings[0] {
			low, high := root.shape.Span()
			for f := low; f <= high && f > 0; f++ {
				if f != root.shape.At(on) && s.fifth(m, on, f) {
					add(on, f, false, costLowFifth)
				}
			}
		}
	}
	return list
}

// bare are ways in which the left hand holds the thumb's notes and that of the tune, and nothing
// else.
func (s *search) bare(list []thumb, m *moment, keeps [2]bool, str fretboard.String, fret fretboard.Fret) []thumb {
	class := m.chord.Bass.Class()
	empty := m.usual.Shape
	for on := fretboard.String(1); int(on) <= empty.Strings(); on++ {
		empty = empty.With(on, fretboard.Muted)
	}
	for _, on := range s.bassStrings() {
		low := fretboard.Fret((class - s.midi(on, 0)%12 + 12) % 12)
		if on == str || s.above(m, on, low) || s.apart(low, fret) {
			continue
		}
		root := thumb{shape: empty.With(on, low), strings: [2]fretboard.String{on}, cost: costAltBare + s.rootCost(m, on, low)}
		if !keeps[1] {
			list = append(list, root)
			continue
		}
		list = append(list, s.alternates(m, root, str)...)
		for _, answer := range s.answerStrings(on) {
			for f := fretboard.Fret(1); f <= highestFret; f++ {
				cost, ok := s.answerCost(m, root, answer, f)
				if !ok || cost >= costAltOther || answer == str || s.above(m, answer, f) || s.apart(f, fret) || s.apart(f, low) {
					continue
				}
				t := root
				t.strings[1], t.shape, t.cost = answer, root.shape.With(answer, f), root.cost+cost+costAltHeld
				list = append(list, t)
			}
		}
	}
	return list
}

// apart reports two frets that no hand holds at once.
func (s *search) apart(a, b fretboard.Fret) bool {
	if a <= 0 || b <= 0 {
		return false
	}
	return s.frets[max(a, b)]-s.frets[min(a, b)] > maxReach
}

// answerCost is what a note costs as the answer to a root; ok is false for one that is none.
func (s *search) answerCost(m *moment, root thumb, on fretboard.String, fret fretboard.Fret) (cost float64, ok bool) {
	if on == root.strings[0] {
		return 0, false
	}
	tone, ok := s.toneCost(m, on, fret)
	if !ok {
		return 0, false
	}
	higher := s.midi(on, fret) - s.midi(root.strings[0], root.shape.At(root.strings[0]))
	switch usual := bind.AlternateString(s.Instrument, root.strings[0]); {
	case on != usual:
		cost = costAltString
	case tone == costAltThird && higher > 0 && !m.fifths:
		tone = 0 // a third where the hand has it on its usual string is as good
	}
	if m.fifths && tone > 0 {
		cost += costNoFifth
	}
	switch {
	case tone > 0 && higher < 0:
		cost += costAltUnder
	case higher > maxAnswer:
		cost += costAltFar
	}
	return cost + tone, true
}

// maxAnswer is by how many semitones an answer lies above its root at most to be heard as a bass.
const maxAnswer = 9

// toneCost is how far a note is from what the ear expects of an answer; ok is false for one that
// is not of the chord.
func (s *search) toneCost(m *moment, on fretboard.String, fret fretboard.Fret) (cost float64, ok bool) {
	class := s.midi(on, fret) % 12
	if class == m.chord.Bass.Class() {
		return costAltRoot, true
	}
	for _, n := range m.chord.Notes() {
		if n.Class() != class {
			continue
		}
		switch m.chord.Root.DegreeOf(n).Number {
		case 1:
			return costAltRoot, true
		case 5:
			return 0, true
		case 3:
			return costAltThird, true
		}
		return costAltOther, true
	}
	return 0, false
}

// fifth reports the fifth of the chord.
func (s *search) fifth(m *moment, on fretboard.String, fret fretboard.Fret) bool {
	cost, ok := s.toneCost(m, on, fret)
	return ok && cost == 0
}

// bassStrings are those on which the thumb finds a root.
func (s *search) bassStrings() (list []fretboard.String) {
	for on := fretboard.String(s.Instrument.Strings()); on >= max(1, s.Instrument.Traits().Thick); on-- {
		list = append(list, on)
	}
	return list
}

// answerStrings are those on which the thumb answers a root: the lower half, and the one above it
// for a root on its highest string.
func (s *search) answerStrings(root fretboard.String) (list []fretboard.String) {
	list = s.bassStrings()
	if len(list) > 0 && root == list[len(list)-1] && root > 1 {
		list = append(list, root-1)
	}
	return list
}
