package vary_test

import (
	"math"
	"slices"
	"testing"

	"pgregory.net/rapid"

	"arplin/core/demand"
	"arplin/core/hand"
	"arplin/core/vary"
)

// Whatever a teacher does to a staircase, the target stays on top, every step
// can be played together with it, what was pinned stays, students keep a step,
// and the steps that were given in are left alone.
func TestAnyChangesLeaveALadder(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		p := rapid.SampledFrom(hand.Catalogue).Draw(rt, "target").Pattern
		tk := task(t, p, rapid.SampledFrom([]string{"C", "G | D", "C | Am | F | G7"}).Draw(rt, "chords"))
		steps := vary.Steps(rapid.SampledFrom(vary.Orders).Draw(rt, "order").Order, tk, demand.Fitted)
		for range rapid.IntRange(1, 6).Draw(rt, "changes") {
			c := vary.Change{
				Op:    rapid.SampledFrom([]string{vary.Pin, vary.Drop, vary.Join, vary.Split, vary.Raise, vary.Lower, vary.Edit, vary.Insert, vary.Refresh}).Draw(rt, "op"),
				At:    rapid.IntRange(-1, 12).Draw(rt, "at"),
				Text:  rapid.SampledFrom([]string{p.String(), "4/4: p . p . p . p .", "3/4: p . . . p .", "nonsense"}).Draw(rt, "text"),
				Order: rapid.SampledFrom(vary.Orders).Draw(rt, "again in").Order,
			}
			before := slices.Clone(steps)
			now, says, err := vary.Apply(steps, tk, demand.Fitted, c)
			if !slices.EqualFunc(before, steps, func(a, b vary.Step) bool { return a.Same(b) && a.Pinned == b.Pinned && a.Adds == b.Adds }) {
				rt.Fatalf("%+v changed the steps that it was given", c)
			}
			if err != nil {
				continue
			}
			checkLadder(rt, tk, steps, now, c, says)
			steps = now
		}
	})
}

func checkLadder(rt *rapid.T, tk demand.Task, was, now []vary.Step, c vary.Change, says string) {
	last := now[len(now)-1]
	if says == "" || len(now) > 60 || !last.Pattern.Equal(tk.Pattern) || last.Play != demand.OnStrings {
		rt.Fatalf("%+v: %q leaves %d steps with %+v on top", c, says, len(now), last)
	}
	for _, s := range now {
		if s.Adds == "" || !vary.Together(s.Pattern, tk.Pattern) || s.Level < 1 || s.Level > 9.9 {
			rt.Fatalf("%+v leaves the step %+v", c, s)
		}
	}
	if c.Op == vary.Refresh {
		for _, s := range was[:len(was)-1] {
			if s.Pinned && !slices.ContainsFunc(now, s.Same) {
				rt.Fatalf("%+v lost the pinned step %+v", c, s)
			}
		}
	}
	for at := range was {
		if to := vary.Moved(was, now, at); to < 0 || to >= len(now) {
			rt.Fatalf("%+v moves a student from %d to %d of %d", c, at, to, len(now))
		}
	}
}

// The search against trying every way, on small figures of all kinds.
func TestTheSearchIsAsEvenAsTryingEverythingOnRandomFigures(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		slots := rapid.SampledFrom([][]string{{".", "p", "i", "m", "p+m"}, {".", "D", "U", "D!"}, {".", "p'", "Dt", "Ut"}}).Draw(rt, "strokes")
		text := "3/4: " + slots[1]
		for range 5 {
			text += " " + rapid.SampledFrom(slots).Draw(rt, "slot")
		}
		tk := task(t, hand.MustParse(text), "C")
		got, want := vary.Unevenness(tk, demand.Fitted), math.Inf(1)
		vary.EveryWay(tk, demand.Fitted, func(cost float64) { want = min(want, cost) })
		if math.Abs(want-got) > 1e-9 {
			rt.Fatalf("%s: the search finds %f, trying everything %f", text, got, want)
		}
	})
}

// For another song the figures stay, in their order, and the ladder rises to the
// target there.
func TestAnyLadderOnAnotherSong(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		p := rapid.SampledFrom(hand.Catalogue).Draw(rt, "target").Pattern
		songs := []string{"C", "G | D", "C | Am | F | G7", "Em | C | G D | Em"}
		order := rapid.SampledFrom(vary.Orders).Draw(rt, "order").Order
		steps := vary.Steps(order, task(t, p, rapid.SampledFrom(songs).Draw(rt, "from")), demand.Fitted)
		there := task(t, p, rapid.SampledFrom(songs).Draw(rt, "to"))
		out, err := vary.Rebind(steps, there, demand.Fitted)
		if err != nil {
			rt.Fatal(err)
		}
		last := out[len(out)-1]
		if !last.Pattern.Equal(p) || math.Abs(last.Level-demand.Of(there, demand.Fitted).Level) > 1e-9 {
			rt.Fatalf("%s, %s: the last step is %+v", p, order, last)
		}
		for i, s := range out[:len(out)-1] {
			if s.Level >= last.Level {
				rt.Fatalf("%s, %s: step %d of %f stands below the target of %f", p, order, i+1, s.Level, last.Level)
			}
		}
	})
}
