package listen

import "math"

// A tempo at which it can be tried again is offered where the taps scatter, a place is off, or some are missing.
const (
	scattered = 35.0 // ms, from memory
	slowerBy  = 0.9
)

// Slower is the tempo to try next where this one was too fast; 0 where it was not.
func (j Judgement) Slower() int {
	missed := 0
	for _, s := range j.Strokes {
		if s.State == Missed {
			missed++
		}
	}
	if !j.lost && j.Evenness <= scattered && len(j.Habits) == 0 && missed == 0 {
		return 0
	}
	return max(20, int(math.Round(float64(j.line.Tempo)*slowerBy)))
}

// Latency is by how many milliseconds taps come after the beats that they were tapped along with, beats
// coming at one distance from 0: what screen and loudspeaker add on this device, and a person's own way.
func Latency(taps []Tap, beat float64) float64 {
	var offs []float64
	for _, t := range taps {
		off := math.Mod(t.At, beat)
		if off > 0.7*beat { // early; later than that it is the loudspeaker
			off -= beat
		}
		if off < -0.3*beat {
			off += beat
		}
		offs = append(offs, off)
	}
	return middle(offs)
}
