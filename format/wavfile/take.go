package wavfile

import (
	"arplin/core/bind"
	"arplin/core/listen/sim"
	"arplin/sound"
)

// ringing is how long the last notes of a take sound, in seconds.
const ringing = 2.5

// Take is what a simulated player played, on our tones.
func Take(take sim.Take, of sound.Strings) []float32 {
	var notes []sound.Note
	for _, n := range take.Notes {
		note := sound.Note{At: max(0, n.At) / 1000, Loud: n.Loud, String: n.String}
		if n.Kind == bind.KnockSound {
			note.Tone = sound.Knock()
		} else {
			note.Of = sound.Tone{Strings: of, Touch: sound.Touch(n.Kind), Hertz: sound.Hertz(n.MIDI)}
		}
		notes = append(notes, note)
	}
	return sound.Mix(notes, take.Seconds()+ringing)
}
