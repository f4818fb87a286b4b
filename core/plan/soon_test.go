package plan_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"arplin/core/plan"
	"arplin/core/practice"
)

// evening is tries at a tempo on one day, clean where a letter is c.
func evening(day, tempo int, what string) (list []practice.Try) {
	for i, c := range what {
		list = append(list, practice.Try{ID: int64(i + 1), Day: day, Tempo: tempo, Clean: c == 'c'})
	}
	return list
}

// Three times clean at the goal in one evening is enough where a step asks for little, or for far less
// than the student plays elsewhere; a harder one waits for another day. Common practice.
func TestAnEasyStepGoesInOneEvening(t *testing.T) {
	on := plan.On{Tries: evening(10, 60, "ccc"), Goal: 60, Steps: 5, Today: 10, Level: 1.8}
	_, d := on.Decide()
	assert.Equal(t, practice.MoveOn, d.Kind)
	assert.Equal(t, "clean 3 times at 60 in one evening, and it’s an easy step", plan.Words.Say(d.Why))
	assert.Equal(t, []int64{1, 2, 3}, d.Because)
	for name, other := range map[string]plan.On{
		"a usual step":      {Tries: evening(10, 60, "ccc"), Goal: 60, Steps: 5, Today: 10, Level: 4.2, Plays: 4.0},
		"twice":             {Tries: evening(10, 60, "cc"), Goal: 60, Steps: 5, Today: 10, Level: 1.8},
		"a slip at last":    {Tries: evening(10, 60, "cccx"), Goal: 60, Steps: 5, Today: 10, Level: 1.8},
		"under the goal":    {Tries: evening(10, 50, "ccc"), Goal: 60, Steps: 5, Today: 10, Level: 1.8},
		"a tense hand":      {Tries: evening(10, 60, "ccc"), Goal: 60, Steps: 5, Today: 10, Level: 1.8, Tense: true},
		"the last step":     {Tries: evening(10, 60, "ccc"), Goal: 60, Today: 10, Level: 1.8},
		"no level is known": {Tries: evening(10, 60, "ccc"), Goal: 60, Steps: 5, Today: 10},
	} {
		_, d := other.Decide()
		assert.Equal(t, practice.Stay, d.Kind, name)
	}
	_, d = plan.On{Tries: evening(10, 60, "ccc"), Goal: 60, Steps: 5, Today: 10, Level: 4.2, Plays: 6}.Decide()
	assert.Equal(t, practice.MoveOn, d.Kind)
	assert.Contains(t, plan.Words.Say(d.Why), "far easier than their others")
}

func classOn(steps ...int) plan.Class {
	c := plan.Class{Today: 20, Songs: []plan.Song{{ID: 1, Tempo: 80, Beats: 64}}}
	for range 6 {
		c.Songs[0].Steps = append(c.Songs[0].Steps, plan.Step{Name: "x", Goal: 80, Usual: 8, Level: 4})
	}
	for i, s := range steps {
		st := plan.Student{ID: int64(i + 1), Minutes: 15}
		if s >= 0 {
			st.Places = []plan.Place{{Song: 0, Step: s}}
		}
		c.Students = append(c.Students, st)
	}
	return c
}

func pieceOf(t *testing.T, l plan.Lesson, kind plan.Kind) plan.Piece {
	t.Helper()
	for _, p := range l.Pieces {
		if p.Kind == kind {
			return p
		}
	}
	t.Fatalf("no %s", kind)
	return plan.Piece{}
}

