package people

import (
	"slices"

	"arplin/core/bind"
	"arplin/core/pattern"
)

// does is what a figure asks of the hand, in a class's school.
type does struct {
	Class
	thumb, index bool
	fingers      bool // other than the thumb
	roll         bool // thumb and three fingers, each on its string
	pick         bool // single strings with a pick
	strums       bool // across strings
	sweep, nails bool
	knock, chuck bool
}

func doesOf(c Class, p pattern.Pattern) does {
	d := does{Class: c}
	p.Each(func(_ pattern.Place, st pattern.Stroke) {
		single := st.Target.Strings.Len() == 1 || slices.Contains([]pattern.TargetKind{pattern.Root, pattern.Alternate, pattern.LowFifth}, st.Target.Kind)
		switch {
		case st.Sign == pattern.Sweep:
			d.sweep = true
		case st.Sign == pattern.Knock:
			d.knock = true
		case st.Sign == pattern.Thumb:
			d.thumb = true
		case st.Sign.Finger():
			d.fingers = true
			d.index = d.index || st.Sign == pattern.Index
			d.roll = d.roll || st.Sign == pattern.Ring && st.Target.Kind == pattern.ByChord
		case st.Sign == pattern.Nails:
			d.nails, d.strums = true, true
		case st.Sign.Strum() && single:
			d.pick = true
		case st.Sign.Strum():
			d.strums, d.chuck = true, d.chuck || st.Marks.Has(pattern.Chuck)
		}
	})
	if c.Pick && (d.thumb || d.fingers || d.sweep) { // what fingers play alone the pick plays
		d.pick, d.thumb, d.index, d.roll, d.fingers = true, false, false, false, pinches(p)
	}
	d.roll = d.roll && d.thumb
	return d
}

// pinches reports strokes of several fingers at once, which a pick leaves to them.
func pinches(p pattern.Pattern) bool {
	for _, bar := range p.Bars {
		for _, slot := range bar {
			n := 0
			for _, st := range slot.Strokes {
				if st.Sign.Finger() {
					n++
				}
			}
			if n > 1 {
				return true
			}
		}
	}
	return false
}

// postureLines say how the right hand is held, for what a figure does, by the class's
// side in a question where teachers disagree. Source: common practice.
var postureLines = []struct {
	when        func(does) bool
	side        func(does) bool // nil where there is one line
	first, next string          // the side, and the other
}{
	{func(d does) bool { return (d.thumb || d.fingers) && !d.pick }, func(d does) bool { return d.Anchor }, "The little finger rests lightly on the top; it carries no weight.", "The hand floats; nothing rests on the top."},
	{func(d does) bool { return d.pick }, nil, "The pick lies between thumb and index, firm enough not to fly, loose enough to give; only its tip goes in.", ""},
	{func(d does) bool { return d.pick }, nil, "Down on the beat, up after it, also from string to string; the hand glides over the strings and does not dig.", ""},
	{func(d does) bool { return d.fingers }, nil, "Fingers pull the string out and away from the instrument. Move only the fingers and keep the knuckles still.", ""},
	{func(d does) bool { return d.thumb && d.index }, nil, "The index plucks a little behind the thumb, so that they never collide.", ""},
	{func(d does) bool { return d.roll && d.Roll == string(bind.RollThin) }, nil, "The thumb has the bass; index, middle and ring keep strings 3, 2 and 1.", ""},
	{func(d does) bool { return d.roll && d.Roll == string(bind.RollMiddle) }, nil, "The thumb has the bass; index, middle and ring lie on the middle strings, 4, 3 and 2, where the root leaves them free.", ""},
	{func(d does) bool { return d.roll && d.Roll == string(bind.RollSpread) }, nil, "Thumb and index have the bass strings, middle and ring the two thinnest.", ""},
	{func(d does) bool { return d.thumb && d.fingers && !d.roll }, func(d does) bool { return d.School().Fingers != bind.Fixed }, "The thumb has the bass strings; index and middle follow the chord.", "Each finger keeps its string; only the thumb changes its string, with the bass."},
	{func(d does) bool { return d.sweep && !d.pick }, nil, "The thumb falls from string to string and waits on the next; the thin strings have a finger each.", ""},
	{func(d does) bool { return d.roll || d.sweep }, nil, "Let every note ring until its string is used again.", ""},
	{func(d does) bool { return (d.fingers || d.thumb || d.nails) && !d.pick }, func(d does) bool { return d.LongNails }, "Nails are all long, filed smooth. A torn nail is a rest day.", "Nails are all short: the tone comes from the fingertip."},
	{func(d does) bool { return d.strums }, func(d does) bool { return d.Wrist || !d.Has }, "The strum comes from the wrist; the elbow is still.", "The strum comes from the forearm; the wrist is quiet."},
	{func(d does) bool { return d.strums }, nil, "The hand keeps moving: down on the beat, up after it, also where nothing is struck.", ""},
	{func(d does) bool { return d.nails && d.knock }, nil, "Nails and palm land as one; the hand opens at once for the notes behind.", ""},
	{func(d does) bool { return d.chuck }, nil, "A chuck is one motion: the side of the hand stops the strings as it strikes them.", ""},
}

// Posture says how the hand is held for a pattern in a class's school.
func Posture(c Class, p pattern.Pattern) []string {
	d := doesOf(c, p)
	var lines []string
	for _, l := range postureLines {
		switch {
		case !l.when(d):
		case l.side == nil || l.side(d):
			lines = append(lines, l.first)
		default:
			lines = append(lines, l.next)
		}
	}
	return lines
}
