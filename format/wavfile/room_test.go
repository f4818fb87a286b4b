package wavfile_test

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/listen"
	"arplin/core/listen/sim"
	"arplin/format/wavfile"
	"arplin/sound"
)

// room is a class of players, each a little apart from the others, at a tempo of their own in percent.
func room(t testing.TB, faults string, noise float64, seed uint64, percent ...int) listen.Sound {
	t.Helper()
	figures := []string{"4/4: p . p'+m . p i p' .", "4/4: D . D U . U D U", "4/4: p . . .", "4/4: D . D ."}
	rng := rand.New(rand.NewPCG(seed, 1))
	f, err := sim.ParseFaults(faults)
	require.NoError(t, err)
	var all []float32
	for i := range percent {
		score := asked(t, figures[i%len(figures)], []string{"guitar", "ukulele"}[i%2], 80*percent[i]/100, 8)
		one := wavfile.Take(sim.Play(score, f, seed+uint64(i)), sound.Nylon)
		late := int(rng.Float64() * 0.04 * sound.Rate)
		for len(all) < len(one)+late {
			all = append(all, 0)
		}
		for k, x := range one {
			all[k+late] += x / 6
		}
	}
	for k := range all { // chairs, a fan, the street
		all[k] += float32(rng.NormFloat64() * noise)
	}
	return listen.Sound{Rate: sound.Rate, Samples: all}
}

// A class is heard as one: what it was planted to do is what is said of it. The truth is the players’; the threshold was
// chosen on other seeds.
func TestARoomHoldsItsBeatOrNot(t *testing.T) {
	same := []int{100, 100, 100, 100, 100, 100}
	for _, c := range []struct {
		faults   string
		noise    float64
		percent  []int
		from, to float64 // 0: no beat
		says     string
	}{
		{"", 0, same, 80, 80, "The class holds the beat, at 80 BPM."},
		{"", 0.004, same, 80, 80, "The class holds the beat, at 80 BPM."},
		{"slowing:10bpm", 0.004, same, 80, 70, "The class slows down"},
		{"", 0, []int{90, 90, 90, 90, 90, 90}, 72, 72, "The class holds the beat, but at 72 BPM and not at 80."},
		{"", 0, []int{80, 93, 100, 110, 117, 87}, 0, 0, "I can’t find one beat"},
	} {
		for seed := range uint64(2) {
			r, err := listen.HearRoom(room(t, c.faults, c.noise, 7300+10*seed, c.percent...), 80)
			require.NoError(t, err)
			assert.InDelta(t, c.from, r.From, 2.5, c.says)
			assert.InDelta(t, c.to, r.To, 2.5, c.says)
			assert.Contains(t, r.Sentence(), c.says)
		}
	}
}

func TestARoomThatIsNone(t *testing.T) {
	r, err := listen.HearRoom(listen.Sound{Rate: sound.Rate, Samples: make([]float32, 20*sound.Rate)}, 80)
	require.NoError(t, err)
	assert.Contains(t, r.Sentence(), "I heard nothing")
	hiss := listen.Sound{Rate: sound.Rate, Samples: make([]float32, 20*sound.Rate)}
	rng := rand.New(rand.NewPCG(9, 9))
	for k := range hiss.Samples {
		hiss.Samples[k] = float32(rng.NormFloat64() * 0.1)
	}
	for _, s := range []listen.Sound{hiss, {Rate: sound.Rate, Samples: hiss.Samples[:sound.Rate]}} {
		r, err = listen.HearRoom(s, 80)
		require.NoError(t, err)
		assert.False(t, r.Holds())
		assert.Contains(t, r.Sentence(), "I can’t find one beat")
	}
	_, err = listen.HearRoom(hiss, 5)
	assert.ErrorContains(t, err, "20 to 300 BPM")
	_, err = listen.HearRoom(listen.Sound{Rate: 10}, 80)
	assert.ErrorContains(t, err, "samples a second")
}

func BenchmarkARoom(b *testing.B) {
	s := room(b, "", 0.004, 1, 100, 100, 100, 100)
	for b.Loop() {
		if _, err := listen.HearRoom(s, 80); err != nil {
			b.Fatal(err)
		}
	}
}
