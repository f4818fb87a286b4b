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
	"arplin/core/ladder/station"
	"arplin/core/pattern"
	"arplin/core/played"
	"arplin/core/song"
	"arplin/core/song/edit"
)

// Each station is one thing more than the one before: no tune and no thumb, the tune, shapes,
// then the thumb once, on every beat, in turns. Source: common practice, the order of a solo
// over a form.
func TestStations(t *testing.T) {
	sg := tune(t, "C | Am | F | G7", "E4:1 G A:2 | C5:1 A4 E:2 | F:1 A C5:2 | B4:1 G D:2")
	k := task(t, "guitar", sg, "")
	stations := k.Stations()
	require.Len(t, stations, 6, "without marks, late fingers, and an end on one or five there is no station for them")
	count := func(id station.ID, of func(played.Event) bool) (n int) {
		for _, st := range stations {
			if st.ID != id {
				continue
			}
			for _, bar := range st.Play(k).Bars {
				for _, e := range bar.Events {
					if of(e) {
						n++
					}
				}
			}
		}
		return n
	}
	tuneNotes := func(e played.Event) bool { return e.Melody }
	thumb := func(e played.Event) bool { return e.Finger == "p" }
	strums := func(e played.Event) bool { return e.Kind == played.Strum }
	assert.Equal(t, []int{0, 0, 4}, []int{count("chords", tuneNotes), count("chords", thumb), count("chords", strums)})
	assert.Equal(t, []int{12, 0, 0}, []int{count("tune", tuneNotes), count("tune", thumb), count("tune", strums)})
	assert.Equal(t, []int{0, 0, 12}, []int{count("shapes", tuneNotes), count("shapes", thumb), count("shapes", strums)}, "all notes fall on beats")
	assert.Equal(t, []int{12, 4}, []int{count("bass-on-one", tuneNotes), count("bass-on-one", thumb)})
	assert.Equal(t, []int{12, 16}, []int{count("pulse", tuneNotes), count("pulse", thumb)})
	assert.Equal(t, []int{12, 16}, []int{count("alternating", tuneNotes), count("alternating", thumb)})

	for _, bar := range stations[2].Play(k).Bars { // what is strummed has the tune on top
		for _, e := range bar.Events {
			top := e.Pitches[len(e.Pitches)-1].MIDI()
			for _, p := range e.Pitches {
				assert.LessOrEqual(t, p.MIDI(), top)
			}
		}
	}
	level := func(i int) float64 {
		return stations[i].Play(k).Reading(k, sg, bind.DefaultSchool, difficulty.Fitted).Level
	}
	assert.Less(t, level(3), level(4))
	assert.Less(t, level(4), level(5), "the thumb that goes between strings is the hardest")
	assert.Less(t, level(0), level(5))

	marked := tune(t, "C | C", "E4:1 /G A ^B | C5:4")
	all := task(t, "guitar", marked, "").Stations()
	require.Len(t, all, 7)
	slurred := func(st arrange.Station) (n int) {
		for _, bar := range st.Play(task(t, "guitar", marked, "")).Bars {
			n += len(slices.DeleteFunc(slices.Clone(bar.Events), func(e played.Event) bool { return !e.Slurred }))
		}
		return n
	}
	assert.Zero(t, slurred(all[5]), "first they are struck")
	assert.Equal(t, 2, slurred(all[6]))
}

