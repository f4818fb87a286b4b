package arrange_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"arplin/core/arrange"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/song/edit"
	"arplin/core/theory"
)

// tune is a song of one section.
func tune(t testing.TB, chords, melody string) song.Song {
	t.Helper()
	return tuneIn(t, pattern.Meter{Beats: 4, Unit: 4}, chords, melody)
}

func tuneIn(t testing.TB, m pattern.Meter, chords, melody string) song.Song {
	t.Helper()
	bars, err := song.ParseChords(chords, m)
	require.NoError(t, err)
	sg := song.Song{Meter: m, Tempo: 80, Sections: []song.Section{{ID: 1, Name: "A", Bars: bars}}}
	sg, _, err = sg.Apply(edit.SetMelody{Section: 1, Text: melody})
	require.NoError(t, err)
	return sg
}

func task(t testing.TB, instrument string, sg song.Song, bass arrange.Bass) arrange.Task {
	t.Helper()
	ins, err := fretboard.ByID(instrument)
	require.NoError(t, err)
	return arrange.Task{Instrument: ins, Meter: sg.Meter, Bars: sg.Bars(), Shapes: sg.ShapesOn(ins), Bass: bass}
}

// places writes where a tune lies: string and fret, a bar between lines.
func places(p arrange.Placed) string {
	var bars []string
	for _, b := range p.Bars {
		var notes []string
		for _, st := range b.Strokes {
			if st.Melody {
				notes = append(notes, fmt.Sprintf("%d/%d", st.String, st.Fret))
			}
		}
		bars = append(bars, strings.Join(notes, " "))
	}
	return strings.Join(bars, " | ")
}

// The first-position scale of C lies on the thin strings as every first book has it: C on the
// second string, first fret; D third; E first string open; F first; G third. On a ukulele C is
// the third string open, E the second, A the first. Source: facts of the trade, from memory.
func TestScalesLieWhereTheyLie(t *testing.T) {
	sg := tune(t, "C | C", "C4 D4 E4 F4 | G4 E4 C4:2")
	p := arrange.Place(task(t, "ukulele", sg, arrange.NoBass))
	assert.Equal(t, "3/0 3/2 2/0 2/1 | 2/3 2/0 3/0", places(p))
	sg = tune(t, "C | C", "C4 D4 E4 F4 | G4 E4 C4:2")
	p = arrange.Place(task(t, "guitar", sg, arrange.Alternating))
	assert.Equal(t, "2/1 2/3 1/0 1/1 | 1/3 1/0 2/1", places(p))
	assert.Empty(t, p.Left)
	sg = tune(t, "G | G", "G3 A3 B3 C4 | D4:4")
	p = arrange.Place(task(t, "guitar", sg, arrange.NoBass))
	assert.Equal(t, "3/0 3/2 2/0 2/1 | 2/3", places(p))
}

// Under the tune the thumb keeps its bass: the root on one, on every beat, or in turns with the
// alternate string, and walks on where only the colour of the chord changes. Source: common
// practice.
func TestTheThumbKeepsItsBass(t *testing.T) {
	bass := func(p arrange.Placed) (list []string) {
		for _, b := range p.Bars {
			var strings []fretboard.String
			for _, st := range b.Strokes {
				if !st.Melody {
					strings = append(strings, st.String)
				}
			}
			list = append(list, fmt.Sprint(strings))
		}
		return list
	}
	sg := tune(t, "C | Am | C C7 | F C", "E4:4 | E4:1 D4 C4:2 | E4:2 E4:2 | C4:2 C4:2")
	assert.Equal(t, []string{"[5]", "[5]", "[5]", "[4]"}, bass(arrange.Place(task(t, "guitar", sg, arrange.OnOne))))
	assert.Equal(t, []string{"[5 5 5 5]", "[5 5 5 5]", "[5 5 5 5]", "[4 4 5 5]"}, bass(arrange.Place(task(t, "guitar", sg, arrange.Pulse))))
	assert.Equal(t, []string{"[5 4 5 4]", "[5 4 5 4]", "[5 4 5 4]", "[4 3 5 4]"}, bass(arrange.Place(task(t, "guitar", sg, arrange.Alternating))))
}

// Where the tune rests the thumb has the chord's own bass all the same.
func TestTheBassOfARest(t *testing.T) {
	for _, chord := range []string{"C", "G", "Am", "D", "F", "Em", "B7"} {
		sg := tune(t, chord+" | "+chord, "E4:1 r:3")
		p := arrange.Place(task(t, "guitar", sg, arrange.OnOne))
		bass := p.Bars[1].Strokes
		require.Len(t, bass, 1, chord)
		assert.Equal(t, theory.MustChord(chord).Bass.Class(), bass[0].MIDI%12, chord)
	}
}

