package arrange_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"arplin/core/arrange"
	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/ladder"
	"arplin/core/ladder/edit"
	"arplin/core/ladder/station"
	"arplin/core/pattern"
	"arplin/core/played"
	"arplin/core/song"
	"arplin/core/theory"
)

func in(t *testing.T, k arrange.Task, key string) arrange.Task {
	t.Helper()
	var err error
	k.Key, err = theory.ParseKey(key)
	require.NoError(t, err)
	return k
}

// chordsOf writes what is played in each bar.
func chordsOf(k arrange.Task, p arrange.Played) (list []string) {
	for _, bar := range p.Bars {
		list = append(list, song.BarText(bar.Changes, k.Meter))
	}
	return list
}

// The bass of an ending walks 5 4 3 2 1 over V, V7, I and V; a turnaround goes I, I7, IV, iv, I, V7.
// A beat whose note is not in the chord keeps its own. Source: common practice (figured bass:
// 5/3, 4/2, 6, 6/4 on a descending line; the turnaround of a 12-bar form).
func TestEndings(t *testing.T) {
	for _, x := range []struct {
		name, key, chords, melody string
		station                   station.ID
		want                      []string
	}{
		{"down to one", "C", "C | F | G7 | C", "E4:2 G4 | A4:4 | r:4 | C5:4", station.WalkDown, []string{"C", "F", "G G7/F C/E G/D", "C"}},
		{"in A minor", "Am", "Am | E7 | Am", "A4:4 | r:4 | A4:4", station.WalkDown, []string{"Am", "E E7/D Am/C E/B", "Am"}},
		{"the melody keeps its chord", "C", "C | G7 | C | C", "E4:4 | B4:2 D4 | C5:4 | C5:4", station.WalkDown, nil},
		{"the walk begins later", "C", "C | G7 | C", "E4:4 | A4:1 G4 G4 B4 | C5:4", station.WalkDown, []string{"C", "G7 G7/F C/E G/D", "C"}},
		{"back to one", "G", "G | C | G | D7", "B4:4 | E4:4 | r:4 | r:4", station.Turnaround, []string{"G", "C", "G G7/B C Cm", "G/D D7"}},
		{"neither", "C", "C | F | C | F", "E4:4", "", nil},
		{"a plagal end is none of them", "C", "C | F | C", "E4:4", "", nil},
	} {
		t.Run(x.name, func(t *testing.T) {
			k := in(t, task(t, "guitar", tune(t, x.chords, x.melody), ""), x.key)
			list := k.Stations()
			last := list[len(list)-1]
			if x.want == nil {
				assert.NotContains(t, []station.ID{station.WalkDown, station.Turnaround}, last.ID)
				return
			}
			require.Equal(t, x.station, last.ID)
			p := last.Play(k)
			assert.Equal(t, x.want, chordsOf(k, p))
			before, ok := arrange.ByID(station.WalkingBass)
			require.True(t, ok)
			for _, symbol := range chordsOf(k, before.Play(k)) {
				assert.NotContains(t, symbol, "/", "until then the chords are the song's")
			}
		})
	}
}

// The thumb plays what the chords say: each beat of the walk its bass, lower from step to step.
// Source: common practice.
func TestTheBassWalksDown(t *testing.T) {
	k := in(t, task(t, "guitar", tune(t, "C | G7 | C", "E4:4 | r:4 | C5:4"), ""), "C")
	p := k.Station(station.WalkDown).Play(k)
	var low []string
	for _, e := range p.Bars[1].Events {
		if e.Finger == "p" {
			low = append(low, e.Pitches[0].Note.String())
		}
	}
	assert.Equal(t, []string{"G", "F", "E", "D"}, low)
}

// A seventh chord is started as its triad, and the finger that makes it one comes after the bass.
// Source: common practice: C7 adds the third fret of the third string, D7 the first of the second.
func TestLateFingers(t *testing.T) {
	k := task(t, "guitar", tune(t, "C | C7 | D7 | A7", "E4:4 | E4:4 | F#4:4 | A3:4"), "")
	st := k.Station(station.LateFingers)
	require.True(t, st.Late)
	walking, _ := arrange.ByID(station.WalkingBass)
	had, has := walking.Play(k), st.Play(k)
	added := make([][]played.Event, 4)
	for i := range has.Bars {
		added[i] = slices.DeleteFunc(slices.Clone(has.Bars[i].Events), func(e played.Event) bool {
			return slices.ContainsFunc(had.Bars[i].Events, func(o played.Event) bool { return o.Tick == e.Tick && o.Strings[0] == e.Strings[0] })
		})
	}
	half := k.Meter.BeatTicks() / 2
	assert.Empty(t, added[0], "C has no seventh")
	require.Len(t, added[1], 1)
	assert.Equal(t, []any{half, 3, 3}, []any{added[1][0].Tick, int(added[1][0].Strings[0]), int(added[1][0].Frets[0])})
	require.Len(t, added[2], 1)
	assert.Equal(t, []any{half, 2, 1}, []any{added[2][0].Tick, int(added[2][0].Strings[0]), int(added[2][0].Frets[0])})
	assert.Empty(t, added[3], "the seventh of A7 is an open string: no finger")
}

