package listen_test

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/listen"
	"arplin/core/listen/sim"
	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
	"arplin/core/song"
)

// asked is a figure over four chords that beginners know, a bar each.
func asked(t require.TestingT, text, instrument string, tempo, bars int) listen.Score {
	p, err := pattern.Parse(text)
	require.NoError(t, err)
	list, err := song.ParseChords("C | Am | F | G7", p.Meter)
	require.NoError(t, err)
	ins, err := fretboard.ByID(instrument)
	require.NoError(t, err)
	score := listen.Asked{Pattern: p, Bars: list, Instrument: ins, School: bind.DefaultSchool, Tempo: tempo}.For(bars)
	require.NotEmpty(t, score.Strokes, text)
	return score
}

func performed(take sim.Take) (notes []listen.Note) {
	for _, n := range take.Notes {
		notes = append(notes, listen.Note{At: n.At, MIDI: n.MIDI, Loud: n.Loud})
	}
	return notes
}

func taken(t require.TestingT, score listen.Score, faults string, seed uint64) listen.Hearing {
	f, err := sim.ParseFaults(faults)
	require.NoError(t, err)
	h, err := listen.Listen(score, performed(sim.Play(score, f, seed)))
	require.NoError(t, err)
	return h
}

// kinds are the faults of a take, each once, in order.
func kinds(h listen.Hearing) (list []listen.Kind) {
	for _, f := range h.Faults {
		if n := len(list); n == 0 || list[n-1] != f.Kind {
			list = append(list, f.Kind)
		}
	}
	return list
}

// What is planted is what is named, at its place. The truth is the player's.
func TestPlantedFaultsAreNamed(t *testing.T) {
	const strum = "4/4: D . D U . U D U"
	for _, c := range []struct {
		figure, instrument string
		tempo              int
		faults             string
		want               []listen.Kind
		says               string
	}{
		{figure, "guitar", 72, "", nil, "Even within"},
		{figure, "guitar", 72, "rush:45", []listen.Kind{listen.IsEarly}, "The off-beats come early, about 4"},
		{figure, "guitar", 72, "late-thumb:50", []listen.Kind{listen.IsLate}, "The thumb comes late, about"},
		{figure, "guitar", 72, "stop:F:400", []listen.Kind{listen.Stops}, "Into F: stops 0.4 s, 2 of 2 rounds."},
		{figure, "guitar", 72, "missed:m:100", []listen.Kind{listen.IsMissed}, "The fingers’ note on 1 is left out, 8 of 8 rounds."},
		{figure, "guitar", 72, "wrong-string:100", []listen.Kind{listen.IsOther}, "is on another string"},
		{figure, "guitar", 72, "swung", []listen.Kind{listen.IsSwung}, "The off-beats are swung"},
		{figure, "guitar", 72, "uneven:8", []listen.Kind{listen.IsUneven}, "Notes differ in loudness"},
		{figure, "guitar", 72, "slowing:8", []listen.Kind{listen.Slows}, "It slows down by 8 BPM."},
		{figure, "guitar", 72, "bar-twice", nil, "Bar 5 is played again."},
		{strum, "ukulele", 84, "rush:45", []listen.Kind{listen.IsEarly}, "The off-beats come early"},
		{strum, "ukulele", 84, "stop:G7:500", []listen.Kind{listen.Stops}, "Into G7: stops 0.5 s, 2 of 2 rounds."},
		{"4/4 swing: D U D U D U D U", "guitar", 80, "", nil, "Even within"},
		{"4/4 swing: D U D U D U D U", "guitar", 80, "swung", []listen.Kind{listen.IsStraight}, "The off-beats are straight"},
		{"6/8: p i m a m i", "guitar", 50, "missed:a:100", []listen.Kind{listen.IsMissed}, "is left out, 8 of 8 rounds."},
	} {
		h := taken(t, asked(t, c.figure, c.instrument, c.tempo, 8), c.faults, 3)
		assert.Equal(t, h, taken(t, asked(t, c.figure, c.instrument, c.tempo, 8), c.faults, 3), "the same take has the same answer")
		assert.Equal(t, c.want, kinds(h), "%s %s: %s", c.figure, c.faults, h.Sentence())
		assert.Contains(t, h.Sentence(), c.says, "%s %s", c.figure, c.faults)
		assert.Empty(t, h.CannotTell, c.faults)
	}
}

