package ladder_test

import (
	"fmt"
	"maps"
	"math"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/ladder"
	"arplin/core/ladder/grow"
	"arplin/core/ladder/order"
	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
	"arplin/core/song"
	"arplin/core/variation"
)

func task(t testing.TB, p pattern.Pattern, chords string) difficulty.Task {
	t.Helper()
	bars, err := song.ParseChords(chords, p.Meter)
	require.NoError(t, err)
	ins, _ := fretboard.ByID("guitar")
	return difficulty.NewTask(p, song.Song{Meter: p.Meter, Tempo: 80, Sections: []song.Section{{Bars: bars}}}, ins, bind.DefaultSchool, 80)
}

// What must hold of every ladder, in every order, on songs of one chord and of
// several. Source: the brief of the trade, common practice.
func TestEveryLadder(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		p := randomFigure(rt)
		chords := rapid.SampledFrom([]string{"C", "G | D", "C | Am | F | G7", "Em | C | G D | Em"}).Draw(rt, "chords")
		choice := anyChoice(rt)
		tk := task(t, p, chords)
		steps := grow.Build(choice, tk, difficulty.Fitted, 0)
		for i, s := range steps {
			words := ladder.Describe(steps, i, tk)
			if words.Name == "" || words.Says == "" || s.How() == "" || variation.Together(s.Pattern, p) == s.Home {
				rt.Fatalf("step %d of %s is not whole: %+v", i+1, p, s)
			}
			for _, o := range steps[:i] {
				if o.Same(s) {
					rt.Fatalf("%s, %s repeats %s over %s", p, choice, s.Pattern, s.Over)
				}
			}
			if i == 0 {
				continue
			}
			if choice.Size == order.Big || len(grow.Figures(choice, p)) > ladder.MaxSteps-16 {
				continue // two of the usual steps at a time, as chosen or because a ladder has no room for more
			}
			if err := oneThing(steps[i-1], s); err != nil && !s.Brings(ladder.OtherBar) {
				rt.Fatalf("%s, %v, step %d: %v", p, choice, i+1, err)
			}
		}
		last := steps[len(steps)-1]
		if !last.Pattern.Equal(p) || last.Play != difficulty.OnStrings || last.Pace != 0 {
			rt.Fatalf("%s ends in %+v", p, last)
		}
		if level := difficulty.Of(tk, difficulty.Fitted).Level; math.Abs(level-last.Level) > 1e-9 {
			rt.Fatalf("%s ends at %f, the target is %f", p, last.Level, level)
		}
	})
}

func TestEveryLadderOfTheCatalogue(t *testing.T) {
	for _, e := range catalogue.All {
		steps := grow.Build(order.Choice{Size: order.Small}, task(t, e.Pattern, "C | Am | F | G7"), difficulty.Fitted, 0)
		assert.Equal(t, ladder.AllChords, steps[len(steps)-1].Over, e.ID)
		if e.Pattern.Count() >= 5 {
			assert.GreaterOrEqual(t, len(steps), 5, e.ID)
		}
	}
}

// Common practice: rhythm first, chords second, then both.
func TestRhythmFirst(t *testing.T) {
	tk := task(t, pattern.MustParse("4/4: D . D U . U D U"), "C | Am | F | G7")
	var plays []difficulty.Play
	var adds []string
	steps := grow.Build(order.Choice{Order: order.RhythmFirst}, tk, difficulty.Fitted, 0)
	for i, s := range steps {
		if n := len(plays); n == 0 || plays[n-1] != s.Play {
			plays, adds = append(plays, s.Play), append(adds, ladder.Describe(steps, i, tk).Name)
		}
	}
	assert.Equal(t, []difficulty.Play{difficulty.Swings, difficulty.Said, difficulty.Tapped, difficulty.Muted, difficulty.OnStrings}, plays)
	assert.Equal(t, []string{"empty hand", "say the count", "tap the rhythm", "muted strings", "first chord"}, adds)
}

