package drill_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/drill"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
	"arplin/core/pattern/patterntest"
	"arplin/core/song"
	"arplin/core/theory"
)

func task(t *testing.T, notation, chords string) difficulty.Task {
	t.Helper()
	p := pattern.MustParse(notation)
	bars, err := song.ParseChords(chords, p.Meter)
	require.NoError(t, err)
	ins, _ := fretboard.ByID("guitar")
	return difficulty.NewTask(p, song.Song{Meter: p.Meter, Tempo: 80, Sections: []song.Section{{Bars: bars}}}, ins, bind.DefaultSchool, 80)
}

// Source: common practice, the order in which a trouble spot is worked on.
func TestBarDrill(t *testing.T) {
	tk := task(t, "4/4: p . p'+m . p i p' . | p+m . p' i p m p' .", "C | Am | F | G7 | C")
	list, err := drill.Bar(tk, 2, drill.Day{Minutes: 10})
	require.NoError(t, err)
	var titles []string
	minutes := 0.0
	for _, e := range list {
		titles = append(titles, e.Title)
		minutes += e.Minutes
		assert.Positive(t, e.Repeats)
		assert.NotEmpty(t, e.Why)
		_, err := pattern.Parse(e.Pattern.String())
		assert.NoError(t, err)
	}
	assert.Equal(t, []string{"The pattern on open strings", "On one easy shape", "On a shape that moves", "Over an easy progression", "The bar itself, slowly", "The bar itself", "With the bar before", "With the bar after", "The phrase"}, titles)
	assert.InDelta(t, 9.6, minutes, 0.4, "the minutes fit the day")
	for _, e := range list[:6] {
		assert.Equal(t, "4/4: p . p'+m . p i p' .", e.Pattern.String(), "the pattern is unchanged in %s", e.Title)
	}
	assert.Equal(t, "Am | F", list[6].Over)
	assert.Equal(t, "4/4: p+m . p' i p m p' . | p . p'+m . p i p' .", list[6].Pattern.String(), "the second bar of the pattern comes first")
	assert.Equal(t, "xx2323", list[2].Over)
	assert.Equal(t, []int{48, 64, 80}, []int{list[4].Tempo, list[5].Tempo, list[8].Tempo}, "slowly first")
	_, err = drill.Bar(tk, 9, drill.Day{})
	assert.EqualError(t, err, "bar: the song has bars 1 to 5, not 10")
}

// A song of one bar has none before and none after it.
func TestASongOfOneBarHasNoneBefore(t *testing.T) {
	list, err := drill.Bar(task(t, "4/4: p . i . p . m .", "C"), 0, drill.Day{})
	require.NoError(t, err)
	for _, e := range list {
		assert.NotContains(t, []drill.StageID{"bar-before", "bar-after"}, e.ID)
	}
}

func TestChangeDrill(t *testing.T) {
	tk := task(t, "4/4: p i m a p i m a", "C | Am | Am")
	list, err := drill.ChangeTo(tk, 1, drill.Day{Minutes: 6})
	require.NoError(t, err)
	assert.Contains(t, list[0].Why, "Index and middle stay where they are")
	assert.Equal(t, 0, list[0].Pattern.Count(), "the hand is silent first")
	assert.Equal(t, 1, list[1].Pattern.Count())
	list, err = drill.ChangeTo(tk, 0, drill.Day{})
	require.NoError(t, err)
	assert.Equal(t, "Am | C", list[2].Over, "the song goes round")
	assert.Equal(t, "Am | C | Am", list[3].Over)
	_, err = drill.ChangeTo(tk, 2, drill.Day{})
	assert.EqualError(t, err, "bar: no chord changes at bar 3")
}

// Whoever plays a song clean at 60 does not drill it at 80; half of a short day
// is the song's.
func TestTheDrillFitsTheDay(t *testing.T) {
	tk := task(t, "4/4: p . p'+m . p i p' .", "C | Am | F | G7")
	list, err := drill.Bar(tk, 1, drill.Day{Minutes: 5, Clean: 60})
	require.NoError(t, err)
	minutes := 0.0
	for _, e := range list {
		assert.LessOrEqual(t, e.Tempo, 60)
		minutes += e.Minutes
	}
	assert.InDelta(t, 4.8, minutes, 0.2)
	assert.Equal(t, 36, list[0].Tempo, "slow is 60 per cent")
	fast, err := drill.Bar(tk, 1, drill.Day{Clean: 120})
	require.NoError(t, err)
	assert.Equal(t, 80, fast[len(fast)-1].Tempo, "never faster than the song")
	for day, want := range map[int]int{4: 3, 10: 5, 15: 7, 30: 10} {
		assert.Equal(t, want, drill.MinutesOf(day))
	}
}

