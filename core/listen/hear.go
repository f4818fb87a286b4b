package listen

import (
	"fmt"
	"math"
	"slices"
)

// Sound is a recording of one channel, as samples between -1 and 1.
type Sound struct {
	Rate    int
	Samples []float32
}

// What a pitch must have of what begins at a moment: to be heard, and to be heard by who expects it.
const (
	clearPart = 0.30
	maybePart = 0.10
)

// Hear finds the notes in a recording of a score.
func Hear(score Score, s Sound) (notes []Note, cannot []string) {
	samples := resampled(s.Samples, s.Rate)
	if quiet(samples) {
		return nil, []string{"nothing was heard"}
	}
	onsets := onsetsOf(samples, score.Figure.HasStrums())
	words := score.vocabulary()
	p := newPitcher(samples, words, 0, lowest)
	for i, o := range onsets {
		next := o.at + 1000
		if i+1 < len(onsets) {
			next = onsets[i+1].at
		}
		parts := p.at(o.at, next)
		sum := 0.0
		for _, x := range parts {
			sum += x
		}
		some := false
		top := slices.Max(parts)
		for k, x := range parts {
			switch {
			case x >= clearPart*sum || x == top && x > 0.2*sum:
				notes = append(notes, Note{At: o.at, MIDI: words[k], Loud: o.flux, Part: x / sum, Onset: i + 1, Maybe: o.unsure})
				some = true
			case x >= maybePart*sum:
				notes = append(notes, Note{At: o.at, MIDI: words[k], Loud: o.flux, Part: x / sum, Onset: i + 1, Maybe: true})
			}
		}
		if !some {
			notes = append(notes, Note{At: o.at, Loud: o.flux, Onset: i + 1, Maybe: o.unsure})
		}
	}
	return notes, nil
}

// quiet reports a recording without anything in it: its loudest tenth of a second lies under -60 dB of full scale.
func quiet(samples []float32) bool {
	const tenth = rate / 10
	for from := 0; from < len(samples); from += tenth {
		sum := 0.0
		part := samples[from:min(len(samples), from+tenth)]
		for _, x := range part {
			sum += float64(x) * float64(x)
		}
		if math.Sqrt(sum/float64(len(part))) > 0.001 {
			return false
		}
	}
	return true
}

var _ = fmt.Sprint
