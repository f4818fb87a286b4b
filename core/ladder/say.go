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
		if len(NewStrokes(p, below)) == 1 && Contains(p, below) {
			return sayOnwards(p, below), true
		}
		return Words{strokesOf(p) + ", a stroke a beat", "Slowly; each note as long as the others."}, true
	case AtRate:
		return Words{"at full rate", "The same again, twice as fast."}, true
	case Onwards:
		return sayOnwards(p, below), true
	case Again:
		return Words{"again without a gap", "What you know comes again in the bar; the turn into it is what is new."}, true
	case OtherWay:
		return Words{strokesOf(p) + ", alone", "The other run over the strings by itself."}, true
	case Joined:
		return Words{"both motions joined", "One after the other; the turn is what is new."}, true
	case Pinched:
		return Words{"a pinch on 1", "Thumb and finger sound as one where they came one after the other."}, true
	case OtherBar:
		return Words{barName(p, target) + " alone", "The other bar of the figure by itself, until it goes as safely."}, true
	case BothBars:
		return Words{joinedName(p), "The bars one after the other; the turn at the bar line is what is new."}, true
	case Faster:
		return Words{"up to tempo", "The same, as fast as it is meant."}, true
	case Swung:
		return Words{"swung", "Long, short: the notes between the beats wait a little."}, true
	}
	return Words{}, false
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
	if len(names) == 0 || len(names) > manyStrokes {
		return "the figure to begin with, " + say.Count(len(names), "stroke", "strokes")
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
	fresh := NewStrokes(p, below)
	switch {
	case len(fresh) == 0 || !Contains(p, below):
		return Words{"the second half its own way", "Where it began again, it goes on differently now."}
	case !runs(p):
		return sayNotes(p, below)
	}
	last, _ := p.At(fresh[len(fresh)-1])
	if last.Sign == pattern.Sweep {
		return Words{"the sweep to the end of the bar", "Through all strings of the shape and back; the turn is what is new."}
	}
	name := variation.StrokeName(last)
	highest := 0
	below.Each(func(_ pattern.Place, st pattern.Stroke) { highest = max(highest, SignAt(st.Sign)) })
	switch {
	case SignAt(last.Sign) > highest:
		return Words{"on to the " + name, "Stroke after stroke, in the order of the strings."}
	case last.Sign == pattern.Thumb:
		return Words{"on to the bass again", "Stroke after stroke, without a gap."}
	}
	return Words{"on, and back to the " + name, "Stroke after stroke; the turn is what is new."}
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
	return Words{"regrouped " + strings.Join(groups, "-"), "The same strokes in groups of " + say.And(groups) + "; the thumb moves with the groups."}
}

