package ladder

import (
	"fmt"
	"slices"
	"strings"

	"arplin/core/difficulty"
	"arplin/core/pattern"
	"arplin/core/say"
	"arplin/core/variation"
)

// What is said of the figure is taken from the strokes that are new: it cannot be
// untrue of them.

// sayFigure words a stage of the figure; below is the figure of the step below, target
// the figure of the whole way.
func sayFigure(stage Stage, p, below, target pattern.Pattern) (Words, bool) {
	switch stage {
	case Notes:
		return sayNotes(p, below), true
	case StrokeABeat:
		if len(newStrokes(p, below)) == 1 && Contains(p, below) {
			return sayOnwards(p, below), true
		}
		return Words{aStrokeABeat(p), "Slowly, each note as long as the others."}, true
	case AtRate:
		return Words{"twice as fast", "The same again at double speed."}, true
	case Onwards:
		return sayOnwards(p, below), true
	case Again:
		return Words{"again without a gap", "The notes you know come again in the bar. The turn into them is new."}, true
	case WholeFigure:
		return Words{strings.Replace(strokesOf(p), "opening pattern", "pattern so far", 1), "Slowly and evenly, counting aloud."}, true
	case OtherWay:
		return Words{strokesOf(p) + ", alone", "The other run across the strings on its own."}, true
	case Joined:
		return Words{"both motions joined", "One after the other. The turn between them is new."}, true
	case Pinched:
		return Words{"a pinch on 1", "Thumb and finger play together, not one after the other."}, true
	case OtherBar:
		return Words{barName(p, target) + " alone", "The other bar of the pattern on its own, until it’s just as secure."}, true
	case BothBars:
		return Words{joinedName(p), "Both bars, one after the other. The turn at the bar line is new."}, true
	case Faster:
		return Words{"up to tempo", "The same pattern at the goal tempo."}, true
	case Swung:
		return Words{"swung", "Long, short: the notes off the beat come a little late."}, true
	}
	return Words{}, false
}

// aStrokeABeat names a figure that is played slowly.
func aStrokeABeat(p pattern.Pattern) string {
	name := strokesOf(p)
	if strings.HasSuffix(name, "on every beat") {
		return name
	}
	return name + ", a stroke a beat"
}

// manyStrokes is how many strokes are named one by one.
const manyStrokes = 6

// strokesOf names the strokes of a figure in the order in which they come; of a long one how many.
func strokesOf(p pattern.Pattern) string {
	var names []string
	for _, bar := range p.Bars {
		for _, slot := range bar {
			var here []string
			for _, st := range slot.Strokes {
				here = append(here, variation.StrokeName(st))
			}
			if slot.Stop {
				here = append(here, "stop")
			}
			if len(here) > 0 {
				names = append(names, togetherOf(here, slot))
			}
		}
	}
	if kinds := kindsOf(p, newStrokes(p, pattern.Pattern{Meter: p.Meter, Bars: []pattern.Bar{make(pattern.Bar, p.Grid())}})); len(kinds) == 1 && len(names) > 1 {
		return kinds[0].name + " " + placesOf(p, kinds[0].places)
	}
	if len(names) == 0 || len(names) > manyStrokes {
		return "opening pattern, " + say.Count(len(names), "stroke", "strokes")
	}
	return strings.Join(names, ", ")
}

// togetherOf names what sounds at once.
func togetherOf(names []string, slot pattern.Slot) string {
	_, thumb := slot.Find(pattern.Thumb)
	switch {
	case len(names) == 1:
		return names[0]
	case thumb && len(names) == 2:
		return "pinch"
	}
	return say.And(names)
}

// sayOnwards says how far a figure goes now.
func sayOnwards(p, below pattern.Pattern) Words {
	fresh := newStrokes(p, below)
	switch {
	case len(fresh) == 0 || !Contains(p, below):
		return Words{"a different second half", "It used to repeat here. Now it continues differently."}
	case !runs(p):
		return sayNotes(p, below)
	}
	last, _ := p.At(fresh[len(fresh)-1])
	if last.Sign == pattern.Sweep {
		return Words{"sweep to the end of the bar", "Across all strings of the shape and back. The turn is new."}
	}
	name := variation.StrokeName(last)
	highest := 0
	below.Each(func(_ pattern.Place, st pattern.Stroke) { highest = max(highest, SignAt(st.Sign)) })
	switch {
	case SignAt(last.Sign) > highest:
		return Words{"on to the " + name, "Note after note, string by string."}
	case last.Sign == pattern.Thumb:
		return Words{"on to the bass again", "Note after note, without a gap."}
	}
	return Words{"on, and back to the " + name, "Note after note. The turn is new."}
}

