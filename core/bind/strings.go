package bind

import (
	"slices"

	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/theory"
)

// The trade's tables of strings; common practice.

// AlternateString is the second string of the thumb: root on 6 or 5 goes to 4,
// root on 4 to 3, the ukulele to 3; root on 3 or thinner stays.
func AlternateString(ins fretboard.Instrument, root fretboard.String) fretboard.String {
	switch {
	case ins.ThumbStays():
		return 3
	case root >= 5:
		return 4
	case root == 4:
		return 3
	}
	return root
}

// alternateIn is the alternate string in a shape: where the root lies on the third string or a thinner one,
// the next thicker one, if it sounds a note of the chord; else that of the root, or the root's own.
func alternateIn(ins fretboard.Instrument, root fretboard.String, c theory.Chord, sh fretboard.Shape) fretboard.String {
	s := AlternateString(ins, root)
	thicker := root + 1
	if s != root || root < 1 || int(thicker) > ins.Strings() || !sh.Sounds(thicker) {
		return s
	}
	class := (ins.Open(thicker).MIDI() + int(sh.At(thicker))) % 12
	if slices.ContainsFunc(c.Notes(), func(n theory.Note) bool { return n.Class() == class }) {
		return thicker
	}
	return s
}

// group is the inner and outer string of the moving group.
func (b *Binder) group(root fretboard.String) (inner, outer fretboard.String) {
	switch {
	case b.ins.ThumbStays() && !b.alters, !b.ins.ThumbStays() && root >= 5:
		return 3, 2
	}
	return 2, 1
}

// wanted is the place that the notation and the school give a stroke, before
// anything stands in its way.
func (w *barWriter) wanted(st pattern.Stroke, slot pattern.Slot) place {
	switch {
	case st.Sign == pattern.Knock || st.Sign.Air():
		return place{}
	case st.Sign == pattern.Sweep:
		if st.Target.Kind == pattern.Treble {
			w.sweep.fromThin()
		}
		return w.at(w.sweep.next())
	case st.Target.Kind == pattern.Given && st.Target.Strings.Len() == 1:
		return w.at(fretboard.String(st.Target.Strings.List()[0]))
	}
	switch st.Target.Kind {
	case pattern.Alternate:
		return w.alternate(slot)
	case pattern.LowFifth:
		return w.lowFifth(slot)
	case pattern.Root:
		return w.at(w.root)
	case pattern.Inner:
		inner, _ := w.group(w.root)
		return w.at(inner)
	case pattern.Outer:
		_, outer := w.group(w.root)
		return w.at(outer)
	}
	switch {
	case st.Sign == pattern.Thumb:
		return w.at(w.root)
	case st.Sign.Finger():
		return w.at(w.fingerString(st.Sign))
	}
	return place{} // a strum
}

// fingerString is where a finger without target goes.
func (w *barWriter) fingerString(f pattern.Sign) fretboard.String {
	inner, outer := fretboard.String(3), fretboard.String(2)
	moving := w.school.Fingers == Moving || w.thumbs
	switch {
	case w.hasRing || w.hasPin:
		if w.shifted() {
			inner, outer = 4, 3
		} else if w.school.Roll == RollSpread && f == pattern.Index && !w.hasPin && !w.ins.ThumbStays() && w.root >= 4 {
			return AlternateString(w.ins, w.root)
		} else if w.root <= 3 && !w.ins.ThumbStays() {
			inner, outer = 2, 1
		}
	case moving:
		inner, outer = w.group(w.root)
	case w.root <= 3 && !w.ins.ThumbStays():
		inner, outer = 2, 1
	}
	switch f {
	case pattern.Index:
		return inner
	case pattern.Middle:
		return outer
	case pattern.Ring:
		if w.hasPin {
			return 2
		}
		return max(1, outer-1)
	}
	return 1 // the little finger
}

// shifted: a shape that mutes string 1, or a class that rolls on the middle strings,
// takes the four-finger roll one string down, where there is room above the root
// string.
func (w *barWriter) shifted() bool {
	return w.hasRing && !w.hasPin && w.root >= 5 && (!w.held.Shape.Sounds(1) || w.school.Roll == RollMiddle)
}

// alternate places p'. A new chord begins on its root, whatever the thumb's turn.
func (w *barWriter) alternate(slot pattern.Slot) place {
	if w.changed {
		w.notice("the chord changes here, so the thumb plays its root")
		return w.at(w.root)
	}
	s := alternateIn(w.ins, w.root, w.held.Chord, w.held.Shape)
	if s == w.root {
		w.notice("no other bass string has a note of %s, so the thumb stays on string %d", w.held.Chord, s)
		return w.at(s)
	}
	if w.hasRing && w.fingerOn(s, slot) {
		w.notice("a finger plays the alternate bass, string %d, here, so the thumb stays on the root string", s)
		return w.at(w.root)
	}
	for t := s; t >= 1; t-- {
		if w.held.Shape.Sounds(t) {
			if t != s {
				w.notice("the alternate bass, string %d, is muted in %s, so the thumb takes string %d", s, w.held.Shape, t)
			}
			return w.at(t)
		}
	}
	return w.at(s)
}