// A player without faults has none, whatever of the catalogue it is, and every stroke is found.
func TestAFaultlessPlayerHasNoFault(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		e := rapid.SampledFrom(catalogue.All).Draw(t, "pattern")
		instrument := "guitar"
		if rapid.Bool().Draw(t, "ukulele") {
			instrument = "ukulele"
		}
		tempo := rapid.IntRange(max(40, e.Tempo[0]), max(e.Tempo[0], min(130, e.Tempo[1]))).Draw(t, "tempo")
		h := taken(t, asked(t, e.Notation, instrument, tempo, 8), "", rapid.Uint64Range(1, 900).Draw(t, "seed"))
		assert.Empty(t, h.Faults, "%s at %d: %s", e.ID, tempo, h.Sentence())
		for _, s := range h.Strokes {
			if s.State != listen.OnTime && s.State != listen.Early && s.State != listen.Late {
				t.Fatalf("%s: bar %d slot %d is %s", e.ID, s.Bar, s.Slot, s.State)
			}
		}
	})
}

// Another tempo is followed and said, and a take that begins whenever it does is the same take.
func TestATakeMayBeSlowerAndBeginLater(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		score := asked(t, figure, "guitar", 80, 8)
		score.Free = true
		slower := rapid.Float64Range(0.75, 1.35).Draw(t, "slower")
		later := rapid.Float64Range(-200, 4000).Draw(t, "later")
		notes := performed(sim.Play(score, sim.Faults{}, rapid.Uint64Range(1, 900).Draw(t, "seed")))
		for i := range notes {
			notes[i].At = notes[i].At*slower + later
		}
		h, err := listen.Listen(score, notes)
		require.NoError(t, err)
		assert.InDelta(t, 80/slower, h.Tempo, 1.5, h.Sentence())
		assert.Empty(t, h.Faults, h.Sentence())
		if off := math.Abs(80/slower - 80); off < 2 || off > 4.5 {
			assert.Equal(t, off > 3, strings.HasPrefix(h.Sentence(), "Played at"), h.Sentence())
		}
	})
}

func TestBarsThatAreLeftOut(t *testing.T) {
	score := asked(t, figure, "guitar", 72, 8)
	var notes []listen.Note
	bar := score.BarMS()
	for _, n := range performed(sim.Play(score, sim.Faults{}, 4)) {
		switch at := int((n.At + 50) / bar); {
		case at == 2 || at == 3:
			continue
		case at > 3:
			n.At -= 2 * bar
		}
		notes = append(notes, n)
	}
	h, err := listen.Listen(score, notes)
	require.NoError(t, err)
	assert.Equal(t, []int{2, 3}, h.Left)
	assert.Contains(t, h.Sentence(), "Bars 3 and 4 are left out.")
	assert.False(t, h.Clean())

	notes = nil
	for _, n := range performed(sim.Play(score, sim.Faults{}, 4)) {
		if n.At > 3*bar-50 {
			n.At -= 3 * bar
			notes = append(notes, n)
		}
	}
	h, err = listen.Listen(score, notes)
	require.NoError(t, err)
	assert.Equal(t, 3, h.From)
	assert.Contains(t, h.Sentence(), "It starts at bar 4.")
}

