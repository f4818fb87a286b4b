package arrange_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"os"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/arrange"
	"arplin/core/fretboard"
	"arplin/core/ladder/station"
	"arplin/core/pattern"
	"arplin/core/theory"
)

// What the thumb plays under a tune, beat by beat, and how far the hand spreads. Source: common
// practice (testdata/melody.json).
func TestTheThumbUnderATune(t *testing.T) {
	raw, err := os.ReadFile("testdata/melody.json")
	require.NoError(t, err)
	var file struct {
		Cases []struct {
			Name, Chords, Notes, Bass string
			Right                     map[string][]string
			Waits                     []int
			Span                      int
		}
	}
	require.NoError(t, json.Unmarshal(raw, &file))
	for _, c := range file.Cases {
		t.Run(c.Name, func(t *testing.T) {
			bass, err := arrange.ParseBass(c.Bass)
			require.NoError(t, err)
			k := task(t, "guitar", tune(t, c.Chords, c.Notes), bass)
			p := arrange.Place(k)
			struck := map[int]string{}
			for _, st := range p.Bars[0].Strokes {
				if !st.Melody {
					struck[1+st.Tick/k.Meter.BeatTicks()] = theory.PlainPitch(st.MIDI).String()
				}
			}
			for beat, right := range c.Right {
				n, err := strconv.Atoi(beat)
				require.NoError(t, err)
				if struck[n] != "" || !slices.Contains(c.Waits, n) {
					assert.Contains(t, right, struck[n], "beat %d", n)
				}
			}
			if c.Span > 0 {
				low, high := 99, 0
				for _, g := range p.Bars[0].Grips {
					for _, f := range g.Voicing.Frets() {
						if f > 0 {
							low, high = min(low, int(f)), max(high, int(f))
						}
					}
				}
				assert.LessOrEqual(t, high-low, c.Span)
			}
		})
	}
}

// Two hundred tunes on C, G, D, A, E and their minors: no bass lies on or above the note under which
// it is struck, a bar begins on its root in 95 of 100, and no hand opens over more than five frets.
// Source: common practice.
func TestTheThumbUnderTwoHundredTunes(t *testing.T) {
	roots := []struct{ major, minor string }{
		{"C | Am | F | G7", "Cm | Fm | G7 | Cm"}, {"G | Em | C | D7", "Gm | Cm | D7 | Gm"}, {"D | Bm | G | A7", "Dm | Gm | A7 | Dm"},
		{"A | F#m | D | E7", "Am | Dm | E7 | Am"}, {"E | C#m | A | B7", "Em | Am | B7 | Em"},
	}
	tonics := []int{60, 55, 62, 57, 64}
	major, minor := []int{0, 2, 4, 5, 7, 9, 11}, []int{0, 2, 3, 5, 7, 8, 10}
	bars, onRoot := 0, 0
	for n := range 200 {
		r := rand.New(rand.NewPCG(uint64(n), 27))
		key, scale := n%len(roots), major
		chords := roots[key].major
		if n%2 == 1 {
			scale, chords = minor, roots[key].minor
		}
		at := r.IntN(10)
		var line []string
		for range 4 {
			var notes []string
			for left := 4; left > 0; {
				long := min(left, []int{1, 1, 2, 4}[r.IntN(4)])
				at = min(10, max(-1, at+r.IntN(5)-2))
				midi := tonics[key] + 12*((at+7)/7-1) + scale[(at+7)%7]
				notes = append(notes, fmt.Sprintf("%s:%d", theory.PlainPitch(midi), long))
				left -= long
			}
			line = append(line, strings.Join(notes, " "))
		}
		k := task(t, "guitar", tune(t, chords, strings.Join(line, " | ")), arrange.Alternating)
		p := arrange.Place(k)
		for b, bar := range p.Bars {
			bars++
			for i, st := range bar.Strokes {
				if st.Melody {
					continue
				}
				if i == 0 && st.Tick == 0 && st.MIDI%12 == bar.Grips[0].Chord.Bass.Class() {
					onRoot++
				}
				for _, over := range k.Bars[b].Melody {
					if over.Tick <= st.Tick && st.Tick < over.Tick+over.Ticks && !lies(p.Left, b, over.Tick) {
						assert.Less(t, st.MIDI, over.MIDI, "tune %d, bar %d: %s", n, b+1, line[b])
					}
				}
			}
			for _, g := range bar.Grips {
				low, high := g.Voicing.Span()
				assert.LessOrEqual(t, high-low, fretboard.Fret(5), "tune %d, bar %d: %s", n, b+1, g.Voicing.Shape)
			}
		}
	}
	t.Logf("%d of %d bars begin on the root", onRoot, bars)
	assert.GreaterOrEqual(t, float64(onRoot)/float64(bars), 0.95)
}

