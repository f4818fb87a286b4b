package bind_test

import (
	"cmp"
	"encoding/json"
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/played"
	"arplin/core/song"
	"arplin/core/theory"
)

// stringsBySlot collects the strings of each slot that sounds, in order.
func stringsBySlot(events []played.Event) [][]int {
	var out [][]int
	last := [2]int{-1, -1}
	for _, e := range events {
		if at := [2]int{e.Bar, e.Slot}; at != last {
			out = append(out, nil)
			last = at
		}
		for _, s := range e.Strings {
			out[len(out)-1] = append(out[len(out)-1], int(s))
		}
	}
	return out
}

func bound(t *testing.T, instrument string, school bind.School, notation, chord, frets string) bind.Result {
	t.Helper()
	ins, err := fretboard.ByID(instrument)
	require.NoError(t, err)
	p, err := pattern.Parse(notation)
	require.NoError(t, err)
	return bind.Pattern(ins, school, p, theory.MustChord(chord), fretboard.MustShape(frets))
}

// Source: common practice (testdata/binding.json says so of itself).
func TestCommonPractice(t *testing.T) {
	data, err := os.ReadFile("testdata/binding.json")
	require.NoError(t, err)
	var file struct {
		Cases []struct {
			Why, Pattern, School, Instrument, Chord, Frets string
			Strings                                        [][]int
		}
	}
	require.NoError(t, json.Unmarshal(data, &file))
	require.NotEmpty(t, file.Cases)
	for _, c := range file.Cases {
		t.Run(c.Why, func(t *testing.T) {
			school := bind.DefaultSchool
			if c.School != "" {
				school.Fingers, err = bind.ParseFingerSchool(c.School)
				require.NoError(t, err)
			}
			if c.Instrument == "" {
				c.Instrument = "guitar"
			}
			assert.Equal(t, c.Strings, stringsBySlot(bound(t, c.Instrument, school, c.Pattern, c.Chord, c.Frets).Events))
		})
	}
}

// Source: common practice, the rules of thumb string, group, zone and school.
func TestStringsOfStrokes(t *testing.T) {
	moving, fixed := bind.DefaultSchool, bind.School{Fingers: bind.Fixed, LowFifth: true}
	stay := bind.School{Fingers: bind.Moving}
	for _, c := range []struct {
		name, instrument string
		school           bind.School
		pattern          string
		chord, frets     string
		want             [][]int
	}{
		{"moving group on root 4", "guitar", moving, "4/4: p i m i", "D", "xx0232", [][]int{{4}, {2}, {1}, {2}}},
		{"fixed fingers on root 4", "guitar", fixed, "4/4: p i m i", "D", "xx0232", [][]int{{4}, {3}, {2}, {3}}},
		{"an alternating thumb moves the fingers in both schools", "guitar", fixed, "4/4: p i p' m", "D", "xx0232", [][]int{{4}, {2}, {3}, {1}}},
		{"the ring finger keeps 3 2 1", "guitar", moving, "4/4: p i m a", "D", "xx0232", [][]int{{4}, {3}, {2}, {1}}},
		{"a p' that meets a finger goes back to the root", "guitar", moving, "4/4: p p'+i m a", "D", "xx0232", [][]int{{4}, {4, 3}, {2}, {1}}},
		{"a roll on a shape without string 1", "guitar", moving, "4/4: p i m a", "C7", "x3231x", [][]int{{5}, {4}, {3}, {2}}},
		{"inner and outer, whatever the school", "guitar", fixed, "4/4: p mo p in", "D", "xx0232", [][]int{{4}, {1}, {4}, {2}}},
		{"a digit is a string", "guitar", moving, "4/4: p5 i1 m2 i3", "C", "x32010", [][]int{{5}, {1}, {2}, {3}}},
		{"the other school keeps C on 5 and 4", "guitar", stay, "4/4: p p' p, p'", "C", "x32010", [][]int{{5}, {4}, {4}, {4}}},
		{"no low fifth within reach is the root", "guitar", moving, "4/4: p p' p, p'", "G", "320003", [][]int{{6}, {4}, {6}, {4}}},
		{"ukulele thumb alternates to 3, fingers move out", "ukulele", moving, "4/4: p i p' m", "C", "0003", [][]int{{4}, {2}, {3}, {1}}},
		{"ukulele without alternation", "ukulele", moving, "4/4: p i m i", "C", "0003", [][]int{{4}, {3}, {2}, {3}}},
		{"ukulele zones", "ukulele", moving, "4/4: Db Ut Db Ut", "C", "0003", [][]int{{4, 3}, {2, 1}, {4, 3}, {2, 1}}},
		{"baritone is a guitar's four thin strings", "baritone", moving, "4/4: p i p' m", "D", "0232", [][]int{{4}, {2}, {3}, {1}}},
		{"baritone with its root on 3 answers on 4, a note of the chord", "baritone", moving, "4/4: p i p' m", "G", "0003", [][]int{{3}, {2}, {4}, {1}}},
		{"and its low fifth is there", "baritone", moving, "4/4: p i p, m", "Am", "2210", [][]int{{3}, {2}, {4}, {1}}},
		{"where that is silent the thumb stays", "baritone", moving, "4/4: p i p' m", "G", "x003", [][]int{{3}, {2}, {3}, {1}}},
		{"bass zone on root 4 stops before string 2", "guitar", moving, "4/4: Db Ut Db Ut", "D", "xx0232", [][]int{{4, 3}, {3, 2, 1}, {4, 3}, {3, 2, 1}}},
		{"a pick finds root and alternate bass", "guitar", moving, "4/4: Dr Dt D' Dt", "G", "320003", [][]int{{6}, {3, 2, 1}, {4}, {3, 2, 1}}},
		{"a strum leaves the string that is plucked with it", "guitar", moving, "4/4: p+D . . .", "Am", "x02210", [][]int{{5, 4, 3, 2, 1}}},
		{"a string that the ukulele lacks", "ukulele", moving, "4/4: p6 i m i", "C", "0003", [][]int{{4}, {3}, {2}, {3}}},
		{"a muted alternate bass goes thin", "guitar", moving, "4/4: p . p' .", "F", "1xx211", [][]int{{6}, {3}}},
		{"a sweep begins again after another stroke", "guitar", moving, "4/4: ~ ~ p ~", "Em", "022000", [][]int{{6}, {5}, {6}, {6}}},
		{"a sweep passes over a muted string", "guitar", moving, "4/4: ~ ~ ~ ~", "F", "1x3211", [][]int{{6}, {4}, {3}, {2}}},
	} {
		t.Run(c.name, func(t *testing.T) {
			assert.Equal(t, c.want, stringsBySlot(bound(t, c.instrument, c.school, c.pattern, c.chord, c.frets).Events))
		})
	}
}

