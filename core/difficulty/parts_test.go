package difficulty_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/theory"
)

// part is the value of one part of a task.
func part(t *testing.T, id difficulty.PartID, notation, chords, shapes string, tempo int) float64 {
	t.Helper()
	tk := task(t, notation, chords, tempo)
	require.NoError(t, tk.Pin(shapes))
	for _, p := range difficulty.Of(tk, difficulty.Fitted).Parts {
		if p.ID == id {
			return p.Value
		}
	}
	t.Fatalf("no part %s", id)
	return 0
}

// Each part sees what it is for. Source: the definitions of the trade, common
// practice.
func TestEachPartSeesItsOwn(t *testing.T) {
	for _, c := range []struct {
		part                                             difficulty.PartID
		says, easier, harder, onEasier, onHarder, shapes string
	}{
		{"rate", "a run throughout is denser than one burst in the bar", "4/4: p . . . p . . . p . . . p i m a", "4/4: p i m a p i m a p i m a p i m a", "C", "C", ""},
		{"rate", "what is plucked by itself weighs more than a strum", "4/4: D . D . D . D .", "4/4: p . p . p . p .", "C", "C", ""},
		{"off_beat", "a finger between the thumb's beats", "4/4: p . p+m . p . p .", "4/4: p . p . p m p .", "C", "C", ""},
		{"off_beat", "an accent off the beat", "4/4: D! U D U D U D U", "4/4: D U! D U D U D U", "C", "C", ""},
		{"together", "pinches among single notes, not one block again and again", "4/4: p . i+m+a . p . i+m+a .", "4/4: p+m . i . p+m . i .", "C", "C", ""},
		{"independence", "notes between a thumb that keeps its pulse", "4/4: p . p . p . p .", "4/4: p . p i p . p .", "C", "C", ""},
		{"independence", "places that vary cost more than strict alternation", "4/4: p . i . p . i . p . i . p . i .", "4/4: p . i . p i . . p . i . p . i .", "C", "C", ""},
		{"thumb_travel", "a skipped string counts more", "4/4: p . p' . p . p' .", "4/4: p . p' . p . p' .", "Am", "Em", ""},
		{"order", "p i m a runs, p a i m does not", "4/4: p i m a p i m a", "4/4: p a i m p a i m", "C", "C", ""},
		{"order", "a roll down begins with the weakest finger", "4/4: p . i . m . a .", "4/4: p . a . m . i .", "C", "C", ""},
		{"off_beat", "an up stroke that leans on nothing, in a zone or not", "4/4: Db . Db Ut Db Ut Db Ut", "4/4: Db . Db Ut . Ut Db Ut", "C", "C", ""},
		{"repeat", "same finger again, faster", "4/4: i2 m2 i2 m2 i2 m2 i2 m2", "4/4: i2 i2 i2 i2 i2 i2 i2 i2", "C", "C", ""},
		{"fingers", "a third finger by itself", "4/4: p i m i p i m i", "4/4: p i m a p i m a", "C", "C", ""},
		{"direction", "a missed down costs", "4/4: D U D U D U D U", "4/4: D U D U . U D U", "C", "C", ""},
		{"direction", "a strum against the hand", "4/4: D U D U D U D U", "4/4: D D D U D D D U", "C", "C", ""},
		{"aim", "a pick that must find one string", "4/4: D . D . D . D .", "4/4: D5 . D4 . D3 . D2 .", "C", "C", ""},
		{"touch", "stops", "4/4: D . D . D . D .", "4/4: D = D = D = D =", "C", "C", ""},
		{"touch", "a second kind", "4/4: D* . D* . D* . D* .", "4/4: D* . Dx . D* . Dx .", "C", "C", ""},
		{"dynamics", "accents", "4/4: D . D . D . D .", "4/4: D . D! . D . D! .", "C", "C", ""},
		{"figure", "a second bar that differs", "4/4: p i m i p i m i | p i m i p i m i", "4/4: p i m i p i m i | p m i m p m i m", "C", "C", ""},
		{"figure", "more chords", "4/4: D . D . D . D .", "4/4: D . D . D . D .", "G | D | G | D", "G | D | Em | C", ""},
		{"shape", "a barre", "4/4: D . D . D . D .", "4/4: D . D . D . D .", "Em | Am", "C | F", "F=133211"},
		{"change", "twice as often", "4/4: D . D . D . D .", "4/4: D . D . D . D .", "C | C | G | G", "C | G | C | G", ""},
		{"change", "no room before it", "4/4: p i m a p i m .", "4/4: p i m a p i m a", "C | G", "C | G", ""},
	} {
		easier, harder := part(t, c.part, c.easier, c.onEasier, "", 80), part(t, c.part, c.harder, c.onHarder, c.shapes, 80)
		assert.Less(t, easier, harder, "%s: %s", c.part, c.says)
	}
}

