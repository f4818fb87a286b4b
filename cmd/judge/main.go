//go:build js && wasm

// Command judge is core/listen for a phone: it judges taps and takes in the browser, without a net. scripts/judge
// builds it into web/static/judge.
package main

import (
	"math"
	"syscall/js"

	"arplin/core/listen"
	"arplin/core/pattern"
)

func main() {
	js.Global().Set("arplinJudge", js.FuncOf(func(_ js.Value, args []js.Value) any { return judge(args) }))
	js.Global().Set("arplinLatency", js.FuncOf(func(_ js.Value, args []js.Value) any {
		return listen.Latency(tapsOf(args[1]), args[0].Float())
	}))
	js.Global().Set("arplinDue", js.FuncOf(func(_ js.Value, args []js.Value) any { return due(args) }))
	js.Global().Set("arplinListen", js.FuncOf(func(_ js.Value, args []js.Value) any { return heard(args) }))
	js.Global().Set("arplinRoom", js.FuncOf(func(_ js.Value, args []js.Value) any { return heardRoom(args) }))
	select {} // it answers for as long as the page is open
}

// lineOf reads a figure and a tempo.
func lineOf(args []js.Value) (listen.Timeline, error) {
	p, err := pattern.Parse(args[0].String())
	return listen.Timeline{Figure: p, Tempo: args[1].Int()}, err
}

// tapsOf reads taps: pairs of milliseconds and a hand, 0 for the thumb.
func tapsOf(v js.Value) (taps []listen.Tap) {
	for i := 0; i+1 < v.Length(); i += 2 {
		hand := listen.Thumb
		if v.Index(i+1).Float() != 0 {
			hand = listen.Fingers
		}
		taps = append(taps, listen.Tap{At: v.Index(i).Float(), With: hand})
	}
	return taps
}

// judge answers figure, tempo and taps with a sentence, how even it was, a slower tempo where one helps, and where each
// tap came.
func judge(args []js.Value) any {
	line, err := lineOf(args)
	if err != nil {
		return map[string]any{"problem": err.Error()}
	}
	j, err := listen.Judge(line, tapsOf(args[2]))
	if err != nil {
		return map[string]any{"problem": err.Error()}
	}
	dots, habits := []any{}, []any{}
	for _, s := range j.Strokes {
		dots = append(dots, map[string]any{"bar": s.Bar, "slot": s.Slot, "hand": string(s.With), "off": math.Round(10*s.Off) / 10, "state": string(s.State)})
	}
	for _, h := range j.Habits {
		habits = append(habits, map[string]any{"slot": h.Slot, "off": math.Round(10*h.Off) / 10, "says": j.Says(h)})
	}
	return map[string]any{"sentence": j.Sentence(), "even": math.Round(j.Evenness), "slower": j.Slower(), "bar": line.BarMS(), "grid": line.Figure.Grid(), "dots": dots, "habits": habits}
}

// due are the taps of a bar of a figure at a tempo, for what is lit: pairs of milliseconds and a hand.
func due(args []js.Value) any {
	line, err := lineOf(args)
	if err != nil {
		return map[string]any{"problem": err.Error()}
	}
	list := []any{}
	for _, d := range line.Bars(len(line.Figure.Bars)) {
		hand := 0
		if d.With == listen.Fingers {
			hand = 1
		}
		list = append(list, d.At, hand)
	}
	return map[string]any{"due": list, "bar": line.BarMS(), "beats": line.Figure.Meter.TappedBeats()}
}