// A note that is not the chord's makes it another: a sixth, a seventh, a suspended fourth, a
// ninth, a raised fifth. Source: chord symbols, common practice; named alike by the reference
// library (named_test.go).
func TestWhatAChordBecomes(t *testing.T) {
	for _, c := range []struct{ chord, note, becomes string }{
		{"C", "A4", "C6"}, {"C", "G4", ""}, {"C", "D4", "Cadd9"}, {"G", "E4", "G6"}, {"Am", "G4", "Am7"}, {"D", "G4", "Dsus4"}, {"C", "B4", "Cmaj7"}, {"G7", "E4", "G13"}, {"E", "C4", "E+"},
	} {
		sg := tune(t, c.chord, c.note+":4")
		p := arrange.Place(task(t, "guitar", sg, arrange.OnOne))
		require.Empty(t, p.Left, c.chord+" "+c.note)
		require.NotEmpty(t, p.Bars[0].Grips)
		assert.Equal(t, c.becomes, p.Bars[0].Grips[0].Becomes, "%s with %s: %s", c.chord, c.note, p.Bars[0].Grips[0].Voicing.Shape)
	}
}

// A note is put where the teacher wants it, and the rest follows; where there is no place it is
// said, with the nearest way.
func TestPinsAndWhatIsLeft(t *testing.T) {
	sg := tune(t, "C", "E4:2 C4:2")
	k := task(t, "guitar", sg, arrange.Alternating)
	assert.Equal(t, "1/0 2/1", places(arrange.Place(k)))
	k.Pins = map[arrange.At]fretboard.String{{Bar: 0, Tick: 0}: 2}
	assert.Equal(t, "2/5 3/5", places(arrange.Place(k)), "the hand is there")

	k.Pins = map[arrange.At]fretboard.String{{Bar: 0, Tick: 0}: 1, {Bar: 0, Tick: 2 * sg.Meter.BeatTicks()}: 1}
	left := arrange.Place(k).Left
	require.Len(t, left, 1)
	assert.Equal(t, "C4 can’t be held on string 1, where you put it", left[0].Why)

	sg = tune(t, "C | C", "C6:4 | C3:2 E4:2")
	p := arrange.Place(task(t, "guitar", sg, arrange.OnOne))
	require.Len(t, p.Left, 2)
	assert.Contains(t, p.Left[0].Why, "octave lower")
	assert.Equal(t, 0, p.Left[0].Bar)
	assert.Contains(t, p.Left[1].Why, "the thumb waits", "C3 is on the thumb's own string")
}

// A tied note is struck once, a slide stays on its string, a hammered note, too.
func TestMarks(t *testing.T) {
	sg := tune(t, "C | C", "E4:2 G4:2 | ~G4:2 /A4:1 ^B4:1")
	p := arrange.Place(task(t, "guitar", sg, arrange.NoBass))
	assert.Equal(t, 4, len(strings.Fields(strings.ReplaceAll(places(p), "|", ""))), "the tied note is struck once")
	var on []fretboard.String
	for _, st := range append(p.Bars[0].Strokes[1:], p.Bars[1].Strokes...) {
		on = append(on, st.String)
	}
	assert.Equal(t, on[0], on[1])
	assert.Equal(t, on[1], on[2])
}

var progressions = []string{"C | Am | F | G7", "G | Em | C | D7", "D | Bm | G | A7", "A | F#m | D | E7", "C | C | F | C | G7 | F | C | G7", "Am | F | C | G"}

var keys = []string{"C D E F G A B", "G A B C D E F#", "D E F# G A B C#", "A B C# D E F# G#", "C D E F G A B", "A B C D E F G"}

