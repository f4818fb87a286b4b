package plan_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/plan"
	"arplin/core/practice"
	"arplin/core/say"
)

func termSong(steps int) plan.TermSong {
	sg := plan.TermSong{Song: plan.Song{ID: 1, Tempo: 80, Beats: 64}}
	for i := range steps {
		sg.Steps = append(sg.Steps, plan.Step{Name: fmt.Sprint("thing ", i+1), Goal: 80, Usual: 8})
		sg.Threads = append(sg.Threads, []string{"thumb", "thumb", "fingers", "changes"}[min(3, i/2)])
		sg.Play = append(sg.Play, i > 0)
	}
	return sg
}

// A term: everybody ends between where they stand and the top, the range holds what is
// likely, each thread is new once at most and returns with growing gaps.
func TestATermOfTwelveWeeks(t *testing.T) {
	c := nine()
	term := plan.NewTerm(c, termSong(8), 12)
	require.Len(t, term.Forecasts, 9)
	for _, f := range term.Forecasts {
		assert.LessOrEqual(t, f.Now, f.Low, f.ID)
		assert.LessOrEqual(t, f.Low, f.Likely, f.ID)
		assert.LessOrEqual(t, f.Likely, f.High, f.ID)
		assert.Less(t, f.High, 8, f.ID)
		assert.LessOrEqual(t, f.Days.Low, f.Days.Days)
		assert.LessOrEqual(t, f.Days.Days, f.Days.High)
		assert.Contains(t, []say.ID{"pace/usual", "pace/rise"}, f.Why.ID)
	}
	short := plan.NewTerm(c, termSong(8), 4)
	assert.Less(t, short.Forecasts[3].Likely, short.Forecasts[0].Likely, "Ruth begins lower than Ilse")
	for i, f := range short.Forecasts {
		assert.LessOrEqual(t, f.High, term.Forecasts[i].High, "fewer weeks, no more steps")
	}
	var names []string
	for _, th := range term.Threads {
		names = append(names, th.Name)
		fresh, last, gap := 0, 0, 0
		for _, k := range th.Knots {
			assert.Greater(t, k.Week, last, "%s: %v", th.Name, th.Knots)
			assert.LessOrEqual(t, k.Week, 12)
			if k.Kind == plan.Introduced {
				fresh++
			}
			if k.Kind == plan.DueBack {
				assert.GreaterOrEqual(t, k.Week-last, gap, "the gaps grow: %v", th.Knots)
				gap = k.Week - last
			}
			last = k.Week
		}
		assert.LessOrEqual(t, fresh, 1)
	}
	assert.Equal(t, []string{"thumb", "fingers", "changes"}, names)
	var eased []string
	for _, line := range plan.NewTerm(c, termSong(8), 2).Eases {
		eased = append(eased, says(line))
	}
	assert.Contains(t, strings.Join(eased, " "), "Jonas may still be on step 1, which is not played with the class")
}

// The usual days are drawn towards the own pace, the more the more steps were finished.
func TestPace(t *testing.T) {
	assert.Equal(t, practice.Usual(0.8), 7)
	assert.Less(t, practice.Usual(0.1), practice.Usual(0.9))
	slow := practice.Took{Days: 16, Usual: 8}
	one, many := practice.PaceOf([]practice.Took{slow}), practice.PaceOf(slices.Repeat([]practice.Took{slow}, 6))
	assert.Greater(t, one.Times, 1.0)
	assert.Greater(t, many.Times, one.Times)
	assert.Less(t, many.Times, 2.0)
	assert.Less(t, many.Spread, one.Spread)
	usual := practice.PaceOf(nil).Likely(8)
	assert.Equal(t, 8, usual.Days)
	assert.Less(t, usual.Low, 8)
	assert.Greater(t, usual.High, 8)
	assert.Equal(t, practice.Span{}, practice.PaceOf(nil).Likely())
}

// BenchmarkThirtyForTwelveWeeks is a lesson, thirty weeks and a term of twelve weeks.
func BenchmarkThirtyForTwelveWeeks(b *testing.B) {
	c := nine()
	for len(c.Students) < 30 {
		c.Students = append(c.Students, c.Students[len(c.Students)%9])
	}
	sg := termSong(12)
	c.Songs = []plan.Song{sg.Song}
	for b.Loop() {
		plan.NewLesson(c, 60, nil)
		for i := range c.Students {
			for range 12 {
				plan.NewWeek(c, i)
			}
		}
		plan.NewTerm(c, sg, 12)
	}
}

// What somebody plays clean by a day lies below what they are working on then, never above the
// range; with no time it is the step below theirs, with all the time in the world the last one.
func TestCleanByADay(t *testing.T) {
	in := func(weeks int) []plan.Forecast { return plan.NewTerm(nine(), termSong(4), weeks).Forecasts }
	long := in(plan.MaxTerm)
	for i, f := range in(plan.MinTerm) {
		assert.GreaterOrEqual(t, f.Clean, f.Now-1, f.ID)
		assert.LessOrEqual(t, f.Clean, f.Low, f.ID)
		assert.LessOrEqual(t, f.Clean, long[i].Clean, "more weeks, no fewer steps")
		assert.Equal(t, 3, long[i].Clean, "%d: four steps in %d weeks", f.ID, plan.MaxTerm)
	}
}

// Common practice: who goes on at lessons takes a step a week, and at best two; who takes longer
// than that takes what it takes.
func TestAStepALesson(t *testing.T) {
	assert.Equal(t, practice.Span{Low: 10, Days: 21, High: 21}, plan.FromLessonToLesson(practice.Span{Low: 3, Days: 9, High: 14}, 3))
	assert.Equal(t, practice.Span{Low: 10, Days: 21, High: 33}, plan.FromLessonToLesson(practice.Span{Low: 8, Days: 19, High: 33}, 3))
	assert.Equal(t, practice.Span{Low: 30, Days: 40, High: 60}, plan.FromLessonToLesson(practice.Span{Low: 30, Days: 40, High: 60}, 3))
}

// Common practice: alone one counts, in pairs one listens, on two steps they take turns; what
// nobody has played is first counted.
func TestWhatAGroupDoesMeanwhile(t *testing.T) {
	for _, c := range []struct {
		tried bool
		on    []int
		want  say.Line
	}{
		{true, []int{2}, say.Of("meanwhile/alone", 60)},
		{false, []int{2}, say.Of("meanwhile/alone", 60)},
		{true, []int{2, 3}, say.Of("meanwhile/two-steps")},
		{false, []int{2, 3}, say.Of("meanwhile/two-steps")},
		{true, []int{2, 2}, say.Of("meanwhile/pairs")},
		{false, []int{2, 2}, say.Of("meanwhile/new")},
		{true, []int{2, 2, 4}, say.Of("meanwhile/two-steps")},
	} {
		assert.Equal(t, c.want, plan.Meanwhile(c.tried, c.on...), "%v", c)
	}
}
