package sound_test

import (
	"bytes"
	"encoding/binary"
	"errors"
	"io"
	"math"
	"slices"
	"testing"

	"github.com/mewkiz/flac"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/fretboard"
	"arplin/sound"
)

// hertz measures a tone's pitch: the phase of its fundamental at two places a known time
// apart. It is within a small part of a cent for a tone that is near the wanted one.
func hertz(samples []float64, near float64) float64 {
	window := int(12 * sound.Rate / near)
	phase := func(from int) float64 {
		re, im := 0.0, 0.0
		for i := range window {
			shape := 0.5 - 0.5*math.Cos(2*math.Pi*float64(i)/float64(window))
			angle := 2 * math.Pi * near * float64(from+i) / sound.Rate
			re += shape * samples[from+i] * math.Cos(angle)
			im -= shape * samples[from+i] * math.Sin(angle)
		}
		return math.Atan2(im, re)
	}
	from, apart := sound.Rate/20, int(8*sound.Rate/near)
	turn := phase(from+apart) - phase(from)
	turn -= 2 * math.Pi * math.Round(turn/(2*math.Pi))
	return near + turn*sound.Rate/(2*math.Pi*float64(apart))
}

// Every fret of every tuning that Arplin knows is in tune within 3 cents, plucked by
// flesh, nail or pick. Source of the pitches: equal temperament, A4 = 440 Hz (ISO 16).
func TestEveryFretIsInTune(t *testing.T) {
	done := map[sound.Tone]bool{}
	for _, ins := range fretboard.Instruments {
		family := sound.Nylon
		if ins.Family == fretboard.Guitar {
			family = sound.Steel
		}
		for _, open := range ins.Tuning {
			for fret := range 13 {
				want := 440 * math.Pow(2, float64(open.MIDI()+fret-69)/12)
				for _, touch := range []sound.Touch{sound.Flesh, sound.Nail, sound.Pick} {
					tone := sound.Tone{Strings: family, Touch: touch, Hertz: want}
					if done[tone] {
						continue
					}
					done[tone] = true
					got := hertz(tone.Samples(), want)
					assert.InDelta(t, 0, 1200*math.Log2(got/want), 3, "%s %s, %.1f Hz", family, touch, want)
				}
			}
		}
	}
	assert.Greater(t, len(done), 100)
}

// energy of samples in a span of seconds.
func energy[T float32 | float64](samples []T, from, to float64) (sum float64) {
	for _, s := range samples[int(from*sound.Rate):min(len(samples), int(to*sound.Rate))] {
		sum += float64(s) * float64(s)
	}
	return sum
}

// decibels is how loud the first seconds of samples are, above the level of all tones.
func decibels(samples []float64, seconds float64) float64 {
	n := min(len(samples), int(seconds*sound.Rate))
	return 10 * math.Log10(energy(samples, 0, seconds)/float64(n)/(0.12*0.12))
}

// partial is the strength of a tone's nth partial in its first half second.
func partial(samples []float64, hz float64, n int) float64 {
	re, im, window := 0.0, 0.0, sound.Rate/2
	for i := range window {
		shape := 0.5 - 0.5*math.Cos(2*math.Pi*float64(i)/float64(window))
		angle := 2 * math.Pi * hz * float64(n) * float64(i) / sound.Rate
		re += shape * samples[i] * math.Cos(angle)
		im += shape * samples[i] * math.Sin(angle)
	}
	return math.Hypot(re, im)
}

