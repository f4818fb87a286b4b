package listen_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"arplin/core/listen"
	"arplin/core/pattern"
)

// figure is the alternating thumb with a pinch on the one, a common practice in four-four.
const figure = "4/4: p+m . p' i p m p' ."

func lineOf(t require.TestingT, text string, tempo int) listen.Timeline {
	p, err := pattern.Parse(text)
	require.NoError(t, err)
	return listen.Timeline{Figure: p, Tempo: tempo}
}

// played taps what is due of some bars; move says where a tap comes, and whether.
func played(line listen.Timeline, bars int, move func(d listen.Due) (float64, bool)) (taps []listen.Tap) {
	for _, d := range line.Bars(bars) {
		if at, there := move(d); there {
			taps = append(taps, listen.Tap{At: at, With: d.With})
		}
	}
	return taps
}

// A quarter at 60 lasts a second: arithmetic. Thumb and fingers of a pinch are one moment.
func TestTheTimelineIsInMilliseconds(t *testing.T) {
	line := lineOf(t, figure, 60)
	assert.Equal(t, 4000.0, line.BarMS())
	assert.Equal(t, []listen.Due{
		{0, 0, listen.Thumb, 0}, {0, 0, listen.Fingers, 0}, {0, 2, listen.Thumb, 1000}, {0, 3, listen.Fingers, 1500},
		{0, 4, listen.Thumb, 2000}, {0, 5, listen.Fingers, 2500}, {0, 6, listen.Thumb, 3000},
	}, line.Bars(1))
	assert.InDelta(t, 1000, lineOf(t, "6/8: p i m a m i", 120).BarMS(), 1e-9, "six-eight is tapped in two")
}

func TestATakeIsSaidInASentence(t *testing.T) {
	scatter := rand.New(rand.NewPCG(1, 2))
	near := func(d listen.Due) float64 { return d.At + 20*scatter.Float64() - 10 }
	for _, c := range []struct {
		name string
		move func(d listen.Due) (float64, bool)
		says string
	}{
		{"as asked", func(d listen.Due) (float64, bool) { return d.At, true }, "Even within 0 ms."},
		{"an early place", func(d listen.Due) (float64, bool) {
			if d.Slot == 3 {
				return d.At - 40, true
			}
			return d.At, true
		}, "Even within 0 ms. The “and” of 2 comes early, 40 ms each time."},
		{"another moment", func(d listen.Due) (float64, bool) { return d.At + 5000, true }, "Even within 0 ms."},
		{"late all along", func(d listen.Due) (float64, bool) { return d.At + 60, true }, "Even within 0 ms. All of it comes late, by 60 ms."},
		{"slower", func(d listen.Due) (float64, bool) { return d.At * 1.03, true }, "Even within 0 ms. It’s slower than the click, 100 ms a bar."},
		{"a place left out", func(d listen.Due) (float64, bool) { return d.At, d.Slot != 5 }, "Even within 0 ms. The “and” of 3 is left out most times."},
		{"one left out", func(d listen.Due) (float64, bool) { return d.At, d.Bar != 2 || d.Slot != 5 }, "Even within 0 ms. 1 tap is missing."},
		{"nothing of it", func(d listen.Due) (float64, bool) { return 20000 * scatter.Float64(), true }, "I can’t find the pattern in these taps. Start again with the click, more slowly."},
	} {
		t.Run(c.name, func(t *testing.T) {
			line := lineOf(t, figure, 72)
			j, err := listen.Judge(line, played(line, 6, c.move))
			require.NoError(t, err)
			assert.Equal(t, c.says, j.Sentence())
		})
	}
	t.Run("scatter of ten is no habit", func(t *testing.T) {
		line := lineOf(t, figure, 72)
		j, err := listen.Judge(line, played(line, 6, func(d listen.Due) (float64, bool) { return near(d), true }))
		require.NoError(t, err)
		assert.Empty(t, j.Habits)
		assert.InDelta(t, 10, j.Evenness, 5)
	})
}

func TestWhatCannotBeJudgedIsSaid(t *testing.T) {
	line := lineOf(t, figure, 72)
	for _, c := range []struct {
		name string
		line listen.Timeline
		taps []listen.Tap
		says string
	}{
		{"no taps", line, nil, "there are no taps in it"},
		{"an endless take", line, []listen.Tap{{0, listen.Thumb}, {5e7, listen.Thumb}}, "a take has at most 512 bars, and this one 15000"},
		{"a silent pattern", lineOf(t, "4/4: . . . . . . . .", 72), []listen.Tap{{0, listen.Thumb}}, "there is nothing to tap in this pattern"},
	} {
		t.Run(c.name, func(t *testing.T) {
			_, err := listen.Judge(c.line, c.taps)
			assert.EqualError(t, err, c.says)
		})
	}
}

// Whatever the figure, the tempo and the place: a place that is off each time is the only habit, its
// offset is reported within 3 ms, and every tap is accounted for.
func TestAKnownOffsetIsReported(t *testing.T) {
	figures := []string{figure, "4/4: p i m i p i m i", "3/4: p . i m i .", "6/8: p i m a m i", "4/4: D . D U . U D U", "4/4: p i m a p m i m p a m i p m a i"}
	rapid.Check(t, func(rt *rapid.T) {
		line := lineOf(rt, rapid.SampledFrom(figures).Draw(rt, "figure"), rapid.IntRange(40, 96).Draw(rt, "tempo"))
		asked := line.Bars(1)
		place := asked[rapid.IntRange(0, len(asked)-1).Draw(rt, "place")].Slot
		off := float64(rapid.IntRange(40, 70).Draw(rt, "off"))
		if rapid.Bool().Draw(rt, "early") {
			off = -off
		}
		seed := rapid.Uint64().Draw(rt, "seed")
		scatter := rand.New(rand.NewPCG(seed, 1))
		taps := played(line, 6, func(d listen.Due) (float64, bool) {
			at := d.At + 2*scatter.Float64() - 1
			if d.Slot == place {
				at += off
			}
			return at, true
		})
		j, err := listen.Judge(line, taps)
		require.NoError(rt, err)
		require.Len(rt, j.Strokes, len(taps))
		require.Len(rt, j.Habits, 1, j.Sentence())
		assert.Equal(rt, place, j.Habits[0].Slot)
		assert.InDelta(rt, off, j.Habits[0].Off, 3)
	})
}

// Random taps never crash, and none is lost: each is due, or too much.
func TestEveryTapIsAccountedFor(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		line := lineOf(rt, figure, rapid.IntRange(30, 240).Draw(rt, "tempo"))
		var taps []listen.Tap
		for _, at := range rapid.SliceOfN(rapid.Float64Range(-2000, 20000), 1, 60).Draw(rt, "at") {
			taps = append(taps, listen.Tap{At: at, With: rapid.SampledFrom([]listen.Hand{listen.Thumb, listen.Fingers}).Draw(rt, "hand")})
		}
		j, err := listen.Judge(line, taps)
		require.NoError(rt, err)
		heard := 0
		for _, s := range j.Strokes {
			if s.State != listen.Missed {
				heard++
			}
			require.False(rt, math.IsNaN(s.Off))
		}
		assert.Equal(rt, len(taps), heard)
		assert.NotEmpty(rt, j.Sentence())
	})
}
