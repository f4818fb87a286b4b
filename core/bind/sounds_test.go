package bind_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
	"arplin/core/theory"
)

// What strokes sound like: the thumb by itself, a pinch at once, a down strum from the
// thick strings on and an up strum from the thin ones, a chuck, a palm, a knock, a stop:
// common practice. MIDI numbers: MIDI 1.0, C4 is 60.
func TestSounds(t *testing.T) {
	guitar, err := fretboard.ByID("guitar")
	require.NoError(t, err)
	c, err := theory.ParseChord("C")
	require.NoError(t, err)
	v, ok := fretboard.Easiest(guitar, c)
	require.True(t, ok)
	sounds := func(notation string, school bind.School) []bind.Sound {
		p := pattern.MustParse(notation)
		list := bind.Sounds(school, bind.Pattern(guitar, school, p, c, v.Shape).Events, 0)
		return append(list, bind.Stops(p, 0, 0)...)
	}
	pinch := sounds("4/4: p+m . . .", bind.DefaultSchool)
	require.Len(t, pinch, 2)
	assert.Equal(t, bind.Sound{String: 5, MIDI: 48, Kind: bind.FleshSound, By: bind.ByThumb, Loud: 0.8}, pinch[0], "C3, third fret of the fifth string")
	assert.Equal(t, bind.ByFingers, pinch[1].By)
	assert.Zero(t, pinch[1].Late)

	strums := sounds("4/4: D U . .", bind.DefaultSchool)
	down, up := strums[0], strums[len(strums)-1]
	assert.Equal(t, bind.ByStrum, down.By)
	assert.Greater(t, int(down.String), int(strums[1].String), "down from the thick strings")
	assert.Greater(t, strums[1].Late, down.Late)
	assert.Equal(t, fretboard.String(1), up.String)
	assert.Zero(t, up.Late, "up from the thin ones")
	assert.Positive(t, strums[len(strums)-2].Late)
	assert.Greater(t, up.Tick, down.Tick)
	for _, s := range strums {
		assert.Less(t, s.Late, 80.0, "a strum takes some hundredths of a second")
		assert.Equal(t, bind.NailSound, s.Kind)
	}
	kinds := map[bind.SoundKind]bool{}
	for _, s := range sounds("4/4: X D* = p", bind.DefaultSchool) {
		kinds[s.Kind] = true
	}
	assert.True(t, kinds[bind.KnockSound])
	assert.True(t, kinds[bind.StopSound])
	loud := sounds("4/4: p! p . .", bind.DefaultSchool)
	assert.Greater(t, loud[0].Loud, loud[1].Loud, "an accent is louder")
}

// Every figure of the catalogue sounds on every instrument that it is for: in time, on
// strings that are there, no louder than full.
func TestEveryFigureSounds(t *testing.T) {
	c, err := theory.ParseChord("G")
	require.NoError(t, err)
	for _, e := range catalogue.All {
		for _, ins := range fretboard.Instruments {
			v, ok := fretboard.Easiest(ins, c)
			require.True(t, ok)
			events := bind.Pattern(ins, bind.DefaultSchool, e.Pattern, c, v.Shape).Events
			list := bind.Sounds(bind.DefaultSchool, events, 0)
			assert.GreaterOrEqual(t, len(list), len(events), e.ID)
			for _, s := range list {
				assert.True(t, s.Loud > 0 && s.Loud <= 1, e.ID)
				assert.Less(t, s.Tick, e.Pattern.Meter.BarTicks(), "%s: within its bar", e.ID)
				if s.Kind != bind.KnockSound {
					assert.True(t, s.String >= 1 && int(s.String) <= ins.Strings(), e.ID)
					assert.True(t, s.MIDI > 30 && s.MIDI < 100, e.ID)
				}
			}
		}
	}
}

// What a figure is played over is the whole shape, softly, once where each chord begins.
func TestChordsToPlayOver(t *testing.T) {
	for _, ins := range fretboard.Instruments {
		var held []bind.Held
		for i, symbol := range []string{"C", "G7", "Am"} {
			ch := theory.MustChord(symbol)
			v, ok := fretboard.Easiest(ins, ch)
			require.True(t, ok, "%s on %s", symbol, ins.Name)
			held = append(held, bind.Held{From: i * 96, Chord: ch, Shape: v.Shape})
		}
		list := bind.Chords(ins, held, 1000)
		sounding := 0
		for _, h := range held {
			late := -1.0
			for s := fretboard.String(ins.Strings()); s >= 1; s-- {
				if !h.Shape.Sounds(s) {
					continue
				}
				got := list[sounding]
				sounding++
				assert.Equal(t, 1000+h.From, got.Tick)
				assert.Equal(t, ins.Open(s).MIDI()+int(h.Shape.At(s)), got.MIDI, "%s, string %d", h.Chord, s)
				assert.Equal(t, bind.ByChords, got.By)
				assert.Greater(t, got.Late, late, "one string after the other, from the thick ones")
				assert.Less(t, got.Loud, 0.5, "under the pattern")
				late = got.Late
			}
		}
		assert.Len(t, list, sounding)
	}
}
