package arrange_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"arplin/core/arrange"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/theory"
)

// On any instrument, in any meter, over any chords and with pins that no hand can keep: every note is on
// a string or named as left, once, and every stroke sounds where it says.
func TestAnyTuneOnAnyInstrument(t *testing.T) {
	banjoLike, err := fretboard.ParseTuning("C3 G3 D4 A4 E5")
	require.NoError(t, err)
	instruments := append([]fretboard.Instrument{fretboard.Custom(banjoLike), fretboard.Custom(banjoLike[:1])}, fretboard.Instruments...)
	rapid.Check(t, func(rt *rapid.T) {
		ins := rapid.SampledFrom(instruments).Draw(rt, "instrument")
		m := rapid.SampledFrom([]pattern.Meter{{Beats: 4, Unit: 4}, {Beats: 3, Unit: 4}, {Beats: 6, Unit: 8}, {Beats: 5, Unit: 4}, {Beats: 2, Unit: 4}}).Draw(rt, "meter")
		chords := rapid.SampledFrom([]string{"C | G7/B | Am7 | F#dim7", "Bb5 | Eaug | D/F# | C13", "N.C. | C | C", "Abm7b5 | E7#9 | Db6"}).Draw(rt, "chords")
		bars, err := song.ParseChords(chords, m)
		if err != nil {
			bars, err = song.ParseChords("C | G | C", m)
			require.NoError(rt, err)
		}
		k := arrange.Task{Instrument: ins, Meter: m, Bass: rapid.SampledFrom([]arrange.Bass{arrange.NoBass, arrange.OnOne, arrange.Pulse, arrange.Alternating}).Draw(rt, "bass"), Pins: map[arrange.At]fretboard.String{}}
		for i := range bars {
			for tick := 0; tick < bars[i].Ticks(); {
				long := min(m.BeatTicks()*rapid.IntRange(1, 3).Draw(rt, "halves")/2, bars[i].Ticks()-tick)
				if rapid.IntRange(0, 4).Draw(rt, "rest") > 0 {
					bars[i].Melody = append(bars[i].Melody, song.MelodyNote{Tick: tick, Ticks: long, MIDI: rapid.IntRange(30, 100).Draw(rt, "pitch")})
					if rapid.IntRange(0, 5).Draw(rt, "pinned") == 0 {
						k.Pins[arrange.At{Bar: i, Tick: tick}] = fretboard.String(rapid.IntRange(1, ins.Strings()).Draw(rt, "pin"))
					}
				}
				tick += long
			}
		}
		sg := song.Song{Meter: m, Tempo: 80, Sections: []song.Section{{ID: 1, Bars: bars}}}
		k.Bars, k.Shapes = bars, sg.ShapesOn(ins)
		p := arrange.Place(k)
		for b, bar := range bars {
			struck, left := map[int]int{}, map[int]bool{}
			for _, st := range p.Bars[b].Strokes {
				assert.Equal(rt, st.MIDI, ins.Open(st.String).MIDI()+int(st.Fret))
				if st.Melody {
					struck[st.Tick]++
				}
			}
			for _, l := range p.Left {
				if l.Bar == b {
					left[l.Tick] = true
				}
			}
			for _, n := range bar.Melody {
				assert.LessOrEqual(rt, struck[n.Tick], 1, "once")
				assert.True(rt, struck[n.Tick] == 1 || left[n.Tick], "bar %d: %s is gone without a word", b+1, theory.PlainPitch(n.MIDI))
			}
		}
	})
}
