package arrange

import (
	"arplin/core/ladder"
	"arplin/core/pattern"
)

// PartKind is what a group plays in a pass.
type PartKind string

// The kinds, from nothing to the tune.
const (
	Rest      PartKind = "rest"
	BassOne   PartKind = "bass"       // the root on one
	Once      PartKind = "chords"     // each chord strummed once
	Strum     PartKind = "strum"      // on every beat
	BassStrum PartKind = "bass-strum" // bass and strum in turns
	OnStep    PartKind = "step"       // a step of the ladder
	TheTune   PartKind = "tune"       // the melody alone
	TuneBass  PartKind = "tune-bass"  // the tune over the walking bass
)

// PartNames are what the parts are called that are no step, in the order in which a teacher
// chooses them.
var PartNames = []struct {
	Kind PartKind
	Name string
}{
	{Rest, "rest"}, {BassOne, "the bass on 1"}, {Once, "each chord once"}, {Strum, "a strum on every beat"}, {BassStrum, "bass and strum"},
	{TheTune, "the melody"}, {TuneBass, "the melody over a walking bass"},
}

// String is what a part is called.
func (k PartKind) String() string {
	for _, n := range PartNames {
		if n.Kind == k {
			return n.Name
		}
	}
	return "a step"
}

// Figure is what is played of a part that is no step and not the tune; each chord once has
// that of its first chord. Source: common practice.
func (k PartKind) Figure(m pattern.Meter) (pattern.Pattern, bool) {
	p := pattern.Pattern{Meter: m, Bars: []pattern.Bar{make(pattern.Bar, m.Grids()[0])}}
	put := func(beat int, s pattern.Sign, t pattern.TargetKind) {
		p.Bars[0][beat*p.SlotsPerBeat()].Strokes = []pattern.Stroke{{Sign: s, Target: pattern.Target{Kind: t}}}
	}
	switch k {
	case BassOne:
		put(0, pattern.Thumb, pattern.ByChord)
	case Once:
		put(0, pattern.Down, pattern.ByChord)
	case Strum:
		for beat := range m.TappedBeats() {
			put(beat, pattern.Down, pattern.ByChord)
		}
	case BassStrum: // the thumb on one and, in four, on three; the strum answers
		for beat := range m.TappedBeats() {
			switch {
			case beat == 0:
				put(beat, pattern.Thumb, pattern.ByChord)
			case beat == 2 && m.TappedBeats() == 4:
				put(beat, pattern.Thumb, pattern.Alternate)
			default:
				put(beat, pattern.Down, pattern.ByChord)
			}
		}
	default:
		return p, false
	}
	return p, true
}

// Part is what a group plays in a pass.
type Part struct {
	Kind PartKind      `json:"kind"`
	Step ladder.StepID `json:"step,omitempty"` // for OnStep
	Of   int64         `json:"of,omitempty"`   // the ladder of another song that the step is of
}