// random is a tune of 8 to 32 bars over a common progression: diatonic, in steps and small
// leaps, in quarters and eighths, within an octave and a fifth.
func random(t *rapid.T, lowest int) song.Song {
	i := rapid.IntRange(0, len(progressions)-1).Draw(t, "progression")
	four := pattern.Meter{Beats: 4, Unit: 4}
	bars, err := song.ParseChords(progressions[i], four)
	require.NoError(t, err)
	n := rapid.IntRange(8, 32).Draw(t, "bars")
	scale := map[int]bool{}
	for _, name := range strings.Fields(keys[i]) {
		scale[pitchClass(name)] = true
	}
	var ladder []int
	for midi := lowest; midi <= lowest+19; midi++ {
		if scale[midi%12] {
			ladder = append(ladder, midi)
		}
	}
	at := rapid.IntRange(0, len(ladder)-1).Draw(t, "from")
	sec := song.Section{ID: 1, Name: "A"}
	for b := range n {
		bar := song.Bar{Changes: bars[b%len(bars)].Changes}
		for tick := 0; tick < four.BarTicks(); {
			length := four.BeatTicks() * rapid.SampledFrom([]int{1, 2, 2, 4}).Draw(t, "length") / 2
			length = min(length, four.BarTicks()-tick)
			at = min(len(ladder)-1, max(0, at+rapid.IntRange(-2, 2).Draw(t, "step")))
			bar.Melody = append(bar.Melody, song.MelodyNote{Tick: tick, Ticks: length, MIDI: ladder[at]})
			tick += length
		}
		sec.Bars = append(sec.Bars, bar)
	}
	return song.Song{Meter: four, Tempo: 80, Sections: []song.Section{sec}}
}

func pitchClass(name string) int {
	notes, err := song.ParseMelody(name+"4", 1, func(int) int { return 0 })
	if err != nil {
		panic(err)
	}
	return notes[0][0].MIDI % 12
}

// Over many random tunes 99 of 100 notes lie on a guitar with the alternating bass kept, and on a
// ukulele with a low g; what is placed sounds at its pitch and time and no other, is held by a
// hand, and the thumb has every beat.
func TestRandomTunesArePlaced(t *testing.T) {
	for _, c := range []struct {
		instrument string
		lowest     int
		part       float64
	}{{"guitar", 57, 0.99}, {"ukulele-low-g", 62, 0.99}} {
		struck, kept := 0, 0
		rapid.Check(t, func(rt *rapid.T) {
			sg := random(rt, c.lowest)
			k := task(t, c.instrument, sg, arrange.Alternating)
			p := arrange.Place(k)
			left := map[[2]int]bool{}
			for _, l := range p.Left {
				left[[2]int{l.Bar, l.Tick}] = true
				assert.NotEmpty(rt, l.Why)
			}
			for b, bar := range sg.Bars() {
				want := map[[2]int]bool{}
				for _, n := range bar.Melody {
					struck++
					if !left[[2]int{b, n.Tick}] {
						kept++
					}
					want[[2]int{n.Tick, n.MIDI}] = true
				}
				beats := 0
				for _, st := range p.Bars[b].Strokes {
					assert.Equal(rt, st.MIDI, k.Instrument.Open(st.String).MIDI()+int(st.Fret), "the fret sounds the note")
					if st.Melody {
						assert.True(rt, want[[2]int{st.Tick, st.MIDI}], "bar %d: a note that is not in the melody", b)
						delete(want, [2]int{st.Tick, st.MIDI})
					} else {
						beats++
					}
				}
				for w := range want {
					assert.True(rt, left[[2]int{b, w[0]}], "bar %d: a note is lost without a word", b)
				}
				waits := false
				for _, l := range p.Left {
					waits = waits || l.Bar == b
				}
				if !waits {
					assert.Equal(rt, 4, beats, "bar %d", b)
				}
				for _, g := range p.Bars[b].Grips {
					_, ok := fretboard.Finger(g.Voicing.Shape)
					assert.True(rt, ok, "%s can be held", g.Voicing.Shape)
				}
			}
		})
		t.Logf("%s: %d of %d notes with the bass kept, %.1f in a hundred", c.instrument, kept, struck, 100*float64(kept)/float64(struck))
		assert.GreaterOrEqual(t, float64(kept)/float64(struck), c.part, c.instrument)
	}
}

// BenchmarkPlace is a tune of 32 bars in eighths over an alternating bass.
func BenchmarkPlace(b *testing.B) {
	sg := tune(b, strings.TrimSuffix(strings.Repeat("C | Am | F | G7 | ", 8), " | "), strings.TrimSuffix(strings.Repeat("E4:1/2 G4 A4 G4 E4 D4 C4 D4 | E4:1/2 C4 E4 A4 C5 B4 A4 G4 | F4:1/2 A4 C5 A4 F4 E4 D4 C4 | D4:1/2 G4 B4 D5 F4 E4 D4 B3 | ", 8), " | "))
	k := task(b, "guitar", sg, arrange.Alternating)
	for b.Loop() {
		arrange.Place(k)
	}
}