// A string that is plucked at a part of its length lacks the partials that have a node there;
// its high partials are weaker and fall sooner; a body radiates its resonances most. Source:
// Fletcher and Rossing, The Physics of Musical Instruments, the chapters on strings and guitars.
func TestSpectraAreThoseOfPluckedStrings(t *testing.T) {
	s := sound.Tone{Strings: sound.Steel, Touch: sound.Pick, Hertz: 110}.Samples() // at 0.12 of the string: the eighth is nearly missing
	assert.Less(t, partial(s, 110, 8), 0.4*partial(s, 110, 6))
	assert.Less(t, partial(s, 110, 8), 0.7*partial(s, 110, 10))
	s = sound.Tone{Strings: sound.Steel, Touch: sound.Flesh, Hertz: 110}.Samples()
	for n := 3; n < 12; n += 2 {
		assert.Greater(t, partial(s, 110, 1), partial(s, 110, n), "partial %d", n)
	}
	falls := func(n int) float64 { return partial(s[sound.Rate:], 110, n) / partial(s, 110, n) }
	assert.Greater(t, falls(1), 1.5*falls(12), "highs fall sooner")
	for _, body := range []struct {
		strings    sound.Strings
		at, beside float64
	}{{sound.Steel, 98, 140}, {sound.Nylon, 285, 230}} {
		fundamental := func(hz float64) float64 {
			s := sound.Tone{Strings: body.strings, Touch: sound.Flesh, Hertz: hz}.Samples()
			return partial(s, hz, 1) / partial(s, hz, 2)
		}
		assert.Greater(t, fundamental(body.at), fundamental(body.beside), "%s: the air of the body", body.strings)
	}
}

// The pitch that the ear finds is the period after which a tone is most like itself: so are the
// open strings of every tuning within 3 cents. Source: autocorrelation, common practice.
func TestOpenStringsByAutocorrelation(t *testing.T) {
	for _, ins := range fretboard.Instruments {
		family := sound.Nylon
		if ins.Family == fretboard.Guitar {
			family = sound.Steel
		}
		for _, open := range ins.Tuning {
			want := sound.Hertz(open.MIDI())
			s := sound.Tone{Strings: family, Touch: sound.Flesh, Hertz: want}.Samples()[2000:]
			like := func(lag int) (sum float64) {
				for i := range 8000 {
					sum += s[i] * s[i+lag]
				}
				return sum
			}
			periods := int(math.Ceil(12 * want / 440)) // of several the lag is long, so the pitch fine
			near := int(math.Round(float64(periods) * sound.Rate / want))
			best := near
			for lag := near - 12; lag <= near+12; lag++ {
				if like(lag) > like(best) {
					best = lag
				}
			}
			before, at, after := like(best-1), like(best), like(best+1)
			lag := float64(best) + (before-after)/(2*(before-2*at+after)) // the top of the parabola through the three
			got := float64(periods) * sound.Rate / lag
			assert.InDelta(t, 0, 1200*math.Log2(got/want), 3, "%s %s", ins.Name, open)
		}
	}
}

// bright is how much of the energy is in steps from sample to sample: highs.
func bright(samples []float64) float64 {
	steps := 0.0
	for i := 1; i < 4000; i++ {
		d := samples[i] - samples[i-1]
		steps += d * d
	}
	return steps / energy(samples, 0, 4000.0/sound.Rate)
}

