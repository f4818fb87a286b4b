package main

import (
	"errors"
	"fmt"
	"slices"

	"github.com/spf13/cobra"

	"arplin/core/bind"
	"arplin/core/pattern"
	"arplin/core/practice"
	"arplin/core/song"
	"arplin/store"
	"arplin/teach"
)

// soundCommand writes what a pattern sounds like, without a database.
func soundCommand() *cobra.Command {
	f := &calcFlags{}
	var bars int
	var click bool
	cmd := &cobra.Command{
		Use: "sound", Short: "What a pattern sounds like, as WAV on the standard output", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			wav, err := f.sound(bars, click)
			if err != nil {
				return badInput(cmd, err)
			}
			_, err = cmd.OutOrStdout().Write(wav)
			return err
		},
	}
	p := cmd.Flags()
	p.StringVar(&f.instrument, "instrument", "guitar", "guitar, ukulele, ukulele-low-g, baritone, …")
	p.StringVar(&f.tuning, "tuning", "", `open strings instead of an instrument, thickest position first: "E2 A2 D3 G3 B3 E4"`)
	p.StringVar(&f.school, "school", string(bind.Moving), "school of fingers: fixed or moving")
	p.IntVar(&f.capo, "capo", 0, "capo at a fret; chords are what sounds")
	p.StringVar(&f.pattern, "pattern", "", `pattern in the stroke notation: "4/4: p i m a"`)
	p.StringVar(&f.chords, "chords", "C", `bars of chords, over and over: "C | Am | F G7 | C"`)
	p.IntVar(&f.tempo, "tempo", song.DefaultTempo, "tapped beats a minute")
	p.IntVar(&bars, "bars", 4, "how many bars")
	p.BoolVar(&click, "click", false, "a click on every beat")
	cmd.SetFlagErrorFunc(func(cmd *cobra.Command, err error) error { return badInput(cmd, err) })
	return cmd
}

// sound renders bars of a pattern, from the first stroke on.
func (f *calcFlags) sound(bars int, click bool) ([]byte, error) {
	p, err := pattern.Parse(f.pattern)
	if err != nil {
		return nil, err
	}
	line, err := song.ParseChords(f.chords, p.Meter)
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
	if bars < 1 || bars > song.MaxBars {
		return nil, fmt.Errorf("bars: %d is not from 1 to %d", bars, song.MaxBars)
	}
	if len(line) == 0 {
		return nil, errors.New("chords: there is none")
	}
	if f.tempo < practice.MinTempo || f.tempo > practice.MaxTempo {
		return nil, fmt.Errorf("tempo: %d is not from %d to %d beats a minute", f.tempo, practice.MinTempo, practice.MaxTempo)
	}
	all := slices.Repeat(line, (bars+len(line)-1)/len(line))[:bars]
	c := teach.Class{Class: store.Class{Fingers: string(school.Fingers)}}
	return teach.FigureOn("A figure", p, all, f.tempo, ins, c, teach.ScoreAsk{}).WAV(teach.PlayAlong{Tempo: f.tempo, Click: click})
}
