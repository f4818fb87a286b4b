package main

import (
	"encoding/json"
	"fmt"
	"os"

	"github.com/spf13/cobra"

	"arplin/core/difficulty"
	"arplin/core/listen"
	"arplin/core/listen/sim"
	"arplin/core/song"
	"arplin/core/theory"
	"arplin/format/midifile"
	"arplin/format/wavfile"
	"arplin/sound"
)

// playCommand is the simulated player: a take with faults of known size, and the truth about it.
func playCommand() *cobra.Command {
	f := &calcFlags{}
	var bars int
	var faults, truth string
	var seed uint64
	var midi bool
	cmd := &cobra.Command{
		Use: "play", Short: "A simulated player with faults of known size, as WAV or MIDI on the standard output", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			data, about, err := f.play(bars, faults, seed, midi)
			if err == nil && truth != "" {
				err = os.WriteFile(truth, about, 0o600)
			}
			if err != nil {
				return badInput(cmd, err)
			}
			_, err = cmd.OutOrStdout().Write(data)
			return err
		},
	}
	p := cmd.Flags()
	f.playing(p)
	p.IntVar(&bars, "bars", 8, "how many bars")
	p.StringVar(&faults, "faults", "", `"late-thumb:40ms, rush:40ms, stop:F:400ms, wrong-string:10%, missed:m:20%, extra:5%, slowing:6, uneven:6, swung, bar-twice"`)
	p.Uint64Var(&seed, "seed", 1, "the same seed is the same take")
	p.BoolVar(&midi, "midi", false, "MIDI in place of WAV")
	p.StringVar(&truth, "truth", "", "a file for the truth, as JSON")
	cmd.SetFlagErrorFunc(func(cmd *cobra.Command, err error) error { return badInput(cmd, err) })
	return cmd
}

// scoreOf is a pattern over chords, for so many bars.
func scoreOf(t difficulty.Task, bars int) (listen.Score, error) {
	if bars < 1 || bars > song.MaxBars {
		return listen.Score{}, fmt.Errorf("bars: %d is not from 1 to %d", bars, song.MaxBars)
	}
	score := listen.Asked{Pattern: t.Pattern, Bars: t.Bars, Instrument: t.Instrument, School: t.School, Shapes: t.Shapes, Tempo: t.Tempo}.For(bars)
	if len(score.Strokes) == 0 {
		return score, fmt.Errorf("there is nothing to play in this pattern")
	}
	return score, nil
}

// play plays a take, and tells the truth about it.
func (f *calcFlags) play(bars int, faults string, seed uint64, midi bool) (data, truth []byte, err error) {
	t, err := f.theTask()
	if err != nil {
		return nil, nil, err
	}
	score, err := scoreOf(t, bars)
	if err != nil {
		return nil, nil, err
	}
	wrong, err := sim.ParseFaults(faults)
	if err != nil {
		return nil, nil, err
	}
	take := sim.Play(score, wrong, seed)
	if truth, err = json.MarshalIndent(truthOf(score, take), "", " "); err != nil {
		return nil, nil, err
	}
	if midi {
		data, err = midifile.Performance(take, midifile.NylonGuitar)
		return data, truth, err
	}
	strings := sound.Steel
	if t.Instrument.Family != "guitar" {
		strings = sound.Nylon
	}
	return sound.WAV(wavfile.Take(take, strings)), truth, nil
}

type truthAnswer struct {
	Tempo   int           `json:"tempo"`
	Strokes []truthStroke `json:"strokes"`
}

type truthStroke struct {
	Bar    int     `json:"bar"`
	Slot   int     `json:"slot"`
	With   string  `json:"with"`
	Asked  float64 `json:"asked_ms"`
	Played float64 `json:"played_ms"`
	State  string  `json:"state"`
	String string  `json:"string,omitempty"`
}

func truthOf(score listen.Score, take sim.Take) truthAnswer {
	out := truthAnswer{Tempo: score.Tempo, Strokes: []truthStroke{}}
	for _, s := range take.Truth {
		line := truthStroke{Bar: -1, Slot: -1, Played: tenth(s.At), State: string(s.State)}
		if s.Asked >= 0 {
			st := score.Strokes[s.Asked]
			line.Bar, line.Slot, line.With, line.Asked = st.Bar, st.Slot, string(st.By), tenth(st.At)
		}
		if s.String > 0 {
			line.String = theory.PlainPitch(s.String).String()
		}
		out.Strokes = append(out.Strokes, line)
	}
	return out
}