// A plucked string falls, the thick ones more slowly, nylon faster than steel; a nail is
// brighter than flesh; the palm and a chuck are short. Source: facts of the trade, common
// practice; that highs fall first is in Karplus and Strong 1983.
func TestTonesAreAsStringsAre(t *testing.T) {
	tone := func(s sound.Strings, touch sound.Touch, hertz float64) []float64 {
		return sound.Tone{Strings: s, Touch: touch, Hertz: hertz}.Samples()
	}
	for _, family := range sound.Families {
		for _, touch := range sound.Touches {
			for _, hz := range []float64{82.4, 196, 440, 1046} {
				s := tone(family, touch, hz)
				top := 0.0
				for _, x := range s {
					top = math.Max(top, math.Abs(x))
				}
				assert.LessOrEqual(t, top, 0.5001, "%s %s %.0f", family, touch, hz)
				if touch != sound.Chuck && touch != sound.Palm && hz < 500 { // what is short is over before an ear has its level
					assert.InDelta(t, 0, decibels(s, 0.2), 2.5, "%s %s %.0f: bass and treble, flesh and pick are as loud as one another", family, touch, hz)
				}
				assert.Less(t, math.Abs(s[len(s)-1]), 0.001, "it ends in silence")
				assert.Equal(t, s, tone(family, touch, hz), "the same tone is the same")
				half := float64(len(s)) / sound.Rate / 2
				assert.Less(t, energy(s, half, 2*half), energy(s, 0, half), "it falls")
			}
		}
		assert.Greater(t, bright(tone(family, sound.Nail, 196)), bright(tone(family, sound.Flesh, 196)))
		long, palm, chuck := tone(family, sound.Flesh, 196), tone(family, sound.Palm, 196), tone(family, sound.Chuck, 196)
		assert.Less(t, len(palm), len(long)/4)
		assert.LessOrEqual(t, len(chuck), len(palm))
	}
	left := func(s []float64) float64 { return energy(s, 1, 1.2) / energy(s, 0, 0.2) }
	assert.Greater(t, left(tone(sound.Steel, sound.Flesh, 82.4)), left(tone(sound.Steel, sound.Flesh, 659)), "thick strings ring longer")
	assert.Greater(t, left(tone(sound.Steel, sound.Flesh, 392)), left(tone(sound.Nylon, sound.Flesh, 392)), "steel rings longer than nylon")
}

// What is written is a WAV by its published form.
func TestWAV(t *testing.T) {
	w := sound.WAV([]float64{0, 1, -1, 2})
	assert.Equal(t, "RIFF", string(w[:4]))
	assert.Equal(t, "WAVEfmt ", string(w[8:16]))
	assert.Equal(t, uint32(len(w)-8), binary.LittleEndian.Uint32(w[4:]))
	assert.Equal(t, uint32(sound.Rate), binary.LittleEndian.Uint32(w[24:]))
	assert.Equal(t, uint32(8), binary.LittleEndian.Uint32(w[40:]))
	var got [4]int16
	assert.NoError(t, binary.Read(bytes.NewReader(w[44:]), binary.LittleEndian, &got))
	assert.Equal(t, [4]int16{0, 32767, -32767, 32767}, got)
	for _, s := range [][]float64{sound.Click(true), sound.Click(false), sound.Knock()} {
		assert.Less(t, math.Abs(s[len(s)-1]), 0.02)
		assert.Less(t, slices.Max(s), 0.9)
	}
}

// BenchmarkColdSet is a set of tones of a guitar: six strings, five frets, one touch.
func BenchmarkColdSet(b *testing.B) {
	for b.Loop() {
		for _, open := range []float64{82.41, 110, 146.83, 196, 246.94, 329.63} {
			for fret := range 5 {
				sound.WAV(sound.Tone{Strings: sound.Steel, Touch: sound.Flesh, Hertz: open * math.Pow(2, float64(fret)/12)}.Samples())
			}
		}
	}
}