// Practice progressions, common practice: by degree, in the song's key, and not
// the song's own.
func TestTheProgressionIsAnother(t *testing.T) {
	over := func(chords string) string {
		list, err := drill.Bar(task(t, "4/4: p i m a p i m a", chords), 0, drill.Day{})
		require.NoError(t, err)
		return list[3].Over
	}
	assert.NotEqual(t, "C | Am | F | G7", over("C | Am | F | G7"))
	assert.Equal(t, "Am | Dm | E7 | Am", over("Am | F | C | E7"), "minor")
	for _, song := range []string{"G | Em | C | D7", "D | A | Bm | G", "A | D | E7"} {
		assert.NotContains(t, song, over(song))
	}
}

// What must hold of every drill: the figure is unchanged until it is back in the
// song, and the bars around it are those of the song.
func TestEveryDrill(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		p := rapid.SampledFrom(catalogue.All).Draw(rt, "entry").Pattern
		bars, err := song.ParseChords(rapid.SampledFrom([]string{"C", "G | D", "C | Am | F | G7 | C | C | G | G"}).Draw(rt, "chords"), p.Meter)
		require.NoError(rt, err)
		ins := rapid.SampledFrom(fretboard.Instruments).Draw(rt, "instrument")
		tk := difficulty.NewTask(p, song.Song{Meter: p.Meter, Tempo: 80, Sections: []song.Section{{Bars: bars}}}, ins, bind.DefaultSchool, 80)
		bar := rapid.IntRange(0, len(bars)-1).Draw(rt, "bar")
		day := drill.Day{Minutes: float64(rapid.IntRange(3, 30).Draw(rt, "minutes"))}
		list, err := drill.Bar(tk, bar, day)
		require.NoError(rt, err)
		figure := pattern.Pattern{Meter: p.Meter, Swing: p.Swing, Bars: p.Bars[bar%len(p.Bars):][:1]}
		for i, e := range list {
			if i < 5 && e.ID != "shape-silent" && e.ID != "shape-once" && !strings.HasPrefix(string(e.ID), "bar-") && e.ID != "the-phrase" && !e.Pattern.Equal(figure) {
				rt.Fatalf("%s: %s is not %s", e.Title, e.Pattern, figure)
			}
			if len(e.Bars) > 0 {
				for k := range e.Bars { // the bar of the figure that falls on each bar
					on := []int{(bar + len(bars) - 1) % len(bars), bar}
					if e.ID == "bar-before" && len(p.Bars) > 1 && !sameBar(e.Pattern.Bars[k], p.Bars[on[k]%len(p.Bars)]) {
						rt.Fatalf("%s: bar %d is %s", e.Title, k, e.Pattern)
					}
				}
			}
			if e.Repeats < 1 || e.Tempo < 1 || e.Minutes <= 0 || e.Why == "" {
				rt.Fatalf("%+v is not an exercise", e)
			}
		}
	})
}

func sameBar(a, b pattern.Bar) bool {
	return slices.EqualFunc(a, b, func(x, y pattern.Slot) bool { return x.String() == y.String() })
}

// Repeats times length are the minutes that are shown; all of them fit into the
// drill's, and twelve are enough of anything.
// Source: common practice.
func TestRepeatsFitTheMinutes(t *testing.T) {
	tk := task(t, "4/4: p . i . p . m .", "C | Am | F | G7")
	for _, minutes := range []float64{3, 10, 60} {
		list, err := drill.Bar(tk, 1, drill.Day{Minutes: minutes})
		require.NoError(t, err)
		sum, fewest := 0.0, 12
		for _, e := range list {
			played := float64(e.Repeats*max(1, len(e.Bars), len(e.Pattern.Bars))*4) / float64(e.Tempo)
			assert.InDelta(t, played, e.Minutes, 1e-9, e.Title)
			assert.LessOrEqual(t, e.Repeats, 12)
			sum, fewest = sum+e.Minutes, min(fewest, e.Repeats)
		}
		assert.True(t, sum <= minutes+1e-9 || fewest == 1, "%.2f minutes of %.0f", sum, minutes)
	}
}

