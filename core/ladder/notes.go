package ladder

import (
	"fmt"
	"slices"
	"strings"

	"arplin/core/pattern"
	"arplin/core/say"
	"arplin/core/variation"
)

// What is said of strokes: what they are and where.

// newStrokes are the places of a figure at which the one below has nothing.
func newStrokes(p, below pattern.Pattern) (fresh []pattern.Place) {
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
	fresh := newStrokes(p, below)
	struck := slices.DeleteFunc(slices.Clone(fresh), func(pl pattern.Place) bool { return pl.Sign == pattern.StopSign })
	if len(struck) > 0 {
		fresh = struck
	}
	kinds := kindsOf(p, fresh)
	if len(kinds) == 0 {
		return Words{"the same strokes, otherwise", "The notes are the same as on the step below."}
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
		return Words{fmt.Sprintf("%d more %s: %s", len(fresh), nounOf(p, fresh), say.And(names)), says}
	}
	return Words{strings.Join(parts, ", "), says}
}

// nounOf names some strokes as a teacher would: notes are plucked, strums are strummed.
func nounOf(p pattern.Pattern, places []pattern.Place) string {
	plucked, strummed := 0, 0
	for _, at := range places {
		switch st, _ := p.At(at); {
		case st.Sign.Strum():
			strummed++
		case st.Sign.Finger():
			plucked++
		}
	}
	switch len(places) {
	case plucked:
		return "notes"
	case strummed:
		return "strums"
	}
	return "strokes"
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
		return "Thumb and finger play together."
	case len(kinds) > 1:
		return "One after the other, each as loud as the rest."
	case kinds[0].name == "block":
		return "All fingers play together: set them on the strings, then pull."
	case kinds[0].name == "pair":
		return "Two fingers play together: close your hand, then pull."
	case IsBass(st) && onBeat && evenBass(p):
		return "The bass stays even, like a clock."
	case IsBass(st) && onBeat:
		return "The bass isn’t even here. Count between its notes."
	case sign == pattern.Thumb:
		return "The bass comes off the beat here. Count, and say where it comes."
	case sign == pattern.Nails || sign == pattern.Knock:
		return "The backs of your nails come down as your palm lands."
	case sign.Finger() && thumb:
		return "The finger plays together with the bass."
	case sign.Finger() && p.Uses(pattern.Thumb):
		return "The bass stays the same."
	case sign == pattern.Up:
		return "Play the strings on the way back up, too."
	case sign == pattern.Down && onBeat && p.Uses(pattern.Thumb):
		return "A light strum answers the bass."
	case sign == pattern.Down && onBeat && strumOnOne(p, st):
		return "As loud as the strum on one."
	case sign == pattern.Down && !onBeat && !p.Meter.Compound():
		return "The same stroke also comes off the beat."
	case sign == pattern.Down:
		return "Strum down here, too."
	}
	return "Everything else stays the same."
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
