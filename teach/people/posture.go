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
	{func(d does) bool { return (d.thumb || d.fingers) && !d.pick }, func(d does) bool { return d.Anchor }, "Rest your little finger lightly on the top, with no weight on it.", "Let your hand float. Nothing rests on the top."},
	{func(d does) bool { return d.pick }, nil, "Hold the pick between thumb and index, firm enough to stay put, loose enough to give. Use just the tip.", ""},
	{func(d does) bool { return d.pick }, nil, "Down on the beat, up after it, from string to string too. Glide over the strings, don’t dig in.", ""},
	{func(d does) bool { return d.fingers }, nil, "Fingers pull the string out and away from the instrument. Move only the fingers and keep the knuckles still.", ""},
	{func(d does) bool { return d.thumb && d.index }, nil, "Your index finger plucks slightly behind your thumb so they don’t collide.", ""},
	{func(d does) bool { return d.roll && d.Roll == string(bind.RollThin) }, nil, "Your thumb plays the bass. Index, middle and ring stay on strings 3, 2 and 1.", ""},
	{func(d does) bool { return d.roll && d.Roll == string(bind.RollMiddle) }, nil, "Your thumb plays the bass. Index, middle and ring take the middle strings, 4, 3 and 2, unless the root needs one.", ""},
	{func(d does) bool { return d.roll && d.Roll == string(bind.RollSpread) }, nil, "Thumb and index play the bass strings, middle and ring the two thinnest.", ""},
	{func(d does) bool { return d.thumb && d.fingers && !d.roll }, func(d does) bool { return d.School().Fingers != bind.Fixed }, "Your thumb plays the bass strings. Index and middle follow the chord.", "Each finger stays on its string. Only your thumb moves, with the bass."},
	{func(d does) bool { return d.sweep && !d.pick }, nil, "Your thumb drops from string to string and waits on the next. The thin strings have a finger each.", ""},
	{func(d does) bool { return d.roll || d.sweep }, nil, "Let every note ring until you need its string again.", ""},
	{func(d does) bool { return (d.fingers || d.thumb || d.nails) && !d.pick }, func(d does) bool { return d.LongNails }, "Keep all your nails long and filed smooth. Take a day off with a torn nail.", "Keep all your nails short. The sound comes from the fingertip."},
	{func(d does) bool { return d.strums }, func(d does) bool { return d.Wrist || !d.Has }, "Strum from the wrist and keep your elbow still.", "Strum from the forearm and keep your wrist quiet."},
	{func(d does) bool { return d.strums }, nil, "Keep your hand moving, down on the beat and up after it, even on missed strums.", ""},
	{func(d does) bool { return d.nails && d.knock }, nil, "Nails and palm land together. Open your hand at once for the notes after.", ""},
	{func(d does) bool { return d.chuck }, nil, "A chuck is one motion: the side of your hand mutes the strings as you strum.", ""},
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