// A drill follows the song as it is played: with endings at bars 8 and 9 the change
// into bar 9 comes from bar 7, and the first bar follows the last.
func TestADrillFollowsTheSongAsItIsPlayed(t *testing.T) {
	p := pattern.MustParse("4/4: p . i . p . m .")
	bars, err := song.ParseChords("C | F | C | G | Am | Em | D | G7 | C", p.Meter)
	require.NoError(t, err)
	bars[7].Ending, bars[8].Ending = 1, 2
	ins, err := fretboard.ByID("guitar")
	require.NoError(t, err)
	sg := song.Song{Meter: p.Meter, Tempo: 80, Sections: []song.Section{{Name: "Verse", Times: 2, Bars: bars}}}
	tk := difficulty.NewTask(p, sg, ins, bind.DefaultSchool, 80)
	into, err := drill.ChangeTo(tk, 8, drill.Day{})
	require.NoError(t, err)
	assert.Equal(t, "D | C", into[0].Over)
	assert.Equal(t, "D | C | C", into[3].Over, "and the song goes round")
	whole, err := drill.Bar(tk, 8, drill.Day{})
	require.NoError(t, err)
	for _, e := range whole {
		switch e.ID {
		case "bar-before":
			assert.Equal(t, "D | C", e.Over)
		case "bar-after":
			assert.Equal(t, "C | C", e.Over)
		}
	}
	eighth, err := drill.ChangeTo(tk, 7, drill.Day{})
	require.NoError(t, err)
	assert.Equal(t, "D | G7 | C", eighth[3].Over, "after the first ending it begins again")
}

// A two-bar figure begins anew with each part, and is not played in a bar of another
// meter: the drill has the bar of the figure that falls there.
func TestADrillHasTheFigureAsItFalls(t *testing.T) {
	p := pattern.MustParse("4/4: p . p'+m . p i p' . | p+m . p' i p m p' .")
	bars, err := song.ParseChords("C | F | C | G | Am | Em | D", p.Meter)
	require.NoError(t, err)
	ins, err := fretboard.ByID("guitar")
	require.NoError(t, err)
	bars[4].Meter = pattern.Meter{Beats: 3, Unit: 4}
	sg := song.Song{Meter: p.Meter, Tempo: 80, Sections: []song.Section{{Name: "Verse", Bars: bars[:3]}, {Name: "Chorus", Bars: bars[3:]}}}
	tk := difficulty.NewTask(p, sg, ins, bind.DefaultSchool, 80)
	first := p.Clone()
	first.Bars = first.Bars[:1]
	fourth, err := drill.Bar(tk, 3, drill.Day{})
	require.NoError(t, err)
	assert.Equal(t, first.String(), fourth[0].Pattern.String(), "the chorus begins with the first bar of the pattern")
	assert.Equal(t, "C | G", fourth[6].Over)
	assert.Equal(t, "G | Em", fourth[7].Over, "the bar between has another time signature")
	assert.Equal(t, "G | Em | D", fourth[8].Over, "the phrase is the chorus")
	_, err = drill.Bar(tk, 4, drill.Day{})
	assert.EqualError(t, err, "bar: the pattern is in 4/4 and is not played in bar 5")
}

// Whatever the notation can write becomes a drill of any bar and of any change, on any instrument.
func TestAnyFigureOfTheNotationBecomesADrill(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		p := patterntest.OfNotation(func(n int) int { return rapid.IntRange(0, n-1).Draw(rt, "pick") })
		bars, err := song.ParseChords(rapid.SampledFrom([]string{"C", "G | D", "F#m7b5 | G13 | Bb/D Eb"}).Draw(rt, "chords"), p.Meter)
		require.NoError(rt, err)
		ins := rapid.SampledFrom(fretboard.Instruments).Draw(rt, "instrument")
		tk := difficulty.NewTask(p, song.Song{Meter: p.Meter, Tempo: 80, Sections: []song.Section{{Bars: bars}}}, ins, bind.DefaultSchool, 80)
		for bar := range bars {
			list, err := drill.Bar(tk, bar, drill.Day{Minutes: 10})
			require.NoError(rt, err)
			if len(bars) > 1 {
				change, err := drill.ChangeTo(tk, bar, drill.Day{Minutes: 10})
				require.NoError(rt, err)
				list = append(list, change...)
			}
			for _, e := range list {
				if e.Repeats < 1 || e.Tempo < 1 || e.Title == "" || e.Why == "" || e.Over == "" {
					rt.Fatalf("%s: %+v is not an exercise", p, e)
				}
			}
		}
	})
}