// runs reports fingers one after the other, the thumb on one string.
func runs(p pattern.Pattern) bool {
	p = difficulty.Coarsest(p)
	gap, all := false, p.Count() > 0
	for _, bar := range p.Bars {
		for _, slot := range bar {
			if slot.Empty() {
				gap = true
				continue
			}
			all = all && !gap && len(slot.Strokes) == 1 && (slot.Strokes[0].Sign.Finger() && slot.Strokes[0].Target.Kind == pattern.ByChord || slot.Strokes[0].Sign == pattern.Sweep)
		}
	}
	return all
}

// sayGroups names the groups into which the thumb parts a bar.
func sayGroups(p pattern.Pattern) Words {
	numbers := []string{"", "one", "two", "three", "four", "five", "six", "seven", "eight"}
	var groups []string
	from := 0
	bar := p.Bars[0]
	for i := 1; i <= len(bar); i++ {
		thumb := i == len(bar)
		if !thumb {
			_, thumb = bar[i].Find(pattern.Thumb)
		}
		if thumb && i-from < len(numbers) {
			groups, from = append(groups, numbers[i-from]), i
		}
	}
	return Words{"regrouped " + strings.Join(groups, "-"), "The same strokes in groups of " + say.And(groups) + ". The thumb moves with the groups."}
}

// sayLeftOut names what the figure below has and this one leaves out.
func sayLeftOut(p, below pattern.Pattern) Words {
	var gone []pattern.Place
	strums, beats := true, true
	below.Each(func(pl pattern.Place, st pattern.Stroke) {
		_, kept := p.At(pl)
		_, moved := p.At(pattern.Place{Bar: pl.Bar, Slot: max(0, pl.Slot-1), Sign: pl.Sign}) // into a pinch
		if _, was := below.At(pattern.Place{Bar: pl.Bar, Slot: max(0, pl.Slot-1), Sign: pl.Sign}); !kept && (!moved || was) {
			gone = append(gone, pl)
			strums, beats = strums && st.Sign.Strum(), beats && p.OnBeat(pl.Slot)
		}
	})
	var parts []string
	for _, k := range kindsOf(below, gone) {
		parts = append(parts, k.name+" "+placesOf(p, k.places))
	}
	switch {
	case len(gone) == 0:
		return Words{"less", "Something is left out."}
	case !strums:
		return Words{"without the " + say.And(parts), "Don’t play there. The rest stays the same."}
	case len(gone) == 1 && beats:
		return Words{"missed strum " + placesOf(p, gone), "Let your hand pass the strings on a beat, and keep it moving."}
	case len(gone) == 1:
		return Words{"missed strum " + placesOf(p, gone), "Let your hand pass the strings, and keep it moving."}
	}
	return Words{"missed strums " + placesOf(p, gone), "Let your hand pass the strings there, and keep it moving."}
}

// sayZones says which strums take only some of the strings.
func sayZones(p pattern.Pattern) Words {
	zones := map[pattern.Sign]map[pattern.TargetKind]bool{pattern.Down: {}, pattern.Up: {}}
	p.Each(func(_ pattern.Place, st pattern.Stroke) {
		if of := zones[st.Sign]; of != nil {
			of[st.Target.Kind] = true
		}
	})
	only := func(sign pattern.Sign, kind pattern.TargetKind) bool {
		return len(zones[sign]) == 1 && zones[sign][kind]
	}
	switch {
	case only(pattern.Down, pattern.BassZone) && only(pattern.Up, pattern.Treble):
		return Words{"low downs, high ups", "Downs take the bass strings, ups the thin ones."}
	case only(pattern.Up, pattern.Treble):
		return Words{"high ups", "Ups take only the thin strings."}
	case only(pattern.Down, pattern.BassZone):
		return Words{"low downs", "Downs take only the bass strings."}
	}
	return Words{"low and high strums", "Some strums hit only the bass strings, some only the thin ones."}
}

var ordinals = []string{"first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth"}

// barName says which bar of the target a figure is.
func barName(p, target pattern.Pattern) string {
	for i, bar := range target.Bars {
		if i < len(ordinals) && len(p.Bars) == 1 && slices.EqualFunc(bar, p.Bars[0], func(a, b pattern.Slot) bool {
			return slices.EqualFunc(a.Strokes, b.Strokes, func(x, y pattern.Stroke) bool { return x.Sign == y.Sign })
		}) {
			return ordinals[i] + " bar"
		}
	}
	return "other bar"
}

func joinedName(p pattern.Pattern) string {
	if len(p.Bars) == 2 {
		return "both bars joined"
	}
	return fmt.Sprintf("%d bars joined", len(p.Bars))
}

// sayChords names the chords that a stage adds.
func sayChords(s, below Step, t difficulty.Task) Words {
	had := below.Stage(t)
	var fresh []string
	for _, symbol := range s.Stage(t) {
		if !slices.Contains(had, symbol) {
			fresh = append(fresh, symbol)
		}
	}
	row := wordsOf(MoreChords)
	switch len(fresh) {
	case 0:
		return Words{row.Name, row.Says}
	case 1:
		return Words{"add " + fresh[0], row.Says}
	}
	return Words{"add " + say.And(fresh), row.Says}
}
