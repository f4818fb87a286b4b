package teach

import (
	"arplin/core/bind"
	"arplin/core/pattern"
)

// postureLines say how the right hand is held: for what is plucked or strummed,
// by the class's side in a question where teachers disagree. Source: common
// practice.
var postureLines = []struct {
	strums      bool // else for what is plucked
	side        func(Class) bool
	first, next string // the side, and the other
}{
	{false, func(c Class) bool { return c.Anchor }, "The little finger rests lightly on the top; it carries no weight.", "The hand floats; nothing rests on the top."},
	{false, nil, "Fingers pull the string out and away from the instrument. Only the fingers move, the knuckles stay.", ""},
	{false, nil, "The index plucks a little behind the thumb, so that they never collide.", ""},
	{false, func(c Class) bool { return c.School().Fingers != bind.Fixed }, "The thumb has the bass strings; index and middle follow the chord.", "Each finger keeps its string; only the thumb moves to the root."},
	{false, func(c Class) bool { return c.LongNails }, "Nails are all long, filed smooth. A torn nail is a rest day.", "Nails are all short: the tone comes from the fingertip."},
	{true, func(c Class) bool { return c.Wrist || !c.Has }, "The strum comes from the wrist; the elbow is still.", "The strum comes from the forearm; the wrist is quiet."},
	{true, nil, "The hand keeps moving: down on the beat, up after it, also where nothing is struck.", ""},
}

// Posture says how the hand is held for a pattern in a class's school.
func Posture(c Class, p pattern.Pattern) []string {
	plucks := p.Uses(pattern.Thumb) || p.Uses(pattern.Index) || p.Uses(pattern.Sweep)
	var lines []string
	for _, l := range postureLines {
		switch {
		case l.strums && !p.HasStrums(), !l.strums && !plucks:
		case l.side == nil || l.side(c):
			lines = append(lines, l.first)
		default:
			lines = append(lines, l.next)
		}
	}
	return lines
}
