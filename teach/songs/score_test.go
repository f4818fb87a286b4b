package songs

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/bind"
	"arplin/core/bpm"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/teach/people"
)

// wanderer has everything that a song can: a pickup, a part that is played twice with two
// endings, a bar in another meter, a stop, a closing bar, swing, and a capo.
func wanderer(t *testing.T) song.Song {
	t.Helper()
	four, three := pattern.Meter{Beats: 4, Unit: 4}, pattern.Meter{Beats: 3, Unit: 4}
	beat := four.BeatTicks()
	bar := func(role song.Role, ending int, changes ...song.Change) song.Bar {
		return song.Bar{Role: role, Ending: ending, Changes: changes}
	}
	whole := func(symbol string) song.Change { return song.Change{Symbol: symbol, Ticks: 4 * beat} }
	waltz := bar("", 0, song.Change{Symbol: "F", Ticks: 3 * beat})
	waltz.Meter = three
	sg := song.Song{Title: "Wanderer", Meter: four, Tempo: 100, Capo: map[string]int{"guitar": 2}, Sections: []song.Section{
		{Name: "Verse", Times: 2, Bars: []song.Bar{
			bar(song.Pickup, 0, song.Change{Symbol: "G", Ticks: beat}), bar("", 0, whole("C")), waltz,
			bar("", 1, whole("G")), bar("", 2, song.Change{Symbol: "G", Ticks: 2 * beat}, song.Change{Symbol: "C", Ticks: 2 * beat}),
		}},
		{Name: "End", Bars: []song.Bar{bar(song.Stop, 0, whole("Am")), bar(song.End, 0, whole("C")), bar("", 0, whole("F"))}},
	}}
	return sg
}

// A song with repeats, endings, two meters, a pickup, a stop, swing and a capo is played as
// it is written: every note of the core's timeline, at its tick, two frets up, and no other.
func TestAScoreIsTheTimelineNoteByNote(t *testing.T) {
	sg := wanderer(t)
	ins, _ := fretboard.ByID("guitar")
	p := pattern.MustParse("4/4 swing: p . p' i p m p' i")
	view := NewView(sg, ins, people.Class{})
	got := view.Score(view.Line(sg, Figures(bind.Always(p))), difficulty.OnStrings, sg.Title, bpm.Of(sg.Tempo), ScoreAsk{})

	// In words: pickup C F G(1) | pickup C F G C(2) | stop | end; nothing after an ending bar.
	var chords []string
	for _, b := range got.Bars {
		chords = append(chords, b.Changes[0].Symbol)
	}
	beat := got.Beat
	assert.Len(t, got.Bars, 10)
	assert.Equal(t, (1+4+3+4+1+4+3+4+4+4)*beat, got.Ticks)
	assert.Equal(t, []int{1, 4, 3, 4, 1, 4, 3, 4, 4, 4}, beatsOf(got))
	// As fingered above a capo on the second fret, every chord is a whole tone lower.
	assert.Equal(t, []string{"F", "Bb", "Eb", "F", "F", "Bb", "Eb", "F", "Gm", "Bb"}, chords)
	assert.Equal(t, 2, got.Capo)
	assert.Equal(t, "Verse", got.Bars[0].Section)
	assert.Equal(t, "End", got.Bars[8].Section)

	var want []ScoreNote
	bound := [][]bind.SongBar{}
	for _, sec := range view.Song.Sections {
		bound = append(bound, bind.Section(ins, view.School, p, sec, view.Shapes))
	}
	from := 0
	for _, at := range view.Song.Sung() {
		for _, e := range bound[at.Section][at.Bar].Events {
			for i, str := range e.Strings {
				want = append(want, ScoreNote{Tick: from + e.Tick, String: int(str), MIDI: ins.Open(str).MIDI() + int(e.Frets[i]) + 2})
			}
		}
		from += view.Song.Sections[at.Section].Bars[at.Bar].Ticks()
	}
	require.NotEmpty(t, want)
	require.Len(t, got.Notes, len(want))
	for i, n := range got.Notes {
		assert.Contains(t, want, ScoreNote{Tick: n.Tick, String: n.String, MIDI: n.MIDI}, "note %d", i)
	}
	// Facts: the second of a pair comes at two thirds of a beat; a stop is struck once; the waltz
	// has none of its fourth beat; the sounding chord of the first full bar is C.
	within := func(bar int) (ticks []int) {
		b := got.Bars[bar]
		for _, n := range got.Notes {
			if n.Tick >= b.From && n.Tick < b.From+b.Beats*beat {
				ticks = append(ticks, n.Tick-b.From)
			}
		}
		return slices.Compact(ticks)
	}
	assert.Equal(t, []int{0, beat, beat * 5 / 3, 2 * beat, beat * 8 / 3, 3 * beat, beat * 11 / 3}, within(1))
	assert.Equal(t, []int{0, beat, beat * 5 / 3, 2 * beat, beat * 8 / 3}, within(2))
	assert.Equal(t, []int{0}, within(8))
	first := slices.IndexFunc(got.Notes, func(n ScoreNote) bool { return n.Tick == got.Bars[1].From })
	assert.Equal(t, 0, got.Notes[first].MIDI%12, "the bass of C is C, whatever the capo")
}

func beatsOf(s Score) (list []int) {
	for _, b := range s.Bars {
		list = append(list, b.Beats)
	}
	return list
}

// A score of four hundred bars that is played ten times, on ten strings, is a score; as a file
// it is refused with a sentence.
func TestALongSongIsAScore(t *testing.T) {
	four := pattern.Meter{Beats: 4, Unit: 4}
	sec := song.Section{Name: "Long", Times: 10}
	for range song.MaxBars {
		sec.Bars = append(sec.Bars, song.Bar{Changes: []song.Change{{Symbol: "C", Ticks: four.BarTicks()}}})
	}
	ins, err := fretboard.ByID("tuning:C2-E2-A2-D3-G3-B3-E4-A4-D5-G5")
	require.NoError(t, err)
	sg := song.Song{Title: "Long", Meter: four, Tempo: 300, Sections: []song.Section{sec}}
	p := pattern.MustParse("4/4: D U D U D U D U D U D U D U D U")
	v := NewView(sg, ins, people.Class{})
	s := v.Score(v.Line(sg, Figures(bind.Always(p))), difficulty.OnStrings, "Long", bpm.Of(300), ScoreAsk{})
	assert.Len(t, s.Bars, 4000)
	assert.Greater(t, len(s.Notes), 4000*16)
	_, err = s.WAV(t.Context(), PlayAlong{Tempo: 300})
	assert.ErrorContains(t, err, "up to six")
}