// A tune, written out as note-on events by its own arithmetic, is what the stations with a tune
// sound: the same pitches at the same ticks, for random tunes; each stroke stands in the slot of
// its tick.
func TestStationsSoundTheTune(t *testing.T) {
	type on struct{ bar, tick, midi int }
	rapid.Check(t, func(rt *rapid.T) {
		sg := random(rt, 60)
		st := rapid.SampledFrom([]station.ID{station.TuneAlone, station.BassOnOne, station.PulsingBass, station.WalkingBass}).Draw(rt, "station")
		k := task(t, "guitar", sg, "")
		way, ok := arrange.ByID(st)
		require.True(rt, ok)
		p := way.Play(k)
		left := map[[2]int]bool{}
		for _, l := range p.Left {
			left[[2]int{l.Bar, l.Tick}] = true
		}
		want := map[on]bool{}
		for b, bar := range sg.Bars() {
			for _, n := range bar.Melody {
				want[on{b, n.Tick, n.MIDI}] = true
			}
		}
		slot := pattern.Meter{Beats: 4, Unit: 4}.BarTicks() / p.Grid
		for b, bar := range p.Bars {
			for _, e := range bar.Events {
				assert.Equal(rt, e.Slot, e.Tick/slot)
				if !e.Melody {
					continue
				}
				assert.True(rt, want[on{b, e.Tick, e.Pitches[0].MIDI()}])
				assert.Equal(rt, k.Instrument.Open(e.Strings[0]).MIDI()+int(e.Frets[0]), e.Pitches[0].MIDI())
				delete(want, on{b, e.Tick, e.Pitches[0].MIDI()})
			}
		}
		for n := range want {
			assert.True(rt, left[[2]int{n.bar, n.tick}], "%+v is lost without a word", n)
		}
	})
}

// A song without a tune has its chords, and nothing falls over.
func TestNoTune(t *testing.T) {
	sg := tune(t, "C | C | C", "")
	sg.Sections[0].Bars[1].Changes[0].Symbol, sg.Sections[0].Bars[2].Changes[0].Symbol = song.NoChord, "Qx"
	for _, w := range station.All {
		st, ok := arrange.ByID(w.ID)
		require.True(t, ok, w.ID)
		p := st.Play(task(t, "ukulele", sg, ""))
		require.Len(t, p.Bars, 3)
		assert.Empty(t, p.Left)
		assert.Empty(t, p.Bars[1].Events, "%s: where nothing is played", st.ID)
	}
	assert.Len(t, arrange.Task{Meter: sg.Meter}.Stations(), 6)
}

// A pickup of one beat in 4/4 stands under "4 and", and sounds at once; swung, the second of a
// pair comes at two thirds of the beat. Source: common practice (swing 2:1).
func TestPickupAndSwing(t *testing.T) {
	sg := tune(t, "C | C", ". | E4:1/2 F G:3")
	beat := sg.Meter.BeatTicks()
	sg.Sections[0].Bars[0].Role, sg.Sections[0].Bars[0].Changes[0].Ticks = song.Pickup, beat
	sg, _, err := sg.Apply(edit.SetMelody{Section: 1, Text: "D4:1/2 E | E4:1/2 F G:3"})
	require.NoError(t, err)
	p := task(t, "guitar", sg, "").Station(station.TuneAlone).Play(task(t, "guitar", sg, ""))
	require.Equal(t, 8, p.Grid)
	places := func(p arrange.Played) (slots, ticks []int) {
		for _, bar := range p.Bars {
			for _, e := range bar.Events {
				slots, ticks = append(slots, e.Slot), append(ticks, e.Tick)
			}
		}
		return slots, ticks
	}
	slots, ticks := places(p)
	assert.Equal(t, []int{6, 7, 0, 1, 2}, slots)
	assert.Equal(t, []int{0, beat / 2, 0, beat / 2, beat}, ticks)
	_, ticks = places(p.Swung(sg.Meter))
	assert.Equal(t, []int{0, beat * 2 / 3, 0, beat * 2 / 3, beat}, ticks)
	_, ticks = places(p)
	assert.Equal(t, beat/2, ticks[1], "what was straight stays so")
}

// BenchmarkStations is all stations of a tune of 64 bars in eighths, with their levels.
func BenchmarkStations(b *testing.B) {
	sg := tune(b, strings.TrimSuffix(strings.Repeat("C | Am | F | G7 | ", 16), " | "), strings.TrimSuffix(strings.Repeat("E4:1/2 G4 A4 G4 E4 D4 C4 D4 | E4:1/2 C4 E4 A4 C5 B4 A4 G4 | F4:1/2 A4 C5 A4 F4 E4 D4 C4 | D4:1/2 G4 B4 D5 F4 E4 D4 B3 | ", 16), " | "))
	k := task(b, "guitar", sg, "")
	for b.Loop() {
		k.Steps(sg, bind.DefaultSchool, difficulty.Fitted)
	}
}

