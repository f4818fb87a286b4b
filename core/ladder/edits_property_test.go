package ladder_test

import (
	"math"
	"slices"
	"testing"

	"pgregory.net/rapid"

	"arplin/core/difficulty"
	"arplin/core/ladder"
	"arplin/core/ladder/edit"
	"arplin/core/ladder/grow"
	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
	"arplin/core/variation"
)

// Whatever a teacher does to a ladder, the target stays on top, every step can be
// played together with it, ids stay unique and never come back, what was pinned
// stays, students keep a step, and the ladder that was given in is left alone.
func TestAnyEditsLeaveALadder(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		p := rapid.SampledFrom(catalogue.All).Draw(rt, "target").Pattern
		tk := task(t, p, rapid.SampledFrom([]string{"C", "G | D", "C | Am | F | G7"}).Draw(rt, "chords"))
		l := newLadder(anyChoice(rt), tk)
		gone := map[ladder.StepID]bool{}
		for range rapid.IntRange(1, 6).Draw(rt, "edits") {
			id := ladder.StepID(99)
			if rapid.IntRange(0, 9).Draw(rt, "a step that is there") > 0 {
				id = rapid.SampledFrom(l.Steps).Draw(rt, "step").ID
			}
			own := rapid.SampledFrom([]pattern.Pattern{p, figure("4/4: p . p . p . p ."), figure("3/4: p . . . p .")}).Draw(rt, "own")
			e := rapid.SampledFrom([]edit.Edit{
				edit.Pin{Step: id}, edit.Drop{Step: id}, edit.Join{Step: id}, edit.Split{Step: id}, edit.Raise{Step: id}, edit.Lower{Step: id},
				edit.Write{Step: id, Pattern: own}, edit.Insert{Pattern: own}, edit.Note{Step: id, Text: "softly"}, edit.Choose{Beginning: ladder.Beginning{First: "Am"}}, edit.Choose{}, edit.Rebuild{Choice: anyChoice(rt)}, edit.Thin{Steps: []ladder.StepID{id}}, edit.Insert{Pattern: own, After: id, Over: ladder.AllChords, Pace: 60},
			}).Draw(rt, "edit")
			before := slices.Clone(l.Steps)
			now, d, err := edit.Apply(l, e, tk, difficulty.Fitted)
			if !slices.EqualFunc(before, l.Steps, func(a, b ladder.Step) bool { return a.Same(b) && a.Pinned == b.Pinned && a.ID == b.ID }) {
				rt.Fatalf("%+v changed the steps that it was given", e)
			}
			if err != nil {
				continue
			}
			checkLadder(rt, tk, l, now, e, edit.DoneWords.Say(d))
			for _, s := range l.Steps {
				if ladder.Find(now.Steps, s.ID) < 0 {
					gone[s.ID] = true
				}
			}
			for _, s := range now.Steps {
				if gone[s.ID] {
					rt.Fatalf("%+v brought the id of a step back that was gone", e)
				}
			}
			l = now
		}
	})
}

func checkLadder(rt *rapid.T, tk difficulty.Task, was, now ladder.Ladder, e edit.Edit, says string) {
	data, err := now.Encode()
	if err != nil {
		rt.Fatalf("%+v: %v", e, err)
	}
	back, err := ladder.Decode(data)
	if err != nil {
		rt.Fatalf("%+v: what is written cannot be read: %v", e, err)
	}
	again, err := back.Encode()
	if err != nil || string(again) != string(data) {
		rt.Fatalf("%+v: a ladder that was read is another: %s, not %s", e, again, data)
	}
	last := now.Steps[len(now.Steps)-1]
	if says == "" || len(now.Steps) > 60 || !last.Pattern.Equal(tk.Pattern) || last.Play != difficulty.OnStrings {
		rt.Fatalf("%+v: %q leaves %d steps with %+v on top", e, says, len(now.Steps), last)
	}
	ids := map[ladder.StepID]bool{}
	for i, s := range now.Steps {
		if len(s.Adds) == 0 || ladder.Describe(now.Steps, i, tk).Name == "" || s.How() == "" || variation.Together(s.Pattern, tk.Pattern) == s.Home || s.Level < 1 || s.Level > 9.9 {
			rt.Fatalf("%+v leaves the step %+v", e, s)
		}
		if s.ID == 0 || ids[s.ID] || int(s.ID) >= now.Next {
			rt.Fatalf("%+v: the id %d is used twice, or is not counted", e, s.ID)
		}
		ids[s.ID] = true
	}
	if _, ok := e.(edit.Rebuild); ok {
		for _, s := range was.Steps[:len(was.Steps)-1] {
			if s.Pinned && ladder.Find(now.Steps, s.ID) < 0 {
				rt.Fatalf("%+v lost the pinned step %+v", e, s)
			}
		}
	}
	for _, s := range was.Steps {
		if to := ladder.Moved(was.Steps, now.Steps, s.ID); ladder.Find(now.Steps, to) < 0 {
			rt.Fatalf("%+v leaves a student of step %d on none", e, s.ID)
		}
	}
}

// For another song the figures stay, in their order, and the ladder rises to the
// target there.
func TestAnyLadderOnAnotherSong(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		p := rapid.SampledFrom(catalogue.All).Draw(rt, "target").Pattern
		songs := []string{"C", "G | D", "C | Am | F | G7", "Em | C | G D | Em"}
		order := anyChoice(rt)
		steps := grow.Build(order, task(t, p, rapid.SampledFrom(songs).Draw(rt, "from")), difficulty.Fitted, 0)
		there := task(t, p, rapid.SampledFrom(songs).Draw(rt, "to"))
		out, err := grow.Reuse(ladder.Ladder{Choice: order, Steps: steps}, there, difficulty.Fitted)
		if err != nil {
			rt.Fatal(err)
		}
		last := out[len(out)-1]
		if !last.Pattern.Equal(p) || math.Abs(last.Level-difficulty.Of(there, difficulty.Fitted).Level) > 1e-9 {
			rt.Fatalf("%s, %s: the last step is %+v", p, order, last)
		}
	})
}
