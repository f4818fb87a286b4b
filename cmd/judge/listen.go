//go:build js && wasm

package main

import (
	"encoding/json"
	"math"
	"syscall/js"
	"unsafe"

	"arplin/core/listen"
)

// asked is what a page wants to have heard: bars of its score, and how they were recorded.
type asked struct {
	Score listen.Sung `json:"score"`
	Tempo int         `json:"tempo"`
	From  int         `json:"from"`
	To    int         `json:"to"`
	Bars  int         `json:"bars"`
	Rate  int         `json:"rate"`
}

// heard answers a JSON of what is asked and the samples, as Float32Array, with the JSON of what was heard.
func heard(args []js.Value) any {
	var ask asked
	if err := json.Unmarshal([]byte(args[0].String()), &ask); err != nil {
		return problem(err)
	}
	score, err := ask.Score.Score(ask.Tempo, ask.From, ask.To, ask.Bars)
	if err != nil {
		return problem(err)
	}
	h, err := listen.Recording(score, listen.Sound{Rate: ask.Rate, Samples: samplesOf(args[1])})
	if err != nil {
		return problem(err)
	}
	text, err := json.Marshal(answerOf(score, h))
	if err != nil {
		return problem(err)
	}
	return string(text)
}

// samplesOf copies a Float32Array in one go; both ends are little-endian.
func samplesOf(v js.Value) []float32 {
	samples := make([]float32, v.Length())
	if len(samples) > 0 {
		raw := unsafe.Slice((*byte)(unsafe.Pointer(&samples[0])), 4*len(samples))
		js.CopyBytesToGo(raw, js.Global().Get("Uint8Array").New(v.Get("buffer"), v.Get("byteOffset"), 4*len(samples)))
	}
	return samples
}

func problem(err error) string {
	text, _ := json.Marshal(map[string]string{"problem": err.Error()}) // of a string: it can't fail
	return string(text)
}

// answer is what a page shows of a take.
type answer struct {
	Sentence string  `json:"sentence"`
	Clean    bool    `json:"clean"`
	Told     bool    `json:"told"`
	Tempo    int     `json:"tempo"`
	Grid     int     `json:"grid"`
	Bar      float64 `json:"bar"` // ms
	Begins   float64 `json:"begins"`
	Log      string  `json:"log,omitempty"` // keys of the fault
	Places   []spot  `json:"places"`
	Faults   []fault `json:"faults"`
}

// spot is a place of the figure, and where it usually came.
type spot struct {
	Bar   int     `json:"bar"`
	Slot  int     `json:"slot"`
	At    float64 `json:"at"` // ms from the beginning of the bar, as asked
	By    string  `json:"by"`
	Off   float64 `json:"off"`
	Of    int     `json:"of"`
	Found int     `json:"found"`
	Other int     `json:"other"`
}

type fault struct {
	Kind  string `json:"kind"`
	Bar   int    `json:"bar"`
	Slot  int    `json:"slot"`
	Says  string `json:"says"`
	Chord string `json:"chord,omitempty"`
}

func answerOf(score listen.Score, h listen.Hearing) answer {
	out := answer{
		Sentence: h.Sentence(), Clean: h.Clean(), Told: len(h.CannotTell) == 0, Tempo: int(math.Round(h.Tempo)), Grid: score.Figure.Grid(), Bar: score.BarMS(),
		Log: h.Log(), Places: []spot{}, Faults: []fault{}, Begins: h.Begins(),
	}
	for _, p := range h.Places() {
		out.Places = append(out.Places, spot{p.Bar, p.Slot, p.At, string(p.By), math.Round(p.Off), p.Of, p.Found, p.Other})
	}
	for _, f := range h.Faults {
		out.Faults = append(out.Faults, fault{string(f.Kind), f.Bar, f.Slot, f.Says, f.Chord})
	}
	return out
}

// heardRoom answers a JSON of a tempo and a rate, and the samples, with whether a class held the beat.
func heardRoom(args []js.Value) any {
	var ask asked
	if err := json.Unmarshal([]byte(args[0].String()), &ask); err != nil {
		return problem(err)
	}
	r, err := listen.HearRoom(listen.Sound{Rate: ask.Rate, Samples: samplesOf(args[1])}, ask.Tempo)
	if err != nil {
		return problem(err)
	}
	text, err := json.Marshal(map[string]any{"sentence": r.Sentence(), "holds": r.Holds()})
	if err != nil {
		return problem(err)
	}
	return string(text)
}