// A level gains a little where notes are slid to or hammered on, which are not struck; where nothing
// is struck it is the least. The figure is from memory.
func TestWhatATuneAddsToALevel(t *testing.T) {
	sg := tune(t, "C | C", "C5:4 | C5:4") // on string 2, fret 1
	k := task(t, "guitar", sg, "")
	of := func(p arrange.Played, tempo int) float64 {
		sg := sg
		sg.Tempo = tempo
		return p.Reading(k, sg, bind.DefaultSchool, difficulty.Fitted).Level
	}
	pulse, ok := arrange.ByID(station.PulsingBass)
	require.True(t, ok)
	p := pulse.Play(k)
	plain := of(p, 60)
	with := func(bar int, change func([]played.Event) []played.Event) arrange.Played {
		q := p
		q.Bars = slices.Clone(p.Bars)
		q.Bars[bar].Events = change(slices.Clone(p.Bars[bar].Events))
		return q
	}
	slurred := with(0, func(list []played.Event) []played.Event {
		e := list[0]
		e.Slurred = true
		return append(list, e)
	})
	assert.Len(t, slurred.Figure(k.Meter).Bars, 2)
	assert.Equal(t, p.Figure(k.Meter).Count(), slurred.Figure(k.Meter).Count(), "what is hammered on is not struck")
	assert.InDelta(t, 0.25, of(slurred, 60)-plain, 1e-9)
	assert.Equal(t, 1.0, of(arrange.Played{Grid: 8, Bars: make([]arrange.PlayedBar, 2)}, 60), "nothing is struck")
}

// A finger that stays down while the thumb goes on under it is half a level where every note is one.
// The figure is from memory.
func TestWhatAHeldNoteAddsToALevel(t *testing.T) {
	sg := tune(t, "C | C", "C4:4 | C4:4") // on string 2, fret 1
	k := task(t, "guitar", sg, "")
	pulse, ok := arrange.ByID(station.PulsingBass)
	require.True(t, ok)
	p := pulse.Play(k)
	of := func(short ...int) float64 { // the figure is the same, however long its notes are
		t := k
		t.Bars = slices.Clone(k.Bars)
		for _, b := range short {
			t.Bars[b].Melody = slices.Clone(k.Bars[b].Melody)
			t.Bars[b].Melody[0].Ticks = 1
		}
		return p.Reading(t, sg, bind.DefaultSchool, difficulty.Fitted).Level
	}
	assert.InDelta(t, 0.4, of()-of(0), 1e-9, "one of two")
	assert.InDelta(t, 0.8, of()-of(0, 1), 1e-9, "both")
}

// A tune alone is sung and played with whichever finger is free: it has no figure to remember. Over
// the thumb it has. Common practice.
func TestATuneAloneHasNoFigure(t *testing.T) {
	sg := tune(t, "C | Am | F | G7", "E4:1 G A:2 | C5:1 A4 E:2 | F:1 A C5:2 | B4:1 G D:2")
	k := task(t, "guitar", sg, "")
	says := func(id station.ID, part string) string {
		for _, p := range k.Station(id).Play(k).Reading(k, sg, bind.DefaultSchool, difficulty.Fitted).Parts {
			if string(p.ID) == part {
				return p.Says
			}
		}
		return "no such part"
	}
	assert.Equal(t, "no pattern to remember, just the melody", says(station.TuneAlone, "figure"))
	assert.Equal(t, "any two fingers play the melody in turn", says(station.TuneAlone, "fingers"))
	assert.Contains(t, says("alternating", "figure"), "to remember")
	assert.NotContains(t, says("alternating", "figure"), "no figure")
}
