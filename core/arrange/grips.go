package arrange

import (
	"cmp"
	"fmt"
	"slices"

	"arplin/core/fretboard"
	"arplin/core/theory"
)

// Costs of a grip, in the points of core/fretboard: about one for a finger. From memory.
const (
	costHold      = 0.6  // of what the shape asks
	costStays     = 0.25 // the share of it where the hand stays as it is
	costChange    = 0.7  // of what the change from grip to grip asks
	costPlace     = 3.5  // for each fret by which the hand goes to another place within a bar
	costOther     = 1.2  // another shape than the usual one
	costInside    = 0.8  // the usual shape with a finger moved for the note
	knownHold     = 0.85 // of what it asks to hold
	costThin      = 1.5  // only the bass and the note are held
	costFret      = 0.35 // for each fret of the tune up the neck
	costNeck      = 0.2  // and of the hand
	costThick     = 0.35 // for each string away from the thinnest
	costUnderBass = 4.0  // the tune lies below the thumb's strings
	costBassSide  = 2.0  // it lies on them, while the thumb rests
	costWaits     = 9.0  // the thumb waits on the root
	costAltWaits  = 5.0  // and on the alternate alone
	costLoose     = 1.5  // the hand has to find again what the thumb strikes next
	costLeave     = 1000 // a note that goes on, or slides, on another string
)

// How far the search goes.
const (
	maxGrips    = 6  // of a moment, beside those in other places
	otherShapes = 16 // of a chord, beside the usual one
	highestFret = 12 // of the tune
)

// maxReach is how far a hand opens for a tune over a bass, in millimetres between the outer
// fingers: a learner's, four frets in the first place of a guitar. From memory.
const maxReach = 100.0

// grip is a candidate for a moment.
type grip struct {
	fretboard.Voicing
	melody fretboard.String
	thumb  thumb
	waits  [2]bool // on the root, on the alternate
	lost   bool    // the note has no place: the thumb goes on alone
	hold   float64
	cost   float64 // beside holding it
}

// gripsOf are the cheapest grips that hold a moment; where none holds the whole bass those that
// hold a part of it, and where the note has no place those of the bass alone.
func (s *search) gripsOf(m *moment) []grip {
	pin := s.Pins[At{m.bar, m.tick}]
	key := fmt.Sprint(m.chord, m.usual.Shape, m.hasChord, noteOf(m), pin, needs(m), m.walks, m.fifths)
	if list, ok := s.known[key]; ok {
		return list
	}
	list := s.held(m, pin)
	if len(list) == 0 && m.note != nil {
		alone := *m
		alone.note = nil
		for _, g := range s.held(&alone, 0) {
			g.lost = true
			list = append(list, g)
		}
	}
	slices.SortStableFunc(list, func(a, b grip) int { return cmp.Compare(a.cost+a.hold, b.cost+b.hold) })
	list = choose(list)
	s.known[key] = list
	return list
}

// choose takes the cheapest grips, and the cheapest of each other place of the hand: the next note
// may lie there.
func choose(list []grip) []grip {
	out := slices.Clip(list[:min(len(list), maxGrips)])
	var places [fretboard.MaxFret + 1]bool
	for _, g := range out {
		low, _ := g.Span()
		places[low] = true
	}
	for _, g := range list[len(out):] {
		if low, _ := g.Span(); !places[low] {
			places[low] = true
			out = append(out, g)
		}
	}
	return out
}

