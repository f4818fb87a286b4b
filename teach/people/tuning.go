package people

import (
	"fmt"
	"slices"

	"arplin/core/fretboard"
	"arplin/sound"
)

// Tuning is an instrument with its open strings, the thickest first.
type Tuning struct {
	ID         string
	Instrument string
	Strings    []OpenString
}

// OpenString is a string to be tuned to.
type OpenString struct {
	Name  string  // "E2"
	Tone  string  // the address of its tone
	Hertz float64 // with A4 at 440
}

// Tunings are the open strings of instruments.
func Tunings(instruments []fretboard.Instrument) (list []Tuning) {
	for _, ins := range instruments {
		t := Tuning{ID: ins.ID, Instrument: ins.Name}
		for _, p := range ins.Tuning {
			t.Strings = append(t.Strings, OpenString{p.String(), fmt.Sprintf("/tones?of=%s&as=flesh&midi=%d", Family(ins), p.MIDI()), sound.Hertz(p.MIDI())})
		}
		list = append(list, t)
	}
	return list
}

// TuningUp is one instrument to be tuned, and all that could be: those of the class first.
type TuningUp struct {
	Chosen Tuning
	All    []Tuning
}

// TuneUp chooses an instrument by its id, or the first of the class.
func (c Class) TuneUp(id string) TuningUp {
	instruments := c.Instruments()
	for _, ins := range fretboard.Instruments {
		if !slices.ContainsFunc(instruments, func(have fretboard.Instrument) bool { return have.ID == ins.ID }) {
			instruments = append(instruments, ins)
		}
	}
	all := Tunings(instruments)
	at := max(0, slices.IndexFunc(all, func(t Tuning) bool { return t.ID == id }))
	return TuningUp{all[at], all}
}

// Family is whose strings an instrument has.
func Family(ins fretboard.Instrument) sound.Strings {
	if ins.Traits().Steel {
		return sound.Steel
	}
	return sound.Nylon
}
