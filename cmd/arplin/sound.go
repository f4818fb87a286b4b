package main

import (
	"context"
	"fmt"
	"slices"

	"github.com/spf13/cobra"

	"arplin/core/song"
	"arplin/store"
	"arplin/teach/people"
	"arplin/teach/songs"
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
	f.playing(p)
	p.IntVar(&bars, "bars", 4, "how many bars")
	p.BoolVar(&click, "click", false, "a click on every beat")
	cmd.SetFlagErrorFunc(func(cmd *cobra.Command, err error) error { return badInput(cmd, err) })
	return cmd
}

// sound renders bars of a pattern, from the first stroke on.
func (f *calcFlags) sound(bars int, click bool) ([]byte, error) {
	t, err := f.theTask()
	if err != nil {
		return nil, err
	}
	if bars < 1 || bars > song.MaxBars {
		return nil, fmt.Errorf("bars: %d is not from 1 to %d", bars, song.MaxBars)
	}
	all := slices.Repeat(t.Bars, (bars+len(t.Bars)-1)/len(t.Bars))[:bars]
	c := people.Class{Class: store.Class{Fingers: string(t.School.Fingers)}}
	return songs.FigureOn("A figure", t.Pattern, all, t.Tempo, t.Instrument, c, songs.ScoreAsk{}).WAV(context.Background(), songs.PlayAlong{Tempo: t.Tempo, Click: click})
}