func lies(left []arrange.Left, bar, tick int) bool {
	return slices.ContainsFunc(left, func(l arrange.Left) bool { return l.Bar == bar && l.Tick == tick })
}

// In three the thumb has one note a bar: the root, then the fifth while the chord stays. Source:
// common practice.
func TestTheThumbInThree(t *testing.T) {
	sg := tuneIn(t, pattern.Meter{Beats: 3, Unit: 4}, "C | C | G | C", "E4:3 | G4:3 | D4:3 | E4:1 G4:2")
	p := arrange.Place(task(t, "guitar", sg, arrange.Alternating))
	var bass []string
	for _, bar := range p.Bars {
		for _, st := range bar.Strokes {
			if !st.Melody {
				bass = append(bass, fmt.Sprintf("%d %s", st.Tick, theory.PlainNote(st.MIDI%12)))
			}
		}
	}
	assert.Equal(t, []string{"0 C", "0 G", "0 G", "0 C"}, bass)
}

// On a ukulele with a low g the bass lies below the tune; with a high one it is a drone.
func TestTheThumbOfAUkulele(t *testing.T) {
	low := tune(t, "C | F | G7 | C", "E4:2 C4:2 | A4:4 | D4:1 G4:1 B4:2 | C4:4")
	k := task(t, "ukulele-low-g", low, arrange.Alternating)
	p := arrange.Place(k)
	struck := 0
	for b, bar := range p.Bars {
		for _, st := range bar.Strokes {
			for _, over := range k.Bars[b].Melody {
				if !st.Melody && over.Tick <= st.Tick && st.Tick < over.Tick+over.Ticks {
					assert.Less(t, st.MIDI, over.MIDI, "bar %d", b+1)
					struck++
				}
			}
		}
	}
	assert.Greater(t, struck, 8)
	high := task(t, "ukulele", low, arrange.Alternating)
	names := func(k arrange.Task) string {
		return fmt.Sprint(k.Station(station.BassOnOne).Name, ", ", k.Station(station.WalkingBass).Name)
	}
	assert.Equal(t, "the melody with bass on 1, the melody over alternating bass", names(k))
	assert.Equal(t, "the melody with a drone on 1, the melody over an alternating drone", names(high))
}

// A note beside the usual shape is taken with it, as the A flat over the barre of F minor; over the seventh
// of E the thumb answers with the fifth, not with the seventh. Source: common practice.
func TestTheHandStaysInItsShape(t *testing.T) {
	frets := func(chord, notes string) string {
		p := arrange.Place(task(t, "guitar", tune(t, chord, notes), arrange.Alternating))
		require.Len(t, p.Bars[0].Grips, 1)
		return p.Bars[0].Grips[0].Voicing.Shape.String()
	}
	assert.Equal(t, "xx3114", frets("Fm", "Ab4:4"))
	assert.Equal(t, "x3203x", frets("C", "D4:4"))
	for _, chord := range []string{"E7", "Em7"} {
		var bass []string
		for _, st := range arrange.Place(task(t, "guitar", tune(t, chord, "E4:4"), arrange.Alternating)).Bars[0].Strokes {
			if !st.Melody {
				bass = append(bass, theory.PlainPitch(st.MIDI).String())
			}
		}
		assert.Equal(t, []string{"E2", "B2", "E2", "B2"}, bass, chord)
	}
}