// What does not matter to a part leaves it alone.
func TestPartsLeaveTheRestAlone(t *testing.T) {
	for _, c := range []struct {
		part difficulty.PartID
		a, b string
	}{
		{"touch", "4/4: D U D U D U D U", "4/4: D! U D U! D U D U"},
		{"figure", "4/4: p i m i p i m i", "4/4: p i m i p i m i | p i m i p i m i"},  // memory is not length
		{"direction", "4/4: D . D . D . D .", "4/4: D . . . D . . . D . . . D . . ."}, // a finer grid than needed
		{"direction", "4/4: p i m a p i m a", "4/4: p . . . p . . ."},
		{"aim", "4/4: p i m a p i m a", "4/4: p . . . . . . ."},
		{"shape", "4/4: p . . . . . . .", "4/4: p i m a p i m a"},
	} {
		assert.InDelta(t, part(t, c.part, c.a, "C", "", 80), part(t, c.part, c.b, "C", "", 80), 1e-9, "%s: %s and %s", c.part, c.a, c.b)
	}
}

// The hardest place is named: the change with the least time, else where strokes
// fall together.
func TestTheHardestPlace(t *testing.T) {
	d := difficulty.Of(task(t, "4/4: D . D . D . D .", "Em | Em | Em | Bm | Em | Em", 80), difficulty.Fitted)
	assert.Contains(t, []int{3, 4}, d.Hardest.Bar, "into the barre or out of it")
	assert.Contains(t, d.Hardest.Why, "seconds")
	assert.True(t, d.Hardest.Change)
	d = difficulty.Of(task(t, "4/4: p . . . p+m . . .", "C", 80), difficulty.Fitted)
	assert.Equal(t, difficulty.Place{Bar: 0, Slot: 4, Why: "notes that come together"}, d.Hardest)
	d = difficulty.Of(task(t, "4/4: p . p i p . p .", "C", 80), difficulty.Fitted)
	assert.Equal(t, 3, d.Hardest.Slot)
	assert.Contains(t, d.Hardest.Why, "off the beat")
}

// A song that goes round is as hard as it is once.
func TestASongTwiceThroughIsAsHard(t *testing.T) {
	once := difficulty.Of(task(t, "4/4: p i m a p i m a", "C | Am | F | G7", 80), difficulty.Fitted)
	twice := difficulty.Of(task(t, "4/4: p i m a p i m a", "C | Am | F | G7 | C | Am | F | G7", 80), difficulty.Fitted)
	assert.InDelta(t, once.Level, twice.Level, 1e-9)
	assert.Equal(t, once.Hardest, twice.Hardest)
}

// Chords that cannot be read leave silence, not a fault.
func TestUnreadableChordsAreSilent(t *testing.T) {
	tk := task(t, "4/4: p i m a p i m a", "C | G", 80)
	tk.Bars[1].Changes[0].Symbol = "H?"
	assert.Greater(t, difficulty.Of(tk, difficulty.Fitted).Level, 1.0)
	tk.Bars[0].Changes[0].Symbol = ""
	assert.Greater(t, difficulty.Of(tk, difficulty.Fitted).Level, 1.0)
	ins, _ := fretboard.ByID("guitar")
	delete(tk.Shapes, theory.MustChord("C"))
	tk.Instrument = ins
	assert.NotPanics(t, func() { difficulty.Of(tk, difficulty.Fitted) })
}

// The hardest place is one that is sung: a third ending of a part that is played twice
// is not; bars of another meter are counted, but the figure is not played in them.
func TestTheHardestPlaceIsSung(t *testing.T) {
	p := pattern.MustParse("4/4: D . D . D . D .")
	ins, err := fretboard.ByID("guitar")
	require.NoError(t, err)
	of := func(times int, meter pattern.Meter) difficulty.Reading {
		bars, err := song.ParseChords("Em | Em | G | Em | F#m", p.Meter)
		require.NoError(t, err)
		bars[1].Meter, bars[2].Ending, bars[3].Ending, bars[4].Ending = meter, 1, 2, 3
		sg := song.Song{Meter: p.Meter, Tempo: 90, Sections: []song.Section{{Name: "Verse", Times: times, Bars: bars}}}
		return difficulty.Of(difficulty.NewTask(p, sg, ins, bind.DefaultSchool, 90), difficulty.Fitted)
	}
	twice, thrice := of(2, pattern.Meter{}), of(3, pattern.Meter{})
	assert.Equal(t, 2, twice.Hardest.Bar, "into the first ending")
	assert.Equal(t, 4, thrice.Hardest.Bar, "into the third")
	assert.Less(t, twice.Level, thrice.Level)
	waltz := of(3, pattern.Meter{Beats: 3, Unit: 4})
	assert.Equal(t, 4, waltz.Hardest.Bar)
	assert.Equal(t, thrice.Level, waltz.Level)
}
