package draw_test

import (
	"encoding/xml"
	"fmt"
	"io"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
	"arplin/core/played"
	"arplin/core/theory"
	"arplin/draw"
)

// wellFormed fails on anything that is not XML, and on style, which the content
// policy would drop.
func wellFormed(t *testing.T, svg string) {
	t.Helper()
	d := xml.NewDecoder(strings.NewReader(svg))
	for {
		_, err := d.Token()
		if err == io.EOF {
			break
		}
		require.NoError(t, err, svg)
	}
	assert.NotContains(t, svg, "style=")
}

func strip(t *testing.T, instrument, notation, chord, frets string) draw.Strip {
	t.Helper()
	ins, err := fretboard.ByID(instrument)
	require.NoError(t, err)
	p := pattern.MustParse(notation)
	r := bind.Pattern(ins, bind.DefaultSchool, p, theory.MustChord(chord), fretboard.MustShape(frets))
	return draw.Strip{Instrument: ins, Pattern: p, Events: r.Events, Frets: true, Label: "a <strip>"}
}

func TestStripHasAMarkForEveryStroke(t *testing.T) {
	svg := string(strip(t, "guitar", "4/4: p+m . p' i p a p' c", "C", "x32010").SVG())
	wellFormed(t, svg)
	assert.Equal(t, 4, strings.Count(svg, `<rect class="mark"`), "thumb square")
	assert.Equal(t, 1, strings.Count(svg, `<circle class="mark"`), "index circle")
	assert.Equal(t, 3, strings.Count(svg, `<polygon class="mark"`), "middle lozenge, ring triangle, little pentagon")
	assert.Equal(t, 1, strings.Count(svg, `class="join"`), "the pinch is tied")
	assert.Contains(t, svg, "a &lt;strip&gt;")
	assert.NotContains(t, svg, `class="path"`, "fingers alone have no hand path")
}

func TestStrumsShowTheHandPath(t *testing.T) {
	svg := string(strip(t, "guitar", "4/4: D! . D U . U Dx N", "C", "x32010").SVG())
	wellFormed(t, svg)
	assert.Equal(t, 6, strings.Count(svg, `class="turn struck"`))
	assert.Equal(t, 2, strings.Count(svg, `class="turn"`), "hollow where the hand passes in the air")
}

func TestWhatIsNewAndWhatIsGhost(t *testing.T) {
	s := strip(t, "ukulele", "4/4: p . p' . p i p' .", "C", "0003")
	s.New = map[pattern.Place]bool{{Bar: 0, Slot: 5, Sign: pattern.Index}: true}
	target := strip(t, "ukulele", "4/4: p+m . p' . p i p' .", "C", "0003")
	s.Ghosts = target.Events[1:2]
	svg := string(s.SVG())
	wellFormed(t, svg)
	assert.Equal(t, 1, strings.Count(svg, `"mark new"`))
	assert.Equal(t, 1, strings.Count(svg, `"mark ghost"`))
}

// y of the first element with the class.
func attr(t *testing.T, svg, class, name string) string {
	t.Helper()
	_, rest, ok := strings.Cut(svg, `class="`+class+`"`)
	require.True(t, ok, class)
	_, rest, ok = strings.Cut(rest, name+`="`)
	require.True(t, ok)
	value, _, _ := strings.Cut(rest, `"`)
	return value
}

func TestStringsCanBeTurnedOver(t *testing.T) {
	s := strip(t, "guitar", "4/4: p6 . . .", "G", "320003")
	usual := attr(t, string(s.SVG()), "mark", "y")
	s.ThickOnTop = true
	assert.NotEqual(t, usual, attr(t, string(s.SVG()), "mark", "y"))
}

// Common practice: small letters for a guitar's thinnest string and a high g.
func TestStringNames(t *testing.T) {
	for id, want := range map[string]string{"guitar": "E A D G B e", "ukulele": "g C E A", "ukulele-low-g": "G C E A", "baritone": "D G B e"} {
		ins, err := fretboard.ByID(id)
		require.NoError(t, err)
		var names []string
		for s := fretboard.String(ins.Strings()); s >= 1; s-- {
			names = append(names, draw.StringName(ins, s))
		}
		assert.Equal(t, want, strings.Join(names, " "), id)
	}
}

func TestShapeForLeftHandersIsMirrored(t *testing.T) {
	ins, _ := fretboard.ByID("guitar")
	c := theory.MustChord("F")
	d := draw.Shape{Instrument: ins, Chord: c, Voicing: fretboard.Read(ins, c, fretboard.MustShape("133211"))}
	right := string(d.SVG())
	wellFormed(t, right)
	assert.Contains(t, right, `class="barre"`)
	assert.Equal(t, 6, strings.Count(right, `class="finger"`))
	d.LeftHanded = true
	assert.NotEqual(t, attr(t, right, "nut", "x1"), attr(t, string(d.SVG()), "nut", "x1"))
	assert.Equal(t, attr(t, right, "nut", "y1"), attr(t, string(d.SVG()), "nut", "y1"))
}

func TestShapeUpTheNeckNamesItsFret(t *testing.T) {
	ins, _ := fretboard.ByID("guitar")
	c := theory.MustChord("Cm")
	svg := string(draw.Shape{Instrument: ins, Chord: c, Voicing: fretboard.Read(ins, c, fretboard.MustShape("x35543"))}.SVG())
	wellFormed(t, svg)
	assert.Contains(t, svg, "fret 3")
}

