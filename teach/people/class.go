package people

import (
	"cmp"
	"context"
	"encoding/json"
	"slices"
	"strings"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/ladder/order"
	"arplin/core/song"
	"arplin/core/song/hand"
	"arplin/core/song/keys"
	"arplin/core/theory"
	"arplin/store"
	"arplin/store/ref"
)

// Class is the class that a teacher works with, with those who are in it. A
// teacher without one has the zero class, and everything is on guitar.
type Class struct {
	store.Class
	Has      bool
	Students []store.Student
	All      []store.Class // of the teacher, for the choice in the head of a page
	on       song.Song     // what is played, where that is known
}

// Visit is who is signed in, with the wanted class, or the first; store.ErrNotFound where the account
// is gone.
func (t *Room) Visit(ctx context.Context, teacher ref.Teacher, wanted ref.Class) (store.Teacher, Class, error) {
	v, err := t.Store.Visit(ctx, teacher, wanted)
	c := Class{All: v.Classes, Students: v.Students, Has: v.At != 0}
	for _, cl := range v.Classes {
		if cl.ID == v.At {
			c.Class = cl
		}
	}
	return v.Teacher, c, err
}

// Class is the wanted class, or the first.
func (t *Room) Class(ctx context.Context, teacher ref.Teacher, wanted ref.Class) (Class, error) {
	_, c, err := t.Visit(ctx, teacher, wanted)
	return c, err
}

// ClassOf is a class by its id, archived or not: a ladder's or a student's, which
// need not be the one that the teacher works with.
func (t *Room) ClassOf(ctx context.Context, teacher ref.Teacher, id ref.Class, at Class) (Class, error) {
	if at.ID == id {
		return at, nil
	}
	class, err := t.Store.Class(ctx, teacher, id)
	if err != nil {
		return Class{}, err
	}
	students, err := t.Store.Students(ctx, teacher, id)
	return Class{Class: class, Has: true, Students: students, All: at.All}, err
}

// Student finds one of the class; the zero student for one who is not in it.
func (c Class) Student(id ref.Student) (store.Student, bool) {
	i := slices.IndexFunc(c.Students, func(st store.Student) bool { return st.ID == id })
	if i < 0 {
		return store.Student{}, false
	}
	return c.Students[i], true
}

// School is the class's side in what touches the binding.
func (c Class) School() bind.School {
	return bind.School{Fingers: bind.FingerSchool(c.Fingers), LowFifth: c.LowFifth, Pick: c.Pick, Roll: bind.RollSchool(c.Roll)}.On(c.on)
}

// On is the class with a song, for whose chords the teacher may have chosen what the thumb does.
func (c Class) On(sg song.Song) Class {
	c.on = song.Song{Roots: sg.Roots}
	return c
}

// For is the class as it is for one student, who may differ from it.
func (c Class) For(st store.Student) Class {
	c.Fingers = cmp.Or(st.Fingers, c.Fingers)
	return c
}

// Held is a song as a student plays it: under the capo that always sits on the own
// instrument, with shapes of their own, and around what the hand cannot do yet.
func Held(st store.Student, sg song.Song) song.Song {
	ins, err := fretboard.ByID(st.Instrument)
	if err != nil {
		return sg
	}
	if st.Capo > 0 {
		sg = sg.Clone()
		if sg.Capo == nil {
			sg.Capo = map[string]int{}
		}
		sg.Capo[ins.ID] = st.Capo
	}
	around, _ := Around(st, sg, ins)
	sg = sg.HeldBy(ins, around)
	own, err := hand.ParseOwn(st.Shapes, ins)
	if err != nil {
		return sg
	}
	return sg.HeldBy(ins, own) // what the teacher has written goes before what was found
}

