package main

import (
	"bufio"
	"fmt"
	"io"
	"math"
	"strconv"
	"strings"

	"arplin/core/listen"
)

type tapsAnswer struct {
	Sentence string       `json:"sentence"`
	Evenness float64      `json:"evenness_ms"`
	Drift    float64      `json:"drift_ms"`
	Strokes  []tapsStroke `json:"strokes"`
	Habits   []tapsHabit  `json:"habits"`
}

type tapsStroke struct {
	Bar   int     `json:"bar"`
	Slot  int     `json:"slot"`
	With  string  `json:"with"`
	Off   float64 `json:"off_ms"`
	State string  `json:"state"`
}

type tapsHabit struct {
	Bar  int     `json:"bar"`
	Slot int     `json:"slot"`
	Off  float64 `json:"off_ms"`
	Says string  `json:"says"`
}

// maxTaps bounds what is read: an hour of sixteenths at 120.
const maxTaps = 30_000

// calcTaps judges taps from standard input against a pattern, as the tap test does.
func calcTaps(f *calcFlags) (any, error) {
	task, err := f.theTask()
	if err != nil {
		return nil, err
	}
	taps, err := readTaps(f.in)
	if err != nil {
		return nil, err
	}
	j, err := listen.Judge(listen.Timeline{Figure: task.Pattern, Tempo: f.tempo}, taps)
	if err != nil {
		return nil, fmt.Errorf("taps: %w", err)
	}
	out := tapsAnswer{Sentence: j.Sentence(), Evenness: tenth(j.Evenness), Drift: tenth(j.Drift), Strokes: []tapsStroke{}, Habits: []tapsHabit{}}
	for _, s := range j.Strokes {
		out.Strokes = append(out.Strokes, tapsStroke{s.Bar, s.Slot, string(s.With), tenth(s.Off), string(s.State)})
	}
	for _, h := range j.Habits {
		out.Habits = append(out.Habits, tapsHabit{h.Bar, h.Slot, tenth(h.Off), j.Says(h)})
	}
	return out, nil
}

func tenth(ms float64) float64 { return math.Round(10*ms) / 10 }

// readTaps reads lines "ms,thumb" or "ms,fingers"; empty lines are passed over.
func readTaps(in io.Reader) (taps []listen.Tap, err error) {
	lines := bufio.NewScanner(in)
	for n := 1; lines.Scan(); n++ {
		text := strings.TrimSpace(lines.Text())
		if text == "" {
			continue
		}
		at, with, found := strings.Cut(text, ",")
		if !found {
			return nil, fmt.Errorf("line %d: write ms,thumb or ms,fingers, not %q", n, text)
		}
		ms, err := strconv.ParseFloat(strings.TrimSpace(at), 64)
		if err != nil || math.IsNaN(ms) || math.Abs(ms) > 24*60*60*1000 {
			return nil, fmt.Errorf("line %d: %q is not a number of milliseconds", n, strings.TrimSpace(at))
		}
		hand, err := listen.ParseHand(strings.TrimSpace(with))
		if err != nil {
			return nil, fmt.Errorf("line %d: %w", n, err)
		}
		if taps = append(taps, listen.Tap{At: ms, With: hand}); len(taps) > maxTaps {
			return nil, fmt.Errorf("taps: more than %d", maxTaps)
		}
	}
	if err := lines.Err(); err != nil {
		return nil, fmt.Errorf("taps: %w", err)
	}
	return taps, nil
}
