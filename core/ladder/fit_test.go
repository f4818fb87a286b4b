package ladder_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/ladder/fit"
	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
	"arplin/core/pattern/skill"
	"arplin/core/song"
	"arplin/core/song/keys"
)

func aSong(t *testing.T, chords string, tempo int) song.Song {
	t.Helper()
	meter := pattern.Meter{Beats: 4, Unit: 4}
	bars, err := song.ParseChords(chords, meter)
	require.NoError(t, err)
	return song.Song{Meter: meter, Tempo: tempo, Sections: []song.Section{{Bars: bars}}}
}

func learners(t *testing.T, sg song.Song) fit.Learners {
	t.Helper()
	guitar, err := fretboard.ByID("guitar")
	require.NoError(t, err)
	ukulele, err := fretboard.ByID("ukulele")
	require.NoError(t, err)
	return fit.Learners{
		Players: []keys.Players{{Instrument: guitar, Count: 3}, {Instrument: ukulele, Count: 3}}, Weights: difficulty.Fitted,
		Task: difficulty.NewTask(pattern.Pattern{Meter: sg.Meter}, sg, guitar, bind.DefaultSchool, sg.Tempo),
	}
}

func reasonsOf(fits []fit.Fit) (place map[string]int, reasons map[string]string) {
	place, reasons = map[string]int{}, map[string]string{}
	for i, f := range fits {
		place[f.ID], reasons[f.ID] = i, strings.Join(f.Reasons, "; ")
	}
	return place, reasons
}

// Common practice: the tempo decides first, then what the class plays, then how
// much time the changes leave.
func TestFits(t *testing.T) {
	sg := aSong(t, "C | Am | F | G7", 84)
	fits := fit.Fits(sg, learners(t, sg))
	require.Len(t, fits, len(catalogue.InMeter(sg.Meter)))
	place, reasons := reasonsOf(fits)
	families := map[string]bool{}
	for i, f := range fits {
		if i < 6 {
			assert.False(t, families[f.Family], "%s: the first six are of different families", f.ID)
			families[f.Family] = true
		} else if i > 6 {
			assert.LessOrEqual(t, f.Score, fits[i-1].Score)
		}
		assert.False(t, i < 6 && len(f.Reasons) == 0, f.ID)
	}
	assert.Contains(t, reasons["thumb-low-fifth"], "not for ukulele")
	assert.Greater(t, place["thumb-low-fifth"], place["thumb-two-strings"])
	assert.Contains(t, reasons["swung-strum"], "swung, and the song is not")
	sg.Tempo = 150
	fast := fit.Fits(sg, learners(t, sg))
	assert.Contains(t, strings.Join(fast[len(fast)-1].Reasons, "; "), "faster than it likes")
}

// What a class has had is not new to it; one new thing is worth most, many are much.
func TestWhatAFigureBrings(t *testing.T) {
	sg := aSong(t, "C | Am | F | G7", 84)
	l := learners(t, sg)
	_, before := reasonsOf(fit.Fits(sg, l))
	assert.Contains(t, before["common-strum"], "down-up strums and missed strums")
	l.Had = []pattern.Pattern{pattern.MustParse("4/4: D U D U D U D U"), pattern.MustParse("4/4: p . p' . p . p' .")}
	_, after := reasonsOf(fit.Fits(sg, l))
	assert.Contains(t, after["common-strum"], "brings one new thing: missed strums")
	assert.Contains(t, after["thumb-two-strings"], "nothing that the class has not had")
	assert.Contains(t, after["outside-inside"], "one new thing: finger notes between the thumb")
}

// Who can join now, and on which step.
func TestWhoJoins(t *testing.T) {
	sg := aSong(t, "C | Am | F | G7", 84)
	l := learners(t, sg)
	l.Heard = []fit.Heard{{Name: "Ida", Level: 6}, {Name: "Momo", Level: 2.5}, {Name: "Kim"}}
	_, reasons := reasonsOf(fit.Fits(sg, l))
	assert.Contains(t, reasons["outside-inside"], "1 can play it on one chord now, Momo would begin on step ")
	assert.Contains(t, reasons["thumb-once"], "everyone with a logged tempo can play it on one chord now")
}

// A chord that changes inside a bar wants a stroke where it changes.
func TestChangesInsideBars(t *testing.T) {
	sg := aSong(t, "C Am | F G7 | C | C", 84)
	place, reasons := reasonsOf(fit.Fits(sg, learners(t, sg)))
	assert.Less(t, place["down-down-up-down-up"], place["common-strum"])
	assert.Contains(t, reasons["common-strum"], "nothing sounds on 3, where the chord changes in 2 bars")
}

func BenchmarkFits(b *testing.B) {
	t := &testing.T{}
	sg := aSong(t, "C | Am | F | G7", 84)
	l := learners(t, sg)
	l.Heard = []fit.Heard{{Name: "Ida", Level: 4}}
	for b.Loop() {
		fit.Fits(sg, l)
	}
}

// One thing that is new is best, two are half as good, each beyond takes off: whatever else is said
// of a figure stays, where only what the class has had is another. The weights are from memory.
func TestWhatIsNewWeighsByItsNumber(t *testing.T) {
	sg := aSong(t, "C | Am | F | G7", 84)
	worth := func(fresh int) float64 {
		return []float64{0, 1.5, 0.75, -1, -2, -3, -4, -5, -6}[fresh]
	}
	freshIn := func(p pattern.Pattern, had []pattern.Pattern) (n int) {
		for _, c := range skill.Coordinations(p) {
			known := false
			for _, h := range had {
				known = known || slices.Contains(skill.Coordinations(h), c)
			}
			if !known {
				n++
			}
		}
		return n
	}
	numbers := map[int]bool{}
	for _, id := range []string{"thumb-two-between", "common-strum", "four-up"} {
		first, ok := catalogue.ByID(id)
		require.True(t, ok)
		l, more := learners(t, sg), learners(t, sg)
		l.Heard = []fit.Heard{{Name: "Ida", Level: 4}}
		more.Heard = l.Heard
		l.Had = []pattern.Pattern{pattern.MustParse("4/4: p . . ."), pattern.MustParse("4/4: D . . .")}
		more.Had = append(slices.Clone(l.Had), first.Pattern)
		scores := map[string]float64{}
		for _, f := range fit.Fits(sg, l) {
			scores[f.ID] = f.Score
		}
		for _, f := range fit.Fits(sg, more) {
			before, after := freshIn(f.Pattern, l.Had), freshIn(f.Pattern, more.Had)
			numbers[before], numbers[after] = true, true
			assert.InDelta(t, worth(after)-worth(before), f.Score-scores[f.ID], 1e-9, "%s: %d new, then %d", f.ID, before, after)
			said := strings.Join(f.Reasons, "; ")
			switch {
			case after == 1:
				assert.Contains(t, said, "brings one new thing: ", f.ID)
			case after == 2:
				assert.Regexp(t, "brings .+ and ", said, f.ID)
			case after > 2:
				assert.Contains(t, said, "much that is new: ", f.ID)
			}
		}
	}
	assert.True(t, numbers[0] && numbers[1] && numbers[2] && numbers[3], "%v", numbers)
}
