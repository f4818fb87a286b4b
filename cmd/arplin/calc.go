package main

import (
	"encoding/json"
	"fmt"
	"io"
	"strings"

	"github.com/spf13/cobra"
	"github.com/spf13/pflag"

	"arplin/core/bind"
	"arplin/core/bpm"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/played"
	"arplin/core/theory"
)

// calcFlags are what the verbs read; each looks at its own.
type calcFlags struct {
	instrument, tuning, school string
	capo                       int
	pattern, chord, frets      string
	chords, to, from           string
	words, meter, shapes       string
	order, size, chordsCome    string
	first, pair                string
	names, notes, bass         string
	today                      string
	by, max, grid, tempo, bar  int
	goal                       int
	in                         io.Reader
}

func calcCommand() *cobra.Command {
	f := &calcFlags{}
	cmd := &cobra.Command{
		Use: "calc VERB", Short: "The core's answers as JSON, without a database",
		RunE: func(cmd *cobra.Command, args []string) error {
			return badInput(cmd, fmt.Errorf("calc: %q is not one of its verbs; see arplin calc --help", strings.Join(args, " ")))
		},
	}
	p := cmd.PersistentFlags()
	f.playing(p)
	p.StringVar(&f.chord, "chord", "", `chord symbol: "Bbm7b5/Ab"`)
	p.StringVar(&f.frets, "frets", "", `shape, thickest string first: "x32010"`)
	p.StringVar(&f.to, "to", "", `a key, "G major", for transpose; a shape for change`)
	p.StringVar(&f.words, "words", "", `spoken strums: "down, down-up"`)
	p.StringVar(&f.meter, "meter", "4/4", "time signature for spoken strums")
	p.IntVar(&f.grid, "grid", 8, "slots a bar for spoken strums")
	p.StringVar(&f.from, "from", "", "a shape for change; a level for ladder")
	p.StringVar(&f.shapes, "shapes", "", `shapes chosen by hand: "F=133211,G7=320001"`)
	p.IntVar(&f.bar, "bar", 1, "the bar that fails, from 1, for drill")
	p.StringVar(&f.order, "order", "", "of a ladder: thumb first, alternation last, rhythm first, accents early, cell by cell, full first")
	p.StringVar(&f.size, "size", "", "size of a ladder’s steps: small, usual, big")
	p.StringVar(&f.chordsCome, "chords-come", "", "when a ladder’s chords come: end, each, two")
	p.StringVar(&f.first, "first", "", "the first chord of a ladder, as it is fingered")
	p.StringVar(&f.pair, "pair", "", "the first two chords of a ladder: \"C,G\"")
	p.StringVar(&f.names, "names", "", "what the chords of a sheet are called: english or german; else as they say themselves")
	p.StringVar(&f.notes, "notes", "", `notes of a tune: "E4:1 G4:1 A4:2 | r:1 …"`)
	p.StringVar(&f.bass, "bass", "alternating", "under a tune: none, one, pulse or alternating")
	p.IntVar(&f.goal, "goal", 0, "the goal of a step, in beats a minute, for practice")
	p.StringVar(&f.today, "today", "", "the day of a decision: 2026-03-02")
	p.IntVar(&f.by, "by", 0, "semitones for transpose")
	p.IntVar(&f.max, "max", 8, "how many shapes")
	for _, verb := range []struct {
		name, short string
		answer      func(*calcFlags) (any, error)
	}{
		{"chord", "what a chord is made of", calcChord},
		{"bind", "a pattern on a chord: strokes on strings", calcBind},
		{"count", "the count under a pattern", calcCount},
		{"hand", "the motion of the hand", calcHand},
		{"spoken", "spoken strums as a pattern", calcSpoken},
		{"demand", "how hard a pattern is, part by part", calcDemand},
		{"vary", "simpler and harder neighbours of a pattern", calcVary},
		{"drill", "exercises for a bar that fails", calcDrill},
		{"ladder", "the steps up to a pattern", calcLadder},
		{"melody", "a tune over chords: where its notes lie on the strings", calcMelody},
		{"taps", "reads taps, ms,thumb or ms,fingers a line, from standard input and judges them against a pattern", calcTaps},
		{"practice", "reads log lines from standard input: how each step stands, and what comes next", calcPractice},
		{"song", "a chord sheet on the standard input, as it was understood", calcSong},
		{"key", "the key of chords, and their degrees", calcKey},
		{"transpose", "chords in another key", calcTranspose},
		{"shapes", "the easiest shapes of a chord", calcShapes},
		{"change", "the way from one shape to another", calcChange},
	} {
		cmd.AddCommand(&cobra.Command{
			Use: verb.name, Short: verb.short,
			RunE: func(cmd *cobra.Command, args []string) error {
				if len(args) > 0 {
					return badInput(cmd, fmt.Errorf("calc %s: %q belongs to no flag; put texts with blanks in quotes", verb.name, args[0]))
				}
				f.in = cmd.InOrStdin()
				return printAnswer(cmd, f, verb.answer)
			},
		})
	}
	cmd.SetFlagErrorFunc(func(cmd *cobra.Command, err error) error { return badInput(cmd, err) })
	return cmd
}