// Common practice: one school lets the strokes be even first, the other takes
// accents early.
func TestAccentsEarly(t *testing.T) {
	tk := task(t, pattern.MustParse("4/4: D U D! U D U D! U"), "C")
	place := func(o order.Order) int {
		for i, s := range grow.Build(order.Choice{Order: o}, tk, difficulty.Fitted, 0) {
			if s.Adds[0].Rule == "accents" {
				return i
			}
		}
		return -1
	}
	assert.Positive(t, place(order.AccentsEarly))
	assert.Less(t, place(order.AccentsEarly), place(order.ThumbFirst))
}

// Where the way from the two chords to the song is long, the song is played
// slowly first; about 60 and 80 per cent are slow and medium. Common practice.
func TestTempoSteps(t *testing.T) {
	tk := task(t, pattern.MustParse("4/4: p i m a p i m a"), "C | Am | F | G7")
	steps := grow.Build(order.Choice{Size: order.Small}, tk, difficulty.Fitted, 0)
	var paces []int
	for _, s := range steps {
		if s.Over == ladder.AllChords {
			paces = append(paces, s.Goal(80))
		}
	}
	assert.Equal(t, []int{48, 64, 80}, paces)
	at := func(back int) ladder.Words { return ladder.Describe(steps, len(steps)-back, tk) }
	assert.Equal(t, "all chords", at(3).Name)
	assert.Contains(t, at(3).Says, "at the slow tempo")
	assert.Equal(t, "medium tempo", at(2).Name)
	assert.Equal(t, "goal tempo", at(1).Name)
	assert.NotContains(t, at(1).Says, "lose", "the song does not say how it ends")
}

// What a step is played on, in words.
func TestChordNames(t *testing.T) {
	tk := task(t, pattern.MustParse("4/4: p . p . p . p ."), "C | Am | F | G7 | C | Am | F | G7 | C")
	of := map[ladder.Over][]string{}
	for _, s := range grow.Build(order.Choice{Size: order.Small}, tk, difficulty.Fitted, 0) {
		of[s.Over] = s.ChordNames(tk)
	}
	assert.Len(t, of[ladder.OneChord], 1)
	assert.Len(t, of[ladder.TwoChords], 2, "two bars of each are one run")
	assert.Equal(t, of[ladder.TwoChords], ladder.Step{Pattern: tk.Pattern, Over: ladder.TwoChordsABar}.ChordNames(tk))
	assert.Equal(t, []string{"C", "Am", "F", "G7"}, of[ladder.AllChords], "each once, the song is long")
}

// How a step is practised is that of its own thing, also where steps were joined.
func TestHow(t *testing.T) {
	own, joined := ladder.Thing{Rule: "second-bass-string"}, ladder.Thing{Rule: "every-beat"}
	assert.Equal(t, ladder.Step{Adds: []ladder.Thing{own}}.How(), ladder.Step{Adds: []ladder.Thing{joined, own}}.How())
	assert.Contains(t, ladder.Step{Adds: []ladder.Thing{own}}.How(), "Play the thumb alone")
	assert.NotEmpty(t, ladder.Step{}.How())
}

func TestBeyond(t *testing.T) {
	tk, l := aLadder(t)
	beyond := grow.Beyond(tk, difficulty.Fitted)
	require.NotEmpty(t, beyond)
	for _, s := range beyond {
		assert.Greater(t, s.Level, l.Steps[len(l.Steps)-1].Level)
		assert.True(t, variation.Together(s.Pattern, tk.Pattern))
	}
}

