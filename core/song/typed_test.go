package song_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"arplin/core/song"
	"arplin/core/song/edit"
)

// A letter is the nearest pitch to the note before; what is typed over a note that sounds cuts
// it; keys change the note under them; what has lost the note from which it came is struck.
func TestNotesAreTyped(t *testing.T) {
	sg := twoBars(t)
	beat := sg.Meter.BeatTicks()
	first, second := sg.Sections[0].Bars[0].ID, sg.Sections[0].Bars[1].ID
	text := func() string { return song.MelodyText(sg.Sections[0].Bars, beat) }
	for _, x := range []struct {
		edit edit.TypeNote
		want string // the tune after it, or what is said
		bad  bool
	}{
		{edit.TypeNote{Bar: first, Ticks: beat, Do: edit.PutHere, Note: "e4"}, "E4:1", false},
		{edit.TypeNote{Bar: first, Tick: beat, Ticks: 9 * beat, Do: edit.PutHere, Note: "g"}, "E4:1 G4:3", false},
		{edit.TypeNote{Bar: first, Tick: 2 * beat, Ticks: beat, Do: edit.PutHere, Note: "b"}, "E4:1 G4:1 B4:1", false},
		{edit.TypeNote{Bar: first, Tick: 2*beat + 1, Do: edit.Lower}, "E4:1 G4:1 Bb4:1", false},
		{edit.TypeNote{Bar: first, Tick: 2 * beat, Do: edit.OctaveDown}, "E4:1 G4:1 Bb3:1", false},
		{edit.TypeNote{Bar: first, Tick: 2 * beat, Ticks: beat, Do: edit.Longer}, "E4:1 G4:1 Bb3:2", false},
		{edit.TypeNote{Bar: first, Tick: 2 * beat, Ticks: beat, Do: edit.Longer}, "the note ends where the next begins, or the bar", true},
		{edit.TypeNote{Bar: second, Ticks: beat, Do: edit.PutHere, Note: "A#"}, "E4:1 G4:1 Bb3:2 | Bb3:1", false},
		{edit.TypeNote{Bar: second, Do: edit.Tie}, "E4:1 G4:1 Bb3:2 | ~Bb3:1", false},
		{edit.TypeNote{Bar: second, Do: edit.Tie}, "E4:1 G4:1 Bb3:2 | Bb3:1", false},
		{edit.TypeNote{Bar: second, Do: edit.Slide}, "E4:1 G4:1 Bb3:2 | /Bb3:1", false},
		{edit.TypeNote{Bar: second, Do: edit.Tie}, "E4:1 G4:1 Bb3:2 | ~Bb3:1", false},
		{edit.TypeNote{Bar: first, Tick: 2 * beat, Do: edit.Higher}, "E4:1 G4:1 B3:2 | Bb3:1", false}, // the tie has gone
		{edit.TypeNote{Bar: first, Tick: beat, Do: edit.Tie}, "G4 goes on from E4, which is another pitch", true},
		{edit.TypeNote{Bar: first, Do: edit.Hammer}, "E4 has no note straight before it to come from", true},
		{edit.TypeNote{Bar: first, Tick: beat, Ticks: beat / 2, Do: edit.Shorter}, "E4:1 G4:1/2 r:1/2 B3:2 | Bb3:1", false},
		{edit.TypeNote{Bar: first, Tick: beat, Ticks: beat / 2, Do: edit.Shorter}, "it is as short as the strip shows; take it away with Delete", true},
		{edit.TypeNote{Bar: first, Tick: 2 * beat, Do: edit.Hammer}, "B3 has no note straight before it to come from", true},
		{edit.TypeNote{Bar: first, Tick: beat, Do: edit.TakeAway}, "E4:1 r:1 B3:2 | Bb3:1", false},
		{edit.TypeNote{Bar: first, Tick: beat, Do: edit.TakeAway}, "no note of the melody sounds here; type its letter", true},
		{edit.TypeNote{Bar: first, Tick: 4 * beat, Do: edit.PutHere, Note: "C"}, "bar 1 does not reach so far", true},
		{edit.TypeNote{Bar: first, Do: edit.PutHere, Note: "H"}, `"H" is not a note`, true},
		{edit.TypeNote{Bar: first, Do: "louder"}, `"louder" cannot be done to a note`, true},
	} {
		after, d, err := sg.Apply(x.edit)
		if x.bad {
			assert.EqualError(t, err, x.want)
			continue
		}
		require.NoError(t, err, "%+v", x.edit)
		sg = after
		assert.Equal(t, x.want, text(), "%+v", x.edit)
		assert.Regexp(t, `Changed the melody in bar \d of Verse`, edit.DoneWords.Say(d))
	}
	_, err := edit.ParseNoteKey("louder")
	assert.Error(t, err)
}

// Whatever is typed, the tune is one that can be written down and read again, and lies in its bars.
func TestWhatIsTypedCanBeRead(t *testing.T) {
	start := twoBars(t)
	beat := start.Meter.BeatTicks()
	keys := []edit.NoteKey{edit.PutHere, edit.PutHere, edit.PutHere, edit.TakeAway, edit.Higher, edit.Lower, edit.OctaveUp, edit.OctaveDown, edit.Longer, edit.Shorter, edit.Tie, edit.Slide, edit.Hammer}
	rapid.Check(t, func(rt *rapid.T) {
		sg := start
		for range rapid.IntRange(1, 30).Draw(rt, "keys") {
			e := edit.TypeNote{
				Bar: rapid.SampledFrom(sg.Sections[0].Bars).Draw(rt, "bar").ID, Tick: beat / 2 * rapid.IntRange(0, 7).Draw(rt, "slot"), Ticks: beat / 2 * rapid.IntRange(1, 8).Draw(rt, "slots"),
				Do: rapid.SampledFrom(keys).Draw(rt, "key"), Note: rapid.SampledFrom([]string{"C", "D", "e", "F#", "g", "Bb"}).Draw(rt, "note"),
			}
			if after, _, err := sg.Apply(e); err == nil {
				sg = after
			}
		}
		text := song.MelodyText(sg.Sections[0].Bars, beat)
		read, err := song.ParseMelody(text, beat, func(bar int) int { return sg.Sections[0].Bars[bar].Ticks() })
		require.NoError(rt, err, text)
		for i, bar := range sg.Sections[0].Bars {
			for k, n := range bar.Melody {
				assert.Equal(rt, n, read[i][k], text)
				assert.LessOrEqual(rt, n.Tick+n.Ticks, bar.Ticks())
			}
		}
	})
}