// playing are the flags of what is played, and on what.
func (f *calcFlags) playing(p *pflag.FlagSet) {
	p.StringVar(&f.instrument, "instrument", "guitar", "guitar, ukulele, ukulele-low-g, baritone, …")
	p.StringVar(&f.tuning, "tuning", "", `open strings instead of an instrument, thickest position first: "E2 A2 D3 G3 B3 E4"`)
	p.StringVar(&f.school, "school", string(bind.Moving), "school of fingers: fixed or moving")
	p.IntVar(&f.capo, "capo", 0, "capo at a fret; chords are what sounds, frets count from the capo")
	p.StringVar(&f.pattern, "pattern", "", `pattern in the stroke notation: "4/4: p i m a"`)
	p.StringVar(&f.chords, "chords", "", `bars of chords: "C | Am | F G7 | C"`)
	p.IntVar(&f.tempo, "tempo", bpm.Usual, "tapped beats a minute")
}

// printAnswer prints one JSON object, or one line on stderr and status 2.
func printAnswer(cmd *cobra.Command, f *calcFlags, answer func(*calcFlags) (any, error)) error {
	value, err := answer(f)
	if err != nil {
		return badInput(cmd, err)
	}
	out := json.NewEncoder(cmd.OutOrStdout())
	out.SetEscapeHTML(false)
	return out.Encode(value)
}

func badInput(cmd *cobra.Command, err error) error {
	fmt.Fprintln(cmd.ErrOrStderr(), err)
	return errBadInput
}

// theInstrument is the one named, or the teacher's own tuning, under the capo.
func (f *calcFlags) theInstrument() (fretboard.Instrument, error) {
	if f.capo < 0 || f.capo > 12 {
		return fretboard.Instrument{}, fmt.Errorf("capo: %d is not a fret from 0 to 12", f.capo)
	}
	if f.tuning != "" {
		tuning, err := fretboard.ParseTuning(f.tuning)
		if err != nil {
			return fretboard.Instrument{}, err
		}
		return fretboard.Custom(tuning).WithCapo(f.capo), nil
	}
	ins, err := fretboard.ByID(f.instrument)
	return ins.WithCapo(f.capo), err
}

func (f *calcFlags) theSchool() (bind.School, error) {
	school := bind.DefaultSchool
	var err error
	if school.Fingers, err = bind.ParseFingerSchool(f.school); err != nil {
		return school, fmt.Errorf("school: %w", err)
	}
	return school, nil
}

// theShape is the one written, or the easiest for the chord.
func (f *calcFlags) theShape(ins fretboard.Instrument, c theory.Chord) (fretboard.Shape, error) {
	if f.frets == "" {
		v, ok := fretboard.Easiest(ins, c)
		if !ok {
			return fretboard.Shape{}, fmt.Errorf("frets: no shape for %s was found on %s", c, ins.Name)
		}
		return v.Shape, nil
	}
	sh, err := fretboard.ParseShape(f.frets)
	if err != nil {
		return sh, fmt.Errorf("frets: %w", err)
	}
	if sh.Strings() != ins.Strings() {
		return sh, fmt.Errorf("frets: %q has %d strings, %s has %d", f.frets, sh.Strings(), ins.Name, ins.Strings())
	}
	return sh, nil
}

