package main

import (
	"encoding/json"
	"testing"

	"pgregory.net/rapid"

	"arplin/core/ladder/order"
	"arplin/core/pattern/patterntest"
)

// Every figure that the notation can write has an answer on the command line, on every instrument
// and in every order: one JSON object, and no failure.
func TestCalcOnAnyFigure(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		p := patterntest.OfNotation(func(n int) int { return rapid.IntRange(0, n-1).Draw(rt, "pick") }).String()
		on := []string{"--pattern", p, "--chords", rapid.SampledFrom([]string{"C", "G | D", "C | Am | F | G7"}).Draw(rt, "chords"),
			"--instrument", rapid.SampledFrom([]string{"guitar", "ukulele", "ukulele-low-g", "baritone"}).Draw(rt, "instrument")}
		order := rapid.SampledFrom(order.All).Draw(rt, "order").Value
		for verb, more := range map[string][]string{"ladder": {"--order", string(order)}, "vary": nil, "drill": {"--bar", "1"}, "demand": nil} {
			out, errOut, err := run(append(append([]string{"calc", verb}, on...), more...)...)
			if err != nil || !json.Valid([]byte(out)) || errOut != "" {
				rt.Fatalf("calc %s %v: %v %s", verb, on, err, errOut)
			}
		}
	})
}