// A mix has its notes where they were put, ends a string when it is used again or
// stopped, and never goes over full scale.
func TestMix(t *testing.T) {
	tone := sound.Tone{Strings: sound.Steel, Touch: sound.Nail, Hertz: 196}.Samples()
	first := func(s []float32) int { return slices.IndexFunc(s, func(x float32) bool { return x != 0 }) }
	alone := sound.Mix([]sound.Note{{At: 0.5, Tone: tone, Loud: 0.8, String: 3}}, 3)
	assert.InDelta(t, 0.5*sound.Rate, first(alone), 2)
	stopped := sound.Mix([]sound.Note{{At: 0.5, Tone: tone, Loud: 0.8, String: 3}, {At: 1, Stop: true}}, 3)
	assert.Equal(t, alone[:sound.Rate], stopped[:sound.Rate])
	assert.Less(t, energy(stopped, 1.2, 3), energy(alone, 1.2, 3)/1000, "a stop silences")
	again := sound.Mix([]sound.Note{{At: 0.5, Tone: tone, Loud: 0.8, String: 3}, {At: 1, Tone: sound.Knock(), Loud: 0.1, String: 3}}, 3)
	other := sound.Mix([]sound.Note{{At: 0.5, Tone: tone, Loud: 0.8, String: 3}, {At: 1, Tone: sound.Knock(), Loud: 0.1, String: 4}}, 3)
	assert.Less(t, energy(again, 1.4, 3), energy(other, 1.4, 3)/1000, "a string is used again; another rings on")
	var many []sound.Note
	for str := range 6 {
		many = append(many, sound.Note{At: 0.1, Tone: tone, Loud: 1, String: str + 1})
	}
	loud := sound.Mix(many, 1)
	assert.LessOrEqual(t, slices.Max(loud), float32(0.9501))
	assert.GreaterOrEqual(t, slices.Min(loud), float32(-0.9501))
}

// BenchmarkThreeMinutes is a play-along of three minutes: eight notes a second.
func BenchmarkThreeMinutes(b *testing.B) {
	tone := sound.Tone{Strings: sound.Steel, Touch: sound.Flesh, Hertz: 196}.Samples()
	var notes []sound.Note
	for i := range 8 * 180 {
		notes = append(notes, sound.Note{At: float64(i) / 8, Tone: tone, Loud: 0.7, String: 1 + i%6})
	}
	for b.Loop() {
		sound.WAV(sound.Mix(notes, 180))
	}
}

// What goes home is what was rendered: tones under half the rate are there, those above it are
// not folded down, and it is a quarter of the WAV at most. Read by the decoder of the package
// that writes it, and by the browser in e2e. Source: RFC 9639; sampling theorem.
func TestFLAC(t *testing.T) {
	wave := func(hertz float64) []float32 {
		out := make([]float32, 2*sound.Rate)
		for i := range out {
			out[i] = float32(0.5 * math.Sin(2*math.Pi*hertz*float64(i)/sound.Rate))
		}
		return out
	}
	decoded := func(samples []float32) []float32 {
		file, err := sound.FLAC(samples)
		require.NoError(t, err)
		stream, err := flac.New(bytes.NewReader(file))
		require.NoError(t, err)
		assert.Equal(t, uint32(sound.Rate/2), stream.Info.SampleRate)
		assert.Equal(t, uint8(12), stream.Info.BitsPerSample)
		var out []float32
		for {
			f, err := stream.ParseNext()
			if errors.Is(err, io.EOF) {
				break
			}
			require.NoError(t, err)
			for _, x := range f.Subframes[0].Samples {
				out = append(out, float32(x)/2047)
			}
		}
		return out
	}
	low := wave(440)
	got := decoded(low)
	require.Len(t, got, len(low)/2)
	for i := 100; i < len(got)-100; i++ {
		assert.InDelta(t, low[2*i], got[i], 0.002, "sample %d", i)
	}
	high := decoded(wave(16000))
	for i := 100; i < len(high)-100; i++ {
		assert.InDelta(t, 0, high[i], 0.02, "sample %d", i)
	}
	var notes []sound.Note
	for i := range 8 * 30 {
		notes = append(notes, sound.Note{At: float64(i) / 8, Of: sound.Tone{Strings: sound.Steel, Touch: sound.Flesh, Hertz: 110 * float64(1+i%5)}, Loud: 0.7, String: 1 + i%6})
	}
	mix := sound.Mix(notes, 30)
	small, err := sound.FLAC(mix)
	require.NoError(t, err)
	assert.Less(t, len(small), len(sound.WAV(mix))/5)
	_, err = sound.FLAC(nil)
	assert.NoError(t, err)
	assert.Nil(t, sound.MixUntil(notes, 30, func() bool { return true }), "nobody listens")
}