func TestEventsCarryWhatTheStrokeSays(t *testing.T) {
	r := bound(t, "guitar", bind.DefaultSchool, "4/4: p! D*? N+X Ux", "C", "x32010")
	require.Len(t, r.Events, 5)
	assert.Equal(t, []any{played.Pluck, "p", "", true}, []any{r.Events[0].Kind, r.Events[0].Finger, r.Events[0].Direction, r.Events[0].Accent})
	assert.Equal(t, "C3", r.Events[0].Pitches[0].String())
	assert.Equal(t, []any{played.Strum, "down", true, true}, []any{r.Events[1].Kind, r.Events[1].Direction, r.Events[1].Muted, r.Events[1].Soft})
	assert.Equal(t, played.Brush, r.Events[2].Kind)
	assert.Equal(t, played.Knock, r.Events[3].Kind)
	assert.Empty(t, r.Events[3].Strings)
	assert.Equal(t, []any{played.Chuck, "up"}, []any{r.Events[4].Kind, r.Events[4].Direction})
}

func TestNoticesSayWhatGaveWay(t *testing.T) {
	r := bound(t, "guitar", bind.DefaultSchool, "4/4: p . p, .", "C", "x32010")
	require.Len(t, r.Notices, 1)
	assert.Equal(t, "bar 1, slot 3: the ring finger moves to string 6, fret 3 for the low fifth", r.Notices[0].String())
	assert.Equal(t, fretboard.Fret(3), r.Events[1].Frets[0])

	r = bound(t, "guitar", bind.DefaultSchool, "4/4: p i m a1", "D", "xx023x")
	require.NotEmpty(t, r.Notices)
	assert.Contains(t, r.Notices[0].String(), "string 1 (muted in xx023x)")
}

// A chord that changes inside the bar is played from its root.
func TestChangeInsideTheBar(t *testing.T) {
	ins, _ := fretboard.ByID("guitar")
	p := pattern.MustParse("4/4: p . p' . p . p' .")
	b := bind.New(ins, bind.DefaultSchool, p)
	half := p.Meter.BarTicks() / 2
	r := b.Bar(0, []bind.Held{
		{From: 0, Chord: theory.MustChord("C"), Shape: fretboard.MustShape("x32010")},
		{From: half / 2, Chord: theory.MustChord("G"), Shape: fretboard.MustShape("320003")},
	})
	assert.Equal(t, [][]int{{5}, {6}, {6}, {4}}, stringsBySlot(r.Events))
}