// Common practice: another school takes the second chord as soon as there is a
// stroke to change on.
func TestTwoChordsFirst(t *testing.T) {
	tk := task(t, pattern.MustParse("4/4: p . p'+m . p i p' ."), "C | Am | F | G7")
	steps := grow.Build(order.Choice{Chords: order.Two}, tk, difficulty.Fitted, 0)
	assert.Equal(t, ladder.OneChord, steps[0].Over)
	assert.Equal(t, []ladder.Thing{{Stage: ladder.SecondChord}}, steps[1].Adds)
	assert.True(t, steps[1].Pattern.Equal(steps[0].Pattern))
	last := steps[len(steps)-1]
	assert.True(t, last.Pattern.Equal(tk.Pattern))
	assert.Equal(t, ladder.AllChords, last.Over)
	one := grow.Build(order.Choice{Chords: order.Two}, task(t, tk.Pattern, "C"), difficulty.Fitted, 0)
	assert.Equal(t, len(grow.Build(order.Choice{}, task(t, tk.Pattern, "C"), difficulty.Fitted, 0)), len(one), "one chord leaves no choice")
}

func BenchmarkLadderOf64Bars(b *testing.B) {
	line := "C | Am | F | G7"
	for range 15 {
		line += " | C | Am | F | G7"
	}
	tk := task(b, pattern.MustParse("4/4: p . p'+m . p i p' . | p+m . p' i p m p' ."), line)
	for b.Loop() {
		grow.Build(order.Choice{Size: order.Small}, tk, difficulty.Fitted, 0)
	}
}

func BenchmarkNeighbours(b *testing.B) {
	tk := task(b, pattern.MustParse("4/4: p+m . p' i p m p' ."), "C")
	for b.Loop() {
		variation.Neighbours(tk, difficulty.Fitted)
	}
}

// What a step is called is true of the strokes that it has and the one below has not:
// the places that it names are the new ones, each once, and the fingers are theirs.
func TestNamesAreTrueOfTheStrokes(t *testing.T) {
	if testing.Short() {
		t.Skip("in make test")
	}
	signs := map[string]string{"bass": "p", "index": "i", "middle finger": "m", "ring finger": "a", "little finger": "c", "down strum": "D", "up strum": "U", "brush": "N", "palm hit": "X", "sweep": "~", "pick": "DU"}
	named := regexp.MustCompile(`^([a-z ]+?) on (.+)$`)
	for _, e := range catalogue.All {
		for _, o := range order.All {
			tk := task(t, e.Pattern, "C | Am | F | G7")
			steps := grow.Build(order.Choice{Order: o.Value, Size: order.Small}, tk, difficulty.Fitted, 0)
			for i := 1; i < len(steps); i++ {
				s, below := steps[i], steps[i-1]
				if len(s.Adds) != 1 || s.Adds[0].Stage != ladder.Notes || s.Over != below.Over || s.Play != below.Play {
					continue
				}
				name := ladder.Describe(steps, i, tk).Name
				fresh, of := map[string]bool{}, map[string]bool{}
				s.Pattern.Each(func(pl pattern.Place, st pattern.Stroke) {
					if _, had := below.Pattern.At(pl); !had {
						spot := s.Pattern.Spot(pl.Slot)
						if len(s.Pattern.Bars) > 1 {
							spot += fmt.Sprintf(" of bar %d", pl.Bar+1)
						}
						fresh[spot], of[st.Sign.String()] = true, true
					}
				})
				says := map[string]bool{}
				for _, part := range strings.Split(name, ", ") {
					m := named.FindStringSubmatch(part)
					if m == nil && !strings.Contains(name, " on ") {
						continue // "between the beats", "4 strokes more"
					}
					text := part
					if m != nil {
						text = m[2]
						if letters := signs[m[1]]; letters != "" {
							assert.True(t, strings.ContainsAny(letters, strings.Join(slices.Collect(maps.Keys(of)), "")), "%s: %q", e.ID, name)
						}
					}
					if text == "every beat" {
						says = fresh
						continue
					}
					for _, spot := range regexp.MustCompile(`(?:the \w+ of the triplet on \w+|(?:the “?\w+”? of )?\w+)(?: of bar \d)?`).FindAllString(strings.ReplaceAll(text, " and the", " | the"), -1) {
						if spot != "and" {
							says[spot] = true
						}
					}
				}
				if len(says) > 0 {
					assert.Equal(t, fresh, says, "%s, %s: %q from %s to %s", e.ID, o.Name, name, below.Pattern, s.Pattern)
				}
			}
		}
	}
}