type chordAnswer struct {
	Chord   string   `json:"chord"`
	Root    string   `json:"root"`
	Bass    string   `json:"bass"`
	Notes   []string `json:"notes"`
	Degrees []string `json:"degrees"`
}

func calcChord(f *calcFlags) (any, error) {
	c, err := theory.ParseChord(f.chord)
	if err != nil {
		return nil, err
	}
	a := chordAnswer{Chord: c.String(), Root: c.Root.String(), Bass: c.Bass.String()}
	for _, n := range c.Notes() {
		a.Notes = append(a.Notes, n.String())
	}
	for _, d := range c.Degrees() {
		a.Degrees = append(a.Degrees, d.String())
	}
	return a, nil
}

type bindAnswer struct {
	Bars    int          `json:"bars"`
	Slots   int          `json:"slots"`
	Events  []boundEvent `json:"events"`
	Notices []string     `json:"notices"`
}

type boundEvent struct {
	Bar       int      `json:"bar"`
	Slot      int      `json:"slot"`
	Kind      string   `json:"kind"`
	Finger    string   `json:"finger"`
	Direction string   `json:"direction"`
	Strings   []int    `json:"strings"`
	Frets     []int    `json:"frets"`
	Pitches   []string `json:"pitches"`
	Accent    bool     `json:"accent"`
	Soft      bool     `json:"soft"`
	Muted     bool     `json:"muted"`
}

func calcBind(f *calcFlags) (any, error) {
	p, err := pattern.Parse(f.pattern)
	if err != nil {
		return nil, err
	}
	c, err := theory.ParseChord(f.chord)
	if err != nil {
		return nil, err
	}
	ins, err := f.theInstrument()
	if err != nil {
		return nil, err
	}
	school, err := f.theSchool()
	if err != nil {
		return nil, err
	}
	sh, err := f.theShape(ins, c)
	if err != nil {
		return nil, err
	}
	r := bind.Pattern(ins, school, p, c, sh)
	a := bindAnswer{Bars: len(p.Bars), Slots: p.Grid(), Events: []boundEvent{}, Notices: []string{}}
	for _, e := range r.Events {
		a.Events = append(a.Events, boundEventOf(e))
	}
	for _, n := range r.Notices {
		a.Notices = append(a.Notices, n.String())
	}
	return a, nil
}

func boundEventOf(e played.Event) boundEvent {
	b := boundEvent{
		Bar: e.Bar, Slot: e.Slot, Kind: string(e.Kind), Finger: e.Finger, Direction: e.Direction,
		Strings: []int{}, Frets: []int{}, Pitches: []string{}, Accent: e.Accent, Soft: e.Soft, Muted: e.Muted,
	}
	for i := range e.Strings {
		b.Strings = append(b.Strings, int(e.Strings[i]))
		b.Frets = append(b.Frets, int(e.Frets[i]))
		b.Pitches = append(b.Pitches, e.Pitches[i].String())
	}
	return b
}

func calcCount(f *calcFlags) (any, error) {
	p, err := pattern.Parse(f.pattern)
	if err != nil {
		return nil, err
	}
	return struct {
		Counts []string `json:"counts"`
	}{p.Counts()}, nil
}

func calcHand(f *calcFlags) (any, error) {
	p, err := pattern.Parse(f.pattern)
	if err != nil {
		return nil, err
	}
	return struct {
		Motion []pattern.Motion `json:"motion"`
	}{p.Motions()}, nil
}

func calcSpoken(f *calcFlags) (any, error) {
	m, err := pattern.ParseMeter(f.meter)
	if err != nil {
		return nil, fmt.Errorf("meter: %w", err)
	}
	p, err := pattern.Spoken(f.words, m, f.grid)
	if err != nil {
		return nil, err
	}
	return struct {
		Pattern string `json:"pattern"`
	}{p.String()}, nil
}