// A class's schools of rolls and of the pick: which strings, which hand. Sweeps begin
// at either side. Source: common practice.
func TestRollsSweepsAndPicks(t *testing.T) {
	middle, spread, pick := bind.DefaultSchool, bind.DefaultSchool, bind.DefaultSchool
	middle.Roll, spread.Roll, pick.Pick = bind.RollMiddle, bind.RollSpread, true
	for _, c := range []struct {
		school           bind.School
		instrument       string
		notation, ch, sh string
		strings          string
		hands            string
	}{
		{bind.DefaultSchool, "guitar", "4/4: p i m a", "C", "x32010", "5 3 2 1", "p i m a"},
		{middle, "guitar", "4/4: p i m a", "C", "x32010", "5 4 3 2", "p i m a"},
		{middle, "guitar", "4/4: p i m a", "G", "320003", "6 4 3 2", "p i m a"},
		{middle, "guitar", "4/4: p i m a", "D", "xx0232", "4 3 2 1", "p i m a"},
		{middle, "ukulele", "4/4: p i m a", "C", "0003", "4 3 2 1", "p i m a"},
		{spread, "guitar", "4/4: p i m a", "C", "x32010", "5 4 2 1", "p i m a"},
		{spread, "guitar", "4/4: p i m a", "D", "xx0232", "4 3 2 1", "p i m a"},
		{bind.DefaultSchool, "guitar", "4/4: ~t ~ ~ ~ ~ ~ ~ ~", "E", "022100", "1 2 3 4 5 6 5 4", "a m i p p p p p"},
		{bind.DefaultSchool, "guitar", "4/4: ~ ~ ~ ~ ~t ~ ~ ~", "Am", "x02210", "5 4 3 2 1 2 3 4", "p p i m a m i p"},
		{bind.DefaultSchool, "ukulele", "4/4: ~t ~ ~ ~ ~ ~ ~ ~", "C", "0003", "1 2 3 4 3 2 1 2", "a m i p i m a m"},
		{pick, "guitar", "4/4: p i m i p i m i", "C", "x32010", "5 3 2 3 5 3 2 3", "down up down up down up down up"},
		{pick, "guitar", "4/4: p . i . m . . i", "C", "x32010", "5 3 2 3", "down down down up"},
		{pick, "guitar", "4/4: p+m . i .  p+m . i .", "C", "x32010", "5 2 3 5 2 3", "down m down down m down"},
	} {
		ins, err := fretboard.ByID(c.instrument)
		require.NoError(t, err)
		r := bind.Pattern(ins, c.school, pattern.MustParse(c.notation), theory.MustChord(c.ch), fretboard.MustShape(c.sh))
		var on, hands []string
		for _, e := range r.Events {
			on, hands = append(on, fmt.Sprint(e.Strings[0])), append(hands, cmp.Or(e.Finger, e.Direction))
		}
		assert.Equal(t, c.strings, strings.Join(on, " "), "%s on %s", c.notation, c.ch)
		assert.Equal(t, c.hands, strings.Join(hands, " "), "%s on %s", c.notation, c.ch)
	}
}

// The teacher keeps the thumb on the root of F, where the low fifth would move a finger; C and Am still
// take theirs. Common practice.
func TestTheRootIsKept(t *testing.T) {
	guitar, err := fretboard.ByID("guitar")
	require.NoError(t, err)
	p := pattern.MustParse("4/4: p . p, .")
	sg := song.Song{Roots: map[string][]string{"guitar": {"F"}, "ukulele": {"C"}}}
	thumb := func(school bind.School, chord, frets string) (list []fretboard.String) {
		for _, e := range bind.Pattern(guitar, school, p, theory.MustChord(chord), fretboard.MustShape(frets)).Events {
			list = append(list, e.Strings...)
		}
		return list
	}
	assert.Equal(t, []fretboard.String{4, 5}, thumb(bind.DefaultSchool, "F", "xx3211"))
	kept := bind.DefaultSchool.On(sg)
	assert.Equal(t, []fretboard.String{4, 4}, thumb(kept, "F", "xx3211"))
	assert.Equal(t, []fretboard.String{5, 6}, thumb(kept, "C", "x32010"), "another instrument’s choice is not this one’s")
	assert.Equal(t, bind.DefaultSchool, bind.DefaultSchool.On(song.Song{}))
}