// A step of a roll has no holes: its strokes, in order, begin the target's, or are such
// a beginning again and again.
func TestRollsHaveNoHoles(t *testing.T) {
	strokes := func(p pattern.Pattern) (list []string) {
		for _, bar := range p.Bars {
			for _, slot := range bar {
				if len(slot.Strokes) > 0 {
					list = append(list, pattern.Pattern{Meter: p.Meter, Bars: []pattern.Bar{{slot}}}.String())
				}
			}
		}
		return list
	}
	begins := func(list, target []string) bool {
		return len(list) <= len(target) && slices.Equal(list, target[:len(list)])
	}
	for _, id := range []string{"roll-up", "roll-down", "four-up", "four-up-room", "four-down", "three-of-eight", "four-strokes", "roll-there-and-back", "roll-up-and-down", "eight-with-skip", "pairs-on-the-back-beat", "sweep-eight", "three-roll", "three-to-a-bar", "six-up", "six-to-a-bar", "twelve-roll", "triplet-roll", "roll-in-quarters"} {
		e, ok := catalogue.ByID(id)
		require.True(t, ok, id)
		target := strokes(e.Pattern)
		for _, s := range grow.Build(order.Choice{Size: order.Small}, task(t, e.Pattern, "C"), difficulty.Fitted, 0) {
			list := strokes(s.Pattern)
			half := list[:(len(list)+1)/2]
			again := len(list)%2 == 0 && slices.Equal(half, list[len(list)/2:]) && begins(half, target)
			assert.True(t, begins(list, target) || again, "%s: %s", id, s.Pattern)
		}
	}
}

// A larger size leaves steps out, and makes none that a smaller one has not: nobody loses their place.
func TestSizesOfSteps(t *testing.T) {
	for _, e := range catalogue.All {
		for _, o := range order.All {
			of := func(size order.Size) []string {
				return texts(patterns(grow.Figures(order.Choice{Order: o.Value, Size: size}, e.Pattern)))
			}
			small, usual, big := of(order.Small), of(order.Usual), of(order.Big)
			assert.Subset(t, small, usual, "%s, %s", e.ID, o.Name)
			assert.Subset(t, usual, big, "%s, %s", e.ID, o.Name)
			assert.LessOrEqual(t, len(big), (len(usual)+1)/2, "%s, %s", e.ID, o.Name)
		}
	}
}

// The figures of a way depend on the figure and the choice alone: not on chord, tempo or instrument.
func TestFiguresDoNotDependOnTheSong(t *testing.T) {
	p := pattern.MustParse("4/4: p+m . p' i p m p' i")
	for _, o := range order.All {
		choice := order.Choice{Order: o.Value}
		want := texts(patterns(grow.Figures(choice, p)))
		for _, chords := range []string{"G | C | D", "C", "Bb | F#m"} {
			for _, tempo := range []int{40, 80, 200} {
				tk := task(t, p, chords)
				tk.Tempo = tempo
				var have []string
				for _, s := range grow.Build(choice, tk, difficulty.Fitted, 0) {
					if text := s.Pattern.String(); !slices.Contains(have, text) {
						have = append(have, text)
					}
				}
				assert.Equal(t, want, have, "%s on %s at %d", o.Name, chords, tempo)
			}
		}
	}
}

func patterns(steps []ladder.Step) (list []pattern.Pattern) {
	for _, s := range steps {
		list = append(list, s.Pattern)
	}
	return list
}

func TestReach(t *testing.T) {
	steps := []ladder.Step{{Level: 2}, {Level: 3}, {Level: 4.5}, {Level: 6}}
	for level, want := range map[float64]int{0: 0, 1.5: 0, 2: 0, 4.4: 1, 4.5: 2, 9: 3} {
		assert.Equal(t, want, ladder.Reach(steps, level), level)
	}
	assert.Zero(t, ladder.Reach(nil, 3))
}