// fingerOn reports a finger of the slot that wants the string.
func (w *barWriter) fingerOn(s fretboard.String, slot pattern.Slot) bool {
	for _, st := range slot.Strokes {
		if st.Sign.Finger() && st.Sign != pattern.Thumb && w.wanted(st, slot).string == s {
			return true
		}
	}
	return false
}

// lowFifth places p,: the fifth of the chord on the string beside the root
// string, open or within the frets that the shape spans.
func (w *barWriter) lowFifth(slot pattern.Slot) place {
	if w.changed || w.school.keeps(w.ins, w.held.Chord) {
		return w.at(w.root)
	}
	var s fretboard.String
	switch w.root {
	case 5:
		s = 6
	case 6, 4:
		s = 5
	case 3:
		s = 4
	}
	if w.ins.ThumbStays() || s == 0 || int(s) > w.ins.Strings() {
		return w.at(w.root)
	}
	fret, ok := w.fifthFret(s)
	switch {
	case !ok:
		return w.at(w.root)
	case w.root == 5 && !w.school.LowFifth:
		return w.alternate(slot)
	}
	if w.held.Shape.At(s) != fret {
		w.noticeLowFifth(s, fret)
	}
	return place{single: true, string: s, fret: fret}
}

func (w *barWriter) fifthFret(s fretboard.String) (fretboard.Fret, bool) {
	c := w.held.Chord
	fifth := c.Root.Above(c.Fifth()).Class()
	open := w.ins.Open(s).MIDI()
	if open%12 == fifth {
		return 0, true
	}
	low, high := w.held.Shape.Span()
	for f := max(low, 1); f <= high; f++ {
		if (open+int(f))%12 == fifth {
			return f, true
		}
	}
	return 0, false
}

// noticeLowFifth names the finger that moves: the one that presses the root
// string, or else one on the same fret, or else a free one.
func (w *barWriter) noticeLowFifth(s fretboard.String, fret fretboard.Fret) {
	if fret == 0 {
		w.notice("the low fifth is the open string %d, which the shape leaves out", s)
		return
	}
	finger := int8(0)
	fingering, _ := fretboard.Finger(w.held.Shape)
	for t := fretboard.String(1); int(t) <= w.ins.Strings(); t++ {
		if w.held.Shape.At(t) == fret {
			finger = fingering.At(t) // the thickest string counts last
		}
	}
	if finger == 0 {
		w.notice("a free finger presses string %d at fret %d for the low fifth", s, fret)
		return
	}
	w.notice("the %s finger moves to string %d, fret %d for the low fifth", fretboard.FingerName(finger), s, fret)
}

// across lists the strings of a strum that sound and that no other stroke of
// the slot has.
func (w *barWriter) across(st pattern.Stroke, used []bool) []fretboard.String {
	var strings []fretboard.String
	if st.Sign == pattern.Knock {
		return nil
	}
	for _, s := range w.zone(st.Target) {
		switch {
		case int(s) > w.ins.Strings():
			w.notice("this instrument has no string %d, so the strum leaves it out", s)
		case !w.held.Shape.Sounds(s):
		case used[s]:
			w.notice("string %d is plucked at the same time, so the strum leaves it out", s)
		default:
			strings = append(strings, s)
		}
	}
	return strings
}

// zone lists the strings that a strum aims at, thickest first.
func (w *barWriter) zone(t pattern.Target) []fretboard.String {
	n := fretboard.String(w.ins.Strings())
	ukulele := w.ins.ThumbStays()
	switch {
	case t.Kind == pattern.Given:
		var list []fretboard.String
		for _, s := range t.Strings.List() {
			list = append(list, fretboard.String(s))
		}
		return list
	case t.Kind == pattern.BassZone && ukulele:
		return falling(4, 3)
	case t.Kind == pattern.BassZone:
		return w.bassZone()
	case t.Kind == pattern.Treble && ukulele:
		return falling(2, 1)
	case t.Kind == pattern.Treble:
		return falling(3, 1)
	}
	return falling(n, 1)
}

// bassZone is the root string and the next sounding ones inward, at most three,
// never string 2; the root string alone when it is 3 or thinner.
func (w *barWriter) bassZone() []fretboard.String {
	list := []fretboard.String{w.root}
	for s := w.root - 1; s >= 3 && len(list) < 3; s-- {
		if w.held.Shape.Sounds(s) {
			list = append(list, s)
		}
	}
	return list
}

func falling(from, to fretboard.String) []fretboard.String {
	var list []fretboard.String
	for s := from; s >= to; s-- {
		list = append(list, s)
	}
	return list
}