// It says when it cannot tell, and then names no fault.
func TestWhatCannotBeTold(t *testing.T) {
	score := asked(t, figure, "guitar", 72, 8)
	h, err := listen.Listen(score, nil)
	require.NoError(t, err)
	assert.Contains(t, h.Sentence(), "I heard nothing.")
	assert.False(t, h.Clean())

	chance := rand.New(rand.NewPCG(7, 7))
	var notes []listen.Note
	for range 60 {
		notes = append(notes, listen.Note{At: 26000 * chance.Float64(), MIDI: 72 + chance.IntN(12)})
	}
	h, err = listen.Listen(score, notes)
	require.NoError(t, err)
	assert.Equal(t, []string{listen.ThePattern}, h.CannotTell)
	assert.Empty(t, h.Faults)
	assert.Contains(t, h.Sentence(), "I can’t find the pattern in this take.")

	// A capo that nobody said: every string is another, in time.
	notes = performed(sim.Play(score, sim.Faults{}, 5))
	for i := range notes {
		notes[i].MIDI++
	}
	h, err = listen.Listen(score, notes)
	require.NoError(t, err)
	assert.Equal(t, []string{listen.TheStrings}, h.CannotTell)
	assert.Empty(t, h.Faults, h.Sentence())
	assert.Contains(t, h.Sentence(), "I can’t tell the strings")

	_, err = listen.Listen(listen.Score{}, notes)
	assert.ErrorContains(t, err, "there is nothing to play")
}

// The truth is the player's: what is too much and what is on another string is counted as it was planted.
func TestSlipsAreCountedAsTheyWerePlanted(t *testing.T) {
	score := asked(t, figure, "guitar", 66, 8)
	for seed := uint64(1); seed <= 20; seed++ {
		f, err := sim.ParseFaults("extra:8%, wrong-string:8%")
		require.NoError(t, err)
		take := sim.Play(score, f, seed)
		h, err := listen.Listen(score, performed(take))
		require.NoError(t, err)
		count := func(state listen.State) (asked, heard int) {
			for _, s := range take.Truth {
				if s.State == state {
					asked++
				}
			}
			for _, s := range h.Strokes {
				if s.State == state {
					heard++
				}
			}
			return asked, heard
		}
		for _, state := range []listen.State{listen.Extra, listen.Other} {
			planted, heard := count(state)
			assert.InDelta(t, planted, heard, 1, "%s, seed %d", state, seed)
		}
	}
}

func TestFaultsOfASimulatedPlayerAreRead(t *testing.T) {
	f, err := sim.ParseFaults(" rush:40ms, stop:F:400ms,wrong-string:10% ,swung,missed:m:25")
	require.NoError(t, err)
	assert.Equal(t, sim.Faults{Rush: 40, Stop: map[string]float64{"F": 400}, WrongString: 0.1, Swung: true, Missed: map[string]float64{"m": 0.25}}, f)
	for _, wrong := range []string{"hum", "rush:fast", "stop:400ms", "missed:m", "wrong-string:200%", "rush:-1", "slowing:NaN"} {
		_, err := sim.ParseFaults(wrong)
		assert.ErrorContains(t, err, "faults: ", wrong)
	}
	score := asked(t, figure, "guitar", 72, 4)
	assert.Equal(t, sim.Play(score, f, 9), sim.Play(score, f, 9), "the same seed is the same take")
	assert.NotEqual(t, sim.Play(score, f, 9), sim.Play(score, f, 10))
}

// Every string of sound a bar could have is judged, and nothing breaks.
func FuzzListen(f *testing.F) {
	f.Add(uint64(1), 40, 30000.0)
	score := asked(f, figure, "guitar", 72, 8)
	f.Fuzz(func(t *testing.T, seed uint64, n int, length float64) {
		if n < 0 || n > 2000 || math.IsNaN(length) || math.Abs(length) > 1e7 {
			return
		}
		chance := rand.New(rand.NewPCG(seed, 1))
		var notes []listen.Note
		for range n {
			notes = append(notes, listen.Note{At: length * chance.Float64(), MIDI: chance.IntN(128), Loud: chance.Float64()})
		}
		h, err := listen.Listen(score, notes)
		require.NoError(t, err)
		assert.NotEmpty(t, h.Sentence())
		assert.False(t, math.IsNaN(h.Tempo) || math.IsNaN(h.Evenness) || math.IsNaN(h.Drift))
	})
}