// A step shows the bar in which most is new: the turnaround its last two bars, the walking thumb a
// bar in which it walks; the ladder keeps what it is.
func TestStepsOfATune(t *testing.T) {
	sg := tune(t, "C | F | C | G7", "E4:1 G4 E4:1/2 G4 E4:1 | A4:4 | r:4 | r:4")
	k := in(t, task(t, "guitar", sg, ""), "C")
	steps, played := k.Steps(sg, bind.DefaultSchool, difficulty.Fitted)
	require.Len(t, played, len(steps))
	last := len(steps) - 1
	require.Equal(t, station.Turnaround, steps[last].Station)
	assert.Equal(t, 2, played[last].Shown(played[last-1]), "the third bar, which leads back")
	assert.Equal(t, 0, played[1].Shown(arrange.Played{}), "the bar with the most notes")
	for i, s := range steps {
		assert.Len(t, s.Pattern.Bars, 1, s.Station)
		assert.Equal(t, ladder.StepID(i+1), s.ID)
		assert.GreaterOrEqual(t, s.LevelAt(sg.Tempo, difficulty.NewTask(s.Pattern, sg, k.Instrument, bind.DefaultSchool, sg.Tempo), difficulty.Fitted), 1.0)
	}
	assert.Less(t, steps[0].Level, steps[5].Level)
	assert.Less(t, steps[3].Level, steps[4].Level, "the thumb on every beat is more than on one")

	l := ladder.Ladder{Steps: steps}
	data, err := l.Encode()
	require.NoError(t, err)
	back, err := ladder.Decode(data)
	require.NoError(t, err)
	require.True(t, back.OfTune())
	for i := range steps {
		assert.True(t, steps[i].Same(back.Steps[i]))
		assert.NotEmpty(t, ladder.Describe(back.Steps, i, difficulty.Task{}).Says)
		assert.NotEmpty(t, back.Steps[i].How())
	}
	_, _, err = edit.Apply(back, edit.Split{Step: steps[1].ID}, difficulty.Task{}, difficulty.Fitted)
	assert.ErrorContains(t, err, "the stations of the melody")
	fewer, _, err := edit.Apply(back, edit.Drop{Step: steps[1].ID}, difficulty.NewTask(steps[0].Pattern, sg, k.Instrument, bind.DefaultSchool, 80), difficulty.Fitted)
	require.NoError(t, err)
	assert.Len(t, fewer.Steps, last)
}

// In every meter, with a pickup, short bars, rests and chords that nobody knows, every station can be
// played and measured, and what it strikes lies in its bar.
func TestStationsInEveryMeter(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		m := rapid.SampledFrom(pattern.Meters).Draw(rt, "meter")
		sg := song.Song{Meter: m, Tempo: 70, Sections: []song.Section{{ID: 1, Name: "A"}}}
		sec := &sg.Sections[0]
		for i := range rapid.IntRange(1, 6).Draw(rt, "bars") {
			bar := song.Bar{Changes: song.Share(m, rapid.SliceOfN(rapid.SampledFrom([]string{"C", "G7", "F", "Am", "Qx", song.NoChord}), 1, 3).Draw(rt, "chords"))}
			if i == 0 && rapid.Bool().Draw(rt, "pickup") {
				bar.Role, bar.Changes = song.Pickup, []song.Change{{Symbol: "G7", Ticks: m.BeatTicks()}}
			}
			sec.Bars = append(sec.Bars, bar)
		}
		var typed []string
		for range sec.Bars {
			typed = append(typed, rapid.SampledFrom([]string{".", "E4:1", "G4:1/2 ^A:1/2", "C5:1/3 B A"}).Draw(rt, "tune"))
		}
		require.NoError(rt, sec.SetTune(strings.Join(typed, " | "), m.BeatTicks()))
		ins, err := fretboard.ByID(rapid.SampledFrom([]string{"guitar", "ukulele"}).Draw(rt, "instrument"))
		require.NoError(rt, err)
		k := arrange.Task{Instrument: ins, Meter: m, Bars: sg.Bars(), Shapes: sg.ShapesOn(ins)}
		steps, played := k.Steps(sg, bind.DefaultSchool, difficulty.Fitted)
		require.GreaterOrEqual(rt, len(steps), 6)
		for i, p := range played {
			assert.True(rt, steps[i].Level >= 1 && steps[i].Level <= 10)
			for b, bar := range p.Bars {
				for _, e := range bar.Events {
					assert.True(rt, e.Tick >= 0 && e.Tick < sg.Bars()[b].Ticks(), "%s: %d of %d", steps[i].Station, e.Tick, sg.Bars()[b].Ticks())
				}
			}
		}
	})
}
