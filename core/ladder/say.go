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
		return Words{fingersOf(p) + ", a stroke a beat", "Slowly, in the order of the strings; each note as long as the others."}, true
	case AtRate:
		return Words{"at full rate", "The same again, twice as fast."}, true
	case Onwards:
		return sayOnwards(p, below), true
	case Again:
		return Words{"again without a gap", "What you know comes again in the bar; the turn into it is what is new."}, true
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

// fingersOf names the fingers of a figure in the order in which they come.
func fingersOf(p pattern.Pattern) string {
	var names []string
	p.Each(func(_ pattern.Place, st pattern.Stroke) {
		name := map[pattern.Sign]string{
			pattern.Thumb: "thumb", pattern.Index: "index", pattern.Middle: "middle", pattern.Ring: "ring", pattern.Little: "little finger", pattern.Sweep: "the sweep",
		}[st.Sign]
		if name != "" && !slices.Contains(names, name) {
			names = append(names, name)
		}
	})
	return strings.Join(names, ", ")
}

// sayOnwards says how far a roll goes now.
func sayOnwards(p, below pattern.Pattern) Words {
	fresh := NewStrokes(p, below)
	switch {
	case difficulty.Coarsest(below).Grid() < difficulty.Coarsest(p).Grid():
		return Words{fingersOf(p) + ", at full rate", "The same strokes twice as fast; then wait for what comes next."}
	case !Contains(p, below) || len(fresh) == 0:
		return Words{"the whole roll", "Where it began again it goes on now."}
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
		case !slices.ContainsFunc(places, func(pl pattern.Place) bool { return p.OnBeat(pl.Slot) }):
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
	case sign == pattern.Thumb && onBeat, IsBass(st) && onBeat:
		return "The bass stays even, like a clock."
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
	case sign == pattern.Down && onBeat:
		return "As loud as the strum on one."
	case sign == pattern.Down:
		return "The same stroke also falls between the beats."
	}
	return "Everything else goes on as before."
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
