package main

import (
	"bytes"
	"fmt"
	"math"
	"os"
	"os/exec"
	"path/filepath"

	"arplin/core/listen"
	"arplin/core/listen/sim"
	"arplin/format/midifile"
	"arplin/format/wavfile"
	"arplin/sound"
)

// soundfont are sampled instruments: Debian's timgm6mb-soundfont.
const soundfont = "/usr/share/sounds/sf2/TimGM6mb.sf2"

// detune is by how much faster a detuned take is played back: 15 cents.
var detune = math.Pow(2, 15.0/1200)

// record plays a take and records it: the sound, and by how much its clock is faster.
func record(dir, source, condition string, seed uint64, t task, take sim.Take) (listen.Sound, float64, error) {
	base := filepath.Join(dir, fmt.Sprintf("%s-%s-%d", source, condition, seed))
	file := base + ".wav"
	defer func() {
		for _, ending := range []string{".wav", ".mid", "-2.wav"} {
			_ = os.Remove(base + ending)
		}
	}()
	if source == "ours" {
		strings := sound.Steel
		if t.ukulele {
			strings = sound.Nylon
		}
		if err := os.WriteFile(file, sound.WAV(wavfile.Take(take, strings)), 0o600); err != nil {
			return listen.Sound{}, 0, err
		}
	} else if err := sampled(base, source, take); err != nil {
		return listen.Sound{}, 0, err
	}
	faster := 1.0
	if condition != "clean" {
		s, err := read(file)
		if err != nil {
			return s, 0, err
		}
		out := base + "-2.wav"
		var args []string
		switch condition {
		case "20dB", "10dB":
			down := 20.0
			if condition == "10dB" {
				down = 10
			}
			if err := noisy(file, out, s, down); err != nil {
				return s, 0, err
			}
		case "phone":
			args = []string{file, out, "highpass", "300", "highpass", "300", "lowpass", "4000", "lowpass", "4000"}
		case "room":
			args = []string{"-v", "0.6", file, out, "reverb", "40"}
		case "detuned":
			args, faster = []string{file, out, "speed", fmt.Sprint(detune)}, detune
		default:
			return s, 0, fmt.Errorf("%q is no condition", condition)
		}
		if len(args) > 0 {
			if err := run("sox", args...); err != nil {
				return s, 0, err
			}
		}
		file = out
	}
	s, err := read(file)
	return s, faster, err
}

// sampled plays a take on sampled strings.
func sampled(base, source string, take sim.Take) error {
	program := midifile.NylonGuitar
	if source == "steel" {
		program = midifile.SteelGuitar
	}
	data, err := midifile.Performance(take, program)
	if err != nil {
		return err
	}
	if err := os.WriteFile(base+".mid", data, 0o600); err != nil {
		return err
	}
	return run("fluidsynth", "-ni", "-q", "-R", "0", "-C", "0", "-g", "0.8", "-r", "44100", "-F", base+".wav", soundfont, base+".mid")
}

// noisy adds the noise of a room, so many decibels under the sound.
func noisy(file, out string, s listen.Sound, down float64) error {
	sum := 0.0
	for _, x := range s.Samples {
		sum += float64(x) * float64(x)
	}
	level := math.Sqrt(sum/float64(len(s.Samples))) * math.Pow(10, -down/20)
	noise := out + ".noise.wav"
	defer os.Remove(noise)
	seconds := fmt.Sprint(float64(len(s.Samples)) / float64(s.Rate))
	if err := run("sox", "-R", "-r", fmt.Sprint(s.Rate), "-n", "-c", "1", "-b", "16", noise, "synth", seconds, "pinknoise", "vol", "0.5"); err != nil {
		return err
	}
	n, err := read(noise)
	if err != nil {
		return err
	}
	sum = 0
	for _, x := range n.Samples {
		sum += float64(x) * float64(x)
	}
	gain := level / math.Sqrt(sum/float64(len(n.Samples)))
	return run("sox", "-m", "-v", "0.8", file, "-v", fmt.Sprint(0.8*gain), noise, "-c", "1", out)
}

func run(name string, args ...string) error {
	var said bytes.Buffer
	cmd := exec.Command(name, args...)
	cmd.Stderr = &said
	if err := cmd.Run(); err != nil {
		return fmt.Errorf("%s: %w: %s", name, err, said.String())
	}
	return nil
}

func read(file string) (listen.Sound, error) {
	f, err := os.Open(file)
	if err != nil {
		return listen.Sound{}, err
	}
	defer f.Close()
	s, err := wavfile.Read(f)
	return listen.Sound{Rate: s.Rate, Samples: s.Samples}, err
}
