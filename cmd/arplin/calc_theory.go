package main

import (
	"fmt"
	"strings"

	"arplin/core/bpm"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/theory"
)

// theSong reads --chords as a song in 4/4; only the order and share of the
// chords matter here.
func (f *calcFlags) theSong() (song.Song, error) {
	meter := pattern.Meter{Beats: 4, Unit: 4}
	bars, err := song.ParseChords(f.chords, meter)
	return song.Song{Meter: meter, Tempo: bpm.Usual, Sections: []song.Section{{Bars: bars}}}, err
}

func calcKey(f *calcFlags) (any, error) {
	sg, err := f.theSong()
	if err != nil {
		return nil, err
	}
	guess := sg.KeyGuess()
	a := struct {
		Key        string   `json:"key"`
		Degrees    []string `json:"degrees"`
		Confidence float64  `json:"confidence"`
	}{Key: guess.Key.String(), Confidence: guess.Confidence}
	for _, sp := range sg.Spans() {
		a.Degrees = append(a.Degrees, guess.Key.Degree(sp.Chord))
	}
	return a, nil
}

func calcTranspose(f *calcFlags) (any, error) {
	sg, err := f.theSong()
	if err != nil {
		return nil, err
	}
	from := sg.KeyGuess().Key
	to := from.Up(f.by)
	if f.to != "" {
		if to, err = theory.ParseKey(f.to); err != nil {
			return nil, fmt.Errorf("to: %w", err)
		}
	}
	if to.Minor != from.Minor {
		return nil, fmt.Errorf("to: the chords are in %s, and %s is of the other kind", from, to)
	}
	var bars []string
	for _, bar := range sg.Bars() {
		var symbols []string
		for _, ch := range bar.Changes {
			c, err := ch.Chord()
			if err != nil {
				return nil, err
			}
			symbols = append(symbols, c.Transpose(from, to).String())
		}
		bars = append(bars, strings.Join(symbols, " "))
	}
	return struct {
		Chords string `json:"chords"`
		Key    string `json:"key"`
	}{strings.Join(bars, " | "), to.String()}, nil
}

type shapeAnswer struct {
	Frets      []int        `json:"frets"`
	Text       string       `json:"text"`
	Fingers    []int        `json:"fingers"`
	Barre      *barreAnswer `json:"barre"`
	RootString int          `json:"root_string"`
	Bass       string       `json:"bass"`
	Effort     float64      `json:"effort"`
	Missing    []string     `json:"missing"`
}

type barreAnswer struct {
	Fret int `json:"fret"`
	From int `json:"from"`
	To   int `json:"to"`
}

func calcShapes(f *calcFlags) (any, error) {
	c, err := theory.ParseChord(f.chord)
	if err != nil {
		return nil, err
	}
	ins, err := f.theInstrument()
	if err != nil {
		return nil, err
	}
	if f.max < 1 || f.max > 1000 {
		return nil, fmt.Errorf("max: %d is not a number from 1 to 1000", f.max)
	}
	shapes := []shapeAnswer{}
	for _, v := range fretboard.Find(ins, c, f.max) {
		shapes = append(shapes, shapeAnswerOf(v))
	}
	return struct {
		Shapes []shapeAnswer `json:"shapes"`
	}{shapes}, nil
}

func shapeAnswerOf(v fretboard.Voicing) shapeAnswer {
	a := shapeAnswer{Text: v.String(), RootString: int(v.Root), Bass: v.Bass.String(), Effort: v.Effort, Missing: []string{}}
	for _, fret := range v.Frets() {
		a.Frets = append(a.Frets, int(fret))
	}
	for _, finger := range v.Fingering.List() {
		a.Fingers = append(a.Fingers, int(finger))
	}
	if b := v.Fingering.Barre; b.From != 0 {
		a.Barre = &barreAnswer{int(b.Fret), int(b.From), int(b.To)}
	}
	for _, d := range v.Missing {
		a.Missing = append(a.Missing, d.String())
	}
	return a
}

func calcChange(f *calcFlags) (any, error) {
	ins, err := f.theInstrument()
	if err != nil {
		return nil, err
	}
	from, err := heldShape(ins, "from", f.from)
	if err != nil {
		return nil, err
	}
	to, err := heldShape(ins, "to", f.to)
	if err != nil {
		return nil, err
	}
	ch := fretboard.ChangeBetween(ins, from, to)
	return struct {
		Effort  float64 `json:"effort"`
		Kept    []int   `json:"kept"`
		Moved   []int   `json:"moved"`
		Seconds float64 `json:"seconds"`
	}{ch.Effort, ints(ch.Kept), ints(ch.Moved), ch.Seconds}, nil
}

// heldShape reads a shape of which only the fingers matter.
func heldShape(ins fretboard.Instrument, flag, text string) (fretboard.Voicing, error) {
	sh, err := fretboard.ParseShape(text)
	if err != nil {
		return fretboard.Voicing{}, fmt.Errorf("%s: %w", flag, err)
	}
	if sh.Strings() != ins.Strings() {
		return fretboard.Voicing{}, fmt.Errorf("%s: %q has %d strings, %s has %d", flag, text, sh.Strings(), ins.Name, ins.Strings())
	}
	if _, ok := fretboard.Finger(sh); !ok {
		return fretboard.Voicing{}, fmt.Errorf("%s: no hand can hold %s", flag, text)
	}
	return fretboard.Read(ins, theory.Chord{}, sh), nil
}

func ints(fingers []int8) []int {
	list := []int{}
	for _, f := range fingers {
		list = append(list, int(f))
	}
	return list
}