// A plain figure on one hard shape is not begun with the right hand alone: the shape is the trouble.
// Source: common practice.
func TestTheDrillOfAHardShape(t *testing.T) {
	ids := func(notation, chords string, bar int) (list []drill.StageID) {
		exercises, err := drill.Bar(task(t, notation, chords), bar, drill.Day{})
		require.NoError(t, err)
		for _, e := range exercises {
			list = append(list, e.ID)
		}
		return list
	}
	assert.Equal(t, []drill.StageID{"shape-silent", "shape-once", "the-bar-slowly", "the-bar", "bar-before", "bar-after", "the-phrase"}, ids("4/4: D . D . D . D .", "C | Bm | C | G", 1))
	assert.Equal(t, drill.StageID("open-strings"), ids("4/4: D . D . D . D .", "C | Bm | C | G", 0)[0], "C is not hard")
	assert.Equal(t, drill.StageID("open-strings"), ids("4/4: p . p'+m . p i p' .", "C | Bm | C | G", 1)[0], "nor is the pattern plain")
}

// What is called easy is easy, whatever the song: open chords in its key or in one beside it. Source:
// common practice.
func TestEasyIsEasy(t *testing.T) {
	guitar, err := fretboard.ByID("guitar")
	require.NoError(t, err)
	for _, chords := range []string{"Bm | F# | G | A", "Eb | Ab | Bb | Cm", "F#m | C#m | D | E", "Bb | Gm | Cm | F", "C | Am | F | G7"} {
		list, err := drill.Bar(task(t, "4/4: p i m a p i m a", chords), 0, drill.Day{})
		require.NoError(t, err)
		for _, e := range list[1:4] {
			if e.ID == "moving-shape" {
				continue
			}
			for _, symbol := range strings.Split(e.Over, " | ") {
				v, ok := fretboard.Easiest(guitar, theory.MustChord(symbol))
				require.True(t, ok)
				assert.Zero(t, v.Fingering.Barre.From, "%s: %s over %s", chords, e.ID, e.Over)
				assert.LessOrEqual(t, v.Hold, 4.5, "%s: %s over %s", chords, e.ID, e.Over)
			}
			t.Log(chords, "gets", e.Over)
		}
	}
}

// A drill goes over the chords that the teacher wants, by name or by degree; without them over the
// easiest. Common practice: the figure over the changes that come next.
func TestADrillOverChosenChords(t *testing.T) {
	tk := task(t, "4/4: p . i . p . m .", "C | Am | F | G7")
	key, err := theory.ParseKey("C")
	require.NoError(t, err)
	over, err := drill.ParseOver("I vi IV V7", key)
	require.NoError(t, err)
	for _, chosen := range []drill.Over{over, {Chords: []string{"F", "G7"}}, {}} {
		list, err := drill.Bar(tk, 1, drill.Day{Over: chosen})
		require.NoError(t, err)
		at := slices.IndexFunc(list, func(e drill.Exercise) bool { return strings.HasSuffix(string(e.ID), "-progression") })
		require.GreaterOrEqual(t, at, 0)
		if len(chosen.Chords) > 0 {
			assert.Equal(t, strings.Join(chosen.Chords, " | "), list[at].Over)
			assert.EqualValues(t, "chosen-progression", list[at].ID)
		} else {
			assert.EqualValues(t, "easy-progression", list[at].ID)
		}
	}
	from, to, ok := drill.ChangeAt(song.Song{Meter: tk.Pattern.Meter, Sections: []song.Section{{Bars: tk.Bars}}}, 3)
	assert.True(t, ok)
	assert.Equal(t, "F G7", from.String()+" "+to.String())
}