// What was new is not new again: where half can play it the class goes on, else it comes once more.
func TestTheNextPlanIsAnother(t *testing.T) {
	c := classOn(1, 1, 1, 1)
	p := pieceOf(t, plan.NewLesson(c, 45, nil), plan.NewThing)
	assert.Equal(t, 1, p.Step, "they have only just come to it")
	assert.Contains(t, plan.Words.Say(p.Why), "nothing logged on it yet")
	for i := range c.Students {
		c.Students[i].Places[0].Tries = evening(12, 60, "c")
	}
	p = pieceOf(t, plan.NewLesson(c, 45, nil), plan.NewThing)
	assert.Equal(t, 2, p.Step)
	assert.Equal(t, 1, strings.Count(plan.Words.Say(p.Why), "clean at 60"), "a reason that is shared is said once")
	c.New = &plan.Left{Kind: plan.NewThing, Song: 0, Step: 2, Day: 13}
	p = pieceOf(t, plan.NewLesson(c, 45, nil), plan.NewThing)
	assert.Equal(t, 2, p.Step)
	assert.Contains(t, plan.Words.Say(p.Does), "once more", "it is played now, not only tapped")
	for i := range 2 {
		c.Students[i].Places[0].Tries = evening(14, 80, "c")
	}
	p = pieceOf(t, plan.NewLesson(c, 45, nil), plan.NewThing)
	assert.Equal(t, 3, p.Step, "half of them can")
	assert.Contains(t, plan.Words.Say(p.Why), "2 of 4 can play step 3")
	c = classOn(2, 2, 2, 1)
	c.New = &plan.Left{Kind: plan.NewThing, Song: 0, Step: 2, Day: 13}
	c.Students[3].Places[0].Tries = append(evening(12, 80, "cc"), practice.Try{ID: 9, Day: 14, Tempo: 80, Clean: true})
	p = pieceOf(t, plan.NewLesson(c, 45, nil), plan.NewThing)
	assert.Equal(t, 3, p.Step, "one more who is ready for it does not make it new again")
}

// At first there is no last time; a newcomer stands in the plan and has a week.
func TestFirstLessonsAndNewcomers(t *testing.T) {
	c := classOn(0, 0, -1)
	c.First = true
	sum := 0
	for _, minutes := range []int{5, 20, 45, 90, 240} {
		l := plan.NewLesson(c, minutes, nil)
		sum = 0
		for _, p := range l.Pieces {
			assert.NotEqual(t, plan.LastTime, p.Kind)
			sum += p.Minutes
		}
		assert.Equal(t, minutes, sum)
	}
	assert.Equal(t, []int64{3}, c.Waiting())
	c.Students[2].Away = true
	assert.Empty(t, c.Waiting())
	assert.Empty(t, classOn(-1, -1).Waiting(), "where nobody has a step, finding them is the new thing")
	w := plan.NewWeek(c, 2)
	for _, d := range w.Days {
		minutes := 0
		for _, task := range d.Tasks {
			minutes += task.Minutes
		}
		assert.Equal(t, 15, minutes)
		last := d.Tasks[len(d.Tasks)-1]
		assert.Equal(t, plan.TaskStep, last.Kind)
		assert.Equal(t, 0, last.Step)
		assert.Positive(t, last.Tempo)
	}
}

// Whatever the log: where the steady rule moves on, the sooner one does, too; it only ever turns a stay into
// a move.
func TestSoonerNeverKeepsAnybody(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		var tries []practice.Try
		day := 1
		for i := range rapid.IntRange(0, 12).Draw(rt, "tries") {
			day += rapid.IntRange(0, 3).Draw(rt, "days")
			tries = append(tries, practice.Try{ID: int64(i + 1), Day: day, Tempo: rapid.IntRange(50, 100).Draw(rt, "tempo"), Clean: rapid.Bool().Draw(rt, "clean")})
		}
		on := plan.On{Tries: tries, Goal: 70, Steps: rapid.IntRange(0, 5).Draw(rt, "steps"), Today: day + rapid.IntRange(0, 30).Draw(rt, "later")}
		_, steady := on.Decide()
		on.Level, on.Plays = rapid.Float64Range(1, 9).Draw(rt, "level"), rapid.Float64Range(0, 9).Draw(rt, "plays")
		_, sooner := on.Decide()
		if steady.Kind != sooner.Kind && (steady.Kind != practice.Stay || sooner.Kind != practice.MoveOn) {
			rt.Fatalf("%s became %s", steady.Kind, sooner.Kind)
		}
	})
}
