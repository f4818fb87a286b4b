package main

import (
	"errors"
	"fmt"
	"slices"

	"arplin/core/arrange"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/theory"
)

type melodyAnswer struct {
	Notes    []melodyNote  `json:"notes"`
	Bass     []melodyNote  `json:"bass"`
	Shapes   []melodyShape `json:"shapes"` // one a bar: that in which the chord becomes another, else the first
	Grips    []melodyShape `json:"grips"`  // all of them
	Unplaced []melodyLeft  `json:"unplaced"`
}

type melodyNote struct {
	Bar    int     `json:"bar"`
	Beat   float64 `json:"beat"`
	Pitch  string  `json:"pitch"`
	String int     `json:"string"`
	Fret   int     `json:"fret"`
}

type melodyShape struct {
	Bar     int    `json:"bar"`
	Chord   string `json:"chord"`
	Becomes string `json:"becomes"`
	Frets   string `json:"frets"`
}

type melodyLeft struct {
	Bar   int     `json:"bar"`
	Beat  float64 `json:"beat"`
	Pitch string  `json:"pitch"`
	Why   string  `json:"why"`
}

// calcMelody puts notes on strings over chords, a bar each; bars and beats count from 1.
func calcMelody(f *calcFlags) (any, error) {
	meter, err := pattern.ParseMeter(f.meter)
	if err != nil {
		return nil, fmt.Errorf("meter: %w", err)
	}
	if f.chords == "" {
		return nil, errors.New("chords: there is none")
	}
	bars, err := song.ParseChords(f.chords, meter)
	if err != nil {
		return nil, err
	}
	bass, err := arrange.ParseBass(f.bass)
	if err != nil {
		return nil, fmt.Errorf("bass: %w", err)
	}
	ins, err := f.theInstrument()
	if err != nil {
		return nil, err
	}
	sec := song.Section{Name: "the melody", Bars: bars}
	if err := sec.SetTune(f.notes, meter.BeatTicks()); err != nil {
		return nil, err
	}
	sg := song.Song{Meter: meter, Sections: []song.Section{sec}}
	p := arrange.Place(arrange.Task{Instrument: ins, Meter: meter, Bars: sec.Bars, Shapes: sg.ShapesOn(ins), Bass: bass})
	a := melodyAnswer{Notes: []melodyNote{}, Bass: []melodyNote{}, Shapes: []melodyShape{}, Grips: []melodyShape{}, Unplaced: []melodyLeft{}}
	beat := func(tick int) float64 { return 1 + float64(tick)/float64(meter.BeatTicks()) }
	name := func(midi int) string { return theory.PitchOf(midi, theory.PlainNote(midi)).String() }
	for i, bar := range p.Bars {
		for _, st := range bar.Strokes {
			n := melodyNote{i + 1, beat(st.Tick), name(st.MIDI), int(st.String), int(st.Fret)}
			if st.Melody {
				a.Notes = append(a.Notes, n)
			} else {
				a.Bass = append(a.Bass, n)
			}
		}
		first := len(a.Grips)
		for _, g := range bar.Grips {
			chord := ""
			if !g.Chord.IsZero() {
				chord = g.Chord.String()
			}
			a.Grips = append(a.Grips, melodyShape{i + 1, chord, g.Becomes, g.Voicing.Shape.String()})
		}
		if grips := a.Grips[first:]; len(grips) > 0 {
			at := slices.IndexFunc(grips, func(g melodyShape) bool { return g.Becomes != "" })
			a.Shapes = append(a.Shapes, grips[max(0, at)])
		}
	}
	for _, l := range p.Left {
		a.Unplaced = append(a.Unplaced, melodyLeft{l.Bar + 1, beat(l.Tick), name(l.MIDI), l.Why})
	}
	return a, nil
}
