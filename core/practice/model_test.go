package practice_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"arplin/core/bpm"
	"arplin/core/practice"
	"arplin/core/practice/fault"
	"arplin/core/say"
)

// tries reads days, tempos and what failed: {day, tempo, clean}.
func tries(list ...[3]int) (out []practice.Try) {
	for i, t := range list {
		out = append(out, practice.Try{ID: int64(i + 1), Day: t[0], Tempo: t[1], Clean: t[2] == 1})
	}
	return out
}

// Ready is three times clean at the goal on two different days: common practice.
func TestStatesAndDecisions(t *testing.T) {
	for name, c := range map[string]struct {
		tries []practice.Try
		today int
		state practice.State
		kind  practice.Kind
		why   say.Line
		next  int
	}{
		"nothing heard":             {nil, 10, practice.New, practice.Stay, say.Of("stay/new"), 48},
		"on the way":                {tries([3]int{1, 60, 1}, [3]int{8, 66, 1}), 9, practice.Learning, practice.Stay, say.Of("stay/learning", 66, 80), 70},
		"once at the goal":          {tries([3]int{8, 80, 1}), 9, practice.Clean, practice.Stay, say.Of("stay/clean", "once", 3, 2), 80},
		"three times, one day":      {tries([3]int{8, 80, 1}, [3]int{8, 80, 1}, [3]int{8, 82, 1}), 9, practice.Clean, practice.Stay, say.Of("stay/clean", "3 times", 3, 2), 80},
		"three times, two days":     {tries([3]int{1, 80, 1}, [3]int{8, 80, 1}, [3]int{8, 82, 1}), 9, practice.Secure, practice.MoveOn, say.Of("move-on", 3, 80, 2), 80},
		"secure, then long nothing": {tries([3]int{1, 80, 1}, [3]int{8, 80, 1}, [3]int{8, 82, 1}), 60, practice.Rusty, practice.MoveOn, say.Line{}, 0},
		"failed once":               {tries([3]int{1, 70, 1}, [3]int{8, 74, 0}), 9, practice.Learning, practice.Stay, say.Of("stay/failed", 74), 74},
		"failed twice":              {tries([3]int{1, 70, 1}, [3]int{8, 74, 0}, [3]int{8, 74, 0}), 9, practice.Learning, practice.Stay, say.Of("stay/failed", 74), 67},
		"failed on two days":        {tries([3]int{1, 70, 0}, [3]int{8, 70, 0}, [3]int{8, 66, 0}), 9, practice.Learning, practice.Ease, say.Of("ease/failed", 3, 2), 59},
		"far above":                 {tries([3]int{1, 95, 1}, [3]int{1, 96, 1}), 9, practice.Clean, practice.Jump, say.Of("jump", 96, 80), 80},
	} {
		s := practice.Stand(c.tries, 80, c.today, false)
		d := practice.Decide(c.tries, 80, c.today, false)
		assert.Equal(t, c.state, s.State, name)
		if c.why.IsZero() {
			continue
		}
		assert.Equal(t, c.kind, d.Kind, name)
		assert.Equal(t, c.why, d.Why, name)
		assert.Equal(t, c.next, s.Next, name)
	}
	d := practice.Decide(tries([3]int{1, 80, 1}, [3]int{8, 80, 1}, [3]int{8, 82, 1}), 80, 9, true)
	assert.Equal(t, practice.Stay, d.Kind, "tension stops every proposal to go on")
	heard := tries([3]int{1, 80, 1}, [3]int{8, 80, 1}, [3]int{8, 82, 1}, [3]int{8, 84, 1})
	heard[1].Taken, heard[2].Taken = true, true
	assert.Equal(t, say.Of("move-on", 4, 80, 2), practice.Decide(heard, 80, 9, false).Why, "two takes are not three")
	heard[0].Taken = true
	assert.Equal(t, say.Of("move-on/taken", 3, 80, 2), practice.Decide(heard, 80, 9, false).Why)
	assert.Len(t, practice.Decide(heard, 80, 9, false).Because, 4, "the other tries count as well")
	assert.Equal(t, 54, practice.Stand(tries([3]int{8, 60, 1}), 80, 9, true).Next, "nor is it made to go faster")
}

