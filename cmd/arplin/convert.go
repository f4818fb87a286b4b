package main

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"os"

	"github.com/spf13/cobra"

	"arplin/core/bind"
	"arplin/core/ladder/station"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/draw"
	"arplin/format/bundle"
	"arplin/store"
	"arplin/teach/files"
	"arplin/teach/people"
	"arplin/teach/songs"
	"arplin/web"
)

// convertFlags are the flags of convert beside those of what is played.
type convertFlags struct {
	calcFlags
	to, out, station string
	bar              int
}

// convertCommand turns a file into another, without a database.
func convertCommand() *cobra.Command {
	f := &convertFlags{}
	cmd := &cobra.Command{
		Use: "convert IN", Short: "A song as another file: chordpro, musicxml, midi, text, svg, wav, bundle",
		Long: "Reads a chord sheet, MusicXML, MIDI or tablature as text, - for the standard input, and writes it in another format.",
		Args: func(cmd *cobra.Command, args []string) error {
			if len(args) != 1 {
				return badInput(cmd, errors.New("convert: name one file, or - for the standard input"))
			}
			return nil
		},
		RunE: func(cmd *cobra.Command, args []string) error {
			data, err := f.convert(cmd, args[0])
			if err != nil {
				return badInput(cmd, fmt.Errorf("%s: %w", args[0], err))
			}
			if f.out != "" && f.out != "-" {
				return os.WriteFile(f.out, data, 0o644)
			}
			_, err = cmd.OutOrStdout().Write(data)
			return err
		},
	}
	p := cmd.Flags()
	f.playing(p)
	p.StringVar(&f.to, "to", "", "chordpro, musicxml, midi, text, svg, wav or bundle")
	p.StringVar(&f.out, "out", "", "a file instead of the standard output")
	p.StringVar(&f.station, "station", "", "a station of the melody instead of a pattern: tune, alternating, …")
	p.IntVar(&f.bar, "bar", 1, "the bar that is drawn, for svg")
	cmd.SetFlagErrorFunc(func(cmd *cobra.Command, err error) error { return badInput(cmd, err) })
	return cmd
}

// maxConvert bounds what is read.
const maxConvert = 32 << 20

// readIn reads a file, - for the standard input.
func readIn(cmd *cobra.Command, name string) ([]byte, error) {
	in := cmd.InOrStdin()
	if name != "-" {
		file, err := os.Open(name)
		if err != nil {
			return nil, errors.New("this file cannot be opened")
		}
		defer file.Close()
		in = file
	}
	data, err := io.ReadAll(io.LimitReader(in, maxConvert+1))
	if err == nil && len(data) > maxConvert {
		err = fmt.Errorf("the file has more than %d MB", maxConvert>>20)
	}
	return data, err
}

func (f *convertFlags) convert(cmd *cobra.Command, name string) ([]byte, error) {
	data, err := readIn(cmd, name)
	if err != nil {
		return nil, err
	}
	school, err := f.theSchool()
	if err != nil {
		return nil, err
	}
	c := people.Class{Class: store.Class{Fingers: string(school.Fingers)}}
	sg, unused, err := openAny(data, c)
	if err != nil {
		return nil, err
	}
	for _, what := range unused {
		fmt.Fprintln(cmd.ErrOrStderr(), what)
	}
	if len(sg.Bars()) == 0 {
		return nil, errors.New("there is no bar in it")
	}
	ins, err := f.theInstrument()
	if err != nil {
		return nil, err
	}
	plays := songs.AsWritten(sg.Meter)
	if f.pattern != "" {
		p, err := pattern.Parse(f.pattern)
		if err != nil {
			return nil, err
		}
		if p.Meter != sg.Meter {
			return nil, fmt.Errorf("the pattern is in %s, the song in %s", p.Meter, sg.Meter)
		}
		plays = songs.Figures(bind.Always(p))
	}
	if f.station != "" {
		plays = songs.Tune(station.ID(f.station))
	}
	piece := songs.LineOf(sg, ins, c, plays)
	switch to := files.Format(f.to); to {
	case files.BundleZip:
		return oneSong(sg)
	case files.WAVSound:
		return songs.ScoreOf(sg, ins, c, plays).WAV(context.Background(), songs.PlayAlong{Tempo: sg.Tempo})
	case files.SVGStrip:
		svg, err := songs.BarStrip(piece, f.bar)
		if err != nil {
			return nil, err
		}
		styles, err := web.MarkStyles()
		return draw.Standalone(svg, styles), err
	default:
		return files.Write(piece, to)
	}
}

// oneSong is a bundle with one song; its name for good is what is in it.
func oneSong(sg song.Song) ([]byte, error) {
	body, err := sg.Encode()
	if err != nil {
		return nil, err
	}
	sum := sha256.Sum256(body)
	return bundle.Write(bundle.Bundle{Songs: []bundle.Song{{UID: bundle.UID("song-" + hex.EncodeToString(sum[:12])), Song: body}}})
}

// openAny reads a song from any file: tablature as the song of its chords, with its figure on it.
func openAny(data []byte, c people.Class) (song.Song, []string, error) {
	o, err := files.OpenSong(data)
	if !errors.Is(err, files.ErrTab) {
		return o.Song, o.Unused, err
	}
	f, err := files.ReadTab(o.Text, c, "", "")
	if err != nil {
		return song.Song{}, nil, err
	}
	sg, err := f.Song("Tablature")
	return sg, f.Unused, err
}
