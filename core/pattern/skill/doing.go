package skill

import "arplin/core/pattern"

// Doing is what a hand does in a figure, for somebody who looks for one.
type Doing string

// What hands do, the easiest to begin with first. Source of the sorts: common practice.
const (
	ThumbAlone Doing = "thumb"      // bass notes
	InTurn     Doing = "in-turn"    // rolls and arpeggios
	OverThumb  Doing = "over-thumb" // fingers over a thumb that keeps its own pulse, pinches
	AsOne      Doing = "as-one"     // fingers that pluck together
	Sweeps     Doing = "sweeps"
	DownsOnly  Doing = "downs"
	DownAndUp  Doing = "down-and-up"
	BassStrum  Doing = "bass-strum"
	Percussive Doing = "percussive" // knocks, chucks, stops
)

// Doings are the sorts with their words.
var Doings = []struct {
	Doing Doing
	Name  string
}{
	{ThumbAlone, "the thumb alone"}, {InTurn, "fingers in turn"}, {OverThumb, "fingers over the thumb"}, {AsOne, "fingers as one"}, {Sweeps, "sweeps"},
	{DownsOnly, "downs"}, {DownAndUp, "down and up"}, {BassStrum, "bass and strum"}, {Percussive, "knocks and stops"},
}

// Does sorts a figure by what the hand does.
func Does(p pattern.Pattern) Doing {
	thumbs, bass, up, dry, struck := 0, false, false, false, 0
	alternates, together, pinched := false, false, false
	p.Each(func(_ pattern.Place, st pattern.Stroke) {
		dry = dry || st.Sign == pattern.StopSign || st.Sign == pattern.Knock || st.Marks.Has(pattern.Chuck)
		up = up || st.Sign == pattern.Up
		if st.Sign == pattern.Thumb {
			thumbs++
		}
		if st.Sign != pattern.StopSign {
			struck++
		}
		alternates = alternates || st.Target.Kind == pattern.Alternate || st.Target.Kind == pattern.LowFifth
		bass = bass || st.Sign == pattern.Thumb || st.Target.Kind == pattern.Root
	})
	for _, bar := range p.Bars {
		for _, slot := range bar {
			_, thumb := slot.Find(pattern.Thumb)
			together = together || !thumb && len(slot.Strokes) > 1
			pinched = pinched || thumb && len(slot.Strokes) > 1
		}
	}
	switch {
	case dry:
		return Percussive
	case p.HasStrums() && bass:
		return BassStrum
	case p.HasStrums() && up:
		return DownAndUp
	case p.HasStrums():
		return DownsOnly
	case p.Uses(pattern.Sweep):
		return Sweeps
	case thumbs == struck:
		return ThumbAlone
	case alternates, pinched:
		return OverThumb
	case together:
		return AsOne
	}
	return InTurn
}
