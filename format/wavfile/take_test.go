package wavfile_test

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/listen"
	"arplin/core/listen/sim"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/format/wavfile"
	"arplin/sound"
)

const thumb, strum = "4/4: p+m . p' i p m p' .", "4/4: D . D U . U D U"

func asked(t testing.TB, text, instrument string, tempo, bars int) listen.Score {
	t.Helper()
	p, err := pattern.Parse(text)
	require.NoError(t, err)
	list, err := song.ParseChords("G | Am | F | D7", p.Meter)
	require.NoError(t, err)
	ins, err := fretboard.ByID(instrument)
	require.NoError(t, err)
	return listen.Asked{Pattern: p, Bars: list, Instrument: ins, School: bind.DefaultSchool, Tempo: tempo}.For(bars)
}

func recorded(t testing.TB, score listen.Score, faults string, strings sound.Strings) listen.Sound {
	t.Helper()
	f, err := sim.ParseFaults(faults)
	require.NoError(t, err)
	return listen.Sound{Rate: sound.Rate, Samples: wavfile.Take(sim.Play(score, f, 77), strings)}
}

// at is a sound at another rate: by the nearest sample, as the cheapest of converters does it.
func at(s listen.Sound, rate int) listen.Sound {
	out := listen.Sound{Rate: rate, Samples: make([]float32, len(s.Samples)*rate/s.Rate)}
	for i := range out.Samples {
		out.Samples[i] = s.Samples[min(len(s.Samples)-1, i*s.Rate/rate)]
	}
	return out
}

// What is planted is heard through our tones, at any rate, and clipped. The truth is the player's.
func TestATakeIsHeard(t *testing.T) {
	plain := func(s listen.Sound) listen.Sound { return s }
	for _, c := range []struct {
		name, figure, instrument, faults, says string
		through                                func(listen.Sound) listen.Sound
	}{
		{"as asked", thumb, "guitar", "", "Even within", plain},
		{"rushed, into F", thumb, "guitar", "rush:50,stop:F:450", "The off-beats come early, about", plain},
		{"at 8 kHz", thumb, "guitar", "rush:50", "The off-beats come early, about", func(s listen.Sound) listen.Sound { return at(s, 8000) }},
		{"at 96 kHz", thumb, "ukulele", "rush:50", "The off-beats come early, about", func(s listen.Sound) listen.Sound { return at(s, 96000) }},
		{"clipped", thumb, "guitar", "rush:50", "The off-beats come early, about", func(s listen.Sound) listen.Sound {
			for i := range s.Samples {
				s.Samples[i] = max(-1, min(1, 6*s.Samples[i]))
			}
			return s
		}},
		{"strummed", strum, "ukulele", "stop:F:500", "Into F: stops 0.5 s, 2 of 2 rounds.", plain},
		{"slowing", strum, "guitar", "slowing:8", "It slows down by 8 BPM.", plain},
		{"another string", thumb, "guitar", "wrong-string:60", "on another string", plain},
	} {
		score := asked(t, c.figure, c.instrument, 76, 8)
		h, err := listen.Recording(score, c.through(recorded(t, score, c.faults, sound.Steel)))
		require.NoError(t, err, c.name)
		assert.Contains(t, h.Sentence(), c.says, c.name)
		assert.Empty(t, h.CannotTell, c.name)
		if c.faults == "" {
			assert.Empty(t, h.Faults, h.Sentence())
		}
	}
}

// The first step of a ladder is often one stroke in a bar: in four seconds nothing else comes, whether the room hisses or not.
func TestAStrokeInABarIsHeard(t *testing.T) {
	for _, tempo := range []int{50, 70, 110} {
		score := asked(t, "4/4: p . . .", "guitar", tempo, 8)
		take := recorded(t, score, "", sound.Nylon)
		for _, hiss := range []float32{0, 0.002, 0.02} {
			s := listen.Sound{Rate: take.Rate, Samples: slices.Clone(take.Samples)}
			rng := rand.New(rand.NewPCG(11, uint64(tempo)))
			for i := range s.Samples {
				s.Samples[i] += hiss * (2*rng.Float32() - 1)
			}
			h, err := listen.Recording(score, s)
			require.NoError(t, err)
			assert.Len(t, h.Strokes, 8, "at %d, hiss of %v: %s", tempo, hiss, h.Sentence())
			assert.True(t, h.Clean(), "at %d, hiss of %v: %s", tempo, hiss, h.Sentence())
		}
	}
}

// Played back faster, all of it is sharper, by cents as they are defined: 1200 to the octave.
func TestOutOfTuneIsSaid(t *testing.T) {
	score := asked(t, thumb, "guitar", 76, 8)
	take := recorded(t, score, "", sound.Steel)
	for _, cents := range []float64{15, 40, -40} {
		off := take
		off.Rate = int(math.Round(float64(take.Rate) * math.Pow(2, cents/1200)))
		h, err := listen.Recording(score, off)
		require.NoError(t, err)
		if math.Abs(cents) < 30 {
			assert.Empty(t, h.CannotTell)
			continue
		}
		assert.InDelta(t, cents, h.Cents, 4)
		assert.Contains(t, h.Sentence(), "Tune first: it’s ")
		assert.Contains(t, h.CannotTell, listen.TheStrings)
		for _, f := range h.Faults {
			assert.NotEqual(t, listen.IsOther, f.Kind)
		}
	}
}

func TestSilenceIsSaid(t *testing.T) {
	score := asked(t, thumb, "guitar", 76, 8)
	h, err := listen.Recording(score, listen.Sound{Rate: 8000, Samples: make([]float32, 2*60*8000)})
	require.NoError(t, err)
	assert.Contains(t, h.Sentence(), "I heard nothing.")
	_, err = listen.Recording(score, listen.Sound{Rate: 8000, Samples: make([]float32, 31*60*8000)})
	assert.ErrorContains(t, err, "up to 30 minutes")
	_, err = listen.Recording(score, listen.Sound{Rate: 0})
	assert.ErrorContains(t, err, "samples a second")
}

// BenchmarkAMinute judges sixty seconds of sound.
func BenchmarkAMinute(b *testing.B) {
	score := asked(b, "4/4: p i m i p i m i", "guitar", 96, 24)
	take := recorded(b, score, "rush:40", sound.Steel)
	take.Samples = take.Samples[:60*take.Rate]
	b.ReportAllocs()
	for b.Loop() {
		if _, err := listen.Recording(score, take); err != nil {
			b.Fatal(err)
		}
	}
}