// What is said before the strings has its count under every slot.
func TestCountedLane(t *testing.T) {
	p := pattern.MustParse("4/4: p+m . p' i p m p' . | p . p+i+m+a . p . p' .")
	svg := string(draw.CountedLane(p, "two bars"))
	wellFormed(t, svg)
	assert.Equal(t, 8, strings.Count(svg, `class="count beat"`))
	assert.Equal(t, 8, strings.Count(svg, ">&amp;</text>"))
	assert.NotContains(t, string(draw.Lane(p, nil, "two bars")), "count")
}

func TestLaneAndTempos(t *testing.T) {
	wellFormed(t, string(draw.Lane(pattern.MustParse("4/4: p+m . p' = | p . Dt Ut"), nil, "lane")))
	assert.Empty(t, string(draw.TempoHistory(nil, 80)))
	for _, tempos := range [][]int{{80}, {60, 70, 90}, {80, 80}} {
		svg := string(draw.TempoHistory(tempos, 80))
		wellFormed(t, svg)
		assert.NotContains(t, svg, "NaN")
		assert.Equal(t, 1, strings.Count(svg, `"tempo last"`))
	}
}

// Weeks run from left to right, a cross is not a dot, each step has its band, and numbers stand at
// the axes.
func TestTempoWeeks(t *testing.T) {
	field := draw.Weeks{Goal: 80, Weeks: 12, Day: func(ago int) string { return fmt.Sprintf("-%d", ago) }}
	assert.Empty(t, string(field.Draw(nil)))
	svg := string(field.Draw([]draw.Heard{{Days: 28, Tempo: 60, Clean: true, Step: 4}, {Days: 14, Tempo: 64, Clean: true, Step: 5}, {Tempo: 70, Step: 5}}))
	wellFormed(t, svg)
	assert.Equal(t, 2, strings.Count(svg, "<circle"))
	assert.Equal(t, 2, strings.Count(svg, `class="notclean"`))
	assert.Contains(t, svg, "3 tempos, from 60 on -28 to 70 on -0, goal 80")
	for _, word := range []string{">step 4<", ">step 5<", ">60<", ">90<", ">goal 80<", ">-0<"} {
		assert.Contains(t, svg, word)
	}
	assert.Equal(t, 1, strings.Count(svg, `class="band"`), "every other step is shaded")
	wellFormed(t, string(field.Draw([]draw.Heard{{Days: 3, Tempo: 80, Clean: true}})))
}

// Every pattern of the catalogue on every instrument: well-formed, nothing off
// the picture, a letter for every stroke on one string.
func TestEveryPatternIsDrawnWhole(t *testing.T) {
	for _, e := range catalogue.All {
		for _, ins := range fretboard.Instruments {
			c := theory.MustChord("C")
			v, ok := fretboard.Easiest(ins, c)
			require.True(t, ok)
			events := bind.Pattern(ins, bind.DefaultSchool, e.Pattern, c, v.Shape).Events
			svg := string(draw.Strip{Instrument: ins, Pattern: e.Pattern, Events: events, Frets: true, SlotWidth: 26, Label: e.Name}.SVG())
			wellFormed(t, svg)
			single := 0 // strokes on one string, by fingers or a pick
			for _, ev := range events {
				if ev.Kind == played.Pluck {
					single++
				}
			}
			assert.Equal(t, single, strings.Count(svg, `class="letter"`), "%s on %s", e.ID, ins.Name)
			for _, at := range regexp.MustCompile(` (?:x|cx)="(-?[0-9.]+)"`).FindAllStringSubmatch(svg, -1) {
				x, err := strconv.ParseFloat(at[1], 64)
				require.NoError(t, err)
				assert.True(t, x >= 0 && x <= width(t, svg), "%s on %s: a mark at %s", e.ID, ins.Name, at[1])
			}
			wellFormed(t, string(draw.Lane(e.Pattern, nil, e.Name)))
		}
	}
}

func width(t *testing.T, svg string) float64 {
	t.Helper()
	m := regexp.MustCompile(`width="([0-9.]+)"`).FindStringSubmatch(svg)
	require.NotNil(t, m)
	w, err := strconv.ParseFloat(m[1], 64)
	require.NoError(t, err)
	return w
}

// The palm that rests on a string and the palm that lands have marks of their own.
// Source: docs/notation.md, "*" and "X".
func TestPalmAndKnockAreDrawn(t *testing.T) {
	plain := string(strip(t, "guitar", "4/4: p i . m", "C", "x32010").SVG())
	touched := string(strip(t, "guitar", "4/4: p* i X m*", "C", "x32010").SVG())
	wellFormed(t, touched)
	for class, want := range map[string]int{`class="palm"`: 2, `class="knock"`: 1} {
		assert.Zero(t, strings.Count(plain, class))
		assert.Equal(t, want, strings.Count(touched, class), class)
	}
	strums := string(strip(t, "guitar", "4/4: D* U D U", "C", "x32010").SVG())
	assert.Equal(t, 1, strings.Count(strums, `class="palm"`), "of a strum, too")
}

// Two bars a kind of class, as long as the people who are at the goal; nothing where there is nobody.
func TestTried(t *testing.T) {
	svg := string(draw.Tried([]draw.TriedRow{{"Steady", 8, 4}, {"Slow starters", 2, 0}}, 9))
	assert.Equal(t, 2, strings.Count(svg, `class="triedplan"`))
	assert.Contains(t, svg, ">8.0<")
	assert.Contains(t, svg, ">4.0<")
	assert.Contains(t, svg, "of 9 students")
	assert.Empty(t, draw.Tried(nil, 9))
	assert.Empty(t, draw.Tried([]draw.TriedRow{{"Steady", 0, 0}}, 0))
}
