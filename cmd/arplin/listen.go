package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"math"
	"os"

	"github.com/spf13/cobra"

	"arplin/core/listen"
	"arplin/core/song"
	"arplin/format/midifile"
	"arplin/format/wavfile"
)

// listenCommand says what was played against what was asked.
func listenCommand() *cobra.Command {
	f := &calcFlags{}
	var bars int
	cmd := &cobra.Command{
		Use: "listen FILE", Short: "What was played against what was asked: a recording (WAV) or a performance (MIDI), as JSON", Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			answer, err := f.listen(args[0], bars)
			if err != nil {
				return badInput(cmd, err)
			}
			text, err := json.Marshal(answer)
			if err != nil {
				return err
			}
			_, err = fmt.Fprintln(cmd.OutOrStdout(), string(text))
			return err
		},
	}
	p := cmd.Flags()
	f.playing(p)
	p.IntVar(&bars, "bars", 0, "how many bars were asked for; 0 for as many as the take has")
	cmd.SetFlagErrorFunc(func(cmd *cobra.Command, err error) error { return badInput(cmd, err) })
	return cmd
}

type listenAnswer struct {
	Sentence   string         `json:"sentence"`
	Tempo      float64        `json:"tempo"`
	Drift      float64        `json:"drift_bpm"`
	Evenness   float64        `json:"evenness_ms"`
	Strokes    []listenStroke `json:"strokes"`
	Faults     []listenFault  `json:"faults"`
	CannotTell []string       `json:"cannot_tell"`
}

type listenStroke struct {
	Bar    int     `json:"bar"`
	Slot   int     `json:"slot"`
	With   string  `json:"with"`
	Off    float64 `json:"off_ms"`
	State  string  `json:"state"`
	String string  `json:"string,omitempty"`
}

type listenFault struct {
	Kind   string  `json:"kind"`
	Bar    int     `json:"bar"`
	Slot   int     `json:"slot"`
	MS     float64 `json:"ms"`
	Rounds int     `json:"rounds"`
	Of     int     `json:"of"`
	Says   string  `json:"says"`
}

// muchClipped is the part of a recording at full scale from which loudness is not told.
const muchClipped = 0.002

// maxTake bounds what is read of a take: half an hour of stereo.
const maxTake = 400 << 20

func (f *calcFlags) listen(path string, bars int) (listenAnswer, error) {
	t, err := f.theTask()
	if err != nil {
		return listenAnswer{}, err
	}
	data, err := readTake(path)
	if err != nil {
		return listenAnswer{}, err
	}
	var notes []listen.Note
	var last float64
	var rec *listen.Sound
	var untold []string
	if bytes.HasPrefix(data, []byte("MThd")) {
		if notes, err = performed(data); err != nil {
			return listenAnswer{}, err
		}
		for _, n := range notes {
			last = max(last, n.At)
		}
	} else {
		take, err := wavfile.Read(bytes.NewReader(data))
		if err != nil {
			return listenAnswer{}, err
		}
		last = 1000 * float64(len(take.Samples)) / float64(take.Rate)
		rec = &listen.Sound{Rate: take.Rate, Samples: take.Samples}
		if take.Cut {
			untold = append(untold, fmt.Sprintf("what comes after %d minutes", wavfile.MostSeconds/60))
		}
		if take.Clipped > muchClipped {
			untold = append(untold, "loudness: the recording is clipped")
		}
	}
	if bars == 0 {
		one, err := scoreOf(t, 1)
		if err != nil {
			return listenAnswer{}, err
		}
		bars = min(song.MaxBars, int(math.Ceil(last/one.BarMS()))+1)
	}
	score, err := scoreOf(t, bars)
	if err != nil {
		return listenAnswer{}, err
	}
	var h listen.Hearing
	if rec != nil {
		h, err = listen.Recording(score, *rec)
	} else {
		h, err = listen.Listen(score, notes)
	}
	if err != nil {
		return listenAnswer{}, err
	}
	answer := heardAnswer(h)
	answer.CannotTell = append(answer.CannotTell, untold...)
	return answer, nil
}

func heardAnswer(h listen.Hearing) listenAnswer {
	out := listenAnswer{Sentence: h.Sentence(), Tempo: tenth(h.Tempo), Drift: tenth(h.Drift), Evenness: tenth(h.Evenness), Strokes: []listenStroke{}, Faults: []listenFault{}, CannotTell: append([]string{}, h.CannotTell...)}
	for _, s := range h.Strokes {
		out.Strokes = append(out.Strokes, listenStroke{s.Bar, s.Slot, string(s.By), tenth(s.Off), string(s.State), s.String})
	}
	for _, x := range h.Faults {
		out.Faults = append(out.Faults, listenFault{string(x.Kind), x.Bar, x.Slot, tenth(x.MS), x.Rounds, x.Of, x.Says})
	}
	return out
}

// readTake reads a file, up to a size.
func readTake(path string) ([]byte, error) {
	file, err := os.Open(path)
	if err != nil {
		return nil, fmt.Errorf("the take can’t be opened: %w", err)
	}
	defer file.Close()
	data, err := io.ReadAll(io.LimitReader(file, maxTake+1))
	if err != nil {
		return nil, fmt.Errorf("the take can’t be read: %w", err)
	}
	if len(data) > maxTake {
		return nil, fmt.Errorf("the take has more than %d MB; send half an hour at most", maxTake>>20)
	}
	return data, nil
}

// performed are the notes of a MIDI performance, in milliseconds from its beginning.
func performed(data []byte) (notes []listen.Note, err error) {
	file, err := midifile.Read(data)
	if err != nil {
		return nil, err
	}
	at := file.Milliseconds()
	for _, track := range file.Tracks {
		for _, n := range track.Notes {
			notes = append(notes, listen.Note{At: at(n.Tick), MIDI: n.Key, Loud: float64(n.Velocity) / 127})
		}
	}
	return notes, nil
}
