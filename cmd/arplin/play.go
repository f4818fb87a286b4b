package main

import (
	"encoding/json"
	"fmt"
	"math"
	"os"
	"slices"

	"github.com/spf13/cobra"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/listen"
	"arplin/core/listen/sim"
	"arplin/core/song"
	"arplin/format/midifile"
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
	all := slices.Repeat(t.Bars, (bars+len(t.Bars)-1)/len(t.Bars))[:bars]
	sg := song.Song{Meter: t.Pattern.Meter, Tempo: t.Tempo, Sections: []song.Section{{Bars: all}}}
	line := bind.On{Song: sg, Fingered: sg, Instrument: t.Instrument, School: t.School, Shapes: t.Shapes}.Line(bind.Always(t.Pattern))
	score := listen.NewScore(line, t.School, t.Pattern, t.Tempo, bars)
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
		data, err = performance(take)
		return data, truth, err
	}
	strings := sound.Steel
	if t.Instrument.Family != "guitar" {
		strings = sound.Nylon
	}
	return sound.WAV(sound.Mix(soundsOf(take, strings), take.Seconds()+ringing)), truth, nil
}

// ringing is how long the last notes sound, in seconds.
const ringing = 2.5

// soundsOf are the tones of a take.
func soundsOf(take sim.Take, of sound.Strings) (notes []sound.Note) {
	for _, n := range take.Notes {
		note := sound.Note{At: max(0, n.At) / 1000, Loud: n.Loud, String: n.String}
		if n.Kind == bind.KnockSound {
			note.Tone = sound.Knock()
		} else {
			note.Of = sound.Tone{Strings: of, Touch: sound.Touch(n.Kind), Hertz: sound.Hertz(n.MIDI)}
		}
		notes = append(notes, note)
	}
	return notes
}

// A performance is written so that a tick is a twentieth of a millisecond.
const (
	perfDivision = 9600
	perfQuarters = 120.0
	perfTickMS   = 60000 / perfQuarters / perfDivision
)

// performance is a take as MIDI.
func performance(take sim.Take) ([]byte, error) {
	file := midifile.File{Title: "A take", Division: perfDivision, Tempos: []midifile.Tempo{{Quarters: perfQuarters}}, Meters: []midifile.Meter{{Beats: 4, Unit: 4}}}
	track := midifile.Track{Name: "Take", Program: 24}
	for _, n := range take.Notes {
		if n.MIDI == 0 {
			continue // a knock has no pitch
		}
		track.Notes = append(track.Notes, midifile.Note{Tick: int(math.Round(max(0, n.At) / perfTickMS)), Ticks: int(300 / perfTickMS), Key: n.MIDI, Velocity: max(1, min(127, int(math.Round(127*n.Loud))))})
	}
	file.Tracks = []midifile.Track{track}
	return midifile.Write(file)
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
			line.String = listen.NoteName(s.String)
		}
		out.Strokes = append(out.Strokes, line)
	}
	return out
}
