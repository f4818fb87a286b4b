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

// check refuses what can't be judged.
func (s Sound) check() error {
	switch {
	case s.Rate < 4000 || s.Rate > 400_000:
		return fmt.Errorf("a recording has 4,000 to 400,000 samples a second, and this one has %d", s.Rate)
	case len(s.Samples) > mostMinutes*60*s.Rate:
		return fmt.Errorf("a take can be up to %d minutes long", mostMinutes)
	}
	return nil
}

// What a pitch must have of what begins at a moment: to be heard, and to be heard by who expects it.
const (
	clearPart = 0.30
	maybePart = 0.10
)

// What is left of a recording where its low notes are missing, as a cheap phone leaves them out, in Hz.
const (
	phoneLow  = 280.0
	phonePart = 0.02 // of the energy, below it
)

// Recording judges a recording against a score.
func Recording(score Score, s Sound) (Hearing, error) {
	if err := s.check(); err != nil {
		return Hearing{}, err
	}
	notes, cents := Hear(score, s)
	h, err := Listen(score, notes)
	if err == nil && math.Abs(cents) > outOfTune && len(h.Strokes) > 0 {
		h.Cents = cents
		h.CannotTell = append(h.CannotTell, TheStrings)
	}
	return h, err
}

// mostMinutes bounds a recording.
const mostMinutes = 30

// outOfTune is by how many cents all of it may be too high or too low before strings are not told apart.
const outOfTune = 30.0

// Hear finds the notes in a recording of a score, and by how many cents it is too high. Where that is far, the notes have
// no pitch.
func Hear(score Score, s Sound) (notes []Note, cents float64) {
	samples := resampled(s.Samples, s.Rate)
	if quiet(samples) {
		return nil, 0
	}
	onsets := onsetsOf(samples, score.Figure.HasStrums())
	words := score.vocabulary()
	cents = tuningOf(samples)
	low := lowest
	if thin(samples) {
		low = phoneLow
	}
	p := newPitcher(samples, words, cents, low)
	for i, o := range onsets {
		next := o.at + 1000
		if i+1 < len(onsets) {
			next = onsets[i+1].at
		}
		bare := Note{At: o.at, Loud: o.loud, Onset: i + 1, Maybe: o.unsure}
		if len(words) == 0 || math.Abs(cents) > outOfTune {
			notes = append(notes, bare)
			continue
		}
		parts := p.at(o.at, next)
		sum := 0.0
		for _, x := range parts {
			sum += x
		}
		some, top := false, slices.Max(parts)
		for k, x := range parts {
			if x < maybePart*sum || sum == 0 {
				continue
			}
			n := bare
			n.MIDI, n.Part = words[k], x/sum
			if x >= clearPart*sum || x == top && x > 0.2*sum {
				some = true
			} else {
				n.Maybe = true
			}
			notes = append(notes, n)
		}
		if !some {
			notes = append(notes, bare)
		}
	}
	return notes, cents
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
