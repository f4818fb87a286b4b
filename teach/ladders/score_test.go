package ladders

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/bind"
	"arplin/core/drill"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/teach/songs"
)

// What an exercise is on is what is heard: open strings as they are tuned, a shape that goes
// up a fret each time, the bars of the song with their shapes. Source: common practice.
func TestAnExerciseIsHeardOnItsShape(t *testing.T) {
	ins, _ := fretboard.ByID("guitar")
	p := pattern.MustParse("4/4: p . i . m . a .")
	sg := song.Song{Meter: p.Meter, Tempo: 80}
	d := Drill{Instrument: ins, Exercises: []Exercise{
		{Exercise: drill.Exercise{Title: "open", Pattern: p, Over: "open strings", Tempo: 48}},
		{Exercise: drill.Exercise{Title: "moves", Pattern: p, Over: "xx2323", Tempo: 60}},
		{Exercise: drill.Exercise{Title: "bar", Pattern: p, Over: "C", Tempo: 60, Bars: []song.Bar{{Changes: []song.Change{{Symbol: "C", Ticks: p.Meter.BarTicks()}}}}}},
	}}
	d.Song.Song, d.task.Shapes = sg, bind.Shapes{}
	open, err := d.Score(1, songs.ScoreAsk{})
	require.NoError(t, err)
	for _, n := range open.Notes {
		assert.Equal(t, ins.Open(fretboard.String(n.String)).MIDI(), n.MIDI)
	}
	assert.Equal(t, 48, open.Start, "an exercise begins at its own tempo")
	moves, err := d.Score(2, songs.ScoreAsk{})
	require.NoError(t, err)
	require.Len(t, moves.Bars, 4)
	assert.Equal(t, []string{"xx2323", "xx3434", "xx4545", "xx5656"}, []string{moves.Bars[0].Chords, moves.Bars[1].Chords, moves.Bars[2].Chords, moves.Bars[3].Chords})
	quarter := len(moves.Notes) / 4
	for i := range quarter {
		assert.Equal(t, moves.Notes[i].MIDI+3, moves.Notes[3*quarter+i].MIDI)
	}
	bar, err := d.Score(3, songs.ScoreAsk{})
	require.NoError(t, err)
	assert.Equal(t, []int{48, 55, 60, 64}, pitchesOf(bar), "C as it is first taught: C3, then G3, C4 and E4 under the fingers")
	_, err = d.Score(4, songs.ScoreAsk{})
	assert.Error(t, err)
}

func pitchesOf(s songs.Score) (list []int) {
	for _, n := range s.Notes {
		list = append(list, n.MIDI)
	}
	return list
}
