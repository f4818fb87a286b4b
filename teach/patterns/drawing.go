package patterns

import (
	"fmt"
	"slices"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/played"
	"arplin/core/song"
	"arplin/core/theory"
	"arplin/draw"
	"arplin/teach/people"
)

// drawer draws patterns on chords for a class; the shape of a chord is looked for
// once.
type drawer struct {
	ins        []fretboard.Instrument
	school     bind.School
	thickOnTop bool
	shapes     map[string]fretboard.Voicing
}

func NewDrawer(c people.Class) *drawer {
	return &drawer{c.Instruments(), c.School(), c.ThickOnTop, map[string]fretboard.Voicing{}}
}

// easiest is the easiest shape of a chord; ok is false where there is none.
func (d *drawer) easiest(ins fretboard.Instrument, ch theory.Chord) (v fretboard.Voicing, ok bool) {
	key := ins.ID + " " + ch.String()
	if v, ok = d.shapes[key]; ok {
		return v, v.Strings() > 0
	}
	v, ok = fretboard.Easiest(ins, ch)
	d.shapes[key] = v
	return v, ok
}

// strip draws a pattern on the easiest shape of a chord.
func (d *drawer) strip(p pattern.Pattern, ins fretboard.Instrument, chord string, fresh map[pattern.Place]bool, slot float64) draw.SVG {
	st, _ := d.bound(p, ins, chord)
	st.New, st.SlotWidth = fresh, slot
	return st.SVG()
}

// bound is the strip of a pattern on a chord, with the notices of its binding.
func (d *drawer) bound(p pattern.Pattern, ins fretboard.Instrument, chord string) (draw.Strip, []bind.Notice) {
	st := draw.OfBars(ins, p, nil)
	st.Frets, st.ThickOnTop, st.Label = false, d.thickOnTop, fmt.Sprintf("%s on %s, %s", p, chord, ins.Name)
	ch, err := theory.ParseChord(chord)
	if err != nil {
		return st, nil
	}
	v, ok := d.easiest(ins, ch)
	if !ok {
		return st, nil
	}
	r := bind.Pattern(ins, d.school, p, ch, v.Shape)
	st.Events = r.Events
	return st, r.Notices
}

// OnChord is a pattern on one chord of one instrument.
type OnChord struct {
	Chord, Instrument string
	Bass              string // where the thumb strikes it
	Strip             draw.SVG
	Notices           []string
}

// BenchChords have their roots on strings 6, 5 and 4 of a guitar; the teacher's
// choice follows.
var BenchChords = []string{"G", "C", "D"}

// onAll draws the pattern on the four chords of every instrument.
func (d *drawer) onAll(p pattern.Pattern, choice string) []OnChord {
	var list []OnChord
	for _, ins := range d.ins {
		for _, chord := range append(slices.Clone(BenchChords), choice) {
			ch, err := theory.ParseChord(chord)
			if err != nil {
				continue
			}
			st, notices := d.bound(p, ins, chord)
			st.Frets = true
			on := OnChord{Chord: chord, Instrument: ins.Name, Strip: st.SVG()}
			if v, ok := d.easiest(ins, ch); ok {
				on.Bass = ins.Bass(v.Root)
			}
			for _, n := range notices {
				on.Notices = append(on.Notices, n.String())
			}
			list = append(list, on)
		}
	}
	return list
}

// GhostsOf are the events that a figure leaves out.
func GhostsOf(events []played.Event, missing map[pattern.Place]bool) (ghosts []played.Event) {
	for _, e := range events {
		if missing[pattern.Place{Bar: e.Bar, Slot: e.Slot, Sign: e.Stroke.Sign}] {
			ghosts = append(ghosts, e)
		}
	}
	return ghosts
}

// FirstChord is the first chord of a song that can be read.
func FirstChord(sg song.Song) theory.Chord {
	if chords := sg.Chords(); len(chords) > 0 {
		return chords[0]
	}
	return theory.MustChord(BenchChord)
}