// Around finds shapes for what a student's hand cannot do yet; without are the chords for
// which there is none.
func Around(st store.Student, sg song.Song, ins fretboard.Instrument) (own map[string]string, without []string) {
	cannot, err := hand.ParseCannots(st.Cannot)
	if err != nil {
		return nil, nil
	}
	own, without = hand.Around(sg, ins, cannot)
	if written, err := hand.ParseOwn(st.Shapes, ins); err == nil { // the teacher knows a way
		without = slices.DeleteFunc(without, func(chord string) bool { return written[chord] != "" })
	}
	return own, without
}

// Instruments lists the instruments of the class: the known ones in their order,
// then the teacher's own tunings by name. Who came first does not matter.
func (c Class) Instruments() []fretboard.Instrument {
	var list, own []fretboard.Instrument
	for _, ins := range fretboard.Instruments {
		if slices.ContainsFunc(c.Students, func(st store.Student) bool { return st.Instrument == ins.ID }) {
			list = append(list, ins)
		}
	}
	has := func(ins fretboard.Instrument) func(fretboard.Instrument) bool {
		return func(o fretboard.Instrument) bool { return o.ID == ins.ID }
	}
	for _, st := range c.Students {
		ins, err := fretboard.ByID(st.Instrument)
		if err == nil && !slices.ContainsFunc(list, has(ins)) && !slices.ContainsFunc(own, has(ins)) {
			own = append(own, ins)
		}
	}
	slices.SortFunc(own, func(a, b fretboard.Instrument) int { return strings.Compare(a.ID, b.ID) })
	if list = append(list, own...); len(list) == 0 {
		list = fretboard.Instruments[:1]
	}
	return list
}

// Instrument is the one that is asked for, or the first of the class.
func (c Class) Instrument(id string) fretboard.Instrument {
	if ins, err := fretboard.ByID(id); err == nil {
		return ins
	}
	return c.Instruments()[0]
}

// Players counts the class by instrument; an empty class is one guitar.
func (c Class) Players() []keys.Players {
	var list []keys.Players
	for _, ins := range c.Instruments() {
		p := keys.Players{Instrument: ins}
		for _, st := range c.Students {
			if st.Instrument == ins.ID {
				p.Count++
			}
		}
		p.Count = max(1, p.Count)
		list = append(list, p)
	}
	return list
}

// Voice is what the class sings comfortably.
func (c Class) Voice() keys.Range {
	low, errLow := theory.ParsePitch(c.SingLow)
	high, errHigh := theory.ParsePitch(c.SingHigh)
	if errLow != nil || errHigh != nil {
		return keys.DefaultRange
	}
	return keys.Range{Low: low, High: high}
}

// Factors are how much more or less a part may count.
var Factors = []float64{0, 0.5, 1, 1.5, 2, 3}

// FactorsOf are the class's own; what is not named, or cannot be read, is as
// fitted.
func (c Class) FactorsOf() map[difficulty.PartID]float64 {
	by := map[difficulty.PartID]float64{}
	if c.Weights != "" {
		if err := json.Unmarshal([]byte(c.Weights), &by); err != nil {
			return nil
		}
	}
	return by
}

// Choice is how the ladders of the class are built, where nothing else is chosen.
func (c Class) Choice() order.Choice {
	return order.Choice{Order: order.Order(c.Grows), Size: order.Size(c.StepSize), Chords: order.Chords(c.ChordsCome)}.Whole()
}

// Weigh is the weights with the class's own factors.
func (c Class) Weigh() difficulty.Weights { return difficulty.Fitted.Scaled(c.FactorsOf()) }

// InstrumentName is what an instrument is called, known or not.
func InstrumentName(id string) string {
	ins, err := fretboard.ByID(id)
	if err != nil {
		return id
	}
	return ins.Name
}

// CannotYet names what a student's hand cannot do yet, as after "no".
func CannotYet(st store.Student) (list []string) {
	cannot, err := hand.ParseCannots(st.Cannot)
	if err != nil {
		return nil
	}
	for _, c := range cannot {
		for _, n := range hand.Cannots {
			if n.Cannot == c {
				list = append(list, strings.TrimPrefix(strings.TrimPrefix(n.Name, "a "), "the "))
			}
		}
	}
	return list
}
