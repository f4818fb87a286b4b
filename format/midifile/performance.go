package midifile

import (
	"math"

	"arplin/core/listen/sim"
)

// Programs of plucked strings. Source: General MIDI System Level 1, instruments from 0.
const (
	NylonGuitar = 24
	SteelGuitar = 25
)

// A performance is written so that a tick is a twentieth of a millisecond.
const (
	perfDivision = 9600
	perfQuarters = 120.0
	perfTickMS   = 60000 / perfQuarters / perfDivision
	perfRings    = 2500.0 // ms that a string rings if it is not used again
)

// Performance is a take as it was played, to the twentieth of a millisecond. A knock has no pitch, and is left out.
func Performance(take sim.Take, program int) ([]byte, error) {
	file := File{Title: "A take", Division: perfDivision, Tempos: []Tempo{{Quarters: perfQuarters}}, Meters: []Meter{{Beats: 4, Unit: 4}}}
	track := Track{Name: "Take", Program: program}
	for i, n := range take.Notes {
		if n.MIDI == 0 {
			continue
		}
		rings := perfRings
		for _, next := range take.Notes[i+1:] {
			if next.String == n.String || next.MIDI == n.MIDI {
				rings = min(rings, next.At-n.At)
				break
			}
		}
		track.Notes = append(track.Notes, Note{
			Tick: ticks(max(0, n.At)), Ticks: max(1, ticks(rings)-1), Key: n.MIDI, Velocity: max(1, min(127, int(math.Round(127*n.Loud)))),
		})
	}
	file.Tracks = []Track{track}
	return Write(file)
}

func ticks(ms float64) int { return int(math.Round(ms / perfTickMS)) }