func (s *search) held(m *moment, pin fretboard.String) []grip {
	need := needs(m)
	if m.walks && need != ([2]bool{true, true}) { // the hand stays ready for what the thumb strikes next
		list := s.withBass(m, pin, [2]bool{true, true}, need)
		for _, g := range s.withBass(m, pin, need, need) {
			g.cost += costLoose
			list = append(list, g)
		}
		if len(list) > 0 {
			return list
		}
	}
	for _, keeps := range [][2]bool{need, {need[0], false}, {false, need[1]}, {}} {
		if list := s.withBass(m, pin, keeps, need); len(list) > 0 {
			return list
		}
	}
	return nil
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

// withBass are the grips of a moment in which the thumb has what it keeps of what it needs.
func (s *search) withBass(m *moment, pin fretboard.String, keeps, need [2]bool) (list []grip) {
	waits := 0.0
	if need[0] && !keeps[0] {
		waits += costWaits
	}
	if need[1] && !keeps[1] {
		waits += costAltWaits
	}
	at := map[gripKey]int{}
	add := func(g grip) {
		g.cost += waits
		for k := range need {
			g.waits[k] = need[k] && !keeps[k]
		}
		key := gripKey{g.Shape, g.melody, g.thumb.strings}
		if i, ok := at[key]; !ok {
			at[key] = len(list)
			list = append(list, g)
		} else if g.cost+g.hold < list[i].cost+list[i].hold {
			list[i] = g
		}
	}
	if m.note == nil {
		for _, t := range s.thumbs(m, keeps, 0, 0) {
			if g, ok := s.hold(m, t, 0, 0, keeps); ok {
				add(g)
			}
		}
		return list
	}
	for str := fretboard.String(1); int(str) <= s.Instrument.Strings(); str++ {
		fret := m.note.MIDI - s.Instrument.Open(str).MIDI()
		if fret < 0 || fret > highestFret || pin != 0 && str != pin {
			continue
		}
		for _, t := range s.thumbs(m, keeps, str, fretboard.Fret(fret)) {
			g, ok := s.hold(m, t, str, fretboard.Fret(fret), keeps)
			if !ok {
				continue
			}
			low, _ := g.Span()
			g.cost += costFret*float64(fret) + costNeck*float64(low) + costThick*float64(str-1) + s.under(m, t, str, keeps)
			add(g)
		}
	}
	return list
}

type gripKey struct {
	shape  fretboard.Shape
	melody fretboard.String
	thumb  [2]fretboard.String
}

// under is what it costs that the tune lies on the thumb's side.
func (s *search) under(m *moment, t thumb, str fretboard.String, keeps [2]bool) float64 {
	cost := 0.0
	if m.usual.Root > 0 && str >= m.usual.Root {
		cost = costBassSide
	}
	for k, on := range t.strings {
		if keeps[k] && str > on {
			cost = costUnderBass
		}
	}
	return cost
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

// costOf is what a shape costs beside holding it.
func (s *search) costOf(m *moment, v fretboard.Voicing) float64 {
	cost := 0.0
	if v.Shape != m.usual.Shape {
		cost += costOther
	}
	return cost
}

// hold refits a shape so that a string carries the note: the whole shape where a hand can hold
// it, else the thumb's strings and the note alone. Without a note it is the shape as it is.
func (s *search) hold(m *moment, t thumb, str fretboard.String, fret fretboard.Fret, keeps [2]bool) (grip, bool) {
	if t.whole && (str == 0 || t.shape.At(str) == fret) {
		g := grip{Voicing: t.from, melody: str, thumb: t, cost: t.cost + s.costOf(m, t.from), hold: costHold * t.from.Hold}
		return g, t.from.Shape == m.usual.Shape || s.reaches(t.from.Shape)
	}
	whole := t.shape
	if str != 0 {
		whole = whole.With(str, fret)
		for above := fretboard.String(1); above < str; above++ { // nothing sounds above the tune
			if whole.Sounds(above) && s.midi(above, whole.At(above)) > m.note.MIDI {
				whole = whole.With(above, fretboard.Muted)
			}
		}
		for k, on := range t.strings {
			if keeps[k] && !whole.Sounds(on) {
				return grip{}, false // the thumb's string would sound above the tune
			}
		}
	}
	if g, ok := s.read(m, whole, str); ok {
		switch g.thumb = t; {
		case m.hasChord && t.from.Shape == m.usual.Shape: // the hand stays in the shape that it knows
			g.cost += t.cost + costInside
			g.hold *= knownHold
		case m.hasChord:
			g.cost += t.cost + costOther
		}
		return g, true
	}
	thin := whole
	for on := fretboard.String(1); int(on) <= thin.Strings(); on++ {
		if on != str && !(keeps[0] && on == t.strings[0]) && !(keeps[1] && on == t.strings[1]) && thin.At(on) > 0 {
			thin = thin.With(on, fretboard.Muted)
		}
	}
	g, ok := s.read(m, thin, str)
	g.thumb = t
	g.cost += t.cost + costOther + costThin
	return g, ok
}

func (s *search) read(m *moment, sh fretboard.Shape, str fretboard.String) (grip, bool) {
	if !m.hasChord { // a finger and a string
		f, ok := fretboard.Finger(sh)
		return grip{Voicing: fretboard.Voicing{Shape: sh, Fingering: f}, melody: str, hold: costHold * float64(f.Count())}, ok
	}
	if !s.reaches(sh) {
		return grip{}, false
	}
	key := reading{m.chord, sh}
	v, ok := s.readings[key]
	if !ok {
		if _, held := fretboard.Finger(sh); held {
			v = fretboard.Read(s.Instrument, m.chord, sh)
		}
		s.readings[key] = v
	}
	return grip{Voicing: v, melody: str, hold: costHold * v.Hold}, v.Strings() > 0
}

// reading is a shape held for a chord.
type reading struct {
	chord theory.Chord
	shape fretboard.Shape
}

// reaches reports a shape for which a hand need not open further than a learner's does.
func (s *search) reaches(sh fretboard.Shape) bool {
	low, high := sh.Span()
	return !s.apart(low, high)
}

func (s *search) midi(str fretboard.String, fret fretboard.Fret) int {
	return s.Instrument.Open(str).MIDI() + int(fret)
}