// Forgetting only takes away, and more with more days; a clean try never makes a
// standing worse, and every decision names entries that are there.
func TestPromisesOfTheModel(t *testing.T) {
	assert.InDelta(t, 1, practice.Retained(0), 1e-9)
	assert.InDelta(t, 0.9, practice.Retained(30), 0.02)
	rapid.Check(t, func(rt *rapid.T) {
		goal := rapid.IntRange(40, 160).Draw(rt, "goal")
		list := rapid.SliceOfN(rapid.Custom(func(t *rapid.T) practice.Try {
			return practice.Try{ID: int64(rapid.IntRange(1, 1000).Draw(t, "id")), Day: rapid.IntRange(0, 60).Draw(t, "day"), Tempo: rapid.IntRange(bpm.Min, 200).Draw(t, "tempo"), Clean: rapid.Bool().Draw(t, "clean")}
		}), 0, 12).Draw(rt, "tries")
		today := 60 + rapid.IntRange(0, 300).Draw(rt, "later")
		s, d := practice.Stand(list, goal, today, false), practice.Decide(list, goal, today, false)
		if later := practice.Stand(list, goal, today+7, false); later.Now > s.Now || later.Confidence > s.Confidence {
			rt.Fatalf("a week without playing: %+v, then %+v", s, later)
		}
		if s.Next < bpm.Min || s.Next > max(goal, 200) || practice.Words.Say(s.NextWhy) == "A change" || practice.Words.Say(d.Why) == "A change" || s.NextWhy.IsZero() || d.Why.IsZero() || s.Now > s.Last {
			rt.Fatalf("%+v %+v", s, d)
		}
		known := map[int64]bool{}
		for _, t := range list {
			known[t.ID] = true
		}
		for _, id := range d.Because {
			if !known[id] {
				rt.Fatalf("%+v names an entry that is not there", d)
			}
		}
		rank := map[practice.State]int{practice.New: 0, practice.Learning: 1, practice.Clean: 2, practice.Secure: 3, practice.Rusty: -1}
		better := practice.Stand(append(list, practice.Try{ID: 2000, Day: today, Tempo: goal, Clean: true}), goal, today, false)
		if rank[better.State] < rank[s.State] {
			rt.Fatalf("clean at the goal today makes %s of %s", better.State, s.State)
		}
	})
}

// The same fault three times: a drill of its bar where bars were named, else the step
// below. Taking one of the entries back takes the proposal back.
func TestFaultsLeadToADrill(t *testing.T) {
	at := func(bars ...int) (list []practice.Try) {
		for i, bar := range bars {
			list = append(list, practice.Try{ID: int64(i + 1), Day: 8, Tempo: 60, Fault: fault.Stopped, Bar: bar})
		}
		return list
	}
	d := practice.Decide(at(3, 7, 7), 80, 9, false)
	assert.Equal(t, practice.Decision{Kind: practice.Drill, Why: say.Of("drill/bar", say.Of("fault/stopped"), 3, 7), Because: []int64{1, 2, 3}, Fault: fault.Stopped, Bar: 7}, d)
	assert.Equal(t, practice.Ease, practice.Decide(at(0, 0, 0), 80, 9, false).Kind)
	d = practice.Decide(at(3, 7), 80, 9, false)
	assert.Equal(t, practice.Stay, d.Kind)
	assert.Equal(t, "not clean at 60 last time: stopped at the change, bar 7", practice.Words.Say(d.Why))
	keys := map[string]bool{}
	for _, f := range fault.All {
		assert.Len(t, f.Keys, 2)
		assert.False(t, keys[f.Keys], "%s says two faults", f.Keys)
		keys[f.Keys] = true
		assert.NotEmpty(t, f.Remedy)
	}
}

// What is done about a fault is true of what is played: no thumb in a strum, no second chord where
// there is one, no up stroke where the fingers pluck. Common practice.
func TestRemediesAreTrueOfTheFigure(t *testing.T) {
	for _, f := range fault.All {
		strum, one, pluck := f.RemedyFor(fault.Playing{Strums: true, Chords: 4}), f.RemedyFor(fault.Playing{Chords: 1}), f.RemedyFor(fault.Playing{Chords: 4})
		for _, says := range []string{strum, one, pluck} {
			assert.NotEmpty(t, says, f.Name)
		}
		for _, word := range []string{"thumb", "fingers again", "add the fingers", "knuckles", "plays, and only bends"} {
			if f.Fault != fault.Buzz {
				assert.NotContains(t, strum, word, f.Name)
			}
		}
		assert.NotContains(t, one, "two chords", f.Name)
		assert.NotContains(t, one, "chord changes", f.Name)
		for _, word := range []string{" strum", "up stroke", "the ups", "a down"} {
			assert.NotContains(t, pluck, word, f.Name)
		}
	}
	for keys, fault := range map[string]fault.Fault{"ru": fault.Rushed, "dr": fault.Dragging, "hs": fault.HandStops, "mu": fault.MissedUp, "th": fault.TooHard, "bz": fault.Buzz, "la": fault.LateChange} {
		lines, err := practice.ParseLines("pia 66 "+keys+" b5", []string{"Pia"}, nil, strings.ToLower)
		require.NoError(t, err)
		assert.Equal(t, fault, lines[0].Fault)
		assert.Equal(t, 5, lines[0].Bar)
		assert.False(t, lines[0].Clean)
	}
}
