package ladder_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/ladder"
	"arplin/core/ladder/edit"
	"arplin/core/ladder/grow"
	"arplin/core/ladder/order"
	"arplin/core/pattern"
	"arplin/core/song"
)

// twoFigures is a verse that is picked and a chorus that is strummed.
func twoFigures(t *testing.T) (song.Song, difficulty.Task) {
	t.Helper()
	picked, strummed := "4/4: p i p' m p i p' .", "4/4: D . D U . U D U"
	meter := pattern.MustParse(picked).Meter
	part := func(id song.SectionID, name, chords, notation string) song.Section {
		bars, err := song.ParseChords(chords, meter)
		require.NoError(t, err)
		return song.Section{ID: id, Name: name, Bars: bars, Pattern: notation}
	}
	sg := song.Song{Meter: meter, Tempo: 80, Sections: []song.Section{
		part(1, "Verse", "C | Am | C | G7", picked), part(2, "Chorus", "F | C | G7 | C", strummed), part(3, "Verse", "C | Am | G7 | C", picked),
	}}
	ins, err := fretboard.ByID("guitar")
	require.NoError(t, err)
	first, others, ok := difficulty.FiguresOf(sg)
	require.True(t, ok)
	require.Len(t, others, 1)
	assert.Equal(t, []song.SectionID{2}, others[0].Sections)
	return sg, difficulty.NewTask(first, sg, ins, bind.DefaultSchool, sg.Tempo).Split(sg, others)
}

// A ladder of a song with two figures steps both, one thing at a time, up to the song
// as it is written.
func TestALadderStepsEachPartsFigure(t *testing.T) {
	sg, tk := twoFigures(t)
	for _, o := range order.All {
		steps := grow.Build(order.Choice{Order: o.Value}, tk, difficulty.Fitted, 0)
		last := steps[len(steps)-1]
		assert.Equal(t, sg.Sections[0].Pattern, last.Pattern.String(), o.Name)
		require.Len(t, last.Parts, 1, o.Name)
		assert.Equal(t, sg.Sections[1].Pattern, last.Parts[0].Pattern.String(), o.Name)
		moved := map[bool]int{}
		for i := 1; i < len(steps); i++ {
			main := !steps[i].Pattern.Equal(steps[i-1].Pattern)
			other := !steps[i].Parts[0].Pattern.Equal(steps[i-1].Parts[0].Pattern)
			if steps[i].Play != steps[i-1].Play {
				continue // another way to play begins with less of the figure
			}
			assert.False(t, main && other, "%s, step %d adds two things", o.Name, i+1)
			if main || other {
				moved[other]++
			}
			_, is := steps[i].NewIn()
			assert.Equal(t, other, is, "%s, step %d", o.Name, i+1)
		}
		if o.Value == order.ThumbFirst { // where the rhythm comes first, much of it is tapped as a whole
			assert.Positive(t, moved[false], o.Name)
			assert.Positive(t, moved[true], o.Name)
		}
	}
}

// A song with a second figure is harder than either part by itself, and easier than
// both at once would be.
func TestTwoFiguresAreHarderThanEither(t *testing.T) {
	_, tk := twoFigures(t)
	both := difficulty.Of(tk, difficulty.Fitted)
	alone := tk
	alone.Rest = nil
	assert.Greater(t, both.Level, difficulty.LevelOf(alone, difficulty.Fitted))
	assert.Greater(t, both.Level, difficulty.LevelOf(tk.Rest[0], difficulty.Fitted))
	sum := 1.0
	for _, p := range both.Parts {
		sum += p.Share
	}
	assert.InDelta(t, both.Level, sum, 1e-9, "the shares add up to it")
}

func TestPartsAndLinesAreStored(t *testing.T) {
	_, tk := twoFigures(t)
	l := ladder.Ladder{Choice: order.Choice{Size: order.Small}, Steps: grow.Build(order.Choice{Size: order.Small}, tk, difficulty.Fitted, 0)}
	second := l.Steps[1].ID
	l, _, err := edit.Apply(l, edit.Note{Step: second, Text: "  only the chorus,\n softly "}, tk, difficulty.Fitted)
	require.NoError(t, err)
	data, err := l.Encode()
	require.NoError(t, err)
	again, err := ladder.Decode(data)
	require.NoError(t, err)
	require.Len(t, again.Steps, len(l.Steps))
	for i := range l.Steps {
		assert.True(t, l.Steps[i].Same(again.Steps[i]), "step %d", i+1)
	}
	assert.Equal(t, "only the chorus, softly", again.Steps[1].Remark)
	rebuilt, _, err := edit.Apply(again, edit.Rebuild{Choice: order.Choice{Size: order.Small}}, tk, difficulty.Fitted)
	require.NoError(t, err)
	assert.Equal(t, "only the chorus, softly", rebuilt.Steps[ladder.Find(rebuilt.Steps, second)].Remark, "a line stays with its step")
	_, _, err = edit.Apply(l, edit.Note{Step: second, Text: strings.Repeat("a", ladder.MaxRemark+1)}, tk, difficulty.Fitted)
	assert.ErrorContains(t, err, "at most 200 characters")
}

// Each half of a figure of two bars is learned on its own chord where the song has it so, and on the first
// chord where it has not. Common practice.
func TestAHalfHasItsOwnChord(t *testing.T) {
	p := pattern.MustParse("4/4: ~ ~ ~ ~ ~ ~ ~ ~ | p i m i p i m i")
	stages := func(chords string) map[string][]string {
		tk := task(t, p, chords)
		of := map[string][]string{}
		for _, s := range grow.Build(order.Choice{}, tk, difficulty.Fitted, 0) {
			if s.Over == ladder.OneChord {
				of[s.Pattern.String()] = s.Stage(tk)
			}
		}
		return of
	}
	own := stages("Em | Am | Em | Am")
	assert.Equal(t, []string{"Em"}, own["4/4: ~ ~ ~ ~ ~ ~ ~ ~"])
	assert.Equal(t, []string{"Am"}, own["4/4: p i m i p i m i"])
	same := stages("Em | Am | Am | Em")
	assert.Equal(t, same["4/4: ~ ~ ~ ~ ~ ~ ~ ~"], same["4/4: p i m i p i m i"], "each half is on both")
}

// However long the figure and however many chords, a ladder has room for them.
func TestALadderHasRoom(t *testing.T) {
	all := []string{"F", "Bm", "F#m", "Gm", "Cm", "Bb", "Eb", "Ab", "Db", "F#", "B", "C#m", "G#m", "Ebm", "Bbm", "Fm", "C", "G", "D", "A"}
	p := pattern.MustParse("4/4: p+m! i p' a p, m p'+a i N+X m Dt Ut p i p' . | p i m a . a m i p' . N+X m p+i a Dt Ut | p . . i p' m a . p . i . p' a m i")
	for _, n := range []int{4, 14, 15, 20} {
		for _, o := range order.All {
			steps := grow.Build(order.Choice{Order: o.Value, Size: order.Small, Chords: order.Each}, task(t, p, strings.Join(all[:n], " | ")), difficulty.Fitted, 0)
			assert.LessOrEqual(t, len(steps), ladder.MaxSteps, "%s, %d chords", o.Name, n)
			assert.True(t, steps[len(steps)-1].Pattern.Equal(p))
		}
	}
}
