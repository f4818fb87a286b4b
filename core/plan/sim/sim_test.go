package sim_test

import (
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/plan"
	"arplin/core/plan/sim"
)

// song is an invented one of some steps at 80.
func song(steps int) plan.Song {
	sg := plan.Song{ID: 1, Tempo: 80, Beats: 64}
	for i := range steps {
		sg.Steps = append(sg.Steps, plan.Step{Name: fmt.Sprint("thing ", i+1), Goal: 80, Usual: 8})
	}
	return sg
}

// Of simulated students, whose law the forecast does not know, its range holds eight in
// ten or more, and is narrow enough to be worth saying.
func TestTheRangeHoldsEightInTen(t *testing.T) {
	if testing.Short() {
		t.Skip("in make test")
	}
	within, all := 0, 0
	for seed := range uint64(40) {
		for _, p := range sim.Paces(sim.Steady, seed, song(5), 9) {
			span := p.Pace.Likely(8)
			all++
			assert.Less(t, span.High, 4*span.Low)
			if p.Next >= span.Low && p.Next <= span.High {
				within++
			}
		}
	}
	require.Greater(t, all, 200)
	assert.GreaterOrEqual(t, 10*within, 8*all, "%d of %d", within, all)
}

// Of a thousand simulated students eight in ten end inside the range that was said at mid-term, whatever
// the law by which they learn, and fast ones are told more than slow ones.
func TestEightInTenEndWhereItWasSaid(t *testing.T) {
	if testing.Short() {
		t.Skip("in make test")
	}
	within, all := 0, 0
	for _, law := range sim.Laws {
		var fast, slow, nFast, nSlow float64
		held := 0
		for _, s := range sim.SaidAtMidTerm(law, 11, song(14), 250, 15, 12) {
			all++
			if s.End >= s.Low && s.End <= s.High {
				within++
				held++
			}
			switch {
			case s.Talent > 1.3:
				fast, nFast = fast+float64(s.Likely), nFast+1
			case s.Talent < 0.77:
				slow, nSlow = slow+float64(s.Likely), nSlow+1
			}
		}
		t.Logf("%s: %d of 250 inside; likely step %.1f of the fast, %.1f of the slow", law, held, fast/nFast, slow/nSlow)
		assert.Greater(t, fast/nFast, slow/nSlow+0.5, law)
	}
	assert.GreaterOrEqual(t, 10*within, 8*all, "%d of %d", within, all)
}

// A hundred classes of each kind of learner, taught by the plan and all the same: the plan
// brings more to the goal, also where its notion of learning is wrong. Where it loses is
// listed in the docs, as is the class that is tried.
func TestThePlanAgainstTheSameForEverybody(t *testing.T) {
	if testing.Short() {
		t.Skip("in make test")
	}
	doc, err := os.ReadFile("../../../docs/plan.md")
	require.NoError(t, err)
	for _, law := range sim.Laws {
		c := sim.Compare(law, 100, song(8), make([]int, 9), 15, 12, never)
		assert.Greater(t, c.Plan, c.Same, law)
		assert.Less(t, len(c.Lost), 20, law)
		lost := strings.Trim(strings.Join(strings.Fields(fmt.Sprint(c.Lost)), ", "), "[]")
		if lost == "" {
			lost = "none"
		}
		assert.Contains(t, string(doc), fmt.Sprintf("| %s | %.1f | %.1f | %d | %d | %s |", law, c.Plan, c.Same, 100-len(c.Lost)-c.Even, c.Even, lost))
	}
	assert.Equal(t, sim.Try(sim.Irregular, 7, song(5), []int{0, 1, 2}, 15, 8), sim.Try(sim.Irregular, 7, song(5), []int{0, 1, 2}, 15, 8), "the same seed is the same class")
}

// Classes of beginners: nobody is kept longer on the easy steps than the steady rule keeps them, and at the
// goal the sooner rule is ahead of it in every kind of class. The docs have the table.
func TestBeginnersAreNotKept(t *testing.T) {
	if testing.Short() {
		t.Skip("in make test")
	}
	doc, err := os.ReadFile("../../../docs/plan.md")
	require.NoError(t, err)
	for _, law := range sim.Laws {
		var soon, steady sim.Beginning
		for seed := range uint64(100) {
			a, b := sim.Beginners(law, seed+1, 16, 10, 12, true), sim.Beginners(law, seed+1, 16, 10, 12, false)
			soon.OnEasy, soon.AtGoal = soon.OnEasy+a.OnEasy, soon.AtGoal+a.AtGoal
			steady.OnEasy, steady.AtGoal = steady.OnEasy+b.OnEasy, steady.AtGoal+b.AtGoal
		}
		const people = 100 * 16
		assert.Less(t, soon.OnEasy, steady.OnEasy, law)
		assert.Greater(t, soon.AtGoal, steady.AtGoal, law)
		assert.Contains(t, string(doc), fmt.Sprintf("| %s | %.1f | %.1f | %.1f | %.1f |", law, float64(soon.OnEasy)/people, float64(steady.OnEasy)/people, float64(soon.AtGoal)/100, float64(steady.AtGoal)/100))
	}
}

// BenchmarkTwentyTrials is what the page of a term tries for one law.
func BenchmarkTwentyTrials(b *testing.B) {
	for b.Loop() {
		sim.Compare(sim.Steady, 20, song(8), make([]int, 30), 15, 12, never)
	}
}

func never() bool { return false }

// Nobody waits for a class that is tried for ever.
func TestComparingEndsWhenItIsStopped(t *testing.T) {
	asked := 0
	c := sim.Compare(sim.Steady, 1_000_000_000, song(5), []int{0}, 15, 8, func() bool { asked++; return asked > 3 })
	assert.Equal(t, 4, asked)
	assert.LessOrEqual(t, len(c.Lost)+c.Even, 3)
}
