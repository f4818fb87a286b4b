package variation

import (
	"fmt"

	"arplin/core/pattern"
	"arplin/core/say"
)

// Words are what a rule's direction is called and a sentence about it. Where
// one note is all that it is about, the note's own name stands in their place.
type Words struct {
	Name string
	Says string
	One  string // the sentence where one stroke is meant; empty when Says fits that, too
}

// Up says what a rule has added to a pattern, in words that are true of the two
// figures: one note, or two, are named by their places.
func (r Rule) Up(from, to pattern.Pattern) Words {
	w, _ := r.words(true, from, to)
	return w
}

// Down says what a rule has left out of a pattern.
func (r Rule) Down(from, to pattern.Pattern) Words {
	if r.less == nil {
		return r.Up(from, to)
	}
	w, named := r.words(false, to, from) // what is left out is what the way back would add
	if named {
		w.Name = "without the " + w.Name
	}
	return w
}

// mostNamed is how many notes are named before the rule's own name is shorter.
const mostNamed = 2

// words are those of one way of a rule; named reports that they name the notes.
func (r Rule) words(more bool, without, with pattern.Pattern) (w Words, named bool) {
	if w = r.Less; more {
		w = r.More
	}
	fresh := added(with, without)
	if len(fresh) == 1 && w.One != "" {
		w.Says = w.One
	}
	if r.ID == missedStrum.ID {
		fresh = added(without, with)
	}
	switch {
	case r.ID == alternatingBass.ID:
		if n := thumbTargets(with); n > 2 && more {
			w.Says = fmt.Sprintf("The thumb alternates between %s strings.", smallNumber(n))
		}
	case !r.notes || len(fresh) == 0 || len(fresh) > mostNamed:
	case r.ID != missedStrum.ID && len(added(without, with)) > 0: // something else went as well
	case r.ID == missedStrum.ID:
		w.Name, named = "missed strum on "+spots(with, fresh), true
	case len(fresh) == 1:
		w.Name, named = NoteName(with, fresh[0]), true
	case with.Bars[fresh[0].Bar][fresh[0].Slot].Stop, fresh[0].Sign != fresh[1].Sign:
	default:
		w.Name, named = fmt.Sprintf("%s on %s", strokeName(with, fresh[0]), spots(with, fresh)), true
	}
	return w, named
}

// added lists in order the strokes that one pattern has at places where the
// other has no such stroke; on another grid nothing can be compared.
func added(p, below pattern.Pattern) (list []pattern.Place) {
	if p.Grid() != below.Grid() {
		return nil
	}
	p.Each(func(pl pattern.Place, _ pattern.Stroke) {
		if _, ok := below.At(pl); !ok {
			list = append(list, pl)
		}
	})
	return list
}

// NoteName names one stroke of a pattern: "index on the and of 2", "bass on 3",
// with its bar where the figure has several.
func NoteName(p pattern.Pattern, pl pattern.Place) string {
	name := fmt.Sprintf("%s on %s", strokeName(p, pl), p.Spot(pl.Slot))
	if len(p.Bars) > 1 {
		name += fmt.Sprintf(" in bar %d", pl.Bar+1)
	}
	return name
}

// spots lists the places of some strokes as they are counted.
func spots(p pattern.Pattern, places []pattern.Place) string {
	var names []string
	for _, pl := range places {
		name := p.Spot(pl.Slot)
		if len(p.Bars) > 1 {
			name += fmt.Sprintf(" in bar %d", pl.Bar+1)
		}
		names = append(names, name)
	}
	return say.And(names)
}

// signNames are what strikes, as a teacher says it; the ids of the table are the
// letters of the notation.
var signNames = map[pattern.Sign]string{
	pattern.Thumb: "bass", pattern.Index: "index", pattern.Middle: "middle finger", pattern.Ring: "ring finger", pattern.Little: "little finger",
	pattern.Down: "down strum", pattern.Up: "up strum", pattern.Nails: "brush", pattern.Sweep: "sweep", pattern.Knock: "palm hit", pattern.StopSign: "stop",
}

func strokeName(p pattern.Pattern, pl pattern.Place) string {
	st, _ := p.At(pl)
	return StrokeName(st)
}

// StrokeName is what a stroke is called: "bass", "middle finger", "down strum".
func StrokeName(st pattern.Stroke) string {
	name := signNames[st.Sign]
	if st.Sign.Strum() && st.Sign != pattern.Nails && (st.Target.Kind == pattern.Root || st.Target.Kind == pattern.Alternate || st.Target.Kind == pattern.LowFifth || st.Target.Strings.Len() == 1) {
		name = "pick"
	}
	return name
}

// thumbTargets counts the different strings that the thumb is sent to.
func thumbTargets(p pattern.Pattern) int {
	targets := map[pattern.Target]bool{}
	p.Each(func(_ pattern.Place, st pattern.Stroke) {
		if st.Sign == pattern.Thumb {
			targets[st.Target] = true
		}
	})
	return len(targets)
}

func smallNumber(n int) string {
	words := []string{"no", "one", "two", "three", "four", "five", "six"}
	if n < len(words) {
		return words[n]
	}
	return fmt.Sprint(n)
}