// sayLeftOut names what the figure below has and this one leaves out.
func sayLeftOut(p, below pattern.Pattern) Words {
	var gone []pattern.Place
	strums, beats := true, true
	below.Each(func(pl pattern.Place, st pattern.Stroke) {
		if _, kept := p.At(pl); !kept {
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
		return Words{"without the " + say.And(parts), "Nothing is struck there; the rest goes on as before."}
	case len(gone) == 1 && beats:
		return Words{"missed strum " + placesOf(p, gone), "The hand passes a beat in the air and keeps moving."}
	case len(gone) == 1:
		return Words{"missed strum " + placesOf(p, gone), "The hand passes in the air and keeps moving."}
	}
	return Words{"missed strums " + placesOf(p, gone), "The hand passes there in the air and keeps moving."}
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
	return Words{"low and high strums", "Some strums take only the bass strings, some only the thin ones."}
}

// newStrokes are the places of a figure at which the one below has nothing.
func NewStrokes(p, below pattern.Pattern) (fresh []pattern.Place) {
	p.Each(func(pl pattern.Place, _ pattern.Stroke) {
		if _, had := below.At(pl); !had || p.Grid() != below.Grid() {
			fresh = append(fresh, pl)
		}
	})
	return fresh
}

// manyPlaces is how many places are named one by one.
const manyPlaces = 2

// sayNotes names strokes by what they are and where.
func sayNotes(p, below pattern.Pattern) Words {
	fresh := NewStrokes(p, below)
	kinds := kindsOf(p, fresh)
	if len(kinds) == 0 {
		return Words{"the same strokes, otherwise", "The strokes are those of the step below."}
	}
	var parts []string
	for _, k := range kinds {
		parts = append(parts, k.name+" "+placesOf(p, k.places))
	}
	says := sayKinds(p, kinds)
	if len(parts) > 2 {
		var names []string
		for _, k := range kinds {
			names = append(names, k.name)
		}
		return Words{fmt.Sprintf("%d strokes more: %s", len(fresh), strings.Join(names, ", ")), says}
	}
	return Words{strings.Join(parts, ", "), says}
}

// kind is strokes of one sort, or of sorts that always sound together.
type kind struct {
	name   string
	places []pattern.Place // one a slot
}

// kindsOf sorts strokes by what sounds in their slot.
func kindsOf(p pattern.Pattern, fresh []pattern.Place) (kinds []kind) {
	slots := map[[2]int][]pattern.Place{}
	var order [][2]int
	for _, pl := range fresh {
		at := [2]int{pl.Bar, pl.Slot}
		if slots[at] == nil {
			order = append(order, at)
		}
		slots[at] = append(slots[at], pl)
	}
	for _, at := range order {
		var signs []pattern.Sign
		for _, pl := range slots[at] {
			signs = append(signs, pl.Sign)
		}
		name := togetherName(p, slots[at], signs)
		i := slices.IndexFunc(kinds, func(k kind) bool { return k.name == name })
		if i < 0 {
			i, kinds = len(kinds), append(kinds, kind{name: name})
		}
		kinds[i].places = append(kinds[i].places, slots[at][0])
	}
	return kinds
}

func togetherName(p pattern.Pattern, places []pattern.Place, signs []pattern.Sign) string {
	var names []string
	fingers := 0
	for _, pl := range places {
		st, _ := p.At(pl)
		names = append(names, variation.StrokeName(st))
		if st.Sign.Finger() {
			fingers++
		}
	}
	switch {
	case len(places) == 1:
		return names[0]
	case fingers == len(places) && slices.Contains(signs, pattern.Thumb):
		return "pinch"
	case fingers == len(places) && fingers == 2:
		return "pair"
	case fingers == len(places):
		return "block"
	}
	return say.And(names)
}

// placesOf says where strokes are: by their count, or as a rule where they are many.
func placesOf(p pattern.Pattern, places []pattern.Place) string {
	if len(p.Bars) == 1 && len(places) > manyPlaces {
		switch {
		case everyBeat(p, places):
			return "on every beat"
		case !p.Meter.Compound() && !slices.ContainsFunc(places, func(pl pattern.Place) bool { return p.OnBeat(pl.Slot) }):
			return "between the beats"
		}
	}
	var spots []string
	for _, pl := range places {
		spot := p.Spot(pl.Slot)
		if len(p.Bars) > 1 {
			spot += fmt.Sprintf(" of bar %d", pl.Bar+1)
		}
		spots = append(spots, spot)
	}
	return "on " + say.And(spots)
}

// everyBeat reports that with these places a stroke of their kind is on every beat.
func everyBeat(p pattern.Pattern, places []pattern.Place) bool {
	sign := places[0].Sign
	for i := range p.Bars[0] {
		if !p.OnBeat(i) {
			continue
		}
		if _, ok := p.Bars[0][i].Find(sign); !ok {
			return false
		}
	}
	return !slices.ContainsFunc(places, func(pl pattern.Place) bool { return !p.OnBeat(pl.Slot) })
}

// sayKinds is a sentence about what is new.
func sayKinds(p pattern.Pattern, kinds []kind) string {
	sign := kinds[0].places[0].Sign
	st, _ := p.At(kinds[0].places[0])
	_, thumb := p.Bars[kinds[0].places[0].Bar][kinds[0].places[0].Slot].Find(pattern.Thumb)
	onBeat := p.OnBeat(kinds[0].places[0].Slot)
	switch {
	case len(kinds) == 1 && kinds[0].name == "pinch":
		return "Thumb and finger sound as one."
	case len(kinds) > 1:
		return "One after the other; each is as loud as the rest."
	case kinds[0].name == "block":
		return "All fingers sound as one: set them on the strings, then pull."
	case kinds[0].name == "pair":
		return "Two fingers sound as one: close the hand, then pull."
	case IsBass(st) && onBeat && evenBass(p):
		return "The bass stays even, like a clock."
	case IsBass(st) && onBeat:
		return "The bass is not even here: count between its strokes."
	case sign == pattern.Thumb:
		return "The bass leaves the beat here. Count, and say where it falls."
	case sign == pattern.Nails || sign == pattern.Knock:
		return "The backs of the nails come down while the palm lands."
	case sign.Finger() && thumb:
		return "The finger sounds together with the bass."
	case sign.Finger() && p.Uses(pattern.Thumb):
		return "The bass goes on as before."
	case sign == pattern.Up:
		return "The hand comes back through the strings on its way up."
	case sign == pattern.Down && onBeat && p.Uses(pattern.Thumb):
		return "A light strum answers the bass."
	case sign == pattern.Down && onBeat && strumOnOne(p, st):
		return "As loud as the strum on one."
	case sign == pattern.Down && !onBeat && !p.Meter.Compound():
		return "The same stroke also falls between the beats."
	case sign == pattern.Down:
		return "The hand comes down here, too."
	}
	return "Everything else goes on as before."
}

// evenBass reports that the bass strokes of a bar have the same time between them.
func evenBass(p pattern.Pattern) bool {
	var at []int
	for i, slot := range p.Bars[0] {
		if slices.ContainsFunc(slot.Strokes, IsBass) {
			at = append(at, i)
		}
	}
	for i := range at {
		if next := (i + 1) % len(at); (at[next]-at[i]+p.Grid())%p.Grid() != p.Grid()/len(at)%p.Grid() {
			return false
		}
	}
	return len(at) > 0
}

// strumOnOne reports that the bar begins with a strum like this one.
func strumOnOne(p pattern.Pattern, st pattern.Stroke) bool {
	one, ok := p.Bars[0][0].Find(pattern.Down)
	return ok && one == st
}

var ordinals = []string{"first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth"}

// barName says which bar of the target a figure is.
func barName(p, target pattern.Pattern) string {
	for i, bar := range target.Bars {
		if i < len(ordinals) && len(p.Bars) == 1 && slices.EqualFunc(bar, p.Bars[0], func(a, b pattern.Slot) bool { return len(a.Strokes) == len(b.Strokes) }) {
			return "the " + ordinals[i] + " bar"
		}
	}
	return "the other bar"
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
		return Words{"the chord " + fresh[0], row.Says}
	}
	return Words{"the chords " + say.And(fresh), row.Says}
}
